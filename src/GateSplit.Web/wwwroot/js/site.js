// What every page shares: theme switch, key list, spoken changes, forms that send themselves.

const live = () => document.getElementById("live");

/** Speaks a sentence to screen readers. */
export function say(sentence) {
  if (sentence) live().textContent = sentence;
}

/** True while keys belong to a field. */
export function isTyping(target) {
  return target instanceof HTMLElement
    && (target.matches("input:not([type=checkbox]):not([type=radio]), textarea, select") || target.isContentEditable);
}

function setTheme(dark) {
  document.documentElement.dataset.bsTheme = dark ? "dark" : "light";
  for (const button of document.querySelectorAll("[data-theme-switch]")) button.textContent = dark ? "Day" : "Night";
}

setTheme(document.documentElement.dataset.bsTheme === "dark");
document.addEventListener("click", (event) => {
  if (event.target.closest("[data-theme-switch]")) {
    const dark = document.documentElement.dataset.bsTheme !== "dark";
    localStorage.setItem("theme", dark ? "dark" : "light");
    setTheme(dark);
  }
  if (event.target.closest("[data-keys-open]")) document.getElementById("keys").showModal();
});

document.addEventListener("keydown", (event) => {
  if (event.key === "Escape" && isTyping(event.target)) {
    if (event.target instanceof HTMLInputElement && takesEffect(event.target)) event.target.value = event.target.defaultValue;
    event.target.blur(); // keys act again
    return;
  }
  if (takesEffect(event.target)) {
    if (event.key === "Enter") {
      const field = /** @type {HTMLInputElement} */ (event.target);
      event.preventDefault();
      field.blur(); // as when it is left, and then on in the same place
      field.focus();
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") stepField(event);
  }
  if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open]")) return;
  if (event.key === "?") {
    document.getElementById("keys").showModal();
    event.preventDefault();
    return;
  }
  const station = document.querySelector(`.station[data-key="${CSS.escape(event.key)}"]`);
  if (station) station.click();
});

// A field that holds one value takes effect on Enter and when it is left; one that holds a number steps with the arrow keys.
/** @type {(field: any) => boolean} */
const takesEffect = (field) => field instanceof HTMLInputElement && !!field.form?.matches("[data-auto]");
let left = false;
let stepped;
let waiting; // the field that was stepped and has not taken effect
function send(form) {
  waiting = null;
  left = true;
  form.requestSubmit();
}
document.addEventListener("change", (event) => {
  const { form } = /** @type {HTMLInputElement} */ (event.target);
  if (form?.matches("[data-auto]")) send(form);
});

// A page that is loaded anew after that goes on where it was.
const all = (css) => [...document.querySelectorAll(css)];
const controls = "input, select, textarea, button, a";
const place = "place";
addEventListener("pagehide", () => {
  if (!left) return;
  const open = all("details").map((d) => d.open);
  sessionStorage.setItem(place, JSON.stringify({ path: location.pathname, at: all(controls).indexOf(document.activeElement), open, scroll: scrollY }));
});
addEventListener("pageshow", () => {
  const was = JSON.parse(sessionStorage.getItem(place) ?? "null");
  sessionStorage.removeItem(place);
  if (was?.path !== location.pathname) return;
  const folds = all("details");
  if (folds.length === was.open.length) folds.forEach((d, i) => { d.open = was.open[i]; });
  all(controls)[was.at]?.focus({ preventScroll: true });
  scrollTo(0, was.scroll);
});

const settle = () => {
  const field = waiting;
  waiting = null;
  if (field?.isConnected && field.value !== field.defaultValue) send(field.form);
};
document.addEventListener("focusout", settle); // who goes on at once loses nothing
function stepField(event) {
  const field = event.target;
  const number = Number(field.value.trim().replace(",", ".").replace("−", "-"));
  if (!field.matches("[inputmode=decimal], [inputmode=numeric]") || field.value.trim() === "" || Number.isNaN(number)) return;
  event.preventDefault();
  const fine = event.shiftKey && field.inputMode === "decimal";
  const digits = Math.max(fine ? 1 : 0, (field.value.split(/[.,]/)[1] ?? "").length);
  field.value = (number + (event.key === "ArrowUp" ? 1 : -1) * (fine ? 0.1 : 1)).toFixed(digits);
  waiting = field;
  clearTimeout(stepped);
  stepped = setTimeout(settle, 350);
}

// A reply that is no page (the database is away, the page is too old) is told where the user is.
document.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.xhr.status >= 400) {
    const sentence = new DOMParser().parseFromString(event.detail.xhr.responseText, "text/html").getElementById("sentence");
    notice(sentence?.textContent ?? "That did not work: the program gave no useful answer. Load the page again.");
  }
});
document.addEventListener("htmx:sendError", () => notice("The program does not answer. Is it still running? Nothing was changed."));

/** Tells a sentence on top of the page. */
export function notice(sentence) {
  let box = document.getElementById("trouble");
  if (!box) {
    box = document.createElement("p");
    box.id = "trouble";
    box.className = "notice";
    box.setAttribute("role", "alert");
    document.getElementById("main").prepend(box);
  }
  box.textContent = sentence;
}

document.addEventListener("htmx:afterSettle", () => {
  left = false;
  document.getElementById("trouble")?.remove();
});

// What an edit did is spoken once the page shows it.
const sayDone = () => say(document.getElementById("board")?.dataset.said);
document.addEventListener("htmx:afterSettle", sayDone);
sayDone();

// Most of a page is the same after an edit. Idiomorph would weigh every node of it against every other; where the children
// of a part pair off one to one, only the pairs that differ are handed to it. A control that somebody has set to something
// the program did not take is always one of them.
const small = 40;
const touched = new Set();
document.addEventListener("change", (event) => {
  if (event.target.matches?.("select, input")) touched.add(event.target);
});
document.addEventListener("htmx:afterSettle", () => touched.clear());

function pairs(old, fresh) {
  const a = [...old.childNodes];
  const b = [...fresh.childNodes];
  const alike = old.nodeName === fresh.nodeName && a.length === b.length
    && a.every((node, i) => node.nodeName === b[i].nodeName && node.id === b[i].id);
  return alike ? a.map((node, i) => [node, b[i]]) : null;
}

/** Makes an old part equal to its fresh self; the elements that were changed. */
function renew(old, fresh) {
  if (old.isEqualNode(fresh) && ![...touched].some((control) => old.contains(control))) return [];
  if (old.nodeType === Node.TEXT_NODE) {
    old.data = fresh.data;
    return [];
  }
  const inner = old.getElementsByTagName("*").length > small && pairs(old, fresh);
  if (!inner) return window.Idiomorph.morph(old, fresh, { morphStyle: "outerHTML" });
  for (const { name } of [...old.attributes]) if (!fresh.hasAttribute(name)) old.removeAttribute(name);
  for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
  return inner.flatMap(([a, b]) => renew(a, b));
}

window.htmx.defineExtension("renew", {
  isInlineSwap: (style) => style === "renew",
  handleSwap: (style, target, fragment) => style === "renew" && renew(target, fragment.firstElementChild),
});
