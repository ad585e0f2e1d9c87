import assert from "node:assert/strict";
import { test } from "node:test";
import { barAt, readPoints, toShare, toValue, writePoints } from "../../src/GateSplit.Web/wwwroot/js/ride-points.js";

const level = { low: -60, high: 12, log: false, step: false };
const filter = { low: 100, high: 20000, log: true, step: false };
const mute = { low: 0, high: 1, log: false, step: true };

test("points are read with any of the marks between them, in the order of time", () => {
  assert.deepEqual(readPoints("4 -12, 1 -6;2.5 0\n3 1"), [[1, -6], [2.5, 0], [3, 1], [4, -12]]);
  assert.deepEqual(readPoints(" 1   -6 ,, "), [[1, -6]]);
});

test("what is no pair of numbers is left out", () => {
  assert.deepEqual(readPoints("1, 2 three, 1 2 3, 1 NaN, 2 Infinity"), []);
  assert.deepEqual(readPoints(""), []);
});

test("points come back as they were written, bars to a thousandth", () => {
  const points = [[1, -6], [2.5, 0], [3.123, 11.99]];
  assert.deepEqual(readPoints(writePoints(points)), points);
  assert.equal(writePoints([[1.00049, 2]]), "1 2");
});

test("both ends of a range are its ends", () => {
  for (const range of [level, filter]) {
    assert.equal(toShare(range.low, range), 0);
    assert.equal(toShare(range.high, range), 1);
    assert.equal(toValue(0, range), range.low);
    assert.equal(toValue(1, range), range.high);
    assert.equal(toValue(-1, range), range.low);
    assert.equal(toValue(2, range), range.high);
  }
});

test("a filter moves by octaves", () => {
  assert.ok(Math.abs(toShare(Math.sqrt(100 * 20000), filter) - 0.5) < 1e-9);
  assert.equal(toValue(0.5, filter), 1414.21);
});

test("a switch has two values", () => {
  assert.deepEqual([0, 0.49, 0.5, 1].map((s) => toValue(s, mute)), [0, 0, 1, 1]);
});

test("a place in seconds lies in a bar, whatever the tempo does", () => {
  const starts = [0, 2, 4, 5]; // the third bar is twice as fast
  assert.equal(barAt(0, starts, 3), 1);
  assert.equal(barAt(1, starts, 3), 1.5);
  assert.equal(barAt(2, starts, 3), 2);
  assert.equal(barAt(4.5, starts, 3), 3.5);
  assert.equal(barAt(99, starts, 3), 4);
  assert.equal(barAt(-1, starts, 3), 1);
});
