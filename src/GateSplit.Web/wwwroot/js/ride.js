// A ride drawn with the mouse, or performed with mouse or keys: live, or to what was recorded last. It fills the field that works without script.
import { isTyping, say } from "./site.js";
import { barAt, readPoints, toShare, toValue, writePoints } from "./ride-points.js";
import { isListening, listenAsSet, stop, tell } from "./live.js";

const across = 1000;
const down = 300;
const performStep = 0.05; // seconds between two points of a performance
const heldStep = 0.02; // share of the range that a held key moves a step
const audio = new Audio();
let performing = null;
let pointer = 0.5;
let held = 0;

const ride = () => document.getElementById("ride");
const field = () => document.getElementById("points");
const number = (name) => Number(ride().dataset[name]);
const range = () => ({ low: number("low"), high: number("high"), log: ride().dataset.log === "true", step: ride().dataset.step === "true" });
const read = () => readPoints(field().value);

function write(points) {
  field().value = writePoints(points);
  draw();
}

function draw() {
  if (!ride()) return;
  const points = read();
  const x = (bar) => ((bar - 1) / number("bars")) * across;
  const y = (value) => down * (1 - toShare(value, range()));
  const steps = ride().dataset.step === "true";
  const line = [];
  points.forEach(([bar, value], i) => {
    if (i === 0) line.push([0, y(value)]);
    if (steps && i > 0) line.push([x(bar), y(points[i - 1][1])]);
    line.push([x(bar), y(value)]);
    if (i === points.length - 1) line.push([across, y(value)]);
  });
  document.getElementById("ride-line").setAttribute("points", line.map((p) => p.join(",")).join(" "));
  // Strokes without length and with round ends stay round, however the drawing is stretched.
  document.getElementById("ride-points").setAttribute("d", points.map(([bar, value]) => `M${x(bar)},${y(value)}h0`).join(""));
}

/** The bar of a place in seconds. */
const barOf = (seconds) => barAt(seconds, ride().dataset.seconds.split(" ").map(Number), number("bars"));

function place(event) {
  const box = ride().querySelector("svg").getBoundingClientRect();
  return { bar: 1 + ((event.clientX - box.left) / box.width) * number("bars"), share: 1 - (event.clientY - box.top) / box.height };
}

let drawn = null;
document.addEventListener("pointerdown", (event) => {
  if (!event.target.closest?.("#ride svg") || performing) return;
  drawn = { from: null, points: [] };
  addDrawn(event);
});
document.addEventListener("pointermove", (event) => {
  if (!ride()) return;
  if (performing && event.target.closest?.("#ride svg")) pointer = place(event).share;
  else if (drawn) addDrawn(event);
});
document.addEventListener("pointerup", () => { drawn = null; });

/** What is drawn takes the place of the points over which the mouse went. */
function addDrawn(event) {
  const { bar, share } = place(event);
  const at = Math.max(1, Math.min(number("bars") + 1, Math.round(bar * 16) / 16));
  drawn.points = [...drawn.points.filter((p) => p[0] !== at), [at, toValue(share, range())]];
  const [low, high] = [Math.min(...drawn.points.map((p) => p[0])), Math.max(...drawn.points.map((p) => p[0]))];
  write([...read().filter((p) => p[0] < low || p[0] > high), ...drawn.points].sort((a, b) => a[0] - b[0]));
}

async function perform(button) {
  if (performing) {
    finish();
    return;
  }
  audio.src = button.dataset.audio;
  begin(button);
  try {
    await audio.play();
  } catch {
    performing = null;
    say("The recording could not be played.");
    return;
  }
  started();
  tick();
}

function begin(button) {
  performing = { points: [], next: 0, button, label: button.textContent };
  const before = read();
  pointer = before.length > 0 ? toShare(before[0][1], range()) : toShare(Math.min(number("high"), Math.max(number("low"), range().log ? number("high") : number("rest"))), range());
}

function started() {
  performing.button.textContent = "Stop the performance";
  ride().dataset.performing = "true";
  ride().scrollIntoView({ block: "nearest" });
}

