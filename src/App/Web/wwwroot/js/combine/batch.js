// Few drawables for many chunks: merged meshes of one square of the plan are put together, so that a pick draws only what lies
// under it; a repeated mesh is drawn once for all its chunks.
import * as THREE from 'three';

/** @typedef {import('./chunk.js').Merged} Merged */
/** @typedef {import('./chunk.js').Repeated} Repeated */
/** @typedef {{ waiting: Merged[], vertices: number }} Square */

const FULL = 300_000,
  SQUARE = 64;

/**
 * Per-vertex or per-instance numbers: which element, in the whole job.
 * @template {THREE.BufferAttribute} A
 * @param {A} attribute
 */
function numbers(attribute) {
  attribute.gpuType = THREE.IntType;
  return attribute;
}

/**
 * @param {ArrayLike<number>} a
 * @param {ArrayLike<number>} b
 */
const equal = (a, b) => a.length === b.length && Array.prototype.every.call(a, (v, i) => v === b[i]);

/**
 * @param {Repeated} a
 * @param {Repeated} b
 */
const same = (a, b) =>
  a.step === b.step && equal(a.low, b.low) && equal(a.corners, b.corners) && equal(a.positions, b.positions);

export class Batches {
  /**
   * @param {{ shaded: THREE.Material, edges: THREE.Material, instancedEdges: THREE.Material }} materials
   * @param {import('./material.js').ElementStates} states learns each element's heights
   * @param {(drawable: THREE.Mesh | THREE.LineSegments) => void} add takes each drawable as it is made
   */
  constructor(materials, states, add) {
    this.materials = materials;
    this.states = states;
    this.add = add;
    /** @type {Map<string, Square>} */
    this.squares = new Map();
    /** @type {Repeated[]} */
    this.repeated = [];
  }

  /** @param {{ merged: Merged, repeated: Repeated[] }} chunk as `readChunk` gives it */
  take({ merged, repeated }) {
    if (merged.corners.length) {
      const key = `${Math.floor(merged.low[0] / SQUARE)} ${Math.floor(merged.low[1] / SQUARE)}`;
      const square = this.squares.get(key) ?? { waiting: [], vertices: 0 };
      this.squares.set(key, square);
      square.waiting.push(merged);
      square.vertices += merged.positions.length / 3;
      if (square.vertices >= FULL) this.finishMerged(square);
    }
    for (const mesh of repeated) {
      const known = this.repeated.find((k) => same(k, mesh));
      // Not push(...): a call takes some hundred thousand arguments at most.
      if (known) {
        known.elements = known.elements.concat(mesh.elements);
        known.frames = known.frames.concat(mesh.frames);
      } else this.repeated.push(mesh);
    }
  }

  /** Makes drawables of what is left. */
  finish() {
    for (const square of this.squares.values()) this.finishMerged(square);
    for (const mesh of this.repeated) this.finishRepeated(mesh);
    this.repeated = [];
  }

  /** @param {Square} square */
  finishMerged(square) {
    if (!square.waiting.length) return;
    const positions = new Float32Array(square.vertices * 3),
      elements = new Int32Array(square.vertices);
    const corners = new Uint32Array(square.waiting.reduce((sum, m) => sum + m.corners.length, 0)),
      runs = [];
    const edges = new Uint32Array(square.waiting.reduce((sum, m) => sum + m.edges.length, 0));
    let vertex = 0,
      corner = 0,
      edge = 0;
    for (const mesh of square.waiting) {
      const { low, step, axes, positions: steps } = mesh;
      for (let i = 0; i < steps.length; i += 3) {
        for (let k = 0; k < 3; k++) {
          positions[3 * vertex + i + k] =
            low[k] + step * (axes[k] * steps[i] + axes[3 + k] * steps[i + 1] + axes[6 + k] * steps[i + 2]);
        }
      }
      for (let i = 0; i < mesh.corners.length; i++) corners[corner + i] = vertex + mesh.corners[i];
      for (const run of mesh.runs) {
        for (let i = run.start; i < run.start + run.count; i++) {
          const at = vertex + mesh.corners[i],
            height = positions[3 * at + 2];
          elements[at] = run.element;
          this.states.reaches(run.element, height, height);
        }
        runs.push({ ...run, start: run.start + corner });
      }
      for (let i = 0; i < mesh.edges.length; i++) edges[edge + i] = vertex + mesh.edges[i];
      vertex += mesh.positions.length / 3;
      corner += mesh.corners.length;
      edge += mesh.edges.length;
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('element', numbers(new THREE.BufferAttribute(elements, 1)));
    geometry.setIndex(new THREE.BufferAttribute(corners, 1));
    const drawable = new THREE.Mesh(geometry, this.materials.shaded);
    drawable.userData = { runs };
    square.waiting = [];
    square.vertices = 0;
    this.add(drawable);
    if (!edges.length) return;
    const lines = new THREE.BufferGeometry();
    for (const name of ['position', 'element']) lines.setAttribute(name, geometry.getAttribute(name));
    lines.setIndex(new THREE.BufferAttribute(edges, 1));
    this.add(new THREE.LineSegments(lines, this.materials.edges));
  }

  /** @param {Repeated} mesh */
  finishRepeated(mesh) {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    geometry.setAttribute('element', numbers(new THREE.InstancedBufferAttribute(new Int32Array(mesh.elements), 1)));
    geometry.setIndex(new THREE.BufferAttribute(mesh.corners, 1));
    const drawable = new THREE.InstancedMesh(geometry, this.materials.shaded, mesh.elements.length);
    const {
        step,
        low: [x, y, z],
      } = mesh,
      frame = new THREE.Matrix4();
    const local = new THREE.Matrix4().makeScale(step, step, step).setPosition(x, y, z);
    const { position } = geometry.attributes,
      box = new THREE.Box3();
    const own = new THREE.Box3().setFromBufferAttribute(/** @type {THREE.BufferAttribute} */ (position));
    mesh.elements.forEach((element, i) => {
      drawable.setMatrixAt(i, frame.fromArray(mesh.frames, 16 * i).multiply(local));
      box.copy(own).applyMatrix4(frame);
      this.states.reaches(element, box.min.z, box.max.z);
    });
    drawable.userData = { instances: mesh.elements };
    this.add(drawable);
    if (!mesh.edges.length) return;
    const lines = new THREE.InstancedBufferGeometry();
    lines.instanceCount = mesh.elements.length;
    for (const name of ['position', 'element']) lines.setAttribute(name, geometry.getAttribute(name));
    lines.setAttribute('instanceMatrix', drawable.instanceMatrix);
    lines.setIndex(new THREE.BufferAttribute(mesh.edges, 1));
    const segments = new THREE.LineSegments(lines, this.materials.instancedEdges);
    // Its box is that of one instance alone.
    segments.frustumCulled = false;
    this.add(segments);
  }
}
