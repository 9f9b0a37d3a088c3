// Reads a geometry chunk (the layout is described at ChunkBuilder in src/Core/Exchange/View).

/** @typedef {{ element: number, start: number, count: number }} Run an element's corners in a merged mesh */
/**
 * @typedef {{ low: number[], step: number, positions: Uint16Array, corners: Uint32Array, edges: Uint32Array }} Mesh
 * positions in steps from `low`, metres; edges: pairs of vertices between which faces meet
 */
/** @typedef {Mesh & { axes: number[], runs: Run[] }} Merged axes: which way a step along x, y and z goes */
/** @typedef {Mesh & { elements: number[], frames: number[] }} Repeated an element and 16 numbers, by columns, an instance */

/** The bit that says that places are kept number by number, and the bytes of one. */
const BY_NUMBER = 1 << 31,
  PLACE = 56;

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
  return { positions, corners, edges: new Uint32Array(), at: at + indices * 4 };
}

/**
 * A direction of the source in the job frame.
 * @param {number[]} frame
 * @param {number} x
 * @param {number} y
 * @param {number} z
 */
const turned = (frame, x, y, z) => [0, 1, 2].map((i) => frame[i] * x + frame[3 + i] * y + frame[6 + i] * z);

/**
 * Where a chunk's own zero lies, metres in the job frame.
 * @param {DataView<ArrayBuffer>} view
 * @param {number[]} frame
 */
export function chunkOrigin(view, frame) {
  const [x, y, z] = [0, 8, 16].map((at) => view.getFloat64(at, true));
  return turned(frame, x, y, z).map((c, i) => c + frame[9 + i]);
}

/**
 * A chunk's meshes, metres from the view's `origin`.
 * @param {ArrayBuffer} buffer
 * @param {number} first the number of its source's first element in the job
 * @param {number[]} origin metres in the job frame
 * @param {number[]} frame from the source's frame into the job's: three axes, then where its zero lies
 * @returns {{ merged: Merged, repeated: Repeated[] }}
 */
export function readChunk(buffer, first, origin, frame) {
  const view = new DataView(buffer);
  const low = chunkOrigin(view, frame).map((c, i) => c - origin[i]);
  const step = view.getFloat32(24, true);
  const [vertices, indices, runs, meshes] = [28, 32, 36, 40].map((at) => view.getUint32(at, true));
  const repeats = meshes & ~BY_NUMBER,
    byNumber = (meshes & BY_NUMBER) !== 0;
  let at = 44;
  /** @type {Run[]} */
  const table = [];
  for (let r = 0; r < runs; r++, at += 16) {
    table.push({
      element: first + view.getUint32(at, true),
      start: view.getUint32(at + 4, true),
      count: view.getUint32(at + 8, true),
    });
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
    const elements = [],
      /** @type {number[]} */ frames = [];
    const places = at;
    at += count * PLACE;
    for (let i = 0; i < count; i++) {
      elements.push(first + view.getUint32(places + (byNumber ? 4 : PLACE) * i, true));
      /** @param {number} k */
      const f = (k) =>
        view.getFloat32(byNumber ? places + 8 * count + 4 * (k * count + i) : places + PLACE * i + 8 + 4 * k, true);
      const column = (/** @type {number} */ k) => turned(frame, f(k), f(k + 1), f(k + 2));
      const at3 = column(9).map((c, k) => c + low[k]);
      frames.push(...column(0), 0, ...column(3), 0, ...column(6), 0, ...at3, 1);
    }

    repeated.push({ ...own, ...one, elements, frames });
  }

  const merged = { low, step, axes: frame.slice(0, 9), ...mesh, runs: table };
  for (const drawn of [merged, ...repeated]) {
    // Chunks that were made before edges were kept end here.
    if (at >= buffer.byteLength) break;
    drawn.edges = new Uint32Array(buffer, at + 4, view.getUint32(at, true));
    at += 4 + drawn.edges.byteLength;
  }
  return { merged, repeated };
}

/**
 * The pieces of an answer as they come, each behind its length.
 * @param {Response} answer
 * @returns {AsyncGenerator<ArrayBuffer>}
 */
export async function* pieces(answer) {
  if (!answer.ok || !answer.body) throw new Error(`A part of the picture could not be loaded (${answer.status}).`);
  const reader = answer.body.getReader();
  /** @type {Uint8Array[]} */
  const parts = [];
  let held = 0;
  /** @param {number} length */
  const fill = async (length) => {
    while (held < length) {
      const { done, value } = await reader.read();
      if (done) return false;
      parts.push(value);
      held += value.length;
    }
    return true;
  };
  /** @param {number} length held already */
  const take = (length) => {
    const taken = new Uint8Array(length);
    let at = 0;
    while (at < length) {
      const part = parts[0],
        count = Math.min(part.length, length - at);
      taken.set(part.subarray(0, count), at);
      at += count;
      if (count === part.length) parts.shift();
      else parts[0] = part.subarray(count);
    }
    held -= length;
    return taken.buffer;
  };
  while (await fill(4)) {
    const length = new DataView(take(4)).getUint32(0, true);
    if (!(await fill(length))) throw new Error('The picture ended in the middle; load the page again.');
    yield take(length);
  }
}
