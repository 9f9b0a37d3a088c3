// Fetches what the building is made of: of each source its elements and its geometry in one answer each.
import { chunkOrigin, pieces, readChunk } from './chunk.js';

const PARALLEL = 6,
  // After so many pieces what has come is shown: each time makes drawables of its own.
  SHOWN = [8, 400, Infinity],
  // Milliseconds of work before others have their turn.
  BREATH = 30;

export class Loading {
  /** @param {import('./scene.js').Building} building what it is put into */
  constructor(building) {
    this.building = building;
    this.spacesLoaded = false;
  }

  /**
   * Fetches columns and geometry, of each source in one answer, the largest pieces first; `progress(done, all)` follows.
   * @param {string} base
   * @param {(done: number, all: number) => void} progress
   * @param {() => void} shown called when there is something to look at
   */
  async load(base, progress, shown) {
    const { sources, chunks, spaces } = this.building.data,
      all = chunks.filter((c) => c.class !== spaces).length;
    let done = 0,
      shows = 0,
      // What is switched off is known once the columns are here.
      known = false;
    const came = () => {
      progress(++done, all);
      if (!known || done < SHOWN[shows]) return;
      while (done >= SHOWN[shows]) shows++;
      this.building.batches.finish();
      shown();
    };
    const columns = Promise.all(
      sources.map(async (source, i) => {
        if (!source.elements || source.past) return;
        const answer = await fetch(`${base}?handler=Elements&source=${i}`);
        this.building.columns.set(new Uint16Array(await answer.arrayBuffer()), this.building.first[i] * 3);
      }),
    );
    await Promise.all([
      columns.then(() => {
        known = true;
      }),
      ...sources.map(async (source, i) => {
        if (!source.picture || source.past) return;
        const answer = await fetch(`${base}?handler=Picture&id=${source.id}&version=${source.picture}`);
        let begun = performance.now();
        for await (const piece of pieces(answer)) {
          this.take(piece, i);
          came();
          if (performance.now() - begun < BREATH) continue;
          // Pieces that are here already would leave nothing else its turn.
          await new Promise((done) => {
            setTimeout(done);
          });
          begun = performance.now();
        }
      }),
      // Of an older revision only what was removed.
      this.each(
        chunks.filter((c) => sources[c.source].past && c.class !== spaces),
        async (chunk) => {
          await this.add(base, chunk);
          came();
        },
      ),
    ]);
    this.building.batches.finish();
    this.building.look();
    this.building.detail.measure(this.building.camera);
  }

  /**
   * @param {import('./scene.js').ChunkData[]} chunks
   * @param {(chunk: import('./scene.js').ChunkData) => Promise<void>} work done for a few at once
   */
  async each(chunks, work) {
    const queue = [...chunks];
    const one = async () => {
      for (let chunk; (chunk = queue.shift());) await work(chunk);
    };
    await Promise.all(Array.from({ length: PARALLEL }, one));
  }

  /**
   * Rooms are fetched only when somebody wants to see them.
   * @param {string} base
   */
  async loadSpaces(base) {
    if (this.spacesLoaded) return;
    this.spacesLoaded = true;
    await this.each(
      this.building.data.chunks.filter((c) => c.class === this.building.data.spaces),
      (chunk) => this.add(base, chunk),
    );
    this.building.batches.finish();
  }

  /**
   * @param {string} base
   * @param {import('./scene.js').ChunkData} chunk
   */
  async add(base, chunk) {
    const answer = await fetch(`${base}?handler=Chunk&hash=${chunk.hash}`);
    if (!answer.ok) throw new Error(`A part of the picture could not be loaded (${answer.status}).`);
    this.take(await answer.arrayBuffer(), chunk.source);
  }

  /**
   * @param {ArrayBuffer} content a chunk's
   * @param {number} source
   */
  take(content, source) {
    const { frame } = this.building.data.sources[source],
      [x, y] = chunkOrigin(new DataView(content), frame);
    this.building.origin ??= [x, y, 0];
    this.building.batches.take(readChunk(content, this.building.first[source], this.building.origin, frame));
  }
}
