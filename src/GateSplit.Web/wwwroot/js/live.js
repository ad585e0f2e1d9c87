// Hears the session live: takes blocks of sound from the program and plays them; edits are heard as they are made.
import { isTyping, notice, say } from "./site.js";

const form = document.getElementById("listening");
const reportEvery = 1024; // frames between two reports of what was played
let listening = null;

/** What is heard: { ear, bar, click }. Ends what was heard before. */
export async function listen(wish) {
  stop();
  const context = new AudioContext({ sampleRate: Number(form.dataset.rate), latencyHint: "interactive" });
  const mine = { context, played: 0, reported: 0, bars: [] };
  listening = mine;
  show();
  await context.audioWorklet.addModule("/js/player-worklet.js");
  const node = new AudioWorkletNode(context, "take-player", { numberOfInputs: 0, outputChannelCount: [2] });
  node.connect(context.destination);
  await context.resume();
  if (listening !== mine) return;
  const query = new URLSearchParams({ ear: wish.ear, bar: wish.bar, pass: wish.pass ?? 1, click: wish.click });
  const socket = new WebSocket(`${location.origin.replace("http", "ws")}${form.dataset.address}?${query}`);
  socket.binaryType = "arraybuffer";
  mine.socket = socket;
  socket.onopen = tellRound;
  socket.onmessage = ({ data }) => {
    if (typeof data === "string") hear(mine, JSON.parse(data));
    else play(mine, node, data);
  };
  socket.onclose = () => {
    if (listening !== mine || mine.ended) return;
    say("Listening has ended: the program gave no more sound.");
    stop();
  };
  node.port.onmessage = ({ data }) => {
    if (listening !== mine) return;
    const { frames, bar, peak } = mine.bars.shift();
    mine.played += frames;
    if (mine.played - mine.reported >= reportEvery) {
      mine.reported = mine.played;
      tell({ played: mine.played });
    }
    form.dataset.bar = bar.toFixed(2);
    form.dataset.peak = peak.toFixed(4);
    document.getElementById("live-bar").textContent = `bar ${Math.floor(bar)}`;
    document.getElementById("live-level").setAttribute("width", String(Math.max(0, Math.min(60, 60 + 20 * Math.log10(peak + 1e-9)))));
    document.dispatchEvent(new CustomEvent("live:bar", { detail: bar }));
    if (data.last) stop();
  };
}

function play(mine, node, data) {
  const bar = new DataView(data).getFloat64(0, true);
  const frames = (data.byteLength - 8) / 8;
  const left = new Float32Array(data.slice(8, 8 + 4 * frames));
  const right = new Float32Array(data.slice(8 + 4 * frames));
  let peak = 0;
  for (let i = 0; i < frames; i++) peak = Math.max(peak, Math.abs(left[i]), Math.abs(right[i]));
  mine.bars.push({ frames, bar, peak });
  node.port.postMessage({ chunk: { start: 0, frames, tracks: [[left, right]], last: false } }, [left.buffer, right.buffer]);
}

function hear(mine, { ended, moved, said }) {
  if (moved) document.dispatchEvent(new CustomEvent("live:moved", { detail: moved }));
  if (said) notice(said);
  if (ended) {
    mine.ended = true;
    setTimeout(() => { if (listening === mine) stop(); }, 400); // what was sent is still played
  }
}

/** Tells the program something while it plays. */
export function tell(what) {
  if (listening?.socket?.readyState === WebSocket.OPEN) listening.socket.send(JSON.stringify(what));
}

export function stop() {
  const was = listening;
  listening = null;
  was?.socket?.close();
  was?.context.close();
  show();
  if (was) document.dispatchEvent(new CustomEvent("live:ended"));
}

/** Listens to what the fields of the foot say. */
export const listenAsSet = () => listen({ ear: field("live-ear"), bar: field("live-from"), pass: document.getElementById("live-pass")?.value, click: field("live-click") });

export const isListening = () => listening !== null;

function show() {
  if (!form) return;
  const button = document.getElementById("listen");
  button.textContent = listening ? "Stop listening" : "Listen";
  button.setAttribute("aria-pressed", String(listening !== null));
  form.dataset.playing = String(listening !== null);
  if (!listening) {
    document.getElementById("live-bar").textContent = "";
    document.getElementById("live-level").setAttribute("width", "0");
  }
}

const roundButton = () => document.getElementById("live-round");

/** The bars that go round and round; the program takes none that are not in the pass for straight on. */
function tellRound() {
  const bars = [Number(field("live-from")), Number(field("live-to"))];
  tell({ round: roundButton().getAttribute("aria-pressed") === "true" && bars.every(Number.isInteger) ? bars : [] });
}

const field = (id) => document.getElementById(id).value;

/** The tracks that were picked, or those on the line that is chosen; null if there are none. */
function chosen() {
  const picked = [...document.querySelectorAll(".picked[data-track]")].map((node) => node.dataset.track);
  return [...new Set(picked)].join(" ") || document.getElementById("board").dataset.lines || null;
}

function setEar(ear) {
  const select = document.getElementById("live-ear");
  select.querySelector("[data-chosen]")?.remove();
  if (![...select.options].some((o) => o.value === ear)) {
    const option = new Option("what is chosen", ear);
    option.dataset.chosen = "";
    select.add(option);
  }
  select.value = ear;
  tell({ ear });
}

if (form) {
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    if (listening) stop();
    else listenAsSet();
  });
  roundButton().addEventListener("click", () => {
    const on = roundButton().getAttribute("aria-pressed") !== "true";
    roundButton().setAttribute("aria-pressed", String(on));
    tellRound();
  });
  for (const id of ["live-from", "live-to"]) document.getElementById(id).addEventListener("change", tellRound);
  document.getElementById("live-ear").addEventListener("change", (event) => tell({ ear: event.target.value }));
  document.addEventListener("keydown", (event) => {
    if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open], #player, #line-now")) return;
    if (event.key === " " && !event.target.closest("button, summary, a")) {
      form.requestSubmit();
      event.preventDefault();
    } else if (event.key.toLowerCase() === "s" && document.getElementById("board")?.dataset.lines !== undefined) {
      const lines = chosen() && `lines ${chosen()}`;
      const before = field("live-ear");
      setEar(lines && before !== lines ? lines : "mix");
      say(field("live-ear") === "mix" ? "The mix is heard." : "Only what is chosen is heard.");
    }
  });
}
