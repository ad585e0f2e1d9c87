// Plays a take: every track in step, in bounded memory, fetching ranges of the files as they are needed.
import { isTyping } from "./site.js";
import { heardFrame, nextStretch } from "./player-schedule.js";
import { WaveView } from "./waves.js";

const CHUNK_SECONDS = 0.5;
const FIRST_SECONDS = 0.1; // the first chunk is short, so that it sounds soon
const CHUNKS_AHEAD = 4;

class Player {
  constructor(root) {
    this.root = root;
    this.rate = Number(root.dataset.rate);
    this.frames = Number(root.dataset.frames);
    this.tracks = [...root.querySelectorAll(".take-track")].map((row) => ({
      row,
      ...sources(row),
      solo: false,
      mute: row.querySelector("[data-mute]").getAttribute("aria-pressed") === "true",
      pan: Number(row.dataset.pan),
      levelDb: Number(row.querySelector("[data-level]").value),
    }));
    this.bars = root.dataset.bars.split(" ").map(Number);
    this.loop = null;
    this.position = 0;
    this.playing = false;
    this.run = 0;
    this.waves = new WaveView(this.shownWaves(), this.frames, this.rate, this.bars);
    this.setGains();
  }

  shownWaves() {
    return this.tracks.map(({ row, source }) => ({ svg: row.querySelector(".wave"), of: source.of, channels: source.channels }));
  }

  /** Hears and shows the take as it was before its mends, or with them, from the same place on. */
  async setBefore(before) {
    const again = this.playing;
    this.stop();
    for (const track of this.tracks) track.source = before ? track.before : track.mended;
    this.setGains();
    this.waves.replace(this.shownWaves(), this.frames);
    this.show();
    if (again) await this.play();
  }

  /** Plays some bars round and round; null for straight on. */
  async setLoop(from, to) {
    const start = this.bars[from - 1];
    const end = Math.min(this.bars[to] ?? this.frames, this.frames);
    this.loop = from !== null && start < end ? { start, end } : null;
    if (this.playing) await this.goTo(this.loop ? start : this.now());
    else if (this.loop) await this.goTo(start);
    return this.loop !== null;
  }

  async setUp() {
    this.context = new AudioContext({ sampleRate: this.rate });
    await this.context.audioWorklet.addModule("/js/player-worklet.js");
    this.node = new AudioWorkletNode(this.context, "take-player", { numberOfInputs: 0, outputChannelCount: [2] });
    this.node.connect(this.context.destination);
    this.node.port.onmessage = ({ data }) => this.onPlayed(data);
    this.setGains();
  }

  async play() {
    if (!this.context) await this.setUp();
    await this.context.resume();
    if (this.position >= this.frames) this.position = 0;
    this.playing = true;
    this.startedAt = this.context.currentTime;
    this.startedFrom = this.position;
    this.fetched = this.position;
    this.waiting = 0;
    this.run++;
    this.node.port.postMessage({ clear: true });
    this.show();
    this.feed(this.run);
    this.tick();
  }

  stop() {
    if (!this.playing) return;
    this.position = this.now();
    this.playing = false;
    this.run++;
    this.node.port.postMessage({ clear: true });
    this.show();
  }

  now() {
    if (!this.playing) return this.position;
    return heardFrame(this.startedFrom, this.context.currentTime - this.startedAt, this.rate, this.frames, this.loop);
  }

  async goTo(frame) {
    const again = this.playing;
    this.stop();
    this.position = Math.max(0, Math.min(this.frames, Math.round(frame)));
    this.show();
    if (again) await this.play();
  }

  /** Keeps a few chunks ahead of what is heard. */
  async feed(run) {
    const size = Math.round(CHUNK_SECONDS * this.rate);
    while (run === this.run && this.fetched < this.frames) {
      if (this.waiting >= CHUNKS_AHEAD) return;
      const most = this.fetched === this.startedFrom ? Math.round(FIRST_SECONDS * this.rate) : size;
      const { start, frames, next, last } = nextStretch(this.fetched, most, this.frames, this.loop);
      this.fetched = next;
      this.waiting++;
      let tracks;
      try {
        tracks = await Promise.all(this.tracks.map((track) => this.read(track, start, frames)));
      } catch {
        if (run === this.run) {
          this.stop();
          document.getElementById("player-said").textContent = "The audio did not arrive. Is the program still running?";
        }
        return;
      }
      if (run !== this.run) return;
      if (start === this.startedFrom) this.startedAt = this.context.currentTime;
      this.node.port.postMessage({ chunk: { start, frames, tracks, last } }, tracks.flat().map((t) => t.buffer));
    }
  }

  onPlayed({ played, last }) {
    if (!this.playing) return;
    this.waiting--;
    this.heard = played;
    if (last) {
      this.stop();
      this.position = 0;
      this.show();
    } else {
      this.feed(this.run);
    }
  }

  /** One stretch of a track as an array of samples for each channel. */
  async read({ source: track }, start, frames) {
    const count = Math.max(0, Math.min(frames, track.frames - start));
    const sides = Array.from({ length: Math.min(2, track.channels) }, () => new Float32Array(frames));
    if (count === 0) return sides;
    const frameBytes = track.bytes * track.channels;
    const view = new DataView(await this.range(track.url, track.offset + start * frameBytes, count * frameBytes));
    for (let i = 0; i < count; i++) {
      for (let side = 0; side < sides.length; side++) {
        const at = i * frameBytes + side * track.bytes;
        sides[side][i] = track.float
          ? view.getFloat32(at, true)
          : track.bytes === 2
            ? view.getInt16(at, true) / 32768
            : track.bytes === 3
              ? (view.getUint16(at, true) | (view.getInt8(at + 2) << 16)) / 8388608
              : view.getInt32(at, true) / 2147483648;
      }
    }
    return sides;
  }

