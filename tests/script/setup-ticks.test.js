import assert from "node:assert/strict";
import { test } from "node:test";
import { afterSending, merged } from "../../src/GateSplit.Web/wwwroot/js/setup-ticks.js";

test("what waits here lies on top of what the server says", () => {
  assert.deepEqual([...merged(["a", "b"], { b: false, c: true })].sort(), ["a", "c"]);
  assert.deepEqual([...merged([], {})], []);
});

test("what was sent waits no more, unless it was changed again meanwhile", () => {
  assert.deepEqual(afterSending({ a: true, b: false, c: true }, { a: true, b: true }), { b: false, c: true });
  assert.deepEqual(afterSending({}, { a: true }), {});
});
