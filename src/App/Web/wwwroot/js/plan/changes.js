// Two revisions of a drawing over one another: what stayed pale, what is gone red, what is new green.
import { byId } from '../page.js';
import { PlanView } from './plan-view.js';

const paper = byId('paper'),
  plan = new PlanView(paper, () => {});
const pictures = await Promise.all(
  ['same', 'old', 'new'].map(async (what) => {
    const answer = await fetch(`${paper.dataset.source}&what=${what}`);
    return answer.ok ? { text: await answer.text() } : null;
  }),
);
const shown = pictures.filter((p) => p !== null);
if (shown.length) await plan.set(shown, () => {});
else plan.say('Nothing here has a place to be drawn.');
for (const button of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll('[data-zoom]'))) {
  button.addEventListener('click', () => {
    if (button.dataset.zoom === 'fit') plan.fit();
    else plan.zoom(button.dataset.zoom === 'in' ? 0.7 : 1 / 0.7);
  });
}
paper.dataset.ready = 'true';
