// Drawing on the picture before it is sent: arrows, clouds and texts, as lines over it.

/** @typedef {{ path?: string, text?: string, x?: number, y?: number }} Mark */

const INK = '#96361f',
  LINE = 4,
  LETTERS = '600 26px Overpass, sans-serif',
  BOW = 26;

/** How far an arrow key moves the cross, points of the picture; with Shift less. */
const STEP = 24,
  SMALL = 4;

/** @type {Record<string, [number, number]>} */
const WAYS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

const round = (/** @type {number} */ n) => Math.round(n * 10) / 10;

/**
 * An arrow from one point to another.
 * @param {number[]} a
 * @param {number[]} b
 */
export function arrow([x1, y1], [x2, y2]) {
  const angle = Math.atan2(y2 - y1, x2 - x1),
    head = 22;
  const [lx, ly] = [x2 - head * Math.cos(angle - 0.45), y2 - head * Math.sin(angle - 0.45)];
  const [rx, ry] = [x2 - head * Math.cos(angle + 0.45), y2 - head * Math.sin(angle + 0.45)];
  const p = [x1, y1, x2, y2, lx, ly, rx, ry].map(round);
  return `M${p[0]} ${p[1]}L${p[2]} ${p[3]}M${p[4]} ${p[5]}L${p[2]} ${p[3]}L${p[6]} ${p[7]}`;
}

/**
 * A revision cloud around a rectangle.
 * @param {number[]} a
 * @param {number[]} b
 */
export function cloud([x1, y1], [x2, y2]) {
  const [left, right, top, low] = [Math.min(x1, x2), Math.max(x1, x2), Math.min(y1, y2), Math.max(y1, y2)];
  const across = Math.max(1, Math.round((right - left) / BOW)),
    down = Math.max(1, Math.round((low - top) / BOW));
  let path = `M${round(left)} ${round(top)}`;
  /** @type {(x: number, y: number, step: number) => void} */
  const bow = (x, y, step) => {
    path += `A${round(step / 1.8)} ${round(step / 1.8)} 0 0 1 ${round(x)} ${round(y)}`;
  };
  const [w, h] = [(right - left) / across, (low - top) / down];
  for (let i = 1; i <= across; i++) bow(left + w * i, top, w);
  for (let i = 1; i <= down; i++) bow(right, top + h * i, h);
  for (let i = across - 1; i >= 0; i--) bow(left + w * i, low, w);
  for (let i = down - 1; i >= 0; i--) bow(left, top + h * i, h);
  return `${path}Z`;
}

/** A picture that is drawn on; it covers the view until it is sent or given up. */
export class MarkedPicture {
  /**
   * @param {HTMLElement} host
   * @param {HTMLCanvasElement} picture
   */
  constructor(host, picture) {
    this.picture = picture;
    /** @type {Mark[]} */
    this.marks = [];
    this.kind = 'arrow';
    /** @type {number[] | null} where a mark begins that is being drawn */
    this.from = null;
    /** @type {number[] | null} the cross that keys move; null while nobody uses keys */
    this.cross = null;
    this.box = document.createElement('div');
    this.box.className = 'marking';
    const kinds = [
      ['arrow', 'Arrow'],
      ['cloud', 'Cloud'],
      ['text', 'Text'],
    ].map(
      ([kind, name]) =>
        `<button type="button" class="chip" data-kind="${kind}" aria-pressed="${kind === this.kind}">${name}</button>`,
    );
    this.box.innerHTML = `<div class="marktools" role="toolbar" aria-label="Draw on the picture">${kinds.join('')}
      <input type="text" maxlength="200" aria-label="Text to place" placeholder="Text to place" hidden>
      <button type="button" class="chip" data-undo>Undo</button>
      <button type="button" class="chip" data-cancel>Discard the picture</button></div>`;
    this.canvas = document.createElement('canvas');
    [this.canvas.width, this.canvas.height] = [picture.width, picture.height];
    this.canvas.setAttribute(
      'aria-label',
      'The picture: drag to draw, or move the cross with the arrow keys and press Enter at both ends',
    );
    this.canvas.tabIndex = 0;
    this.box.append(this.canvas);
    this.words = /** @type {HTMLInputElement} */ (this.box.querySelector('input'));
    host.append(this.box);
    this.listen();
    this.draw();
  }

