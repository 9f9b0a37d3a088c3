// Lengths in the browser read as on the page: the same table is read by LengthTests in tests/Exchange.
import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import test from 'node:test';
import { writeHeight, writeLength } from '../../src/App/Web/wwwroot/js/length.js';

/** @typedef {import('../../src/App/Web/wwwroot/js/length.js').Notation} Notation */
/** @type {({ metres: number, height: Record<Notation, string> } & Record<Notation, string>)[]} */
const table = JSON.parse(readFileSync(new URL('lengths.json', import.meta.url), 'utf8'));

test('lengths and heights are written as in the table', () => {
  for (const row of table) {
    for (const notation of /** @type {Notation[]} */ (['m', 'mm', 'ft'])) {
      assert.equal(writeLength(row.metres, notation), row[notation]);
      assert.equal(writeHeight(row.metres, notation), row.height[notation]);
    }
  }
});
