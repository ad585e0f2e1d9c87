// The drawing by mouse and keys. Everything here fills the same forms that work without script.
import { isTyping, say } from "./site.js";

const board = () => document.getElementById("board");
const figure = () => document.querySelector(".drawing");
const nodes = (kind) => [...document.querySelectorAll(`.drawing [data-node="${kind}"]`)];
const chosen = () => document.querySelector('.drawing [aria-current="true"]');

/** Sends an edit through the hidden form of the board. */
function send(fields, line) {
  const form = document.getElementById("move");
  for (const input of form.querySelectorAll("input[type=hidden]")) {
    if (!["revision", "line", "__RequestVerificationToken"].includes(input.name)) input.value = "";
  }
  for (const [name, value] of Object.entries(fields)) form.elements.namedItem(name).value = value;
  form.elements.namedItem("line").value = line ?? "";
  form.requestSubmit();
}

function assignPort(element, port) {
  if (element.dataset.unit !== port.dataset.unit) {
    say("That port belongs to another source.");
    return;
  }
  send({ edit: "assign-port", unit: element.dataset.unit, element: element.dataset.element, port: port.dataset.port }, element.dataset.place);
}

function assignInput(track, bank, channel) {
  send({ edit: "input", track: track.dataset.track, input: `${bank}:${channel}` }, track.dataset.place);
}

/** The side of a pair that a pointer is on; a mono track takes the upper or the lower channel. */
function channelAt(input, track, event) {
  const first = Number(input.dataset.channel);
  if (track.dataset.width === "2" || input.dataset.width === "1") return first;
  const box = input.getBoundingClientRect();
  return event.clientY > box.top + box.height / 2 ? first + 1 : first;
}

function drop(from, to, event) {
  if (!from || !to) return false;
  if (from.dataset.node === "element" && to.dataset.node === "port") assignPort(from, to);
  else if (from.dataset.node === "track" && to.dataset.node === "input") assignInput(from, to.dataset.bank, channelAt(to, from, event));
  else if (from.dataset.node === "track" && to.dataset.node === "port") {
    const input = document.querySelector(`.drawing [data-node="input"][data-place="${CSS.escape(to.dataset.place)}"]`);
    assignInput(from, input.dataset.bank, Number(input.dataset.channel));
  } else if (from.dataset.node === "input" && to.dataset.node === "track") {
    assignInput(to, from.dataset.bank, channelAt(from, to, event));
  } else if (from.dataset.node === "port" && to.dataset.node === "input") plug(from, to);
  else return false;
  return true;
}

/** A cable from a port to sockets; what arrives by USB or inside the recorder is fixed. */
function plug(port, input) {
  if (input.dataset.cables !== "true") {
    say("Only sockets take cables; these inputs are fixed to their source.");
    return;
  }
  send({
    edit: "plug", unit: port.dataset.unit, bank: input.dataset.bank,
    channel: port.dataset.first, count: port.dataset.width, input: input.dataset.channel,
  }, port.dataset.place);
}

/** Chooses a track for the action on several, beside those that are chosen. */
function pick(node) {
  const box = document.querySelector(`#lines tr[data-places~="${CSS.escape(node.dataset.place)}"] input[name=tracks]`);
  if (!box) return;
  box.checked = !box.checked;
  showPicked();
}

/** Marks in the drawing what is chosen in the table. */
function showPicked() {
  const shown = document.getElementById("picked-count");
  if (!shown) return;
  const picked = (name) => new Set([...document.querySelectorAll(`#lines input[name=${name}]:checked`)].map((b) => b.value));
  const [tracks, elements] = [picked("tracks"), picked("chosen")];
  for (const track of nodes("track")) track.classList.toggle("picked", tracks.has(track.dataset.track));
  for (const element of nodes("element")) element.classList.toggle("picked", elements.has(`${element.dataset.unit}/${element.dataset.element}`));
  const count = (set, one) => (set.size === 0 ? "" : `${set.size} ${one}${set.size === 1 ? "" : "s"}`);
  const words = [count(tracks, "track"), count(elements, "element")].filter(Boolean).join(", ");
  shown.textContent = words && `: ${words}`;
  const lay = document.getElementById("lay-chosen");
  lay.hidden = elements.size === 0;
  lay.dataset.only = [...elements].join(",");
}

