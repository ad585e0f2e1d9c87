import assert from "node:assert/strict";
import { test } from "node:test";
import { heardFrame, nextStretch } from "../../src/GateSplit.Web/wwwroot/js/player-schedule.js";

/** Everything that is fetched from a place on, stretch by stretch. */
function fetchAll(from, most, frames, loop, count) {
  const all = [];
  for (let at = from; all.length < count;) {
    const stretch = nextStretch(at, most, frames, loop);
    all.push([stretch.start, stretch.start + stretch.frames]);
    if (stretch.last) break;
    at = stretch.next;
  }
  return all;
}

test("stretches follow each other without a gap and end with the take", () => {
  assert.deepEqual(fetchAll(0, 10, 25, null, 99), [[0, 10], [10, 20], [20, 25]]);
  assert.deepEqual(fetchAll(20, 10, 20, null, 99), [[20, 20]]);
});

test("a loop comes round and round, from before it or from within", () => {
  const loop = { start: 8, end: 20 };
  assert.deepEqual(fetchAll(0, 10, 100, loop, 5), [[0, 10], [10, 20], [8, 18], [18, 20], [8, 18]]);
  assert.equal(nextStretch(18, 10, 20, loop).last, false);
});

test("behind a loop it goes straight on", () => {
  assert.deepEqual(nextStretch(30, 10, 35, { start: 8, end: 20 }), { start: 30, frames: 5, next: 35, last: false });
});

test("what is heard is where the music is", () => {
  assert.equal(heardFrame(100, 1, 48000, 1e6, null), 48100);
  assert.equal(heardFrame(100, 99, 48000, 50000, null), 50000);
  const loop = { start: 1000, end: 3000 };
  assert.equal(heardFrame(0, 2999 / 1000, 1000, 1e6, loop), 2999);
  assert.equal(heardFrame(0, 3000 / 1000, 1000, 1e6, loop), 1000);
  assert.equal(heardFrame(0, 5500 / 1000, 1000, 1e6, loop), 1500);
});
