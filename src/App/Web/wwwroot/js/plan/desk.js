// The drawing desk: points are picked in the picture, each caught by the nearest end, middle or centre; what they become is a field of the
// form, and the server says what it does.
import { writeLength } from '../length.js';
import { byId } from '../page.js';
import { PlanView } from './plan-view.js';
import { scaleOf } from './sheet.js';

const REACH = 12,
  NS = 'http://www.w3.org/2000/svg';
const form = /** @type {HTMLFormElement} */ (byId('desk-form')),
  paper = byId('paper'),
  reading = byId('desk-reading');
const root = form.dataset.root ?? '',
  notation = /** @type {import('../length.js').Notation} */ (form.dataset.notation);
const plan = new PlanView(paper, () => {});
/** @type {Float64Array} */
let snaps = new Float64Array();
/** Lines of another source in the drawing's units: x, y, x, y. */
let overlay = new Float64Array();
/** @type {[number, number][]} */
let picked = [];
let tool = '',
  steps = '';

/** How many points each tool takes, and what it asks for. @type {Record<string, [number, string]>} */
const TOOLS = {
  window: [2, 'Pick two opposite corners of the window.'],
  origin: [1, 'Pick the point that becomes the origin.'],
  known: [2, 'Pick both ends of a length that you know, the longest there is.'],
  pair: [1, 'Pick a point whose place in the job you know.'],
  pick: [1, 'Pick what is to be changed.'],
  measure: [2, 'Pick two points.'],
  polygon: [Infinity, 'Pick the corners of the window; the first once more, or Enter, closes it.'],
  angle: [3, 'Pick the corner of the angle, then a point on each side.'],
  area: [Infinity, 'Pick the corners of the area; the first once more, or Enter, closes it.'],
  move: [2, 'Pick where it is moved from, then where to.'],
  turn: [1, 'Pick the centre of the rotation; the degrees are in the field.'],
  mirror: [2, 'Pick two points of the line it is mirrored in.'],
  cut: [3, 'Pick two opposite corners of a window round the detail, then its insertion point.'],
  place: [1, 'Pick the place of the insertion point.'],
};

/** @param {string} id */
const field = (id) => /** @type {HTMLInputElement} */ (byId(id));

/** @param {string} act */
function send(act) {
  field('act').value = act;
  field('picks').value = picked.flat().join(',');
  byId('desk').dispatchEvent(new Event('refresh'));
}

/** @type {Record<string, () => void>} */
const DONE = {
  window: () => send('window'),
  origin: () => send('origin'),
  pick: () => send('pick'),
  known: () => add('known', `${numbers(picked.flat())}, `, 'Type its true length behind the points.'),
  pair: () => {
    field('way').value = 'points';
    later();
  },
  measure: () => measured(),
  polygon: () => send('window'),
  angle: () => angled(),
  area: () => enclosed(),
  cut: () => send('cut'),
  place: () => send('detail'),
  move: () => send('move'),
  turn: () => send('turn'),
  mirror: () => send('mirror'),
};

// Counter-clockwise from the first side to the second, and the other way round.
function angled() {
  const [[ox, oy], [ax, ay], [bx, by]] = picked;
  const turn = ((Math.atan2(by - oy, bx - ox) - Math.atan2(ay - oy, ax - ox)) * 180) / Math.PI,
    angle = Math.abs(((turn + 540) % 360) - 180);
  reading.textContent = `${angle.toFixed(3)}°, the other way ${(360 - angle).toFixed(3)}°`;
}

function enclosed() {
  let twice = 0;
  picked.forEach(([x, y], i) => {
    const [u, v] = picked[(i + 1) % picked.length];
    twice += x * v - u * y;
  });
  const area = Math.abs(twice) / 2,
    metres = Number(byId('desk').dataset.metres);
  reading.textContent = metres
    ? `${(area * metres * metres).toFixed(3)} m², drawn ${area.toFixed(3)}`
    : `drawn ${area.toFixed(3)}; no scale yet`;
}