/** Shows of the fields beside the action only the one that it wants. */
function showWanted() {
  const act = document.getElementById("bulk-act");
  if (!act) return;
  const { wants } = act.selectedOptions[0].dataset;
  for (const [name, when] of [["start", "Input"], ["pattern", "Words"]]) {
    const field = act.form.querySelector(`[name=${name}]`);
    if (field instanceof HTMLElement) field.hidden = wants !== when;
  }
}
showWanted();
document.addEventListener("htmx:afterSettle", () => {
  showPicked();
  showWanted();
});
document.addEventListener("click", (event) => {
  const lay = event.target.closest?.("#lay-chosen");
  if (lay) location.href = `${lay.dataset.lay}&only=${encodeURIComponent(lay.dataset.only)}`;
});
document.addEventListener("change", (event) => {
  if (event.target.matches?.("#lines input[name=tracks], #lines input[name=chosen]")) showPicked();
  if (event.target.id === "bulk-act") showWanted();
  if (event.target.id === "pick-all" || event.target.id === "pick-elements") {
    const name = event.target.id === "pick-all" ? "tracks" : "chosen";
    for (const row of document.querySelectorAll("#lines tbody tr")) {
      const box = row.querySelector(`input[name=${name}]`);
      if (box && !row.hidden) box.checked = event.target.checked;
    }
    showPicked();
  }
});

// A control of the table sends what it changed, not the whole table.
document.addEventListener("change", (event) => {
  const select = event.target.closest?.('#lines select[form="table"]');
  if (!select) return;
  const [what, of] = select.name.split(/:(.*)/);
  const line = board().dataset.line;
  if (what === "port") {
    const [unit, element] = of.split("/");
    send({ edit: "assign-port", unit, element, port: select.value }, line);
  } else send({ edit: what, track: of, [what === "track-pass" ? "pass" : what]: select.value }, line);
});
document.addEventListener("click", (event) => {
  const button = event.target.closest?.('#lines button[name="arm"]');
  if (!button) return;
  event.preventDefault();
  const [track, on] = button.value.split(":");
  send({ edit: "arm", track, on }, board().dataset.line);
});

// Long tables keep their lists of ports and inputs once; a control gets its own when it is used.
function fill(select) {
  const list = document.getElementById(select.dataset.fill);
  if (!list) return;
  const value = select.value;
  delete select.dataset.fill;
  select.replaceChildren(list.content.cloneNode(true));
  select.value = value;
}
for (const kind of ["pointerdown", "focusin"]) {
  document.addEventListener(kind, (event) => {
    const select = event.target.closest?.("select[data-fill]");
    if (select) fill(select);
  });
}

document.addEventListener("click", (event) => {
  if (event.target.closest?.("[data-print]")) window.print();
});

/** Follows a link of the drawing by swapping the board, as the other links of the board do. */
async function follow(node) {
  const link = node.dataset.node === "input" ? nodes("port").find((p) => p.dataset.place === node.dataset.place) : node;
  const address = link.getAttribute("href");
  await window.htmx.ajax("GET", address, { source: board(), target: "#board", select: "#board", swap: "renew show:none settle:0ms" });
  history.pushState({ htmx: true }, "", address);
}

// Choose an element, then click a port; choose a track, then click an input.
document.addEventListener("click", (event) => {
  const target = event.target.closest?.(".drawing [data-node]");
  if (!target) return;
  event.preventDefault();
  if (event.ctrlKey || event.metaKey || event.shiftKey) {
    pick(target);
    return;
  }
  const from = chosen();
  if (!from || target === from || !drop(from, target, event)) follow(target);
});

