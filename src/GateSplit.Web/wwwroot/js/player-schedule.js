// What the player fetches next and where it is heard, in frames. Nothing here knows of a page or of audio.

/** A stretch that comes round and round. @typedef {{ start: number, end: number } | null} Loop */

/** The next stretch to be fetched.
 * @param {number} fetched up to where everything is fetched
 * @param {number} most frames of a stretch
 * @param {number} frames length of the take
 * @param {Loop} loop
 * @returns {{ start: number, frames: number, next: number, last: boolean }} the stretch, where the one after it begins, and whether it is the last */
export function nextStretch(fetched, most, frames, loop) {
  const end = loop && fetched < loop.end ? loop.end : frames;
  const length = Math.min(most, end - fetched);
  const reached = fetched + length;
  return { start: fetched, frames: length, next: loop && reached === loop.end ? loop.start : reached, last: !loop && reached >= frames };
}

/** The frame that is heard.
 * @param {number} from where the run began
 * @param {number} seconds since then
 * @param {number} rate frames a second
 * @param {number} frames length of the take
 * @param {Loop} loop */
export function heardFrame(from, seconds, rate, frames, loop) {
  const frame = from + Math.round(seconds * rate);
  return loop && frame >= loop.end ? loop.start + (frame - loop.start) % (loop.end - loop.start) : Math.min(frames, frame);
}
