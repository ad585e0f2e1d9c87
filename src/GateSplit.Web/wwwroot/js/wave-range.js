// Which part of a take is shown, in frames. Nothing here knows of a page.

/** A stretch of frames, with fractions. @typedef {{ from: number, frames: number }} Range */

const FEWEST = 16; // frames across the picture at the nearest

/** The stretch after coming nearer (factor below 1) or going farther, with one place staying where it is.
 * @param {Range} range what is shown
 * @param {number} factor
 * @param {number} at the frame that stays
 * @param {number} total frames of the take
 * @returns {Range} */
export function zoomed(range, factor, at, total) {
  const frames = Math.min(total, Math.max(Math.min(FEWEST, total), range.frames * factor));
  const share = (at - range.from) / range.frames;
  return held({ from: at - share * frames, frames }, total);
}

/** The stretch moved along by a share of its width.
 * @param {Range} range
 * @param {number} share
 * @param {number} total
 * @returns {Range} */
export function moved(range, share, total) {
  return held({ from: range.from + share * range.frames, frames: range.frames }, total);
}

/** The stretch that shows a place, moved only if it is not in it.
 * @param {Range} range
 * @param {number} at
 * @param {number} total
 * @returns {Range} */
export function following(range, at, total) {
  return at >= range.from && at <= range.from + range.frames ? range : held({ from: at, frames: range.frames }, total);
}

/** @param {Range} range @param {number} total @returns {Range} */
function held(range, total) {
  return { from: Math.max(0, Math.min(total - range.frames, range.from)), frames: range.frames };
}

/** Where a frame is in the picture.
 * @param {number} frame
 * @param {Range} range
 * @param {number} columns */
export const place = (frame, range, columns) => ((frame - range.from) / range.frames) * columns;

/** Which bars are numbered: each, or as many as have room.
 * @param {number[]} bars where they begin
 * @param {Range} range
 * @param {number} columns
 * @param {number} room columns that a number takes
 * @returns {{ number: number, x: number }[]} */
export function numbered(bars, range, columns, room) {
  const widest = bars.length > 1 ? ((bars[bars.length - 1] - bars[0]) / (bars.length - 1) / range.frames) * columns : columns;
  let step = 1;
  while (step * widest < room) step *= 2;
  return bars.map((frame, i) => ({ number: i + 1, x: place(frame, range, columns) }))
    .filter(({ number, x }) => (number - 1) % step === 0 && x >= 0 && x < columns);
}
