// The picture of a drawing on its page: fetched as SVG, layers switched by their names.
import { byId } from '../page.js';
import { PlanView } from './plan-view.js';
import { pinTopics } from './topics.js';

const host = byId('plan'),
  at = byId('at'),
  space = /** @type {HTMLSelectElement | null} */ (document.getElementById('space'));
const layers = /** @type {HTMLInputElement[]} */ ([...host.querySelectorAll('[data-name]')]);
const plan = new PlanView(byId('paper'), (x, y) => {
  at.textContent = `x ${x.toFixed(3)}  y ${y.toFixed(3)}`;
});

const pins = byId('plan-pins');
pinTopics(plan, pins);

async function load() {
  // Topics lie in model space.
  pins.hidden = Boolean(space?.value);
  const answer = await fetch(`${host.dataset.source}&layout=${encodeURIComponent(space?.value ?? '')}`);
  if (!answer.ok) {
    plan.say(
      answer.status === 404
        ? 'Nothing here has a place to be drawn.'
        : 'The picture could not be loaded. Load the page again.',
    );
    return;
  }

  /** @param {import('./sheet.js').Sheet} sheet */
  const switched = (sheet) => {
    for (const box of layers) sheet.show(box.dataset.name ?? '', box.checked);
  };
  await plan.set([{ text: await answer.text() }], switched);
  host.dataset.ready = 'true';
}

for (const button of /** @type {NodeListOf<HTMLElement>} */ (host.querySelectorAll('[data-zoom]'))) {
  button.addEventListener('click', () => {
    if (button.dataset.zoom === 'fit') plan.fit();
    else plan.zoom(button.dataset.zoom === 'in' ? 0.7 : 1 / 0.7);
  });
}
for (const box of layers) {
  box.addEventListener('change', () => {
    for (const sheet of plan.sheets) sheet.show(box.dataset.name ?? '', box.checked);
  });
}
space?.addEventListener('change', load);
load();