function closed() {
  if (TOOLS[tool]?.[0] !== Infinity || picked.length < 3) return;
  marks();
  DONE[tool]();
}

/** @param {number[]} list */
const numbers = (list) => list.map((v) => Number(v.toPrecision(12))).join(',');

/**
 * Adds a line to a table and waits for the rest of it to be typed.
 * @param {string} id
 * @param {string} line
 * @param {string} say
 */
function add(id, line, say) {
  const table = field(id);
  table.value = (table.value.trim() ? `${table.value.trim()}\n` : '') + line;
  table.focus();
  reading.textContent = say;
}

// The field for pairs is there once the form has been asked for it.
function later() {
  const line = `${numbers(picked.flat())}, `;
  if (document.getElementById('points')) {
    add('points', line, 'Type its place in the job: x, y.');
    return;
  }
  document.body.addEventListener('htmx:afterSettle', () => add('points', line, 'Type its place in the job: x, y.'), {
    once: true,
  });
  byId('desk').dispatchEvent(new Event('refresh'));
}

function measured() {
  const [[ax, ay], [bx, by]] = picked,
    drawn = Math.hypot(bx - ax, by - ay),
    metres = Number(byId('desk').dataset.metres);
  reading.textContent = metres
    ? `${writeLength(drawn * metres, notation)}, drawn ${drawn.toFixed(3)}`
    : `drawn ${drawn.toFixed(3)}; no scale yet`;
}

/**
 * The nearest point that catches, else the place itself.
 * @param {[number, number]} at
 * @returns {[number, number]}
 */
function caught(at) {
  const reach = REACH / scaleOf(plan.view, paper);
  let best = reach,
    found = at;
  for (const points of [snaps, overlay]) {
    for (let i = 0; i < points.length; i += 2) {
      const off = Math.hypot(points[i] - at[0], points[i + 1] - at[1]);
      if (off < best) {
        best = off;
        found = [points[i], points[i + 1]];
      }
    }
  }
  return found;
}

paper.addEventListener('click', (event) => {
  if (!tool || !plan.ready) return;
  const [count] = TOOLS[tool],
    at = plan.pointOf(event);
  if (picked.length >= count) picked = [];
  // What is to be changed is what lies under the pointer, not a corner near it.
  const point = tool === 'pick' ? at : caught(at);
  const near = REACH / scaleOf(plan.view, paper);
  if (count === Infinity && picked.length > 2 && Math.hypot(point[0] - picked[0][0], point[1] - picked[0][1]) < near) {
    closed();
    return;
  }
  picked.push(point);
  marks();
  if (picked.length === count) DONE[tool]();
  else
    reading.textContent =
      count === Infinity
        ? `${picked.length} picked; ${TOOLS[tool][1]}`
        : `At ${numbers(picked[picked.length - 1])}; pick the next.`;
});
paper.addEventListener('keydown', (event) => {
  if (event.key === 'Enter') closed();
});

// Windows and picks over the picture, as wide on the screen whatever its size.
function marks() {
  const [sheet] = plan.sheets;
  if (!sheet) return;
  sheet.svg.querySelector('#marks')?.remove();
  const layer = document.createElementNS(NS, 'g');
  layer.id = 'marks';
  /** @param {number[]} p */
  const at = ([x, y]) => `${(x - sheet.corner.x) / sheet.unit} ${(sheet.corner.y - y) / sheet.unit}`;
  /**
   * @param {string} d
   * @param {string} look
   */
  const path = (d, look) => {
    const line = document.createElementNS(NS, 'path');
    line.setAttribute('d', d);
    line.setAttribute('class', look);
    layer.append(line);
  };
  let over = '';
  for (let i = 0; i < overlay.length; i += 4)
    over += `M${at([overlay[i], overlay[i + 1]])}L${at([overlay[i + 2], overlay[i + 3]])}`;
  if (over) path(over, 'mark-over');
  /** @type {number[][][]} */
  const windows = JSON.parse(byId('desk').dataset.windows ?? '[]');
  for (const corners of windows) {
    const [a, b] = corners,
      all = corners.length === 2 ? [a, [b[0], a[1]], b, [a[0], b[1]]] : corners;
    path(`M${all.map(at).join('L')}Z`, 'mark-window');
  }
  const cut = (field('cutout').value || '').split(',').map(Number);
  if (!picked.length && cut.length === 6) {
    const [ax, ay, bx, by, x, y] = cut;
    path(
      `M${[
        [ax, ay],
        [bx, ay],
        [bx, by],
        [ax, by],
      ]
        .map(at)
        .join('L')}Z`,
      'mark-line',
    );
    path(`M${at([x, y])}h0`, 'mark-point');
  }
  if (picked.length > 1)
    path(`M${picked.map(at).join('L')}${TOOLS[tool]?.[0] === Infinity && picked.length > 2 ? 'Z' : ''}`, 'mark-line');
  for (const p of picked) path(`M${at(p)}h0`, 'mark-point');
  sheet.svg.append(layer);
}

