// What the combined view shows, as one document: an address, a kept view and an issue hold the same one.

/** @typedef {'source' | 'storey' | 'class' | 'layer' | 'sheet'} Kind sheet: a drawing that is placed */
/** @typedef {[number, number, number]} Point metres in the job frame */
/**
 * @typedef {object} Camera
 * @property {Point} eye where it is
 * @property {Point} at what it looks at
 * @property {Point} [up] its upper side; the job's up where none is stated
 * @property {number} [degrees] vertical field of view; the usual one where none is stated
 * @property {number} [height] metres that a parallel view shows; a view in perspective where none is stated
 */
/**
 * @typedef {object} ViewDocument
 * @property {1} version
 * @property {Camera | null} camera null: the whole building from the usual side
 * @property {[number, number] | null} cut lowest and highest height shown, metres in the job frame; null: nothing is cut
 * @property {Record<Kind, string[]>} off names that are switched off, so that what arrives later is shown
 * @property {string[]} hidden elements hidden one by one, as `revision.number`: a view says what it showed
 * @property {string[] | null} only the only elements shown; null: no element is isolated
 * @property {string | null} picked the picked element
 * @property {string[]} marked elements that are picked out beside it
 * @property {number[][]} planes that cut: a point, metres in the job frame, and a direction to what is cut away
 * @property {{ colour: string, elements: string[] }[]} colours elements in colours of their own, rrggbb
 */

/** @type {Kind[]} */
export const KINDS = ['source', 'storey', 'class', 'layer', 'sheet'];

/** Browsers and mail cut long addresses: one names this many elements at most; a document has no such end. */
export const ADDRESS_ELEMENTS = 200;

/** So many planes cut beside the heights, as in ViewDocument. */
export const MOST_PLANES = 6;

/** @returns {ViewDocument} all there is except rooms, which hide what is in them */
export function usual() {
  const off = { source: [], storey: [], class: ['IfcSpace'], layer: [], sheet: [] };
  return {
    version: 1,
    camera: null,
    cut: null,
    off,
    hidden: [],
    only: null,
    picked: null,
    marked: [],
    planes: [],
    colours: [],
  };
}

/** @param {number[]} numbers to a tenth of a millimetre: a camera that is placed again shows the same to the pixel */
const fixed = (numbers) => numbers.map((n) => String(Number(n.toFixed(4)) + 0)).join(',');

/**
 * The part of an address behind `#`.
 * @param {ViewDocument} view
 */
export function toAddress(view) {
  const words = new URLSearchParams();
  if (view.camera) {
    words.set('eye', fixed(view.camera.eye));
    words.set('at', fixed(view.camera.at));
    const { up, degrees, height } = view.camera;
    if (up) words.set('up', fixed(up));
    if (degrees) words.set('fov', fixed([degrees]));
    if (height) words.set('high', fixed([height]));
  }
  for (const plane of view.planes) words.append('plane', fixed(plane));
  if (view.cut) words.set('cut', fixed(view.cut));
  const standard = usual();
  for (const kind of KINDS) {
    const names = view.off[kind];
    if (names.join('\n') === standard.off[kind].join('\n')) continue;
    // An empty word says that nothing is off, where usually something is.
    for (const name of names.length ? names : ['']) words.append(kind, name);
  }
  if (view.hidden.length) words.set('hide', view.hidden.slice(0, ADDRESS_ELEMENTS).join('_'));
  if (view.only) words.set('only', view.only.slice(0, ADDRESS_ELEMENTS).join('_'));
  if (view.picked) words.set('pick', view.picked);
  if (view.marked.length) words.set('mark', view.marked.slice(0, ADDRESS_ELEMENTS).join('_'));
  for (const { colour, elements } of view.colours)
    words.append('paint', [colour, ...elements.slice(0, ADDRESS_ELEMENTS)].join('_'));
  return words.toString();
}

/**
 * Reads an address; a word that cannot be read leaves what is usual in its place.
 * @param {string} text the part behind `#`
 * @returns {ViewDocument}
 */
export function fromAddress(text) {
  const words = new URLSearchParams(text),
    view = usual();
  const eye = point(words.get('eye')),
    at = point(words.get('at')),
    cut = numbers(words.get('cut'), 2);
  if (eye && at) {
    view.camera = { eye, at };
    const up = point(words.get('up')),
      degrees = numbers(words.get('fov'), 1),
      height = numbers(words.get('high'), 1);
    if (up) view.camera.up = up;
    if (degrees && degrees[0] > 0.5 && degrees[0] < 170) view.camera.degrees = degrees[0];
    if (height && height[0] > 0) view.camera.height = height[0];
  }
  view.planes = words
    .getAll('plane')
    .map((text) => numbers(text, 6))
    .filter((plane) => plane !== null)
    .slice(0, MOST_PLANES);
  if (cut && cut[0] < cut[1]) view.cut = [cut[0], cut[1]];
  for (const kind of KINDS) if (words.has(kind)) view.off[kind] = words.getAll(kind).filter(Boolean);
  view.hidden = elements(words.get('hide'));
  if (words.has('only')) view.only = elements(words.get('only'));
  view.picked = words.get('pick') || null;
  view.marked = elements(words.get('mark'));
  view.colours = words.getAll('paint').map((text) => {
    const [colour, ...list] = text.split('_').filter(Boolean);
    return { colour: /^[0-9a-fA-F]{6}$/.test(colour ?? '') ? colour : '999999', elements: list };
  });
  return view;
}

