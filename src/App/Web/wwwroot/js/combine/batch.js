// Few drawables for many chunks: merged meshes of one square of the plan are put together, so that a pick draws only what lies
// under it; a repeated mesh is drawn once for all its chunks.
import * as THREE from 'three';

/** @typedef {import('./chunk.js').Merged} Merged */
/** @typedef {import('./chunk.js').Repeated} Repeated */
/** @typedef {{ mesh: Repeated, instance: number }} Place a repeated mesh at one of its places */
/** @typedef {{ waiting: Merged[], places: Place[], vertices: number }} Square */

const FULL = 300_000,
  SQUARE = 256,
  // Triangles.
  LARGE = 2000,
  // Of a mesh along its longest side.
  STEPS = 65_500;

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
 * A repeated mesh is drawn once for all its places only where it is large: a graphics card draws a thousand small ones faster as one.
 * @param {Repeated} mesh
 */
const isLarge = (mesh) => mesh.corners.length > 3 * LARGE;

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
    this.point = new THREE.Vector3();
  }

  /** @param {{ merged: Merged, repeated: Repeated[] }} chunk as `readChunk` gives it */
  take({ merged, repeated }) {
    if (merged.corners.length) {
      const square = this.squareAt(merged.low[0], merged.low[1]);
      square.waiting.push(merged);
      this.filled(square, merged.positions.length / 3);
    }
    for (const mesh of repeated) {
      if (!isLarge(mesh)) {
        for (let instance = 0; instance < mesh.elements.length; instance++) {
          const square = this.squareAt(mesh.frames[16 * instance + 12], mesh.frames[16 * instance + 13]);
          square.places.push({ mesh, instance });
          this.filled(square, mesh.positions.length / 3);
        }
        continue;
      }
      const known = this.repeated.find((k) => same(k, mesh));
      // Not push(...): a call takes some hundred thousand arguments at most.
      if (known) {
        known.elements = known.elements.concat(mesh.elements);
        known.frames = known.frames.concat(mesh.frames);
      } else this.repeated.push(mesh);
    }
  }

  /**
   * @param {number} x
   * @param {number} y
   */
  squareAt(x, y) {
    const key = `${Math.floor(x / SQUARE)} ${Math.floor(y / SQUARE)}`;
    let square = this.squares.get(key);
    if (!square) this.squares.set(key, (square = { waiting: [], places: [], vertices: 0 }));
    return square;
  }

  /**
   * @param {Square} square
   * @param {number} vertices
   */
  filled(square, vertices) {
    square.vertices += vertices;
    if (square.vertices >= FULL) this.finishMerged(square);
  }

  /** Makes drawables of what is left. */
  finish() {
    for (const square of this.squares.values()) this.finishMerged(square);
    for (const mesh of this.repeated) this.finishRepeated(mesh);
    this.repeated = [];
  }

  /** @param {Square} square */
  finishMerged(square) {
    if (!square.vertices) return;
    const { waiting, places } = square,
      positions = new Float32Array(square.vertices * 3),
      elements = new Int32Array(square.vertices);
    /** @param {(mesh: Merged | Repeated) => number} count */
    const sum = (count) =>
      waiting.reduce((all, m) => all + count(m), 0) + places.reduce((all, p) => all + count(p.mesh), 0);
    const corners = new Uint32Array(sum((m) => m.corners.length)),
      edges = new Uint32Array(sum((m) => m.edges.length));
    /** @type {{ element: number, mesh: Merged | Repeated, vertex: number, start: number, count: number, size: number }[]} */
    const bodies = [];
    let vertex = 0,
      edge = 0;
    /** @param {Merged | Repeated} mesh whose vertices were put in last */
    const join = (mesh) => {
      for (let i = 0; i < mesh.edges.length; i++) edges[edge + i] = vertex + mesh.edges[i];
      vertex += mesh.positions.length / 3;
      edge += mesh.edges.length;
    };
    for (const mesh of waiting) {
      const { low, step, axes, positions: steps } = mesh;
      for (let i = 0; i < steps.length; i += 3) {
        for (let k = 0; k < 3; k++) {
          positions[3 * vertex + i + k] =
            low[k] + step * (axes[k] * steps[i] + axes[3 + k] * steps[i + 1] + axes[6 + k] * steps[i + 2]);
        }
      }
      for (const { element, start, count } of mesh.runs) {
        const box = new THREE.Box3();
        for (let i = start; i < start + count; i++) {
          const at = vertex + mesh.corners[i];
          elements[at] = element;
          box.expandByPoint(this.point.fromArray(positions, 3 * at));
        }
        this.states.reaches(element, box.min.z, box.max.z);
        bodies.push({ element, mesh, vertex, start, count, size: box.getSize(this.point).length() });
      }
      join(mesh);
    }
    for (const { mesh, instance } of places) {
      const element = mesh.elements[instance],
        [lowest, highest] = this.placed(mesh, instance, positions, 3 * vertex);
      elements.fill(element, vertex, vertex + mesh.positions.length / 3);
      this.states.reaches(element, lowest, highest);
      // A step is a fraction of the longest side.
      bodies.push({ element, mesh, vertex, start: 0, count: mesh.corners.length, size: mesh.step * STEPS });
      join(mesh);
    }
    // What shows most for its triangles comes first: it is what is drawn while something moves.
    const worth = (/** @type {{ size: number, count: number }} */ body) => (body.size * body.size) / body.count;
    bodies.sort((a, b) => worth(b) - worth(a));
    /** @type {import('./chunk.js').Run[]} */
    const runs = [];
    let corner = 0;
    for (const body of bodies) {
      for (let i = 0; i < body.count; i++) corners[corner + i] = body.vertex + body.mesh.corners[body.start + i];
      runs.push({ element: body.element, start: corner, count: body.count });
      corner += body.count;
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('element', numbers(new THREE.BufferAttribute(elements, 1)));
    geometry.setIndex(new THREE.BufferAttribute(corners, 1));
    const drawable = new THREE.Mesh(geometry, this.materials.shaded);
    drawable.userData = { runs };
    Object.assign(square, { waiting: [], places: [], vertices: 0 });
    this.add(drawable);
    if (!edges.length) return;
    const lines = new THREE.BufferGeometry();
    for (const name of ['position', 'element']) lines.setAttribute(name, geometry.getAttribute(name));
    lines.setIndex(new THREE.BufferAttribute(edges, 1));
    this.add(new THREE.LineSegments(lines, this.materials.edges));
  }

  /**
   * Puts the vertices of a mesh where one of its places is.
   * @param {Repeated} mesh
   * @param {number} instance
   * @param {Float32Array} into
   * @param {number} at
   * @returns {[number, number]} the lowest and the highest of them
   */
  placed({ low, step, positions, frames }, instance, into, at) {
    const f = 16 * instance;
    let lowest = Infinity,
      highest = -Infinity;
    for (let i = 0; i < positions.length; i += 3) {
      const x = low[0] + step * positions[i],
        y = low[1] + step * positions[i + 1],
        z = low[2] + step * positions[i + 2];
      for (let k = 0; k < 3; k++) {
        into[at + i + k] = frames[f + k] * x + frames[f + 4 + k] * y + frames[f + 8 + k] * z + frames[f + 12 + k];
      }
      const height = into[at + i + 2];
      if (height < lowest) lowest = height;
      if (height > highest) highest = height;
    }
    return [lowest, highest];
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
