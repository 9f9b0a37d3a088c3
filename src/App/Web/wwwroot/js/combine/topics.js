// Topics in the combined view: open ones as marks where they look, and the form that asks or answers with the picture as it is.
import * as THREE from 'three';
import { Pins } from '../pins.js';
import { MarkedPicture } from './marks.js';

/** @typedef {import('../pins.js').PinData & { at: [number, number, number] }} TopicData at in the job's frame, metres */

/** Pictures are no wider: what is sent is looked at on pages. */
const WIDEST = 1600;

const PAPER = '#f4efe6';

/**
 * Marks of topics over the picture, moved with it.
 * @param {import('./scene.js').Building} building
 * @param {TopicData[]} topics
 * @param {HTMLElement} host
 */
export function pinTopics(building, topics, host) {
  const point = new THREE.Vector3();
  const pins = new Pins(host, topics, ({ at }) => {
    const { camera, canvas, offset } = building,
      { clientWidth: w, clientHeight: h } = canvas;
    const { x, y, z } = point.set(at[0] - offset[0], at[1] - offset[1], at[2] - offset[2]).project(camera);
    return z > 1 || Math.abs(x) > 1 || Math.abs(y) > 1 ? null : [((x + 1) / 2) * w, ((1 - y) / 2) * h];
  });
  building.drawn.push(() => pins.follow());
  return pins;
}

/**
 * @param {HTMLCanvasElement} canvas
 * @returns {Promise<Blob | null>}
 */
const png = (canvas) =>
  new Promise((resolve) => {
    canvas.toBlob(resolve, 'image/png');
  });

/** Asks or answers with what the picture shows. */
export class TopicForm {
  /**
   * @param {HTMLFormElement} form
   * @param {import('./scene.js').Building} building
   * @param {() => string} view the view as it is, as JSON
   */
  constructor(form, building, view) {
    this.form = form;
    this.building = building;
    this.view = view;
    /** @type {MarkedPicture | null} drawn on, with the view as it was then */
    this.marked = null;
    this.seen = '';
    form.querySelector('[data-draw]')?.addEventListener('click', () => {
      if (this.marked?.open) return;
      const copy = this.copy();
      this.seen = this.view();
      if (copy) this.marked = new MarkedPicture(building.host, copy);
    });
    form.addEventListener('submit', (event) => {
      event.preventDefault();
      this.send(/** @type {HTMLButtonElement | null} */ (event.submitter));
    });
  }

  /** @param {HTMLButtonElement | null} button */
  async send(button) {
    const says = /** @type {HTMLElement} */ (this.form.querySelector('[role="status"]'));
    const data = new FormData(this.form, button);
    const { marked } = this,
      drawn = marked?.open && marked.marks.length > 0;
    const copy = marked?.open ? marked.picture : this.copy();
    data.set('view', marked?.open ? this.seen : this.view());
    data.set('aspect', String(this.building.camera.aspect));
    const plain = copy && (await png(copy)),
      picture = drawn ? await png(marked.canvas) : plain;
    if (picture) data.set('picture', picture, 'snapshot.png');
    if (drawn && plain) {
      data.set('plain', plain, 'plain.png');
      data.set('marks', marked.document());
    }
    if (button) button.disabled = true;
    says.textContent = 'Sending …';
    const answer = await fetch(this.form.action, {
      method: 'POST',
      body: data,
      headers: { 'X-Requested-With': 'fetch' },
    });
    if (answer.ok) {
      const { address } = await answer.json();
      location.assign(address);
      return;
    }
    if (button) button.disabled = false;
    const page = new DOMParser().parseFromString(await answer.text(), 'text/html');
    says.textContent =
      page.querySelector('[role="alert"]')?.textContent ?? `It was not sent (${answer.status}). Load the page again.`;
  }

  /** The picture on paper, without what floats over it. */
  copy() {
    const { canvas } = this.building;
    this.building.drawWhole();
    const scale = Math.min(1, WIDEST / canvas.width);
    const copy = document.createElement('canvas');
    copy.width = Math.round(canvas.width * scale);
    copy.height = Math.round(canvas.height * scale);
    const paper = copy.getContext('2d');
    if (!paper) return null;
    paper.fillStyle = PAPER;
    paper.fillRect(0, 0, copy.width, copy.height);
    paper.drawImage(canvas, 0, 0, copy.width, copy.height);
    return copy;
  }
}
