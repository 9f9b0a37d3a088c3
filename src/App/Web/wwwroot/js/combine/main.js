// Puts the combined view together: what is shown, what is picked, and the address that holds it.
import * as THREE from 'three';
import { Building } from './scene.js';
import { LadderStrip } from './ladder.js';
import { Measure } from './measure.js';

const $ = (id) => document.getElementById(id);
const view = $('view'), base = view.dataset.base, slip = $('slip'), reading = $('reading');
const scene = await (await fetch(`${base}?handler=Scene`)).json();
const building = new Building($('canvas'), scene);
const measure = new Measure(building, reading);
const off = { source: new Set(), storey: new Set(), class: new Set([scene.spaces]), layer: new Set() };
const hidden = new Set();
let isolated = null, picked = -1, ladder;

const sourceOf = (element) => { let s = 0; while (s + 1 < building.first.length && element >= building.first[s + 1]) s++; return s; };

function apply() {
  for (let s = 0; s < scene.sources.length; s++) {
    for (let e = building.first[s]; e < building.first[s] + scene.sources[s].elements; e++) {
      const shown = isolated ? isolated.has(e)
        : !off.source.has(s) && !off.storey.has(building.columns[3 * e]) && !off.class.has(building.columns[3 * e + 1]) && !off.layer.has(building.columns[3 * e + 2]) && !hidden.has(e);
      building.states.show(e, shown);
    }
  }
  building.states.changed();
  if (!off.class.has(scene.spaces)) building.loadSpaces(base);
  for (const control of document.querySelectorAll('[data-filter]')) {
    const shown = !off[control.dataset.filter].has(Number(control.dataset.value));
    if (control.type === 'checkbox') control.checked = shown;
    else control.setAttribute('aria-pressed', shown);
  }
  for (const box of document.querySelectorAll('.chipbox')) {
    const ticks = [...box.querySelectorAll('input')], on = ticks.filter((t) => t.checked).length;
    box.querySelector('.chosen').textContent = on === ticks.length ? 'all' : `${on} of ${ticks.length}`;
  }
  $('showall').disabled = !isolated && hidden.size === 0;
  $('showall').textContent = isolated ? 'Isolated: show all' : hidden.size ? `Hidden: ${hidden.size}, show all` : 'Hidden: none';
  building.draw();
  remember();
}

async function pick(element) {
  if (picked >= 0) building.states.pick(picked, false);
  picked = element;
  if (picked >= 0) building.states.pick(picked, true);
  building.states.changed();
  building.draw();
  remember();
  if (picked < 0) { slip.hidden = true; slip.replaceChildren(); return; }
  const s = sourceOf(picked);
  const answer = await fetch(`${base}?handler=Facts&id=${scene.sources[s].id}&number=${picked - building.first[s]}`);
  slip.innerHTML = answer.ok ? await answer.text() : '';
  slip.hidden = !answer.ok;
}

// An element with some metres about it, so that one sees where it is.
const around = (element, metres) => building.boxOf(element).expandByScalar(metres);

// Cuts off what stands above an element and comes near.
function reveal(element) {
  const top = building.boxOf(element).max.z + building.origin[2];
  ladder.set(ladder.low, top + 0.1);
  building.setCut(ladder.cut[0] - building.origin[2], ladder.cut[1] - building.origin[2]);
  building.fit(around(element, 6));
}

const acts = {
  isolate() { if (picked >= 0) { isolated = new Set([picked]); apply(); } },
  hide() { if (picked >= 0) { hidden.add(picked); pick(-1); apply(); } },
  fit() { building.fit(picked >= 0 ? around(picked, 3) : building.boxes); },
  close() { pick(-1); },
  showall() { hidden.clear(); isolated = null; apply(); },
  measure() { const on = !measure.on; $('measure').setAttribute('aria-pressed', on); measure.toggle(on); },
};

// The address: camera, cut, what is off, hidden, isolated and picked. Sources are named by revision, so that a link says what it showed.
let later = 0;
function remember() {
  clearTimeout(later);
  later = setTimeout(() => history.replaceState(null, '', `#${address()}`), 250);
}

const name = (element) => { const s = sourceOf(element); return `${scene.sources[s].id}.${element - building.first[s]}`; };
function number(text) {
  const [id, n] = text.split('.');
  const s = scene.sources.findIndex((source) => source.id === id);
  return s < 0 || !(Number(n) < scene.sources[s].elements) ? -1 : building.first[s] + Number(n);
}

