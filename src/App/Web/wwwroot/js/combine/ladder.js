// The ladder at the left edge: a picture of the levels, and two grips that cut the building between two heights.
import { writeHeight } from '../length.js';

const INCH = 0.0254;
const NS = 'http://www.w3.org/2000/svg';
const TOP = 34,
  BOTTOM = 34,
  NAMES = 108,
  NARROW = 180,
  WIDE = 330;

/**
 * @template {keyof SVGElementTagNameMap} K
 * @param {K} name
 * @param {Record<string, string | number>} attributes
 * @param {Element} parent
 * @param {string} [text]
 */
function element(name, attributes, parent, text) {
  const e = document.createElementNS(NS, name);
  for (const [key, value] of Object.entries(attributes)) e.setAttribute(key, String(value));
  if (text !== undefined) e.textContent = text;
  parent.append(e);
  return e;
}

export class LadderStrip {
  /**
   * @param {HTMLElement} host
   * @param {{ name: string, elevation: number }[]} rungs
   * @param {number} low the building's lower end
   * @param {number} high its upper end
   * @param {import('../length.js').Notation} notation
   * @param {() => void} onChange called after a grip has moved
   */
  constructor(host, rungs, low, high, notation, onChange) {
    this.notation = notation;
    this.host = host;
    this.rungs = rungs;
    this.low = low;
    this.high = high;
    this.onChange = onChange;
    /** @type {[number, number]} */
    this.cut = [low, high];
    this.height = 0;
    this.widen();
    this.draw();
    new ResizeObserver(() => this.draw()).observe(host);
  }

  /**
   * A height; to the inch in feet and inches, for more there is no room.
   * @param {number} z
   */
  say(z) {
    return writeHeight(this.notation === 'ft' ? Math.round(z / INCH) * INCH : z, this.notation);
  }

  /** True where both grips are at the ends: nothing is cut. */
  get whole() {
    return this.cut[0] === this.low && this.cut[1] === this.high;
  }

  /**
   * @param {number} low
   * @param {number} high
   */
  set(low, high) {
    this.cut = [Math.max(this.low, Math.min(low, this.high)), Math.min(this.high, Math.max(high, this.low))];
    this.place();
  }

  /** @param {number} z */
  y(z) {
    return this.height - BOTTOM - ((z - this.low) / (this.high - this.low)) * (this.height - TOP - BOTTOM);
  }
  /** @param {number} y */
  z(y) {
    return this.low + ((this.height - BOTTOM - y) / (this.height - TOP - BOTTOM)) * (this.high - this.low);
  }

  /** Makes the strip as wide as the longest name needs, within bounds; what is beside it moves along. */
  widen() {
    const pen = document.createElement('canvas').getContext('2d');
    if (!pen) return;
    pen.font = `12px ${getComputedStyle(this.host).fontFamily}`;
    const longest = Math.max(0, ...this.rungs.map((rung) => pen.measureText(rung.name).width));
    this.host.parentElement?.style.setProperty(
      '--strip',
      `${Math.ceil(Math.min(WIDE, Math.max(NARROW, NAMES + longest + 12)))}px`,
    );
  }

  draw() {
    const width = this.host.clientWidth;
    this.height = this.host.clientHeight;
    this.host.replaceChildren();
    const svg = element('svg', { viewBox: `0 0 ${width} ${this.height}` }, this.host);
    this.band = element('rect', { x: 66, width: 36, fill: '#96361f22' }, svg);
    element(
      'line',
      { x1: 78, x2: 78, y1: TOP - 14, y2: this.height - BOTTOM + 14, stroke: '#b8ad9a', 'stroke-width': 2 },
      svg,
    );
    let last = Infinity;
    /** @type {[number, { elevation: number }][]} */
    const heights = [];
    for (const rung of this.rungs) {
      const y = this.y(rung.elevation);
      element('line', { x1: 66, x2: 102, y1: y, y2: y, stroke: '#20272a', 'stroke-width': 2 }, svg);
      if (last - y < 13) continue;
      last = y;
      const name = element('text', { x: NAMES, y: y + 4, 'font-size': 12, fill: '#20272a' }, svg, rung.name);
      // A name that is too long even for the widest strip is shortened where it ends, by its letters' true widths.
      for (let letters = rung.name.length; letters > 8 && NAMES + name.getComputedTextLength() > width - 4; letters--)
        name.textContent = `${rung.name.slice(0, letters - 1)}…`;
      element('title', {}, name, `${rung.name} ${this.say(rung.elevation)}`);
      heights.push([y + 17, rung]);
    }

    // The height is below its name where the next level leaves room for two lines.
    heights.forEach(([y, rung], i) => {
      if (i > 0 && heights[i - 1][0] - y < 28) return;
      element('text', { x: NAMES, y, 'font-size': 11, fill: '#5b5547' }, svg, this.say(rung.elevation));
    });
    this.grips = [this.grip(svg, 0, 'Lower cut'), this.grip(svg, 1, 'Upper cut')];
    this.place();
  }

  /**
   * @param {SVGElement} svg
   * @param {0 | 1} which
   * @param {string} label
   */
  grip(svg, which, label) {
    const g = element(
      'g',
      {
        class: 'grip',
        tabindex: 0,
        role: 'slider',
        'aria-label': label,
        'aria-orientation': 'vertical',
        'aria-valuemin': this.low.toFixed(2),
        'aria-valuemax': this.high.toFixed(2),
      },
      svg,
    );
    // The grip and its height are left of the band; level names are right of it.
    element('path', { d: 'M78 0 l-14 -10 h-60 v20 h60 z', fill: '#96361f' }, g);
    const text = element(
      'text',
      { x: 60, y: 5, 'text-anchor': 'end', 'font-size': 13, 'font-weight': 700, fill: '#fff' },
      g,
    );
    g.addEventListener('pointerdown', (event) => {
      g.setPointerCapture(event.pointerId);
      g.focus();
      event.preventDefault();
    });
    g.addEventListener('pointermove', (event) => {
      if (g.hasPointerCapture(event.pointerId))
        this.move(which, this.z(event.clientY - this.host.getBoundingClientRect().top));
    });
    g.addEventListener('keydown', (event) => {
      const step = /** @type {Record<string, number>} */ ({ ArrowUp: 0.1, ArrowDown: -0.1, PageUp: 1, PageDown: -1 })[
        event.key
      ];
      if (event.key === 'Home') this.move(which, this.low);
      else if (event.key === 'End') this.move(which, this.high);
      else if (step) this.move(which, this.cut[which] + step);
      else return;
      event.preventDefault();
    });
    return { g, text };
  }

  /**
   * @param {0 | 1} which
   * @param {number} z
   */
  move(which, z) {
    const gap = 0.1;
    this.cut[which] = which
      ? Math.min(this.high, Math.max(z, this.cut[0] + gap))
      : Math.max(this.low, Math.min(z, this.cut[1] - gap));
    this.place();
    this.onChange();
  }

  place() {
    const [low, high] = this.cut.map((z) => this.y(z));
    this.band?.setAttribute('y', String(high));
    this.band?.setAttribute('height', String(Math.max(0, low - high)));
    this.grips?.forEach(({ g, text }, i) => {
      g.setAttribute('transform', `translate(0 ${i ? high : low})`);
      g.setAttribute('aria-valuenow', this.cut[i].toFixed(2));
      text.textContent = this.say(this.cut[i]);
    });
  }
}
