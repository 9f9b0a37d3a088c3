// A plan is moved by hand: the wheel and + and - size it, dragging and the arrows shift it.

const WHEEL = 1.2,
  KEY = 1.4,
  // Of the picture's width or height.
  STEP = 0.1,
  // A press that moves less is a click, CSS pixels.
  STILL = 4;

/** @type {Record<string, [number, number] | undefined>} which way a key shifts the picture */
const STEPS = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

/**
 * @typedef {object} Movable what is moved
 * @property {() => boolean} ready whether there is anything to move
 * @property {(factor: number, event: MouseEvent | null) => void} size above one comes closer; about the pointer, or the middle by keys
 * @property {(right: number, down: number) => void} shift CSS pixels
 */

/**
 * Lets a person move a plan. A click that ends a drag reaches nobody.
 * @param {HTMLElement} element can be focused
 * @param {Movable} what
 */
export function moveByHand(element, what) {
  let far = 0;
  element.addEventListener(
    'wheel',
    (event) => {
      if (!what.ready()) return;
      event.preventDefault();
      what.size(event.deltaY > 0 ? 1 / WHEEL : WHEEL, event);
    },
    { passive: false },
  );
  element.addEventListener('pointerdown', (event) => {
    far = 0;
    if (what.ready()) element.setPointerCapture(event.pointerId);
  });
  element.addEventListener('pointermove', (event) => {
    if (!what.ready() || !element.hasPointerCapture(event.pointerId)) return;
    far += Math.abs(event.movementX) + Math.abs(event.movementY);
    what.shift(event.movementX, event.movementY);
  });
  element.addEventListener(
    'click',
    (event) => {
      if (far > STILL) event.stopImmediatePropagation();
      far = 0;
    },
    { capture: true },
  );
  element.addEventListener('keydown', (event) => {
    const step = STEPS[event.key];
    if (!what.ready() || !(step || event.key === '+' || event.key === '-')) return;
    event.preventDefault();
    if (step) what.shift(step[0] * STEP * element.clientWidth, step[1] * STEP * element.clientHeight);
    else what.size(event.key === '+' ? KEY : 1 / KEY, null);
  });
}
