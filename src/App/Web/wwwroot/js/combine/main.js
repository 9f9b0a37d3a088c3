// Puts the combined view together: controls change its state, the picture follows, the address remembers.
import * as THREE from 'three';
import { byId } from '../page.js';
import { Changes } from './changes.js';
import { ElementNumbers } from './element-numbers.js';
import { LadderStrip } from './ladder.js';
import { Loading } from './loading.js';
import { Measure } from './measure.js';
import { Building } from './scene.js';
import { Sheets } from './sheets.js';
import { pinTopics, TopicForm } from './topics.js';
import { ADDRESS_ELEMENTS, ViewState, fromAddress, toAddress } from './view-state.js';

const canvas = /** @type {HTMLCanvasElement} */ (byId('canvas'));
const view = byId('view'),
  slip = byId('slip'),
  reading = byId('reading'),
  showAll = /** @type {HTMLButtonElement} */ (byId('showall'));
const base = view.dataset.base ?? '';
/** @type {import('./scene.js').SceneData} */
const scene = await (await fetch(`${base}?handler=Scene`)).json();
const changes = view.dataset.changes ? await fetchChanges() : null;
const elements = new ElementNumbers(scene.sources);
const state = new ViewState(scene.names, elements);
const building = new Building(canvas, scene, elements);
const loading = new Loading(building);
/** The usual side. */
const USUAL = new THREE.Vector3(0.62, -0.95, 0.62).normalize();
const sheets = new Sheets(building, scene.sheets);
const measure = new Measure(building, sheets, reading, scene.notation);
const pins = pinTopics(building, scene.topics, byId('pins'));
/** @type {LadderStrip | undefined} */
let ladder;

async function fetchChanges() {
  const answer = await fetch(`${base}?handler=Changes&changes=${view.dataset.changes}&old=${view.dataset.old}`);
  if (!answer.ok) return null;
  /** @type {import('./changes.js').ChangesData} */
  const data = await answer.json();
  for (const [what, list] of Object.entries({ added: data.added, changed: data.changed, removed: data.removed })) {
    const count = document.querySelector(`[data-count="${what}"]`);
    if (count) count.textContent = String(list.length);
  }
  return new Changes(data, scene);
}

// What the chips say is what the state says.
function controls() {
  for (const box of /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll('[data-sheet]'))) {
    box.checked = !state.off.sheet.has(box.dataset.sheet ?? '');
  }
  for (const control of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-filter]'))) {
    const shown = !state.isOff(kindOf(control.dataset.filter), Number(control.dataset.value));
    if (control instanceof HTMLInputElement) control.checked = shown;
    else control.setAttribute('aria-pressed', String(shown));
  }
  for (const box of document.querySelectorAll('.chipbox')) {
    const ticks = box.querySelectorAll('[data-filter], [data-sheet]');
    const on = box.querySelectorAll('[data-filter]:checked, [data-sheet]:checked').length;
    const chosen = box.querySelector('.chosen');
    if (chosen && ticks.length) chosen.textContent = on === ticks.length ? 'all' : `${on} of ${ticks.length}`;
  }
}

function apply() {
  state.each(building.columns, (element, shown) =>
    building.states.show(element, shown && !changes?.leavesOut(element)),
  );
  building.states.changed();
  sheets.apply(
    (label) => state.off.sheet.has(label),
    (storey) => !state.isOff('storey', storey),
  );
  if (!state.isOff('class', scene.spaces)) loading.loadSpaces(base);
  controls();
  const { only, hidden } = state,
    seen = state.marked.size + state.planes.length + state.colours.length > 0;
  showAll.disabled = !only && hidden.size === 0 && !seen;
  if (only) showAll.textContent = 'Isolated: show all';
  else if (hidden.size) showAll.textContent = `Hidden: ${hidden.size}, show all`;
  else showAll.textContent = seen ? 'Marked or cut: show all' : 'Hidden: none';
  building.draw();
  remember();
}

/** @param {string | undefined} word */
const kindOf = (word) => /** @type {import('./view-state.js').Kind} */ (word);

/** @param {number} element −1: none */
async function pick(element) {
  sheets.markItem(null);
  if (state.picked >= 0) building.states.pick(state.picked, state.marked.has(state.picked));
  state.picked = element;
  if (element >= 0) building.states.pick(element, true);
  building.states.changed();
  building.draw();
  remember();
  if (element < 0) {
    slip.hidden = true;
    slip.replaceChildren();
    return;
  }
  const s = elements.sourceOf(element);
  const answer = await fetch(`${base}?handler=Facts&id=${elements.ids[s]}&number=${element - elements.first[s]}`);
  slip.innerHTML = answer.ok ? await answer.text() : '';
  slip.hidden = !answer.ok;
  /** @type {{htmx?: {process(e: Element): void}}} */ (window).htmx?.process(slip);
}