// Drag from an element to a port, or from a track to an input.
let drag = null;
document.addEventListener("pointerdown", (event) => {
  const from = event.target.closest?.('.drawing [data-node]:not([data-node="unit"])');
  if (!from || event.button !== 0) return;
  drag = { from, x: event.clientX, y: event.clientY, line: null };
});
document.addEventListener("dragstart", (event) => {
  if (event.target.closest?.(".drawing")) event.preventDefault();
});
document.addEventListener("pointermove", (event) => {
  if (!drag || (!drag.line && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < 6)) return;
  const svg = document.getElementById("drawing");
  const toDrawing = (x, y) => new DOMPoint(x, y).matrixTransform(svg.getScreenCTM().inverse());
  if (!drag.line) {
    drag.line = document.createElementNS("http://www.w3.org/2000/svg", "line");
    drag.line.classList.add("drag-line");
    const start = toDrawing(drag.x, drag.y);
    drag.line.setAttribute("x1", start.x);
    drag.line.setAttribute("y1", start.y);
    svg.append(drag.line);
    figure().classList.add({ element: "target-port", input: "target-track" }[drag.from.dataset.node] ?? "target-input");
  }
  const end = toDrawing(event.clientX, event.clientY);
  drag.line.setAttribute("x2", end.x);
  drag.line.setAttribute("y2", end.y);
});
document.addEventListener("pointerup", (event) => {
  if (!drag) return;
  const { from, line } = drag;
  drag = null;
  if (!line) return;
  line.remove();
  figure().classList.remove("target-port", "target-input", "target-track");
  const to = document.elementFromPoint(event.clientX, event.clientY)?.closest(".drawing [data-node]");
  const swallow = (click) => {
    click.preventDefault();
    click.stopImmediatePropagation();
  };
  document.addEventListener("click", swallow, { capture: true, once: true });
  setTimeout(() => document.removeEventListener("click", swallow, { capture: true }), 0);
  drop(from, to, event);
});

function step(by) {
  const from = chosen();
  if (!from) return false;
  if (from.dataset.node === "element") {
    const ports = nodes("port").filter((p) => p.dataset.unit === from.dataset.unit);
    const at = ports.findIndex((p) => p.dataset.port === from.dataset.port);
    const next = ports[at + by];
    if (next) assignPort(from, next);
    return true;
  }
  if (from.dataset.node === "track") {
    const [bank, channel] = from.dataset.input ? from.dataset.input.split(/:(?=\d+$)/) : [nodes("input")[0].dataset.bank, 0];
    const next = Number(channel) + by * (from.dataset.width === "2" && channel !== 0 ? 2 : 1);
    if (next > 0) assignInput(from, bank, next);
    return true;
  }
  return false;
}

function choose(by) {
  const lines = [...nodes("element"), ...nodes("track")];
  const at = lines.indexOf(chosen());
  const next = lines[at < 0 ? (by > 0 ? 0 : lines.length - 1) : at + by];
  if (next) follow(next);
}

/** The track of what is chosen: the track itself, or the one an element arrives on. */
function chosenTrack() {
  const from = chosen();
  return from?.dataset.node === "track" ? from : document.querySelector('.drawing .track.lit');
}

document.addEventListener("keydown", (event) => {
  if (!board() || isTyping(event.target) || document.querySelector("dialog[open]")) return;
  const key = event.key.toLowerCase();
  if ((event.ctrlKey || event.metaKey) && key === "z") {
    document.getElementById(event.shiftKey ? "redo" : "undo").click();
    event.preventDefault();
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const track = chosenTrack();
  let done = true;
  if (key === "arrowdown") choose(1);
  else if (key === "arrowup") choose(-1);
  else if (key === "arrowright" || key === "arrowleft") done = step(key === "arrowright" ? 1 : -1);
  else if (key === "a" && track) send({ edit: "arm", track: track.dataset.track, on: track.dataset.armed === "true" ? "false" : "true" }, board().dataset.line);
  else if (key === "m" && track) send({ edit: "monitor", track: track.dataset.track, monitor: track.dataset.monitor === "Never" ? "WhileArmed" : "Never" }, board().dataset.line);
  else if (key === "/") document.getElementById("filter").focus();
  else if (key === "enter" && chosen() && !event.target.closest("a, button, summary")) document.querySelector(".inspector .field select, .inspector .field input:not([type=hidden])")?.focus();
  else if (key === "escape" && board().dataset.line) document.querySelector(".inspector-back a")?.click();
  else done = false;
  if (done) event.preventDefault();
});

document.addEventListener("input", (event) => {
  if (event.target.id !== "filter") return;
  const words = event.target.value.trim().toLowerCase();
  for (const row of document.querySelectorAll("#lines tbody tr")) {
    const text = [...row.querySelectorAll("a, option:checked, .tag")].map((e) => e.textContent).join(" ").toLowerCase();
    row.hidden = words !== "" && !text.includes(words);
  }
});

