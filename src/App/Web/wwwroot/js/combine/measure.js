// Measuring between two points, each snapped to the nearest corner of the element under the pointer.
import * as THREE from 'three';

const REACH = 14;

export class Measure {
  constructor(building, reading) {
    Object.assign(this, { building, reading, points: [], on: false });
    this.marks = new THREE.Group();
    building.world.add(this.marks);
  }

  toggle(on) {
    this.on = on;
    this.points = [];
    this.marks.clear();
    this.reading.textContent = on ? 'Pick the first point; corners are caught.' : '';
    this.building.draw();
  }

  click(x, y) {
    const point = this.snap(x, y);
    if (!point) return;
    if (this.points.length === 2) { this.points = []; this.marks.clear(); }
    this.points.push(point);
    this.mark(point);
    if (this.points.length === 1) this.reading.textContent = 'Pick the second point.';
    else this.tell(...this.points);
    this.building.draw();
  }

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

  mark(point) {
    const dot = new THREE.Points(new THREE.BufferGeometry().setFromPoints([point]), new THREE.PointsMaterial({ color: 0x20272a, size: 9, sizeAttenuation: false, depthTest: false }));
    this.marks.add(dot);
  }

  tell(a, b) {
    const line = new THREE.Line(new THREE.BufferGeometry().setFromPoints([a, b]), new THREE.LineBasicMaterial({ color: 0x20272a, depthTest: false }));
    this.marks.add(line);
    const d = b.clone().sub(a), metres = (v) => `${v.toFixed(3)} m`;
    this.reading.textContent = `${metres(d.length())} · in plan ${metres(Math.hypot(d.x, d.y))} · dx ${metres(Math.abs(d.x))}, dy ${metres(Math.abs(d.y))}, dz ${metres(Math.abs(d.z))}`;
  }
}
