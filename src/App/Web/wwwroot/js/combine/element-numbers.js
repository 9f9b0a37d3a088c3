// Elements by number: those of the first source first, then those of the second, and so on.

export class ElementNumbers {
  /** @param {{ id: string | null, elements: number }[]} sources the revision each source shows, null when nothing arrived yet */
  constructor(sources) {
    this.ids = sources.map((s) => s.id);
    this.counts = sources.map((s) => s.elements);
    this.total = 0;
    /** The number of each source's first element. */
    this.first = this.counts.map((count) => {
      const first = this.total;
      this.total += count;
      return first;
    });
  }

  /** @param {number} element */
  sourceOf(element) {
    let s = 0;
    while (s + 1 < this.first.length && element >= this.first[s + 1]) s++;
    return s;
  }

  /**
   * The name of an element in addresses and documents: its revision and its number there.
   * @param {number} element
   */
  nameOf(element) {
    const s = this.sourceOf(element);
    return `${this.ids[s]}.${element - this.first[s]}`;
  }

  /**
   * @param {string} name
   * @returns {number} −1 for a revision that is not shown, or an element that it does not have
   */
  numberOf(name) {
    const [, id, number] = /^(.+)\.(\d+)$/.exec(name) ?? [];
    const s = id ? this.ids.indexOf(id) : -1;
    return s < 0 || Number(number) >= this.counts[s] ? -1 : this.first[s] + Number(number);
  }
}