async function picture() {
  steps = field('act').form?.querySelector('[name="Form.Steps"]')?.getAttribute('value') ?? '';
  const answer = await fetch(`${root}?handler=Picture`, { method: 'POST', body: new FormData(form) });
  if (!answer.ok) {
    plan.say(answer.status === 404 ? 'Nothing is left to be drawn.' : 'The picture could not be drawn.');
    return;
  }
  const { view, ready } = plan,
    kept = ready ? { ...view } : null;
  await plan.set([{ text: await answer.text() }], () => {});
  // A step that moved the origin left nothing where one looked.
  const { home } = plan;
  const seen =
    kept &&
    kept.left < home.left + home.width &&
    kept.left + kept.width > home.left &&
    kept.top > home.top - home.height &&
    kept.top - kept.height < home.top;
  if (kept && seen) plan.move(kept);
  marks();
  await lay();
  // The points are those of this picture: a step may have moved the origin.
  const caughtBy = await fetch(`${root}?handler=Snaps`, { method: 'POST', body: new FormData(form) });
  snaps = caughtBy.ok ? new Float64Array(await caughtBy.arrayBuffer()) : new Float64Array();
}

// Another source over the picture, in the drawing's units.
async function lay() {
  overlay = new Float64Array();
  if (field('over').value) {
    const body = new FormData(form);
    body.set('over', field('over').value);
    const answer = await fetch(`${root}?handler=Overlay`, { method: 'POST', body });
    const drawn = answer.ok && answer.headers.get('Content-Type') === 'application/octet-stream';
    if (drawn) overlay = new Float64Array(await answer.arrayBuffer());
    reading.textContent = drawn
      ? `${overlay.length / 4} lines over it; Measure reads a gap between corners of both.`
      : answer.ok
        ? await answer.text()
        : 'That source could not be laid over it.';
  }
  marks();
}
byId('over').addEventListener('input', lay);

form.addEventListener('click', (event) => {
  const button = /** @type {HTMLElement} */ (event.target).closest('button');
  if (!(button instanceof HTMLElement)) return;
  if (button.dataset.zoom) {
    plan.fit();
    return;
  }
  if (!button.dataset.tool) return;
  tool = tool === button.dataset.tool ? '' : button.dataset.tool;
  picked = [];
  marks();
  for (const b of /** @type {NodeListOf<HTMLElement>} */ (form.querySelectorAll('[data-tool]'))) {
    b.setAttribute('aria-pressed', String(b.dataset.tool === tool));
  }
  reading.textContent = tool ? TOOLS[tool][1] : '';
});
// What a button takes with it asks for nothing by itself.
form.addEventListener(
  'change',
  (event) => {
    if (/** @type {HTMLElement} */ (event.target).dataset.quiet !== undefined) event.stopPropagation();
  },
  true,
);
document.body.addEventListener('htmx:afterSettle', () => {
  picked = [];
  const now = form.querySelector('[name="Form.Steps"]')?.getAttribute('value') ?? '';
  if (now !== steps) picture();
  else marks();
});
await picture();
paper.dataset.ready = 'true';
