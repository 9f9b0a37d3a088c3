// Open topics of a placed drawing, as marks on its picture.
import { scaleOf } from './sheet.js';

/** @typedef {{ number: number, title: string, at: [number, number], late: boolean, address: string }} TopicMark at in units of the plan */

export class PlanPins {
  /**
   * @param {import('./plan-view.js').PlanView} plan
   * @param {HTMLElement} host lies over the paper; its data-topics are the marks
   */
  constructor(plan, host) {
    this.plan = plan;
    this.host = host;
    /** @type {TopicMark[]} */
    const topics = JSON.parse(host.dataset.topics || '[]');
    this.pins = topics.map((topic) => {
      const pin = document.createElement('a');
      pin.className = topic.late ? 'pin late' : 'pin';
      pin.href = topic.address;
      pin.textContent = `T-${topic.number}`;
      pin.title = topic.title;
      host.append(pin);
      return { at: topic.at, pin };
    });
    plan.moved.push(() => this.follow());
  }

  follow() {
    const { left, top, width, height } = this.plan.view,
      { clientWidth: w, clientHeight: h } = this.plan.paper,
      px = scaleOf(this.plan.view, this.plan.paper);
    for (const { at, pin } of this.pins) {
      const x = w / 2 + (at[0] - left - width / 2) * px,
        y = h / 2 - (at[1] - top + height / 2) * px;
      pin.hidden = x < 0 || y < 0 || x > w || y > h;
      if (!pin.hidden) pin.style.translate = `${x}px ${y}px`;
    }
  }
}
