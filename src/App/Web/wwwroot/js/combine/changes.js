// Changes in a source since an older revision: added and changed elements of the newest in colours of their own, what was removed
// from the older one beside them, all else by its edges.
import { PALETTE } from './material.js';

/**
 * What the server says of the change.
 * @typedef {object} ChangesData
 * @property {number} source the source in the job
 * @property {number[]} added numbers in its newest revision
 * @property {number[]} changed
 * @property {[number, number, number, number][]} removed number in the older revision; storey, class and layer in the view
 * @property {import('./scene.js').SourceData} old the older revision, as one more source
 * @property {import('./scene.js').ChunkData[]} chunks its chunks in which something was removed
 */

export class Changes {
  /**
   * @param {ChangesData} data
   * @param {import('./scene.js').SceneData} scene gets the older revision as one more source
   */
  constructor(data, scene) {
    this.data = data;
    this.past = scene.sources.length;
    scene.sources.push({ ...data.old, past: true });
    scene.names.source.push(data.old.label);
    scene.chunks.push(...data.chunks);
    this.removed = new Set(data.removed.map(([number]) => number));
  }

  /**
   * @param {import('./scene.js').Building} building
   */
  paint({ states, first, columns, data: { sources } }) {
    const last = first[this.past] + sources[this.past].elements;
    for (let e = 0; e < last; e++) states.colour(e, PALETTE.rest);
    const at = first[this.data.source],
      past = first[this.past];
    for (const n of this.data.added) states.colour(at + n, PALETTE.added);
    for (const n of this.data.changed) states.colour(at + n, PALETTE.changed);
    for (const [n, ...numbers] of this.data.removed) {
      states.colour(past + n, PALETTE.removed);
      columns.set(numbers, 3 * (past + n));
    }
    this.from = past;
  }

  /**
   * The sources that take no part in the change.
   * @param {string[]} names of all sources
   */
  others(names) {
    return names.filter((_, i) => i !== this.data.source && i !== this.past);
  }

  /**
   * Elements that changed, as many as are enough to look at them.
   * @param {number[]} first the number of each source's first element
   */
  some(first) {
    const { source, added, changed, removed } = this.data;
    const now = [...added, ...changed].map((n) => first[source] + n),
      past = removed.map(([n]) => first[this.past] + n);
    return [...now, ...past].slice(0, 100);
  }

  /**
   * Whether an element is only there for others of its revision: of the older one nothing is shown that is still in the newest.
   * @param {number} element
   */
  leavesOut(element) {
    return this.from !== undefined && element >= this.from && !this.removed.has(element - this.from);
  }
}
