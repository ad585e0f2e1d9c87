// The points of a ride: how they are written, where they stand in the drawing, and the bar of a place in seconds. Nothing here knows of a page.

/** How a control moves. @typedef {{ low: number, high: number, log: boolean, step: boolean }} Range */

/** Reads "1 -6, 2.5 0" into pairs of bar and value, in the order of time; what is no pair of numbers is left out.
 * @param {string} text
 * @returns {number[][]} */
export const readPoints = (text) => text.split(/[,;\n]/)
  .map((pair) => pair.trim().split(/\s+/).map(Number))
  .filter((pair) => pair.length === 2 && pair.every(Number.isFinite))
  .sort((a, b) => a[0] - b[0]);

/** Writes them as they are read, bars to a thousandth.
 * @param {number[][]} points */
export const writePoints = (points) => points.map(([bar, value]) => `${Math.round(bar * 1000) / 1000} ${value}`).join(", ");

/** The share of its range at which a control stands, 0 to 1.
 * @param {number} value @param {Range} range */
export const toShare = (value, range) => (range.log
  ? Math.log(value / range.low) / Math.log(range.high / range.low)
  : (value - range.low) / (range.high - range.low));

/** The value at a share of the range, to a hundredth; a control that only switches has its two ends.
 * @param {number} share @param {Range} range */
export function toValue(share, range) {
  const s = Math.max(0, Math.min(1, share));
  if (range.step) return s >= 0.5 ? 1 : 0;
  const value = range.log ? range.low * (range.high / range.low) ** s : range.low + s * (range.high - range.low);
  return Math.round(value * 100) / 100;
}

/** The bar, with its fraction, of a place in seconds.
 * @param {number} seconds @param {number[]} starts where each bar begins, in seconds @param {number} bars how many there are */
export function barAt(seconds, starts, bars) {
  const next = starts.findIndex((s) => s > seconds);
  const bar = next < 0 ? starts.length - 1 : next;
  return bar < 1 ? 1 : Math.min(bars + 1, bar + (seconds - starts[bar - 1]) / ((starts[bar] ?? starts[bar - 1] + 1) - starts[bar - 1]));
}
