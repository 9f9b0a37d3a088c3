// One source's picture on the paper: an SVG in steps of its own, seen through a view in units of the plan.

/** @typedef {{ left: number, top: number, width: number, height: number }} View a part of the plan, in its units, top the greater y */
/** @typedef {{ scale: number, x: number, y: number }} Place where a source lies in the plan: its points by scale, then shifted */
/** @typedef {{ part: SVGElement, box: number[], size: number, least: number, gap: Comment, hidden: boolean }} Part */

/**
 * How many pixels a unit of the plan is.
 * @param {View} view
 * @param {HTMLElement} paper
 */
export function scaleOf(view, paper) {
  return Math.min(paper.clientWidth / view.width, paper.clientHeight / view.height);
}

/** @type {Place} as the source says it */
export const AS_IT_CAME = { scale: 1, x: 0, y: 0 };

/**
 * A picture's zero and step in the plan.
 * @param {[number, number]} corner its zero in the source's units
 * @param {number} unit its step in the source's units
 * @param {Place} place
 */
export function placed([x, y], unit, place) {
  return { corner: { x: x * place.scale + place.x, y: y * place.scale + place.y }, unit: unit * place.scale };
}

export class Sheet {
  /**
   * @param {HTMLElement} paper
   * @param {string} text an SVG as the server draws it: its zero is at `data-corner`, a step is `data-unit` long
   * @param {Place} [place] where it lies among the others
   */
  constructor(paper, text, place = AS_IT_CAME) {
    const parsed = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement;
    this.paper = paper;
    this.svg = /** @type {SVGSVGElement} */ (/** @type {unknown} */ (document.importNode(parsed, true)));
    const [cornerX, cornerY] = numbers(this.svg.dataset.corner);
    const { corner, unit } = placed([cornerX, cornerY], Number(this.svg.dataset.unit), place);
    const [left, top, width, height] = numbers(this.svg.getAttribute('viewBox'));
    this.corner = corner;
    this.unit = unit;
    /** @type {View} all there is */
    this.home = {
      left: corner.x + left * unit,
      top: corner.y - top * unit,
      width: width * unit,
      height: height * unit,
    };
    this.drawn = this.home;
    /** @type {Part[]} */
    this.parts = Array.from(
      /** @type {NodeListOf<SVGElement>} */ (this.svg.querySelectorAll('[data-box]')),
      (part) => ({
        part,
        box: numbers(part.dataset.box),
        size: Number(part.dataset.size),
        least: 'text' in part.dataset ? 3 : 1,
        gap: document.createComment(''),
        hidden: false,
      }),
    );
    this.patterns = Array.from(
      /** @type {NodeListOf<SVGElement>} */ (this.svg.querySelectorAll('[data-spacing]')),
      (lines) => ({
        lines,
        spacing: Number(lines.dataset.spacing),
      }),
    );
    this.large = text.length > 1e6;
    /** Where drawing again takes long, the picture is moved as it is and drawn when the hand rests. */
    this.slow = false;
    this.waiting = 0;
  }

  /**
   * @param {string} layer
   * @param {boolean} shown
   */
  show(layer, shown) {
    for (const group of /** @type {NodeListOf<SVGElement>} */ (this.svg.querySelectorAll('[data-layer]'))) {
      if (group.dataset.layer !== layer) continue;
      if (shown) group.removeAttribute('display');
      else group.setAttribute('display', 'none');
    }
  }

  /**
   * Draws what a view shows. What is elsewhere, or too small to be seen or read, is taken out (hidden it would still cost a second
   * a frame in a large drawing). Lines stay as wide on the screen, whatever the size.
   * @param {View} view
   */
  draw(view) {
    const { corner, unit, paper } = this;
    const x = (view.left - corner.x) / unit,
      y = (corner.y - view.top) / unit,
      w = view.width / unit,
      h = view.height / unit;
    const px = scaleOf(view, paper) * unit,
      wide = paper.clientWidth / px / 2,
      high = paper.clientHeight / px / 2;
    const left = x + w / 2 - wide,
      right = x + w / 2 + wide,
      top = y + h / 2 - high,
      bottom = y + h / 2 + high;
    for (const p of this.parts) {
      const away = p.box[0] > right || p.box[2] < left || p.box[1] > bottom || p.box[3] < top;
      const hidden = away || p.size * px < p.least;
      if (hidden && !p.hidden) p.part.replaceWith(p.gap);
      else if (!hidden && p.hidden) p.gap.replaceWith(p.part);
      p.hidden = hidden;
    }

    this.drawn = { ...view };
    this.svg.style.transform = '';
    this.svg.setAttribute('viewBox', [x, y, w, h].join(' '));
    this.svg.querySelector('#strokes')?.setAttribute('stroke-width', (1.1 / px).toPrecision(6));
    for (const { lines, spacing } of this.patterns)
      lines.setAttribute('stroke-width', (1 / px / spacing).toPrecision(4));
  }

  /** @param {View} view */
  move(view) {
    if (!this.slow) {
      this.draw(view);
      return;
    }
    const { drawn, paper } = this,
      px = scaleOf(view, paper),
      before = scaleOf(drawn, paper),
      k = px / before;
    // A view is in the middle of the paper, so each has a margin of its own.
    /** @type {(size: number, now: number, then: number) => number} */
    const margins = (size, now, then) => (size - now * px) / 2 - ((size - then * before) / 2) * k;
    const across = (drawn.left - view.left) * px + margins(paper.clientWidth, view.width, drawn.width);
    const down = (view.top - drawn.top) * px + margins(paper.clientHeight, view.height, drawn.height);
    this.svg.style.transformOrigin = '0 0';
    this.svg.style.transform = `translate(${across}px, ${down}px) scale(${k})`;
    clearTimeout(this.waiting);
    this.waiting = window.setTimeout(() => this.draw(view), 250);
  }

  /** @param {boolean} slow */
  setSlow(slow) {
    this.slow = slow;
    this.svg.style.willChange = slow ? 'transform' : '';
  }
}

/** @param {string | null | undefined} text */
function numbers(text) {
  return (text ?? '').split(' ').map(Number);
}
