// How far the jobs of the session are, over one stream for the page, and none while nobody looks at it: a browser has six
// connections for all its pages together, and each of them needs one to load.
import { say } from "./site.js";

/** @type {EventSource | null} */
let stream = null;

/** A job waits or runs. */
const busy = () => document.getElementById("status-job") !== null;

function follow() {
  const address = document.getElementById("status")?.dataset.events;
  if (!address || !busy() || document.hidden) {
    leave();
    return;
  }
  if (stream) return;
  stream = new EventSource(address);
  stream.addEventListener("part", (event) => {
    const { id, html } = JSON.parse(event.data);
    const part = document.getElementById(id);
    if (part) part.innerHTML = html;
  });
  stream.addEventListener("end", (event) => {
    leave();
    ended(event.data === "next");
  });
}

function leave() {
  stream?.close();
  stream = null;
}

/** A job has ended: the print page shows what came of it, any other page says so in the status line. */
function ended(goesOn) {
  if (document.getElementById("print")) {
    location.assign(location.pathname);
    return;
  }
  if (goesOn) {
    follow();
    return;
  }
  const line = document.getElementById("status-job");
  if (line) {
    line.id = "";
    line.textContent = "The pass has ended; Print shows what came of it.";
  }
  say("The pass has ended.");
}

document.addEventListener("visibilitychange", follow);
document.addEventListener("htmx:afterSettle", follow);
follow();
