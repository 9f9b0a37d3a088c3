// The plan: one view over the sheets of one source or more, moved and sized by hand, wheel and keys.
import { moveByHand } from '../hand.js';
import { Sheet, scaleOf } from './sheet.js';

/** @typedef {import('./sheet.js').View} View */

export class PlanView {
  /**
   * @param {HTMLElement} paper
   * @param {(x: number, y: number) => void} onPoint called with where the pointer is, in units of the plan
   */
  constructor(paper, onPoint) {
    this.paper = paper;
    this.onPoint = onPoint;
    /** @type {Sheet[]} */
    this.sheets = [];
    /** @type {(() => void)[]} called when the view has changed */
    this.moved = [];
    /** @type {View} */
    this.view = { left: 0, top: 1, width: 1, height: 1 };
    this.listen();
  }

  /** True once there is something to move. */
  get ready() {
    return this.sheets.length > 0;
  }

  /** @returns {View} all there is on all sheets */
  get home() {
    const homes = this.sheets.map((s) => s.home);
    const left = Math.min(...homes.map((h) => h.left)),
      top = Math.max(...homes.map((h) => h.top));
    if (homes.length === 1) return homes[0];
    return {
      left,
      top,
      width: Math.max(...homes.map((h) => h.left + h.width)) - left,
      height: top - Math.min(...homes.map((h) => h.top - h.height)),
    };
  }

  /**
   * Puts pictures on the paper, the first one lowest.
   * @param {{ text: string, place?: import('./sheet.js').Place }[]} pictures SVGs as the server draws them, each with its place
   * @param {(sheet: Sheet) => void} prepare switches layers before anything is drawn
   */
  set(pictures, prepare) {
    this.sheets = pictures.map(({ text, place }) => new Sheet(this.paper, text, place));
    this.view = { ...this.home };
    this.sheets.forEach(prepare);
    const begun = performance.now();
    for (const sheet of this.sheets) sheet.draw(this.view);
    // Only now, without what is not seen: letters are costly to place.
    this.paper.replaceChildren(...this.sheets.map((s) => s.svg));
    for (const follow of this.moved) follow();
    return new Promise((done) => {
      requestAnimationFrame(() =>
        setTimeout(() => {
          const slow = performance.now() - begun > 120;
          for (const sheet of this.sheets) sheet.setSlow(slow && sheet.large);
          done(undefined);
        }),
      );
    });
  }

  /**
   * Shows nothing but a sentence.
   * @param {string} sentence
   */
  say(sentence) {
    this.sheets = [];
    this.paper.textContent = sentence;
  }

  fit() {
    if (this.ready) this.move(this.home);
  }

  /**
   * @param {number} factor below one comes closer
   * @param {[number, number]} [around] the point of the plan that stays where it is; the middle if not given
   */
  zoom(factor, around) {
    if (!this.ready) return;
    const { left, top, width, height } = this.view,
      [x, y] = around ?? [left + width / 2, top - height / 2];
    this.move({
      left: x - (x - left) * factor,
      top: y + (top - y) * factor,
      width: width * factor,
      height: height * factor,
    });
  }

  /** @param {View} view */
  move(view) {
    this.view = { ...view };
    for (const sheet of this.sheets) sheet.move(this.view);
    for (const follow of this.moved) follow();
  }

  /**
   * The point of the plan under the pointer.
   * @param {MouseEvent} event
   * @returns {[number, number]}
   */
  pointOf(event) {
    const box = this.paper.getBoundingClientRect(),
      { left, top, width, height } = this.view,
      px = scaleOf(this.view, this.paper);
    return [
      left + width / 2 + (event.clientX - box.left - this.paper.clientLeft - this.paper.clientWidth / 2) / px,
      top - height / 2 - (event.clientY - box.top - this.paper.clientTop - this.paper.clientHeight / 2) / px,
    ];
  }

  listen() {
    const { paper } = this;
    moveByHand(paper, {
      ready: () => this.ready,
      size: (factor, event) => this.zoom(1 / factor, event ? this.pointOf(event) : undefined),
      shift: (right, down) => {
        const px = scaleOf(this.view, paper);
        this.move({ ...this.view, left: this.view.left - right / px, top: this.view.top + down / px });
      },
    });
    paper.addEventListener('pointermove', (event) => {
      if (this.ready) this.onPoint(...this.pointOf(event));
    });
  }
}
