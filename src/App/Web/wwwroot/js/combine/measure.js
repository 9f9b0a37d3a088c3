// Measuring between two points, each caught by the nearest corner of the element, or end of a drawing's line, under the pointer.
import * as THREE from 'three';
import { writeLength } from '../length.js';

const REACH = 14;

export class Measure {
  /**
   * @param {import('./scene.js').Building} building
   * @param {import('./sheets.js').Sheets} sheets
   * @param {HTMLElement} reading
   * @param {import('../length.js').Notation} notation
   */
  constructor(building, sheets, reading, notation) {
    this.sheets = sheets;
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
    if (this.points.length === 2) {
      this.points = [];
      this.marks.clear();
    }
    this.points.push(point);
    this.mark(point);
    if (this.points.length === 1) this.reading.textContent = `At ${this.place(point)}; pick the second point.`;
    else this.tell(this.points[0], this.points[1]);
    this.building.draw();
  }

  /**
   * @param {number} x
   * @param {number} y
   */
  snap(x, y) {
    const hit = this.building.pick(x, y),
      line = this.sheets.pick(x, y, REACH);
    if (line?.end && !this.hides(hit, line.end)) return line.end;
    if (line && !this.hides(hit, line.point)) return line.point;
    if (!hit) return null;
    const { camera, canvas } = this.building;
    const screen = new THREE.Vector3();
    let best = REACH,
      found = hit.point.clone();
    this.building.vertices(hit.element, (p) => {
      screen.copy(p).project(camera);
      const off = Math.hypot(
        ((screen.x + 1) / 2) * canvas.clientWidth - x,
        ((1 - screen.y) / 2) * canvas.clientHeight - y,
      );
      if (off < best) {
        best = off;
        found = p.clone();
      }
    });
    return found;
  }

  /**
   * Whether an element is before a point.
   * @param {{ point: THREE.Vector3 } | null} hit
   * @param {THREE.Vector3} point
   */
  hides(hit, point) {
    const eye = this.building.camera.position,
      slack = 0.05;
    return hit !== null && hit.point.distanceTo(eye) * (1 + 1e-3) + slack < point.distanceTo(eye);
  }

  /**
   * Where a point lies in the job, as control points are typed.
   * @param {THREE.Vector3} point
   */
  place(point) {
    return point
      .toArray()
      .map((c, i) => writeLength(c + this.building.offset[i], this.notation))
      .join(', ');
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