function address() {
  const words = new URLSearchParams();
  const o = building.origin ?? [0, 0, 0];
  const numbers = (v) => v.toArray().map((c, i) => (c + o[i]).toFixed(2)).join(',');
  words.set('eye', numbers(building.camera.position));
  words.set('at', numbers(building.controls.target));
  if (ladder) words.set('cut', ladder.cut.map((z) => z.toFixed(2)).join(','));
  for (const [kind, set] of Object.entries(off)) words.set(kind, [...set].join('.'));
  if (hidden.size) words.set('hide', [...hidden].slice(0, 200).map(name).join('_'));
  if (isolated) words.set('only', [...isolated].slice(0, 200).map(name).join('_'));
  if (picked >= 0) words.set('pick', name(picked));
  return words.toString();
}

function recall() {
  const words = new URLSearchParams(location.hash.slice(1));
  const elements = (key) => (words.get(key) ?? '').split('_').filter(Boolean).map(number).filter((n) => n >= 0);
  for (const kind of Object.keys(off)) if (words.has(kind)) off[kind] = new Set(words.get(kind).split('.').filter(Boolean).map(Number));
  elements('hide').forEach((e) => hidden.add(e));
  if (words.has('only')) isolated = new Set(elements('only'));
  return words;
}

function place(words) {
  const o = building.origin, vector = (key) => new THREE.Vector3(...words.get(key).split(',').map((c, i) => Number(c) - o[i]));
  const box = building.boxes, low = box.min.z + o[2], high = box.max.z + o[2];
  const pad = Math.max(0.3, (high - low) * 0.02);
  ladder = new LadderStrip($('strip'), scene.rungs, Math.min(low, scene.rungs[0]?.elevation ?? low) - pad, Math.max(high, scene.rungs.at(-1)?.elevation ?? high) + pad, (a, b) => { building.setCut(a - o[2], b - o[2]); remember(); });
  if (words.has('cut')) { ladder.set(...words.get('cut').split(',').map(Number)); building.setCut(ladder.cut[0] - o[2], ladder.cut[1] - o[2]); }
  if (words.has('eye') && words.has('at')) {
    building.fit();
    building.camera.position.copy(vector('eye'));
    building.controls.target.copy(vector('at'));
    building.controls.update();
  } else building.fit(box, new THREE.Vector3(0.62, -0.95, 0.62).normalize());
}

$('canvas').addEventListener('pointerdown', (event) => { building.down = [event.clientX, event.clientY]; });
$('canvas').addEventListener('click', (event) => {
  if (building.down && Math.hypot(event.clientX - building.down[0], event.clientY - building.down[1]) > 4) return;
  const box = $('canvas').getBoundingClientRect(), x = event.clientX - box.left, y = event.clientY - box.top;
  if (measure.on) measure.click(x, y);
  else pick(building.pick(x, y)?.element ?? -1);
});
view.addEventListener('click', (event) => {
  const control = event.target.closest('button, input');
  if (!control) return;
  const { filter, value, act, all, none } = control.dataset;
  if (act) acts[act]();
  else if (filter) { const set = off[filter], v = Number(value); if (!set.delete(v)) set.add(v); isolated = null; apply(); }
  else if (all) { off[all].clear(); apply(); }
  else if (none) { for (const tick of view.querySelectorAll(`input[data-filter="${none}"]`)) off[none].add(Number(tick.dataset.value)); apply(); }
  else if (control.id === 'copy') navigator.clipboard?.writeText(location.href.split('#')[0] + '#' + address()).then(() => { reading.textContent = 'The address of exactly this view is on the clipboard.'; setTimeout(() => { reading.textContent = ''; }, 2500); });
  else if (acts[control.id]) acts[control.id]();
});
document.addEventListener('keydown', (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey || event.target.closest('input, select, textarea')) return;
  const act = { f: 'fit', m: 'measure', h: 'hide', i: 'isolate', s: 'showall', Escape: 'close' }[event.key];
  if (act) acts[act]();
});
building.controls.addEventListener('change', remember);

const words = recall();
reading.textContent = 'Fetching the picture …';
try {
  await building.load(base, (done, all) => { reading.textContent = `Fetching the picture: ${done} of ${all}`; });
  place(words);
  apply();
  reading.textContent = '';
  if (words.has('pick') && number(words.get('pick')) >= 0) { await pick(number(words.get('pick'))); if (!words.has('eye')) reveal(picked); }
} catch (error) {
  reading.textContent = `${error.message} Load the page again.`;
}
view.dataset.ready = 'true';
// For tests and for measuring: how much is drawn.
window.lintelView = { building, get drawCalls() { return building.drawCalls; }, get picked() { return picked; } };
