// Ticks of a setup sheet: kept here until they have arrived, so that a lost connection loses none; what others tick comes along.

import { afterSending, merged } from "./setup-ticks.js";

const EVERY = 4000; // ms from one look at the server to the next

for (const form of document.querySelectorAll("form[data-ticks]")) follow(/** @type {HTMLFormElement} */ (form));

/** @param {HTMLFormElement} form */
function follow(form) {
  const address = form.dataset.ticks;
  const store = `ticks ${address}`;
  const boxes = [.../** @type {NodeListOf<HTMLInputElement>} */ (form.querySelectorAll("input[name=on]"))];
  const token = /** @type {HTMLInputElement} */ (form.querySelector("input[name=__RequestVerificationToken]")).value;
  let sending = false;
  let isClosed = false;

  /** What waits to be sent: what names a step, and whether it is ticked. */
  const waiting = () => JSON.parse(localStorage.getItem(store) ?? "{}");

  function show(ticked, isLost) {
    const now = merged(ticked, waiting());
    for (const box of boxes) box.checked = now.has(box.value);
    form.querySelector("[data-done]").textContent = String(boxes.filter((b) => b.checked).length);
    /** @type {HTMLElement} */ (form.querySelector("[data-waiting]")).hidden = !isLost || isClosed;
    /** @type {HTMLElement} */ (form.querySelector("[data-closed]")).hidden = !isClosed;
  }

  async function exchange() {
    if (sending) return;
    sending = true;
    const sent = waiting();
    const body = new URLSearchParams({ __RequestVerificationToken: token });
    for (const [key, on] of Object.entries(sent)) body.append(on ? "on" : "off", key);
    try {
      const answer = await fetch(address, Object.keys(sent).length > 0 ? { method: "POST", body } : {});
      isClosed = answer.status === 404;
      if (!answer.ok) throw new Error(answer.statusText);
      const ticked = await answer.json();
      localStorage.setItem(store, JSON.stringify(afterSending(waiting(), sent)));
      show(ticked, false);
    } catch {
      show(boxes.filter((b) => b.checked).map((b) => b.value), true);
    } finally {
      sending = false;
    }
  }

  form.addEventListener("change", (event) => {
    const box = /** @type {HTMLInputElement} */ (event.target);
    localStorage.setItem(store, JSON.stringify({ ...waiting(), [box.value]: box.checked }));
    form.querySelector("[data-done]").textContent = String(boxes.filter((b) => b.checked).length);
    exchange();
  });
  addEventListener("online", exchange);
  document.addEventListener("visibilitychange", () => document.hidden || exchange());
  setInterval(() => document.hidden || exchange(), EVERY);
  exchange();
}