  async range(url, start, length) {
    const reply = await fetch(url, { headers: { Range: `bytes=${start}-${start + length - 1}` } });
    if (!reply.ok) throw new Error(`status ${reply.status}`);
    return reply.arrayBuffer();
  }

  setGains() {
    const soloed = this.tracks.some((t) => t.solo);
    const gains = this.tracks.map((t) => {
      const gain = t.mute || (soloed && !t.solo) ? 0 : 10 ** (t.levelDb / 20);
      // Equal power for mono, balance for a pair, as the split has it.
      const angle = ((t.pan + 1) * Math.PI) / 4;
      return t.source.channels === 1
        ? [gain * Math.cos(angle), gain * Math.sin(angle)]
        : [gain * Math.min(1, 1 - t.pan), gain * Math.min(1, 1 + t.pan)];
    });
    this.tracks.forEach((t, i) => t.row.classList.toggle("off", gains[i][0] + gains[i][1] === 0));
    this.node?.port.postMessage({ gains });
  }

  toggle(track, what, button) {
    track[what] = !track[what];
    button.setAttribute("aria-pressed", String(track[what]));
    this.setGains();
  }

  tick() {
    if (!this.playing) return;
    this.show();
    requestAnimationFrame(() => this.tick());
  }

  show() {
    const frame = this.now();
    const seconds = frame / this.rate;
    document.getElementById("clock").textContent = `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;
    const play = document.getElementById("play");
    play.textContent = this.playing ? "Stop" : "Play";
    play.setAttribute("aria-pressed", String(this.playing));
    this.root.dataset.playing = String(this.playing);
    this.root.dataset.heard = String(this.heard ?? 0);
    this.waves.playhead(frame);
    if (this.playing) this.waves.follow(frame);
  }
}

/** Where a track is read: with its mends, and before them, which is its printed file unless some of them are on trial. */
function sources(row) {
  const { hash, channels, bits, float, frames, offset } = row.dataset;
  const { mended, before } = row.querySelector(".wave").dataset;
  const printed = { url: `/audio/${hash}`, of: hash, channels: Number(channels), bytes: Number(bits) / 8, float: float === "true", frames: Number(frames), offset: Number(offset) };
  const made = mended ? JSON.parse(mended) : printed;
  return { before: before ? JSON.parse(before) : printed, mended: made, source: made };
}

const root = document.getElementById("player");
if (root) {
  const player = new Player(root);
  document.getElementById("play").addEventListener("click", () => (player.playing ? player.stop() : player.play()));
  document.getElementById("rewind").addEventListener("click", () => player.goTo(0));
  for (const track of player.tracks) {
    const solo = track.row.querySelector("[data-solo]");
    const mute = track.row.querySelector("[data-mute]");
    solo.addEventListener("click", () => player.toggle(track, "solo", solo));
    mute.addEventListener("click", () => player.toggle(track, "mute", mute));
    track.row.querySelector("[data-level]").addEventListener("input", (event) => {
      track.levelDb = Number(event.target.value);
      player.setGains();
    });
    track.row.querySelector(".wave").addEventListener("click", (event) => {
      const box = event.currentTarget.getBoundingClientRect();
      player.goTo(player.waves.frameAt(event.clientX, box));
    });
  }
  const looping = document.getElementById("loop");
  looping.addEventListener("click", async () => {
    const bar = (id) => Number(document.getElementById(id).value);
    const on = looping.getAttribute("aria-pressed") !== "true";
    const is = await player.setLoop(on ? bar("loop-from") : null, bar("loop-to"));
    looping.setAttribute("aria-pressed", String(is));
    if (on && !is) document.getElementById("player-said").textContent = "These bars are not in the take.";
  });
  const before = document.getElementById("before");
  before?.addEventListener("click", () => {
    const on = before.getAttribute("aria-pressed") !== "true";
    before.setAttribute("aria-pressed", String(on));
    player.setBefore(on);
  });
  document.addEventListener("keydown", (event) => {
    if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector("dialog[open]")) return;
    const track = player.tracks.find((t) => t.row.contains(event.target));
    if (event.key === " " && !event.target.closest("button, summary, a")) {
      document.getElementById("play").click();
      event.preventDefault();
    } else if (event.key === "+" || event.key === "-") {
      player.waves.zoom(event.key === "+" ? 0.5 : 2);
    } else if (event.key === "," || event.key === ".") {
      player.waves.along(event.key === "," ? -0.25 : 0.25);
    } else if (event.key.toLowerCase() === "l") {
      looping.click();
    } else if (event.key.toLowerCase() === "b") {
      before?.click();
    } else if (event.key.toLowerCase() === "m" && track) {
      player.toggle(track, "mute", track.row.querySelector("[data-mute]"));
    } else if (event.key.toLowerCase() === "s" && track) {
      player.toggle(track, "solo", track.row.querySelector("[data-solo]"));
    }
  });
}