/** The session plays, counted in, while the control is moved; what was heard at which bar is what is written. */
async function performLive(button) {
  if (performing) {
    finish();
    return;
  }
  await listenAsSet();
  begin(button);
  performing.live = { of: button.dataset.of, control: button.dataset.control, said: null };
  started();
  liveTick();
}

function liveTick() {
  if (!performing?.live) return;
  pointer = Math.max(0, Math.min(1, pointer + held * heldStep));
  const value = toValue(pointer, range());
  const now = performance.now();
  if (now >= performing.next && value !== performing.live.said) {
    performing.next = now + 1000 * performStep;
    performing.live.said = value;
    tell({ hold: { of: performing.live.of, control: performing.live.control, value } });
  }
  requestAnimationFrame(liveTick);
}

document.addEventListener("live:moved", ({ detail }) => {
  if (!performing?.live) return;
  // Between two moves the control stood still.
  const last = performing.points.at(-1);
  const stood = detail.bar - 0.02;
  if (last && stood > last[0]) performing.points.push([stood, last[1]]);
  performing.points.push([detail.bar, detail.value]);
  write(thin(performing.points));
});
document.addEventListener("live:bar", ({ detail }) => {
  if (performing?.live) playhead(detail);
});
document.addEventListener("live:ended", () => {
  if (performing?.live) finish();
});

function tick() {
  if (!performing || performing.live) return;
  pointer = Math.max(0, Math.min(1, pointer + held * heldStep));
  if (audio.currentTime >= performing.next) {
    performing.next = audio.currentTime + performStep;
    const bar = barOf(audio.currentTime);
    if (bar <= number("bars") + 1) {
      performing.points.push([bar, toValue(pointer, range())]);
      write(thin(performing.points));
    }
    playhead(bar);
  }
  requestAnimationFrame(tick);
}

function playhead(bar) {
  const now = document.getElementById("ride-now");
  const x = ((bar - 1) / number("bars")) * across;
  now.setAttribute("x1", String(x));
  now.setAttribute("x2", String(x));
}

/** Points that lie on the line between their neighbours say nothing. */
function thin(points) {
  return points.filter((p, i) => i === 0 || i === points.length - 1 || points[i - 1][1] !== p[1] || points[i + 1][1] !== p[1]);
}

function finish() {
  if (!performing) return;
  audio.pause();
  const was = performing;
  performing = null;
  if (isListening()) stop();
  was.button.textContent = was.label;
  write(thin(was.points));
  delete ride().dataset.performing;
  say("The performance has ended. Keep the ride, or perform it again.");
}
audio.addEventListener("ended", finish);

document.addEventListener("click", (event) => {
  const button = event.target.closest?.("#perform");
  if (button) perform(button);
  const live = event.target.closest?.("#perform-live");
  if (live) performLive(live);
  if (event.target.closest?.("#clear-ride")) write([]);
});
// A step that is performed now: from the next beat on that is not sounding yet, for a beat.
let heardBar = 1;
document.addEventListener("live:bar", ({ detail }) => { heardBar = detail; });
document.addEventListener("click", (event) => {
  if (!event.target.closest?.("#step-now")) return;
  if (!isListening()) {
    event.preventDefault();
    say("Listen first, then it is performed where the music is.");
    return;
  }
  const beats = Number(ride().dataset.beats);
  const ahead = 0.5 / Number(ride().dataset.barseconds); // it is heard within half a second
  const from = 1 + Math.ceil((heardBar + ahead - 1) * beats) / beats;
  document.getElementById("step-from").value = Math.round(from * 10000) / 10000;
  document.getElementById("step-to").value = Math.round(Math.min(from + 1 / beats, number("bars") + 1) * 10000) / 10000;
});
document.addEventListener("input", (event) => {
  if (event.target.id === "points") draw();
});
for (const { kind, by } of [{ kind: "keydown", by: 1 }, { kind: "keyup", by: 0 }]) {
  document.addEventListener(kind, (/** @type {KeyboardEvent} */ event) => {
    if (!performing || isTyping(event.target) || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    held = by * (event.key === "ArrowUp" ? 1 : -1);
    event.preventDefault();
  });
}
document.addEventListener("htmx:afterSettle", draw);
draw();
