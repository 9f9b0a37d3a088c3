// Where a drawing lies among others in one plan.
import assert from 'node:assert/strict';
import test from 'node:test';
import { AS_IT_CAME, placed } from '../../src/App/Web/wwwroot/js/plan/sheet.js';

test('a drawing as it came keeps its zero and its step', () => {
  assert.deepEqual(placed([12, -3], 0.5, AS_IT_CAME), { corner: { x: 12, y: -3 }, unit: 0.5 });
});

test('inches round a far corner lie in a plan of metres', () => {
  // 1 in = 0.0254 m (exact since 1959); the drawing's 1000, 2000 in lies at 40, 10 m.
  const place = { scale: 0.0254, x: 40 - 25.4, y: 10 - 50.8 };
  const { corner, unit } = placed([1000, 2000], 1, place);
  assert.ok(Math.abs(corner.x - 40) < 1e-9 && Math.abs(corner.y - 10) < 1e-9);
  assert.equal(unit, 0.0254);
});