/** @param {import('./sheets.js').Hit} hit what was picked in a drawing */
async function pickLine(hit) {
  await pick(-1);
  sheets.markItem(hit);
  const [ox, oy, oz] = building.offset,
    at = [hit.point.x + ox, hit.point.y + oy, hit.point.z + oz].map((c) => c.toFixed(3)).join(',');
  const answer = await fetch(`${base}?handler=Item&sheet=${hit.entry.sheet.id}&item=${hit.item}&at=${at}`);
  slip.innerHTML = answer.ok ? await answer.text() : '';
  slip.hidden = !answer.ok;
}

/**
 * A sheet or a detail, beside the model's space.
 * @param {string} address
 * @param {string} name
 */
function showBeside(address, name) {
  const picture = /** @type {HTMLImageElement} */ (byId('besidepicture'));
  picture.src = address;
  picture.alt = name;
  byId('besidename').textContent = name;
  byId('beside').hidden = false;
}

/**
 * An element with some metres about it, so that one sees where it is.
 * @param {number} element
 * @param {number} metres
 */
const around = (element, metres) => building.boxOf(element).expandByScalar(metres);

/**
 * Cuts off what is above an element and comes near.
 * @param {number} element
 */
function reveal(element) {
  if (ladder) ladder.set(ladder.cut[0], building.boxOf(element).max.z + building.offset[2] + 0.1);
  follow();
  building.fit(around(element, 6));
}

// The picture follows the ladder's cut.
function follow() {
  if (!ladder) return;
  building.setCut(ladder.cut[0] - building.offset[2], ladder.cut[1] - building.offset[2]);
  sheets.cut(ladder.cut);
}

/** @type {Record<string, () => void>} */
const acts = {
  isolate() {
    if (state.picked >= 0) {
      state.isolate(state.picked);
      apply();
    }
  },
  hide() {
    if (state.picked >= 0) {
      state.hide(state.picked);
      pick(-1);
      apply();
    }
  },
  fit() {
    building.fit(state.picked >= 0 ? around(state.picked, 3) : building.boxes);
  },
  close() {
    pick(-1);
  },
  fold() {
    byId('beside').hidden = true;
  },
  showall() {
    for (const element of state.marked) building.states.pick(element, element === state.picked);
    for (const { elements: painted } of state.colours) for (const e of painted) building.uncolour(e);
    state.showAll();
    building.setPlanes(state.planes);
    apply();
  },
  parallel() {
    const on = !building.camera.parallel;
    building.camera.setParallel(on);
    byId('parallel').setAttribute('aria-pressed', String(on));
    building.draw();
    remember();
  },
  topics() {
    byId('topics').setAttribute('aria-pressed', String(pins.toggle()));
  },
  measure() {
    byId('measure').setAttribute('aria-pressed', String(!measure.on));
    measure.toggle(!measure.on);
  },
  async copy() {
    const most = Math.max(state.hidden.size, state.only?.size ?? 0);
    await navigator.clipboard?.writeText(`${location.href.split('#')[0]}#${toAddress(current())}`);
    reading.textContent =
      most > ADDRESS_ELEMENTS
        ? `The address is on the clipboard, with the first ${ADDRESS_ELEMENTS} of ${most} elements hidden or isolated one by one.`
        : 'The address of exactly this view is on the clipboard.';
    setTimeout(() => {
      reading.textContent = '';
    }, 2500);
  },
};

/** The view as it is, as a document. */
function current() {
  return state.document(
    building.cameraDocument(),
    ladder && !ladder.whole ? /** @type {[number, number]} */ ([...ladder.cut]) : null,
  );
}

let later = 0;
function remember() {
  clearTimeout(later);
  later = window.setTimeout(() => history.replaceState(null, '', `#${toAddress(current())}`), 250);
}

/** @param {import('./view-state.js').ViewDocument} wanted */
function place(wanted) {
  const z = building.offset[2],
    low = building.boxes.min.z + z,
    high = building.boxes.max.z + z;
  const pad = Math.max(0.3, (high - low) * 0.02),
    rungs = scene.rungs;
  const bottom = Math.min(low, rungs[0]?.elevation ?? low) - pad,
    top = Math.max(high, rungs.at(-1)?.elevation ?? high) + pad;
  ladder = new LadderStrip(byId('strip'), rungs, bottom, top, scene.notation, () => {
    follow();
    remember();
  });
  if (wanted.cut) {
    ladder.set(...wanted.cut);
    follow();
  }
  building.setPlanes(state.planes);
  building.paint(state.colours);
  for (const element of state.marked) building.states.pick(element, true);
  building.states.changed();
  if (wanted.camera) {
    building.lookAs(wanted.camera);
    byId('parallel').setAttribute('aria-pressed', String(building.camera.parallel));
  } else if (state.marked.size && !location.hash.includes('only=')) {
    const box = new THREE.Box3();
    for (const element of state.marked) box.union(building.boxOf(element));
    if (!box.isEmpty()) building.fit(box.expandByScalar(3), USUAL.clone());
  } else {
    const box = new THREE.Box3();
    for (const element of changes?.some(elements.first) ?? []) box.union(building.boxOf(element));
    building.fit(box.isEmpty() ? building.boxes : box.expandByScalar(4), USUAL.clone());
  }
}

