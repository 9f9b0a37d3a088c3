// Open topics of a placed drawing, as marks on its picture.
import { Pins } from '../pins.js';
import { scaleOf } from './sheet.js';

/** @typedef {import('../pins.js').PinData & { at: [number, number] }} TopicMark at in units of the plan */

/**
 * @param {import('./plan-view.js').PlanView} plan
 * @param {HTMLElement} host lies over the paper; its data-topics are the marks
 */
export function pinTopics(plan, host) {
  /** @type {TopicMark[]} */
  const topics = JSON.parse(host.dataset.topics || '[]');
  const pins = new Pins(host, topics, ({ at }) => {
    const { left, top, width, height } = plan.view,
      { clientWidth: w, clientHeight: h } = plan.paper,
      px = scaleOf(plan.view, plan.paper);
    const x = w / 2 + (at[0] - left - width / 2) * px,
      y = h / 2 - (at[1] - top + height / 2) * px;
    return x < 0 || y < 0 || x > w || y > h ? null : [x, y];
  });
  plan.moved.push(() => pins.follow());
}
