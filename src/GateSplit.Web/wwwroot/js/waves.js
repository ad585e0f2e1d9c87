// The waveforms of a take under each other, from the whole song to single samples. What is shown is fetched for just this stretch and
// width; until it comes, what is there is stretched to its new place.
import { following, moved, numbered, place, zoomed } from "./wave-range.js";

const SVG = "http://www.w3.org/2000/svg";
const AT_ONCE = 40; // waveforms asked for in one request
const WHEEL = 1.0015; // nearer by so much a step of the wheel
const TALLEST = 1024;

function make(name, attributes) {
  const element = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  return element;
}

/** @typedef {{ svg: SVGSVGElement, of: string, channels: number }} Wave */

export class WaveView {
  /**
   * @param {Wave[]} waves
   * @param {number} frames of the longest
   * @param {number} rate
   * @param {number[]} bars
   */
  constructor(waves, frames, rate, bars) {
    this.waves = waves;
    this.frames = Math.max(1, frames);
    this.rate = rate;
    this.bars = bars;
    this.range = { from: 0, frames: this.frames };
    this.tall = 1;
    this.columns = waves[0]?.svg.viewBox.baseVal.width ?? 1;
    this.drawn = { ...this.range, columns: this.columns, tall: 1 };
    this.head = 0;
    this.asked = 0;
    this.ruler = document.getElementById("wave-ruler");
    this.setUp();
    this.place();
  }

  setUp() {
    const tools = document.getElementById("wave-tools");
    tools.hidden = false;
    tools.addEventListener("click", (event) => {
      const button = /** @type {HTMLElement} */ (event.target).closest("button");
      if (button?.dataset.zoom === "whole") this.show({ from: 0, frames: this.frames });
      else if (button?.dataset.zoom) this.zoom(Number(button.dataset.zoom));
      else if (button?.dataset.tall) this.setTall(this.tall * Number(button.dataset.tall));
    });
    for (const { svg } of this.waves) svg.addEventListener("wheel", (event) => this.wheel(event, svg), { passive: false });
    new ResizeObserver(() => this.place()).observe(this.ruler);
  }

