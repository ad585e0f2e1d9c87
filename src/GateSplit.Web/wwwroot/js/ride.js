// A ride drawn with the mouse, or performed with mouse or keys to what was recorded last. It fills the field that works without script.
import { isTyping, say } from "./site.js";

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
const isLog = () => ride().dataset.log === "true";

const toShare = (value) => (isLog()
  ? Math.log(value / number("low")) / Math.log(number("high") / number("low"))
  : (value - number("low")) / (number("high") - number("low")));
function toValue(share) {
  const s = Math.max(0, Math.min(1, share));
  if (ride().dataset.step === "true") return s >= 0.5 ? 1 : 0;
  const value = isLog() ? number("low") * (number("high") / number("low")) ** s : number("low") + s * (number("high") - number("low"));
  return Math.round(value * 100) / 100;
}

const read = () => field().value.split(/[,;\n]/).map((p) => p.trim().split(/\s+/).map(Number)).filter((p) => p.length === 2 && p.every(Number.isFinite)).sort((a, b) => a[0] - b[0]);

function write(points) {
  field().value = points.map(([bar, value]) => `${Math.round(bar * 1000) / 1000} ${value}`).join(", ");
  draw();
}

function draw() {
  if (!ride()) return;
  const points = read();
  const x = (bar) => ((bar - 1) / number("bars")) * across;
  const y = (value) => down * (1 - toShare(value));
  const steps = ride().dataset.step === "true";
  const line = [];
  points.forEach(([bar, value], i) => {
    if (i === 0) line.push([0, y(value)]);
    if (steps && i > 0) line.push([x(bar), y(points[i - 1][1])]);
    line.push([x(bar), y(value)]);
    if (i === points.length - 1) line.push([across, y(value)]);
  });
  document.getElementById("ride-line").setAttribute("points", line.map((p) => p.join(",")).join(" "));
}

/** The bar of a place in seconds. */
function barAt(seconds) {
  const starts = ride().dataset.seconds.split(" ").map(Number);
  const next = starts.findIndex((s) => s > seconds);
  const bar = next < 0 ? starts.length - 1 : next;
  return bar < 1 ? 1 : Math.min(number("bars") + 1, bar + (seconds - starts[bar - 1]) / ((starts[bar] ?? starts[bar - 1] + 1) - starts[bar - 1]));
}

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
  drawn.points = [...drawn.points.filter((p) => p[0] !== at), [at, toValue(share)]];
  const [low, high] = [Math.min(...drawn.points.map((p) => p[0])), Math.max(...drawn.points.map((p) => p[0]))];
  write([...read().filter((p) => p[0] < low || p[0] > high), ...drawn.points].sort((a, b) => a[0] - b[0]));
}

async function perform(button) {
  if (performing) {
    finish();
    return;
  }
  audio.src = button.dataset.audio;
  performing = { points: [], next: 0, button, label: button.textContent };
  const before = read();
  pointer = before.length > 0 ? toShare(before[0][1]) : toShare(Math.min(number("high"), Math.max(number("low"), isLog() ? number("high") : 0)));
  try {
    await audio.play();
  } catch {
    performing = null;
    say("The recording could not be played.");
    return;
  }
  button.textContent = "Stop the performance";
  ride().dataset.performing = "true";
  tick();
}

function tick() {
  if (!performing) return;
  pointer = Math.max(0, Math.min(1, pointer + held * heldStep));
  if (audio.currentTime >= performing.next) {
    performing.next = audio.currentTime + performStep;
    const bar = barAt(audio.currentTime);
    if (bar <= number("bars") + 1) {
      performing.points.push([bar, toValue(pointer)]);
      write(thin(performing.points));
    }
    const now = document.getElementById("ride-now");
    const x = ((bar - 1) / number("bars")) * across;
    now.setAttribute("x1", x);
    now.setAttribute("x2", x);
  }
  requestAnimationFrame(tick);
}

/** Points that lie on the line between their neighbours say nothing. */
function thin(points) {
  return points.filter((p, i) => i === 0 || i === points.length - 1 || points[i - 1][1] !== p[1] || points[i + 1][1] !== p[1]);
}

function finish() {
  if (!performing) return;
  audio.pause();
  performing.button.textContent = performing.label;
  write(thin(performing.points));
  performing = null;
  delete ride().dataset.performing;
  say("The performance has ended. Keep the ride, or perform it again.");
}
audio.addEventListener("ended", finish);

document.addEventListener("click", (event) => {
  const button = event.target.closest?.("#perform");
  if (button) perform(button);
  if (event.target.closest?.("#clear-ride")) write([]);
});
document.addEventListener("input", (event) => {
  if (event.target.id === "points") draw();
});
for (const [kind, by] of [["keydown", 1], ["keyup", 0]]) {
  document.addEventListener(kind, (event) => {
    if (!performing || isTyping(event.target) || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    held = by * (event.key === "ArrowUp" ? 1 : -1);
    event.preventDefault();
  });
}
document.addEventListener("htmx:afterSettle", draw);
draw();
