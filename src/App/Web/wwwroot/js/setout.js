// Setting a source out: only the fields of the chosen way are shown; points are picked in two plans, each caught by the nearest corner.
import { moveByHand } from './hand.js';
import { byId } from './page.js';

const form = /** @type {HTMLFormElement} */ (byId('setting')),
  way = /** @type {HTMLSelectElement} */ (byId('way'));
const table = /** @type {HTMLTextAreaElement} */ (byId('points'));
const REACH = 12,
  MARGIN = 8;

/** A plan of corners that points are picked in. */
class PickPlan {
  /**
   * @param {HTMLCanvasElement} canvas
   * @param {() => void} picked
   */
  constructor(canvas, picked) {
    this.canvas = canvas;
    this.context = /** @type {CanvasRenderingContext2D} */ (canvas.getContext('2d'));
    /** @type {number[][]} x, y, z in the frame that is picked in, metres */
    this.corners = [];
    /** @type {number[] | null} */
    this.point = null;
    /** The part that is shown: centre and pixels a metre. */
    this.view = { x: 0, y: 0, scale: 1 };
    canvas.addEventListener('click', (event) => {
      this.point = this.near(event.offsetX, event.offsetY);
      this.draw();
      if (this.point) picked();
    });
    moveByHand(canvas, {
      ready: () => this.corners.length > 0,
      size: (factor, event) =>
        this.zoom(factor, event ? event.offsetX : canvas.width / 2, event ? event.offsetY : canvas.height / 2),
      shift: (right, down) => {
        this.view.x -= right / this.view.scale;
        this.view.y += down / this.view.scale;
        this.draw();
      },
    });
  }

  async load() {
    if (this.corners.length) return;
    const { corners, frame } = this.canvas.dataset;
    /** @type {number[]} */
    const numbers = await (await fetch(corners ?? '')).json();
    const f = frame ? JSON.parse(frame) : [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0];
    for (let i = 0; i < numbers.length; i += 3) {
      const [x, y, z] = numbers.slice(i, i + 3);
      this.corners.push([0, 1, 2].map((k) => f[k] * x + f[3 + k] * y + f[6 + k] * z + f[9 + k]));
    }
    const xs = this.corners.map((c) => c[0]),
      ys = this.corners.map((c) => c[1]);
    const low = [xs, ys].map((v) => v.reduce((a, b) => Math.min(a, b), Infinity));
    const high = [xs, ys].map((v) => v.reduce((a, b) => Math.max(a, b), -Infinity));
    const { width, height } = this.canvas;
    this.view = {
      x: (low[0] + high[0]) / 2,
      y: (low[1] + high[1]) / 2,
      scale: Math.min((width - 2 * MARGIN) / (high[0] - low[0] || 1), (height - 2 * MARGIN) / (high[1] - low[1] || 1)),
    };
    this.draw();
  }

  /**
   * @param {number} by
   * @param {number} x
   * @param {number} y
   */
  zoom(by, x, y) {
    const { width, height } = this.canvas,
      { scale } = this.view;
    this.view.x += ((x - width / 2) * (1 - 1 / by)) / scale;
    this.view.y -= ((y - height / 2) * (1 - 1 / by)) / scale;
    this.view.scale *= by;
    this.draw();
  }

  /** @param {number[]} corner */
  at([x, y]) {
    const { width, height } = this.canvas;
    return [width / 2 + (x - this.view.x) * this.view.scale, height / 2 - (y - this.view.y) * this.view.scale];
  }

  /**
   * @param {number} x
   * @param {number} y
   */
  near(x, y) {
    let best = REACH,
      found = null;
    for (const corner of this.corners) {
      const [cx, cy] = this.at(corner),
        off = Math.hypot(cx - x, cy - y);
      if (off < best) {
        best = off;
        found = corner;
      }
    }
    return found;
  }

  draw() {
    const { context, canvas } = this,
      style = getComputedStyle(canvas);
    context.clearRect(0, 0, canvas.width, canvas.height);
    context.fillStyle = style.color;
    for (const corner of this.corners) {
      const [x, y] = this.at(corner);
      context.fillRect(x - 0.75, y - 0.75, 1.5, 1.5);
    }
    if (!this.point) return;
    const [x, y] = this.at(this.point);
    context.strokeStyle = style.getPropertyValue('--oxide');
    context.lineWidth = 2;
    context.beginPath();
    context.arc(x, y, 6, 0, 2 * Math.PI);
    context.stroke();
  }
}

const refresh = () => form.dispatchEvent(new Event('refresh'));

/** A point in each plan makes a line of the table. */
function picked() {
  const [source, job] = plans.map((p) => p.point);
  if (!source || !job) return;
  const count = table.value.split('\n').filter((l) => l.trim()).length;
  const numbers = [...source, ...job].map((n) => String(Math.round(n * 1e4) / 1e4));
  table.value = `${table.value.trimEnd()}${count ? '\n' : ''}P${count + 1},${numbers.join(',')}\n`;
  for (const plan of plans) {
    plan.point = null;
    plan.draw();
  }
  refresh();
}

const plans = ['pick-source', 'pick-job'].map(
  (id) => new PickPlan(/** @type {HTMLCanvasElement} */ (byId(id)), picked),
);

function show() {
  for (const part of /** @type {NodeListOf<HTMLElement>} */ (form.querySelectorAll('[data-way]'))) {
    part.hidden = !part.dataset.way?.split(' ').includes(way.value);
  }
  if (way.value === 'points') for (const plan of plans) plan.load();
}

way.addEventListener('change', show);
byId('csv').addEventListener('change', async (event) => {
  const file = /** @type {HTMLInputElement} */ (event.target).files?.[0];
  if (!file) return;
  table.value = await file.text();
  refresh();
});
show();
