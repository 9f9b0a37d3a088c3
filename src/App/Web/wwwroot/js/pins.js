// Topics as marks over a picture, moved with it.

/** @typedef {{ number: number, title: string, late: boolean, address: string }} PinData */

/**
 * @template {PinData} T
 */
export class Pins {
  /**
   * @param {HTMLElement} host lies over the picture
   * @param {T[]} topics
   * @param {(topic: T) => [number, number] | null} placeOf where a topic is, CSS pixels from the upper left; null where it is not seen
   */
  constructor(host, topics, placeOf) {
    this.host = host;
    this.placeOf = placeOf;
    this.shown = true;
    this.pins = topics.map((topic) => {
      const pin = document.createElement('a');
      pin.className = topic.late ? 'pin late' : 'pin';
      pin.href = topic.address;
      pin.textContent = `T-${topic.number}`;
      pin.title = topic.title;
      host.append(pin);
      return { topic, pin };
    });
  }

  /** @returns {boolean} whether they are shown now */
  toggle() {
    this.shown = !this.shown;
    this.host.hidden = !this.shown;
    this.follow();
    return this.shown;
  }

  /** Puts each where its topic is now. */
  follow() {
    if (!this.shown) return;
    for (const { topic, pin } of this.pins) {
      const place = this.placeOf(topic);
      pin.hidden = !place;
      if (place) pin.style.translate = `${place[0]}px ${place[1]}px`;
    }
  }
}
