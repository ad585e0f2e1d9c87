// Saves a picture of the page as an SVG file that looks the same anywhere: with the colours and letters it has here.

const SVG = "http://www.w3.org/2000/svg";
const STYLES = ["fill", "fill-opacity", "stroke", "stroke-width", "stroke-dasharray", "stroke-linecap", "vector-effect", "font-family", "font-size", "font-weight", "text-anchor", "opacity"];
const LABEL_ROOM = 130;
const GAP = 4;

/** A copy of a picture with its styles written into it. @param {SVGElement} picture */
function copied(picture) {
  const copy = /** @type {SVGElement} */ (picture.cloneNode(true));
  const originals = [picture, ...picture.querySelectorAll("*")];
  [copy, ...copy.querySelectorAll("*")].forEach((element, i) => {
    const style = getComputedStyle(originals[i]);
    for (const name of STYLES) element.setAttribute(name, style.getPropertyValue(name));
    element.removeAttribute("class");
  });
  return copy;
}

/** @param {Element} root @param {string} name */
function save(root, name) {
  root.setAttribute("xmlns", SVG);
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([new XMLSerializer().serializeToString(root)], { type: "image/svg+xml" }));
  link.download = `${name}.svg`;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** One picture as a file of its own. @param {SVGSVGElement} picture */
function alone(picture) {
  const copy = copied(picture);
  const box = picture.getBoundingClientRect();
  copy.setAttribute("width", String(box.width));
  copy.setAttribute("height", String(box.height));
  return copy;
}

/** Pictures under each other, each with its name. @param {any[]} pictures */
function stacked(pictures) {
  const root = document.createElementNS(SVG, "svg");
  let y = 0;
  let widest = 0;
  for (const picture of pictures) {
    const box = picture.getBoundingClientRect();
    const copy = copied(picture);
    for (const [key, value] of Object.entries({ x: LABEL_ROOM, y, width: box.width, height: box.height })) copy.setAttribute(key, String(value));
    const label = document.createElementNS(SVG, "text");
    for (const [key, value] of Object.entries({ x: 0, y: y + box.height / 2 + 4, "font-family": "sans-serif", "font-size": 12 })) label.setAttribute(key, String(value));
    label.textContent = picture.closest("[data-name]")?.getAttribute("data-name") ?? "";
    root.append(label, copy);
    y += box.height + GAP;
    widest = Math.max(widest, box.width);
  }
  root.setAttribute("width", String(LABEL_ROOM + widest));
  root.setAttribute("height", String(y));
  return root;
}

document.addEventListener("click", (event) => {
  const button = /** @type {HTMLElement} */ (event.target).closest("[data-save], [data-save-stack]");
  if (!(button instanceof HTMLElement)) return;
  const title = document.title.replace(/:.*/u, "").trim();
  if (button.dataset.save) save(alone(button.closest("figure").querySelector("svg")), `${title} ${button.dataset.save}`);
  else save(stacked([...document.querySelectorAll("svg.wave-ruler, svg.wave")]), `${title} ${button.dataset.saveStack}`);
});
for (const button of document.querySelectorAll("[data-save]")) button.removeAttribute("hidden");