/** @type {[number, number] | null} */
let down = null;
canvas.addEventListener('pointerdown', (event) => {
  down = [event.clientX, event.clientY];
});
canvas.addEventListener('click', (event) => {
  if (down && Math.hypot(event.clientX - down[0], event.clientY - down[1]) > 4) return;
  const box = canvas.getBoundingClientRect(),
    x = event.clientX - box.left,
    y = event.clientY - box.top;
  if (measure.on) {
    measure.click(x, y);
    return;
  }
  const hit = building.pick(x, y),
    line = sheets.pick(x, y);
  if (line && !measure.hides(hit, line.point)) pickLine(line);
  else pick(hit?.element ?? -1);
});
view.addEventListener('click', (event) => {
  const control = /** @type {HTMLElement} */ (event.target).closest('button, input');
  if (!(control instanceof HTMLElement)) return;
  const { filter, value, act, all, none, sheet, beside, name } = control.dataset;
  if (beside) {
    showBeside(beside, name ?? '');
    return;
  }
  if (control.id === 'partycolours') {
    sheets.colour(/** @type {HTMLInputElement} */ (control).checked);
    return;
  }
  if (sheet) state.toggle('sheet', scene.names.sheet.indexOf(sheet));
  else if (filter) state.toggle(kindOf(filter), Number(value));
  else if (all) state.all(kindOf(all));
  else if (none) state.none(kindOf(none));
  else {
    acts[act ?? control.id]?.();
    return;
  }
  apply();
});
document.addEventListener('keydown', (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (/** @type {HTMLElement} */ (event.target).closest('input, select, textarea')) return;
  if (document.body.dataset.keys === 'off' && event.key !== 'Escape') return;
  acts[{ f: 'fit', m: 'measure', h: 'hide', i: 'isolate', s: 'showall', Escape: 'close' }[event.key] ?? '']?.();
});
building.controls.addEventListener('change', remember);
// What is kept is the view as it is when the button is pressed.
document.getElementById('keepform')?.addEventListener('htmx:configRequest', (event) => {
  /** @type {CustomEvent} */ (event).detail.parameters.view = JSON.stringify(current());
});
const asking = document.getElementById('topicform');
if (asking instanceof HTMLFormElement) new TopicForm(asking, building, () => JSON.stringify(current()));
// The list of drawings comes later than the view that it belongs to.
document.body.addEventListener('htmx:afterSettle', controls);

const wanted = fromAddress(location.hash.slice(1) || (view.dataset.kept ?? ''));
if (changes && !location.hash) wanted.off.source = changes.others(scene.names.source);
state.take(wanted);
reading.textContent = 'Loading the picture …';
try {
  let looked = false;
  building.controls.addEventListener('start', () => {
    looked = true;
  });
  await loading.load(
    base,
    (done, all) => {
      reading.textContent = `Loading the picture: ${done} of ${all}`;
    },
    () => {
      // Seen as it comes; whoever turns it meanwhile keeps the view.
      changes?.paint(building);
      apply();
      if (!performance.getEntriesByName('picture-first').length) performance.mark('picture-first');
      if (looked) return;
      if (wanted.camera) building.lookAs(wanted.camera);
      else building.fit(building.boxes, USUAL.clone());
    },
  );
  await sheets.load(base);
  changes?.paint(building);
  if (looked) wanted.camera = building.cameraDocument();
  const picked = state.picked;
  place(wanted);
  apply();
  reading.textContent = '';
  if (picked >= 0) {
    await pick(picked);
    if (!wanted.camera) reveal(picked);
  }
} catch (error) {
  reading.textContent = `${/** @type {Error} */ (error).message} Load the page again.`;
}
performance.mark('picture-whole');
view.dataset.ready = 'true';
// For tests and for measuring: how much is drawn.
Object.assign(window, {
  lintelView: {
    building,
    sheets,
    get drawCalls() {
      return building.drawCalls;
    },
    get picked() {
      return state.picked;
    },
  },
});
