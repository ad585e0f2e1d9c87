// The line check by ear and by keys: hears a line with its meters moving, walks all lines with progress.
import { isTyping, say } from "./site.js";

const stepSeconds = 0.05; // the meters have a value for each twentieth of a second
const floorDb = 60;
const audio = new Audio();
let frame = 0;

const bars = () => [...document.querySelectorAll("#line-now [data-meter]")];
const width = (peak) => Math.max(0, Math.min(floorDb, floorDb + (peak > 0 ? 20 * Math.log10(peak) : -floorDb)));

function move() {
  const at = Math.floor(audio.currentTime / stepSeconds);
  for (const bar of bars()) {
    bar.dataset.whole ??= bar.getAttribute("width");
    bar.setAttribute("width", String(width(Number(bar.dataset.meter.split(" ")[at] ?? 0))));
  }
  frame = requestAnimationFrame(move);
}

function rest() {
  cancelAnimationFrame(frame);
  for (const bar of bars()) if (bar.dataset.whole) bar.setAttribute("width", bar.dataset.whole);
  document.getElementById("line-now")?.removeAttribute("data-heard");
}

async function hear() {
  if (!audio.paused) {
    audio.pause();
    rest();
    return;
  }
  const line = document.getElementById("line-now");
  if (!line) return;
  audio.src = line.dataset.listen;
  try {
    await audio.play();
    line.dataset.heard = "true";
    frame = requestAnimationFrame(move);
  } catch {
    say("The line could not be heard: the program gave no sound.");
  }
}
audio.addEventListener("ended", rest);

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-hear]")) hear();
  const walk = event.target.closest("#walk-all");
  if (walk) {
    event.preventDefault();
    walkAll(walk);
  }
});

document.addEventListener("htmx:beforeSwap", () => {
  audio.pause();
  cancelAnimationFrame(frame);
});

/** Walks one line after the other, so that progress is told and it can be stopped; then shows the table. */
async function walkAll(link) {
  const box = document.getElementById("walking");
  const lines = link.dataset.walk.split(" ");
  let stopped = false;
  box.querySelector("button").onclick = () => { stopped = true; };
  box.hidden = false;
  const started = performance.now();
  for (let i = 0; i < lines.length && !stopped; i++) {
    const left = i === 0 ? "" : `, ${Math.ceil((performance.now() - started) / i * (lines.length - i) / 1000)} s left`;
    box.querySelector("progress").value = i / lines.length;
    box.querySelector("span").textContent = `${i} of ${lines.length} lines${left}`;
    const answer = await fetch(lines[i]).catch(() => null);
    if (!answer?.ok) break;
  }
  if (stopped) box.hidden = true;
  else location.assign(link.href);
}

document.addEventListener("keydown", (event) => {
  if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open]")) return;
  const key = event.key.toLowerCase();
  const rows = [...document.querySelectorAll("#walk-table tbody a")];
  const at = rows.findIndex((row) => row.getAttribute("aria-current") === "true");
  if (key === " " && !event.target.closest("button, a, summary")) hear();
  else if (key === "y") document.getElementById("tick")?.click();
  else if (key === "n") document.getElementById("next")?.click();
  else if (key === "arrowdown") rows[at + 1]?.click();
  else if (key === "arrowup") rows[at - 1]?.click();
  else return;
  event.preventDefault();
});
