// Reads a geometry chunk (the layout is described at ChunkBuilder in src/Core/Exchange/View).

/** @typedef {{ element: number, start: number, count: number }} Run an element's corners in a merged mesh */
/** @typedef {{ low: number[], step: number, positions: Uint16Array, corners: Uint32Array }} Mesh positions in steps from `low`, metres */
/** @typedef {Mesh & { runs: Run[] }} Merged */
/** @typedef {Mesh & { elements: number[], frames: number[] }} Repeated an element and 16 numbers, by columns, an instance */

/**
 * @param {DataView<ArrayBuffer>} view
 * @param {number} at
 * @param {number} vertices
 * @param {number} indices
 */
function readMesh(view, at, vertices, indices) {
  const positions = new Uint16Array(view.buffer, at, vertices * 3);
  at += vertices * 6 + (vertices % 2 ? 2 : 0);
  const corners = new Uint32Array(view.buffer, at, indices);
  return { positions, corners, at: at + indices * 4 };
}

/**
 * A chunk's meshes, metres from the view's `origin`.
 * @param {ArrayBuffer} buffer
 * @param {number} first the number of its source's first element in the job
 * @param {number[]} origin metres in the job frame
 * @returns {{ merged: Merged, repeated: Repeated[] }}
 */
export function readChunk(buffer, first, origin) {
  const view = new DataView(buffer);
  const low = [0, 8, 16].map((at, i) => view.getFloat64(at, true) - origin[i]);
  const step = view.getFloat32(24, true);
  const [vertices, indices, runs, repeats] = [28, 32, 36, 40].map((at) => view.getUint32(at, true));
  let at = 44;
  /** @type {Run[]} */
  const table = [];
  for (let r = 0; r < runs; r++, at += 16) {
    table.push({ element: first + view.getUint32(at, true), start: view.getUint32(at + 4, true), count: view.getUint32(at + 8, true) });
  }
  const mesh = readMesh(view, at, vertices, indices);
  at = mesh.at;
  /** @type {Repeated[]} */
  const repeated = [];
  for (let r = 0; r < repeats; r++) {
    const [v, n, count] = [0, 4, 8].map((o) => view.getUint32(at + o, true));
    const own = { low: [12, 16, 20].map((o) => view.getFloat32(at + o, true)), step: view.getFloat32(at + 24, true) };
    const one = readMesh(view, at + 28, v, n);
    at = one.at;
    /** @type {number[]} */
    const elements = [], /** @type {number[]} */ frames = [];
    for (let i = 0; i < count; i++, at += 56) {
      elements.push(first + view.getUint32(at, true));
      /** @param {number} k */
      const f = (k) => view.getFloat32(at + 8 + 4 * k, true);
      frames.push(f(0), f(1), f(2), 0, f(3), f(4), f(5), 0, f(6), f(7), f(8), 0, f(9) + low[0], f(10) + low[1], f(11) + low[2], 1);
    }

    repeated.push({ ...own, ...one, elements, frames });
  }

  return { merged: { low, step, ...mesh, runs: table }, repeated };
}
