// Few drawables for many chunks: merged meshes are put together up to a size, a repeated mesh is drawn once for all its chunks.
import * as THREE from 'three';

const FULL = 300_000;

// Per-vertex or per-instance numbers: which element, in the whole job.
function numbers(attribute) {
  attribute.gpuType = THREE.IntType;
  return attribute;
}

const same = (a, b) => a.length === b.length && a.every((v, i) => v === b[i]);

export class Batches {
  /** `add(drawable)` takes each drawable as it is made. */
  constructor(material, add) {
    Object.assign(this, { material, add, waiting: [], vertices: 0, repeated: [] });
  }

  /** Takes a chunk as `readChunk` gives it. */
  take({ merged, repeated }) {
    if (merged.corners.length) {
      this.waiting.push(merged);
      this.vertices += merged.positions.length / 3;
      if (this.vertices >= FULL) this.finishMerged();
    }
    for (const mesh of repeated) {
      const known = this.repeated.find((k) => k.step === mesh.step && same(k.low, mesh.low) && same(k.corners, mesh.corners) && same(k.positions, mesh.positions));
      if (known) { known.elements.push(...mesh.elements); known.frames.push(...mesh.frames); } else this.repeated.push(mesh);
    }
  }

  /** Makes drawables of what is left. */
  finish() {
    this.finishMerged();
    for (const mesh of this.repeated) this.finishRepeated(mesh);
    this.repeated = [];
  }

  finishMerged() {
    if (!this.waiting.length) return;
    const positions = new Float32Array(this.vertices * 3), elements = new Int32Array(this.vertices);
    const corners = new Uint32Array(this.waiting.reduce((sum, m) => sum + m.corners.length, 0)), runs = [];
    let vertex = 0, corner = 0;
    for (const mesh of this.waiting) {
      for (let i = 0; i < mesh.positions.length; i++) positions[3 * vertex + i] = mesh.low[i % 3] + mesh.step * mesh.positions[i];
      for (let i = 0; i < mesh.corners.length; i++) corners[corner + i] = vertex + mesh.corners[i];
      for (const run of mesh.runs) {
        for (let i = run.start; i < run.start + run.count; i++) elements[vertex + mesh.corners[i]] = run.element;
        runs.push({ ...run, start: run.start + corner });
      }
      vertex += mesh.positions.length / 3;
      corner += mesh.corners.length;
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('element', numbers(new THREE.BufferAttribute(elements, 1)));
    geometry.setIndex(new THREE.BufferAttribute(corners, 1));
    const drawable = new THREE.Mesh(geometry, this.material);
    drawable.userData = { runs };
    this.waiting = [];
    this.vertices = 0;
    this.add(drawable);
  }

  finishRepeated(mesh) {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    geometry.setAttribute('element', numbers(new THREE.InstancedBufferAttribute(new Int32Array(mesh.elements), 1)));
    geometry.setIndex(new THREE.BufferAttribute(mesh.corners, 1));
    const drawable = new THREE.InstancedMesh(geometry, this.material, mesh.elements.length);
    const local = new THREE.Matrix4().makeScale(mesh.step, mesh.step, mesh.step).setPosition(...mesh.low), frame = new THREE.Matrix4();
    mesh.elements.forEach((_, i) => drawable.setMatrixAt(i, frame.fromArray(mesh.frames, 16 * i).multiply(local)));
    drawable.userData = { instances: mesh.elements };
    this.add(drawable);
  }
}
