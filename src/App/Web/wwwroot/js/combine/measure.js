// Measuring between two points, each snapped to the nearest corner of the element under the pointer.
import * as THREE from 'three';
import { writeLength } from '../length.js';

const REACH = 14;

export class Measure {
  /**
   * @param {import('./scene.js').Building} building
   * @param {HTMLElement} reading
   * @param {import('../length.js').Notation} notation
   */
  constructor(building, reading, notation) {
    this.notation = notation;
    this.building = building;
    this.reading = reading;
    /** @type {THREE.Vector3[]} */
    this.points = [];
    this.on = false;
    this.marks = new THREE.Group();
    building.world.add(this.marks);
  }

  /** @param {boolean} on */
  toggle(on) {
    this.on = on;
    this.points = [];
    this.marks.clear();
    this.reading.textContent = on ? 'Pick the first point; corners are caught.' : '';
    this.building.draw();
  }

  /**
   * @param {number} x
   * @param {number} y
   */
  click(x, y) {
    const point = this.snap(x, y);
    if (!point) return;
    if (this.points.length === 2) { this.points = []; this.marks.clear(); }
    this.points.push(point);
    this.mark(point);
    if (this.points.length === 1) this.reading.textContent = 'Pick the second point.';
    else this.tell(this.points[0], this.points[1]);
    this.building.draw();
  }

  /**
   * @param {number} x
   * @param {number} y
   */
  snap(x, y) {
    const hit = this.building.pick(x, y);
    if (!hit) return null;
    const { camera, canvas } = this.building;
    const screen = new THREE.Vector3();
    let best = REACH, found = hit.point.clone();
    this.building.vertices(hit.element, (p) => {
      screen.copy(p).project(camera);
      const off = Math.hypot((screen.x + 1) / 2 * canvas.clientWidth - x, (1 - screen.y) / 2 * canvas.clientHeight - y);
      if (off < best) { best = off; found = p.clone(); }
    });
    return found;
  }

  /** @param {THREE.Vector3} point */
  mark(point) {
    const look = new THREE.PointsMaterial({ color: 0x20272a, size: 9, sizeAttenuation: false, depthTest: false });
    this.marks.add(new THREE.Points(new THREE.BufferGeometry().setFromPoints([point]), look));
  }

  /**
   * @param {THREE.Vector3} a
   * @param {THREE.Vector3} b
   */
  tell(a, b) {
    const look = new THREE.LineBasicMaterial({ color: 0x20272a, depthTest: false });
    this.marks.add(new THREE.Line(new THREE.BufferGeometry().setFromPoints([a, b]), look));
    /** @param {number} v */
    const length = (v) => writeLength(v, this.notation);
    const d = b.clone().sub(a);
    const parts = `dx ${length(Math.abs(d.x))}, dy ${length(Math.abs(d.y))}, dz ${length(Math.abs(d.z))}`;
    this.reading.textContent = `${length(d.length())} · in plan ${length(Math.hypot(d.x, d.y))} · ${parts}`;
  }
}
