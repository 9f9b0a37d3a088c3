// Topics in the combined view: open ones as marks where they look, and the form that asks or answers with the picture as it is.
import * as THREE from 'three';
import { MarkedPicture } from './marks.js';

/** @typedef {{ number: number, title: string, at: [number, number, number], late: boolean, address: string }} TopicData */

/** Pictures are no wider: what is sent is looked at on pages. */
const WIDEST = 1600;

const PAPER = '#f4efe6';

/** Marks of topics over the picture, moved with it. */
export class TopicPins {
  /**
   * @param {import('./scene.js').Building} building
   * @param {TopicData[]} topics
   * @param {HTMLElement} host
   */
  constructor(building, topics, host) {
    this.building = building;
    this.host = host;
    this.shown = true;
    this.point = new THREE.Vector3();
    this.pins = topics.map((topic) => {
      const pin = document.createElement('a');
      pin.className = topic.late ? 'pin late' : 'pin';
      pin.href = topic.address;
      pin.textContent = `T-${topic.number}`;
      pin.title = topic.title;
      host.append(pin);
      return { topic, pin };
    });
    building.drawn.push(() => this.follow());
  }

  /** @returns {boolean} whether they are shown now */
  toggle() {
    this.shown = !this.shown;
    this.host.hidden = !this.shown;
    this.follow();
    return this.shown;
  }

  follow() {
    if (!this.shown) return;
    const { camera, canvas, offset } = this.building,
      { clientWidth: w, clientHeight: h } = canvas;
    for (const { topic, pin } of this.pins) {
      this.point.set(topic.at[0] - offset[0], topic.at[1] - offset[1], topic.at[2] - offset[2]).project(camera);
      const { x, y, z } = this.point;
      pin.hidden = z > 1 || Math.abs(x) > 1 || Math.abs(y) > 1;
      if (!pin.hidden) pin.style.translate = `${((x + 1) / 2) * w}px ${((1 - y) / 2) * h}px`;
    }
  }
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
    const { canvas, renderer, world, camera } = this.building;
    renderer.render(world, camera);
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
