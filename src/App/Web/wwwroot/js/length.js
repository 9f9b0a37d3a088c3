// Lengths as the reader wants them, by the rule of LengthText in src/Core/Exchange/Lengths; tests/Script/lengths.json holds both to it.

/** @typedef {'m' | 'mm' | 'ft'} Notation metres, millimetres, feet and inches */

// The job's setting for the smallest part of an inch is on the page.
const INCH = 0.0254,
  FRACTION = Number(globalThis.document?.body.dataset.inch ?? 64);

/**
 * To a whole number, halves away from zero.
 * @param {number} value
 */
const round = (value) => Math.sign(value) * Math.round(Math.abs(value));

/** @param {number} metres */
function imperial(metres) {
  const parts = Math.round((Math.abs(metres) / INCH) * FRACTION);
  const feet = Math.floor(parts / (12 * FRACTION)),
    inches = Math.floor(parts / FRACTION) % 12;
  let over = parts % FRACTION,
    under = FRACTION;
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  return `${metres < 0 && parts > 0 ? '-' : ''}${feet}'-${inches}${over ? ` ${over}/${under}` : ''}"`;
}

/**
 * A length: to a millimetre, or to a part of an inch.
 * @param {number} metres
 * @param {Notation} notation
 */
export function writeLength(metres, notation) {
  if (notation === 'ft') return imperial(metres);
  const millimetres = round(metres * 1000) || 0;
  return notation === 'mm' ? `${millimetres} mm` : `${(millimetres / 1000).toFixed(3)} m`;
}

/**
 * A height as drawings write it, without its unit: `+4.800`, `±0.000`.
 * @param {number} metres
 * @param {Notation} notation
 */
export function writeHeight(metres, notation) {
  const text = writeLength(Math.abs(metres), notation).split(' m')[0];
  const sign = Number(text) === 0 || text === '0\'-0"' ? '±' : metres > 0 ? '+' : '−';
  return sign + text;
}