  /** @param {WheelEvent} event @param {SVGSVGElement} svg */
  wheel(event, svg) {
    if (event.ctrlKey) {
      event.preventDefault();
      const box = svg.getBoundingClientRect();
      this.show(zoomed(this.range, WHEEL ** event.deltaY, this.frameAt(event.clientX, box), this.frames));
    } else if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      event.preventDefault();
      this.show(moved(this.range, (event.deltaX || event.deltaY) / svg.clientWidth, this.frames));
    }
  }

  /** @param {number} x @param {DOMRect} box */
  frameAt(x, box) {
    return this.range.from + ((x - box.left) / box.width) * this.range.frames;
  }

  /** Nearer or farther around the place that is heard, or around the middle where that is not in the picture. @param {number} factor */
  zoom(factor) {
    const inside = this.head >= this.range.from && this.head <= this.range.from + this.range.frames;
    this.show(zoomed(this.range, factor, inside ? this.head : this.range.from + this.range.frames / 2, this.frames));
  }

  /** @param {number} share */
  along(share) {
    this.show(moved(this.range, share, this.frames));
  }

  /** @param {number} tall */
  setTall(tall) {
    this.tall = Math.max(1, Math.min(TALLEST, tall));
    this.show(this.range);
  }

  /** @param {Wave[]} waves what is shown from now on @param {number} frames */
  replace(waves, frames) {
    this.waves = waves;
    this.frames = Math.max(1, frames);
    this.show(this.range.frames > this.frames ? { from: 0, frames: this.frames } : this.range);
  }

  /** @param {import("./wave-range.js").Range} range */
  show(range) {
    this.range = range;
    this.place();
    this.fetch();
  }

  /** Puts bars, marks, the place that is heard and what is drawn already where they are now. */
  place() {
    const x = (frame) => place(frame, this.range, this.columns);
    const scale = this.drawn.frames / this.range.frames * (this.columns / this.drawn.columns);
    for (const { svg, channels } of this.waves) {
      svg.querySelector(".wave-shape").setAttribute("transform", `translate(${x(this.drawn.from)} 0) scale(${scale} 1)`);
      [...svg.querySelectorAll(".wave-bars line")].forEach((line, i) => this.put(line, x(this.bars[i]), 2 * channels));
      for (const line of svg.querySelectorAll(".wave-marks line")) this.put(line, x(Number(line.dataset.frame)), 2 * channels);
    }
    this.drawRuler();
    this.playhead(this.head);
    const seconds = (frame) => (frame / this.rate).toFixed(this.range.frames / this.rate < 1 ? 4 : 2);
    document.getElementById("wave-shown").textContent = this.range.frames < this.frames || this.tall > 1
      ? `${seconds(this.range.from)} to ${seconds(this.range.from + this.range.frames)} s${this.tall > 1 ? `, ${this.tall} times taller` : ""}`
      : "";
  }

  put(line, x, height) {
    line.setAttribute("x1", x);
    line.setAttribute("x2", x);
    line.setAttribute("y2", height);
  }

  drawRuler() {
    const width = this.ruler.clientWidth || this.columns;
    this.ruler.setAttribute("viewBox", `0 0 ${width} 16`);
    this.ruler.replaceChildren(...numbered(this.bars, this.range, width, 40).flatMap(({ number, x }) => {
      const text = make("text", { x: x + 3, y: 12 });
      text.textContent = String(number);
      return [make("line", { x1: x, x2: x, y1: 2, y2: 16 }), text];
    }));
  }

  /** @param {number} frame what is heard now */
  playhead(frame) {
    this.head = frame;
    for (const { svg, channels } of this.waves) {
      const head = svg.querySelector(".playhead") ?? svg.appendChild(make("line", { class: "playhead", y1: 0 }));
      this.put(head, place(frame, this.range, this.columns), 2 * channels);
    }
  }

  /** Moves along with what is heard. @param {number} frame */
  follow(frame) {
    const range = following(this.range, frame, this.frames);
    if (range !== this.range) this.show(range);
  }

  /** Fetches what is shown; while it is under way, only the last wish is kept. */
  async fetch() {
    this.wanted = true;
    if (this.fetching) return;
    this.fetching = true;
    while (this.wanted) {
      this.wanted = false;
      const columns = Math.max(1, Math.round(this.waves[0].svg.clientWidth));
      const { range, tall, waves } = this;
      try {
        const shapes = await shapesOf(waves.map((w) => w.of), range, columns, tall);
        if (waves === this.waves) this.draw(shapes, range, columns, tall);
      } catch {
        document.getElementById("wave-shown").textContent = "The waveforms did not arrive. Is the program still running?";
      }
    }
    this.fetching = false;
  }

  draw(shapes, range, columns, tall) {
    this.columns = columns;
    this.drawn = { ...range, columns, tall };
    shapes.forEach((shape, i) => {
      const { svg, channels } = this.waves[i];
      svg.setAttribute("viewBox", `0 0 ${columns} ${2 * channels}`);
      svg.dataset.shown = `${range.from} ${range.frames}`;
      svg.querySelector(".wave-shape").replaceChildren(...(shape === null ? [] : [
        make("path", { d: shape.fill }),
        make("path", { d: shape.line, class: "wave-line" }),
        make("path", { d: shape.dots, class: "wave-dots" }),
      ]));
    });
    this.place();
  }
}

/** @param {string[]} of */
async function shapesOf(of, range, columns, tall) {
  const parts = [];
  for (let i = 0; i < of.length; i += AT_ONCE) {
    const query = new URLSearchParams({ from: String(range.from), frames: String(range.frames), columns: String(columns), tall: String(tall) });
    for (const name of of.slice(i, i + AT_ONCE)) query.append("of", name);
    parts.push(fetch(`/waveforms?${query}`).then((reply) => {
      if (!reply.ok) throw new Error(`status ${reply.status}`);
      return reply.json();
    }));
  }
  return (await Promise.all(parts)).flat();
}