/**
 * @param {string | null} text
 * @param {number} count
 */
function numbers(text, count) {
  const list = (text ?? '').split(',').map((part) => (part.trim() ? Number(part) : NaN));
  return list.length === count && list.every(Number.isFinite) ? list : null;
}

/** @param {string | null} text */
function point(text) {
  return /** @type {Point | null} */ (numbers(text, 3));
}

/** @param {string | null} text */
function elements(text) {
  return (text ?? '').split('_').filter(Boolean);
}

/** A view of one job: what its document hides, answered for element numbers. */
export class ViewState {
  /**
   * @param {Record<Kind, string[]>} names what each kind's numbers mean
   * @param {import('./element-numbers.js').ElementNumbers} elements
   */
  constructor(names, elements) {
    this.names = names;
    this.elements = elements;
    /** @type {Record<Kind, Set<string>>} */
    this.off = { source: new Set(), storey: new Set(), class: new Set(), layer: new Set(), sheet: new Set() };
    /** @type {Set<number>} */
    this.hidden = new Set();
    /** @type {Set<number> | null} */
    this.only = null;
    this.picked = -1;
    /** @type {Set<number>} */
    this.marked = new Set();
    /** @type {number[][]} */
    this.planes = [];
    /** @type {{ colour: string, elements: number[] }[]} */
    this.colours = [];
    this.take(usual());
  }

  /**
   * Takes what a document says of elements; camera and cut are the picture's. Elements of revisions that are not shown here are left out.
   * @param {ViewDocument} view
   */
  take(view) {
    for (const kind of KINDS) this.off[kind] = new Set(view.off[kind]);
    this.hidden = new Set(this.numbersOf(view.hidden));
    this.only = view.only && new Set(this.numbersOf(view.only));
    this.picked = view.picked ? this.elements.numberOf(view.picked) : -1;
    this.marked = new Set(this.numbersOf(view.marked));
    this.planes = view.planes;
    this.colours = view.colours.map((c) => ({ colour: c.colour, elements: this.numbersOf(c.elements) }));
  }

  /**
   * @param {ViewDocument['camera']} camera
   * @param {ViewDocument['cut']} cut
   * @returns {ViewDocument}
   */
  document(camera, cut) {
    /** @param {Iterable<number>} numbers */
    const named = (numbers) => [...numbers].map((e) => this.elements.nameOf(e));
    const { source, storey, class: kind, layer, sheet } = this.off;
    return {
      version: 1,
      camera,
      cut,
      off: { source: [...source], storey: [...storey], class: [...kind], layer: [...layer], sheet: [...sheet] },
      hidden: named(this.hidden),
      only: this.only && named(this.only),
      picked: this.picked < 0 ? null : this.elements.nameOf(this.picked),
      marked: named(this.marked),
      planes: this.planes,
      colours: this.colours.map((c) => ({ colour: c.colour, elements: named(c.elements) })),
    };
  }

  /** @param {string[]} names */
  numbersOf(names) {
    return names.map((name) => this.elements.numberOf(name)).filter((e) => e >= 0);
  }

  /**
   * @param {Kind} kind
   * @param {number} value
   */
  isOff(kind, value) {
    return this.off[kind].has(this.names[kind][value]);
  }

  /**
   * @param {Kind} kind
   * @param {number} value
   */
  toggle(kind, value) {
    const name = this.names[kind][value];
    if (!this.off[kind].delete(name)) this.off[kind].add(name);
    this.only = null;
  }

  /** @param {Kind} kind */
  all(kind) {
    this.off[kind].clear();
  }

  /** @param {Kind} kind */
  none(kind) {
    this.off[kind] = new Set(this.names[kind]);
  }

  /** @param {number} element */
  hide(element) {
    this.hidden.add(element);
  }

  /** @param {number} element */
  isolate(element) {
    this.only = new Set([element]);
  }

  showAll() {
    this.hidden.clear();
    this.only = null;
    this.marked.clear();
    this.planes = [];
    this.colours = [];
  }

  /**
   * Tells of each element whether it is shown.
   * @param {Uint16Array} columns storey, class and layer of each element
   * @param {(element: number, shown: boolean) => void} tell
   */
  each(columns, tell) {
    const [source, storey, kind, layer] = KINDS.map((k) => this.names[k].map((name) => this.off[k].has(name)));
    this.elements.first.forEach((first, s) => {
      for (let e = first; e < first + this.elements.counts[s]; e++) {
        const chosen = !source[s] && !storey[columns[3 * e]] && !kind[columns[3 * e + 1]] && !layer[columns[3 * e + 2]];
        tell(e, this.only ? this.only.has(e) : chosen && !this.hidden.has(e));
      }
    });
  }
}
