import assert from "node:assert/strict";
import { test } from "node:test";
import { following, moved, numbered, place, zoomed } from "../../src/GateSplit.Web/wwwroot/js/wave-range.js";

test("coming nearer keeps a place where it is, and going farther ends with the whole", () => {
  const near = zoomed({ from: 0, frames: 1000 }, 0.5, 200, 1000);
  assert.deepEqual(near, { from: 100, frames: 500 });
  assert.equal(place(200, near, 100), place(200, { from: 0, frames: 1000 }, 100));
  assert.deepEqual(zoomed(near, 4, 200, 1000), { from: 0, frames: 1000 });
  assert.deepEqual(zoomed({ from: 900, frames: 100 }, 2, 1000, 1000), { from: 800, frames: 200 });
});

test("no nearer than sixteen frames, and no farther than a take that is shorter", () => {
  assert.deepEqual(zoomed({ from: 10, frames: 20 }, 0.1, 20, 1000), { from: 12, frames: 16 });
  assert.deepEqual(zoomed({ from: 0, frames: 7 }, 0.5, 3, 7), { from: 0, frames: 7 });
});

test("moving along stops at both ends", () => {
  assert.deepEqual(moved({ from: 100, frames: 50 }, 0.5, 1000), { from: 125, frames: 50 });
  assert.deepEqual(moved({ from: 10, frames: 50 }, -1, 1000), { from: 0, frames: 50 });
  assert.deepEqual(moved({ from: 940, frames: 50 }, 1, 1000), { from: 950, frames: 50 });
});

test("what is heard is followed only when it leaves the picture", () => {
  const range = { from: 100, frames: 50 };
  assert.equal(following(range, 100, 1000), range);
  assert.equal(following(range, 150, 1000), range);
  assert.deepEqual(following(range, 151, 1000), { from: 151, frames: 50 });
  assert.deepEqual(following(range, 990, 1000), { from: 950, frames: 50 });
  assert.deepEqual(following(range, 5, 1000), { from: 5, frames: 50 });
});

test("bars are numbered as far as there is room", () => {
  const bars = [0, 100, 200, 300, 400, 500, 600, 700, 800];
  assert.deepEqual(numbered(bars, { from: 0, frames: 800 }, 800, 40).map((b) => b.number), [1, 2, 3, 4, 5, 6, 7, 8]);
  assert.deepEqual(numbered(bars, { from: 0, frames: 800 }, 200, 40).map((b) => b.number), [1, 3, 5, 7]);
  assert.deepEqual(numbered(bars, { from: 250, frames: 200 }, 200, 40), [{ number: 4, x: 50 }, { number: 5, x: 150 }]);
  assert.deepEqual(numbered([0], { from: 0, frames: 100 }, 100, 40), [{ number: 1, x: 0 }]);
});
