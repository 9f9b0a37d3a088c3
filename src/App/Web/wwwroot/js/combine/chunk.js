// Reads a geometry chunk (the layout is described at ChunkBuilder in src/Core/Exchange/View).
import * as THREE from 'three';

// Per-vertex numbers: which element, in the whole job.
const numbers = (array) => { const a = new THREE.BufferAttribute(array, 1); a.gpuType = THREE.IntType; return a; };

function readMesh(view, at, vertices, indices) {
  const positions = new Uint16Array(view.buffer, at, vertices * 3);
  at += vertices * 6 + (vertices % 2 ? 2 : 0);
  const corners = new Uint32Array(view.buffer, at, indices);
  return { positions, corners, at: at + indices * 4 };
}

/** A chunk's drawables. `first` is the number of its source's first element in the job; `colours` takes each element's own colour. */
export function readChunk(buffer, first, material, origin) {
  const view = new DataView(buffer);
  const chunkOrigin = [0, 8, 16].map((at) => view.getFloat64(at, true));
  const step = view.getFloat32(24, true);
  const [vertices, indices, runs, repeats] = [28, 32, 36, 40].map((at) => view.getUint32(at, true));
  let at = 44;
  const table = [];
  for (let r = 0; r < runs; r++, at += 16) table.push({ element: first + view.getUint32(at, true), start: view.getUint32(at + 4, true), count: view.getUint32(at + 8, true) });
  const offset = chunkOrigin.map((c, i) => c - origin[i]);
  const drawables = [];
  const merged = readMesh(view, at, vertices, indices);
  at = merged.at;
  if (indices > 0) {
    const elements = new Int32Array(vertices);
    for (const run of table) for (let i = run.start; i < run.start + run.count; i++) elements[merged.corners[i]] = run.element;
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(merged.positions, 3));
    geometry.setAttribute('element', numbers(elements));
    geometry.setIndex(new THREE.BufferAttribute(merged.corners, 1));
    const mesh = new THREE.Mesh(geometry, material);
    mesh.position.set(...offset);
    mesh.scale.setScalar(step);
    mesh.userData = { runs: table };
    drawables.push(mesh);
  }

  for (let r = 0; r < repeats; r++) {
    const [v, n, count] = [0, 4, 8].map((o) => view.getUint32(at + o, true));
    const low = [12, 16, 20].map((o) => view.getFloat32(at + o, true));
    const size = view.getFloat32(at + 24, true);
    const mesh = readMesh(view, at + 28, v, n);
    at = mesh.at;
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    geometry.setIndex(new THREE.BufferAttribute(mesh.corners, 1));
    const elements = new Int32Array(count);
    const many = new THREE.InstancedMesh(geometry, material, count);
    const local = new THREE.Matrix4().makeScale(size, size, size).setPosition(...low);
    const frame = new THREE.Matrix4();
    for (let i = 0; i < count; i++, at += 56) {
      elements[i] = first + view.getUint32(at, true);
      const f = (k) => view.getFloat32(at + 8 + 4 * k, true);
      frame.set(f(0), f(3), f(6), f(9) + offset[0], f(1), f(4), f(7), f(10) + offset[1], f(2), f(5), f(8), f(11) + offset[2], 0, 0, 0, 1);
      many.setMatrixAt(i, frame.multiply(local));
    }

    const attribute = new THREE.InstancedBufferAttribute(elements, 1);
    attribute.gpuType = THREE.IntType;
    geometry.setAttribute('element', attribute);
    many.userData = { instances: elements };
    drawables.push(many);
  }

  return drawables;
}
