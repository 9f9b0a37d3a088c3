// The state of the combined view: what its document says is what is shown, and an address carries all of it.
import assert from 'node:assert/strict';
import test from 'node:test';
import { ElementNumbers } from '../../src/App/Web/wwwroot/js/combine/element-numbers.js';
import {
  ADDRESS_ELEMENTS,
  ViewState,
  fromAddress,
  toAddress,
  usual,
} from '../../src/App/Web/wwwroot/js/combine/view-state.js';

const names = {
  sheet: ['ARC Plan'],
  source: ['NOR Frame', 'ARC Terminal'],
  storey: ['Ground', 'no storey'],
  class: ['IfcSpace', 'IfcWall'],
  layer: ['A, b & c', 'no layer'],
};
const elements = new ElementNumbers([
  { id: 'r1', elements: 2 },
  { id: null, elements: 0 },
  { id: 'r2', elements: 3 },
]);
// Five elements: walls on Ground, the third a room, the last without storey.
const columns = new Uint16Array([0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 1, 1, 1, 1, 1]);
const fresh = () => new ViewState({ ...names, source: ['NOR Frame', 'nothing yet', 'ARC Terminal'] }, elements);

/** @param {ViewState} state */
function shown(state) {
  /** @type {number[]} */
  const list = [];
  state.each(columns, (element, on) => {
    if (on) list.push(element);
  });
  return list;
}

test('elements are named by revision, and found again', () => {
  for (const e of [0, 1, 2, 3, 4]) assert.equal(elements.numberOf(elements.nameOf(e)), e);
  assert.equal(elements.nameOf(2), 'r2.0');
  for (const stranger of ['r2.3', 'r9.0', 'r1.-1', 'r1', '', 'null.0']) assert.equal(elements.numberOf(stranger), -1);
});

test('rooms are off until somebody wants them', () => {
  const state = fresh();
  assert.deepEqual(shown(state), [0, 1, 3, 4]);
  state.all('class');
  assert.deepEqual(shown(state), [0, 1, 2, 3, 4]);
});

test('each kind of chip hides what bears its name', () => {
  /** @type {[import('../../src/App/Web/wwwroot/js/combine/view-state.js').Kind, number, number[]][]} */
  const cases = [
    ['source', 0, [3, 4]],
    ['storey', 1, [0, 1, 3]],
    ['class', 1, []],
    ['layer', 1, [0]],
  ];
  for (const [kind, value, rest] of cases) {
    const state = fresh();
    state.toggle(kind, value);
    assert.deepEqual(shown(state), rest, kind);
    state.toggle(kind, value);
    assert.deepEqual(shown(state), [0, 1, 3, 4], `${kind} again`);
  }
});

test('an isolated element is shown alone, even if it is hidden otherwise', () => {
  const state = fresh();
  state.hide(3);
  state.isolate(2);
  assert.deepEqual(shown(state), [2]);
  state.showAll();
  assert.deepEqual(shown(state), [0, 1, 3, 4]);
});

test('a document comes back whole from an address', () => {
  const state = fresh();
  state.toggle('layer', 0);
  state.all('class');
  state.hide(4);
  state.picked = 1;
  const view = state.document({ eye: [5000000.25, -2, 3], at: [0, 0, 0] }, [-0.5, 8.25]);
  assert.deepEqual(fromAddress(toAddress(view)), view);
  const other = fresh();
  other.take(fromAddress(toAddress(view)));
  assert.deepEqual(shown(other), shown(state));
  assert.equal(other.picked, 1);
  assert.deepEqual(other.document(view.camera, view.cut), view);
});

test('the usual view needs no words', () => assert.equal(toAddress(usual()), ''));

test('an address that makes no sense leaves the usual view', () => {
  for (const text of ['eye=1,2&at=a,b,c&cut=9,1', 'cut=,', 'eye=1,2,3', '%%%', 'cut=NaN,1&pick='])
    assert.deepEqual(fromAddress(text), usual());
});

test('names that are not here hide nothing, and elements of another revision are left out', () => {
  const state = fresh();
  state.take(fromAddress('storey=Roof&hide=r0.7_r1.0&class='));
  assert.deepEqual(shown(state), [1, 2, 3, 4]);
});

test('an address stays short, a document whole', () => {
  const many = new ElementNumbers([{ id: 'r', elements: 500 }]),
    state = new ViewState({ ...names, source: ['r'] }, many);
  for (let e = 0; e < 500; e++) state.hide(e);
  const view = state.document(null, null);
  assert.equal(view.hidden.length, 500);
  assert.equal(fromAddress(toAddress(view)).hidden.length, ADDRESS_ELEMENTS);
});