  listen() {
    this.canvas.addEventListener('pointerdown', (event) => {
      this.cross = null;
      this.begin(this.point(event));
      if (this.from) this.canvas.setPointerCapture(event.pointerId);
    });
    this.canvas.addEventListener('pointermove', (event) => {
      if (this.from && !this.cross) this.draw(this.made(this.from, this.point(event)));
    });
    this.canvas.addEventListener('pointerup', (event) => this.end(this.point(event)));
    this.canvas.addEventListener('keydown', (event) => this.key(event));
    this.canvas.addEventListener('blur', () => {
      if (!this.cross) return;
      this.cross = this.from = null;
      this.draw();
    });
    this.box.addEventListener('click', (event) => {
      const button = /** @type {HTMLElement} */ (event.target).closest('button');
      if (!button) return;
      if (button.dataset.kind) this.choose(button.dataset.kind);
      else if ('undo' in button.dataset) this.marks.pop();
      else this.close();
      this.draw();
    });
  }

  /** @param {number[]} at */
  begin(at) {
    if (this.kind !== 'text') this.from = at;
    else if (this.words.value.trim()) {
      this.marks.push({ text: this.words.value.trim(), x: round(at[0]), y: round(at[1]) });
      this.draw();
    } else this.words.focus();
  }

  /** @param {number[]} to */
  end(to) {
    if (!this.from) return;
    if (Math.hypot(to[0] - this.from[0], to[1] - this.from[1]) > 6) this.marks.push(this.made(this.from, to));
    this.from = null;
    this.draw();
  }

  /** @param {KeyboardEvent} event */
  key(event) {
    const way = WAYS[event.key];
    if (!way && event.key !== 'Enter' && event.key !== ' ' && !(event.key === 'Escape' && this.from)) return;
    event.preventDefault();
    event.stopPropagation();
    const { width, height } = this.canvas;
    this.cross ??= [width / 2, height / 2];
    if (way) {
      const step = event.shiftKey ? SMALL : STEP;
      this.cross = [
        Math.min(width, Math.max(0, this.cross[0] + way[0] * step)),
        Math.min(height, Math.max(0, this.cross[1] + way[1] * step)),
      ];
    } else if (event.key === 'Escape') this.from = null;
    else if (this.from) this.end(this.cross);
    else this.begin(this.cross);
    this.draw(this.from && this.cross ? this.made(this.from, this.cross) : undefined);
  }

  /** @param {string} kind */
  choose(kind) {
    this.kind = kind;
    for (const button of /** @type {NodeListOf<HTMLElement>} */ (this.box.querySelectorAll('[data-kind]')))
      button.setAttribute('aria-pressed', String(button.dataset.kind === kind));
    this.words.hidden = kind !== 'text';
    if (kind === 'text') this.words.focus();
  }

  /**
   * @param {number[]} from
   * @param {number[]} to
   * @returns {Mark}
   */
  made(from, to) {
    return { path: this.kind === 'cloud' ? cloud(from, to) : arrow(from, to) };
  }

  /** @param {PointerEvent} event */
  point(event) {
    const box = this.canvas.getBoundingClientRect();
    return [
      ((event.clientX - box.left) / box.width) * this.canvas.width,
      ((event.clientY - box.top) / box.height) * this.canvas.height,
    ];
  }

  /** @param {Mark} [last] one that is being drawn */
  draw(last) {
    const paper = this.canvas.getContext('2d');
    if (!paper) return;
    paper.drawImage(this.picture, 0, 0);
    paper.strokeStyle = paper.fillStyle = INK;
    paper.lineWidth = LINE;
    paper.lineJoin = paper.lineCap = 'round';
    paper.font = LETTERS;
    for (const mark of last ? [...this.marks, last] : this.marks) {
      if (mark.path) paper.stroke(new Path2D(mark.path));
      else {
        // Letters are read over anything: paper around them.
        paper.strokeStyle = '#fffdf9';
        paper.strokeText(mark.text ?? '', mark.x ?? 0, mark.y ?? 0);
        paper.strokeStyle = INK;
        paper.fillText(mark.text ?? '', mark.x ?? 0, mark.y ?? 0);
      }
    }
    if (this.cross) {
      const [x, y] = this.cross;
      paper.stroke(new Path2D(`M${x - 14} ${y}H${x + 14}M${x} ${y - 14}V${y + 14}`));
    }
  }

  /** The marks as a document (PictureMarks). */
  document() {
    return JSON.stringify({ width: this.canvas.width, height: this.canvas.height, marks: this.marks });
  }

  close() {
    this.box.remove();
  }

  get open() {
    return this.box.isConnected;
  }
}
