// Which steps are ticked while some ticks are still on their way: plain reckoning, without a page.

/**
 * What is ticked by the server, with what waits here on top.
 * @param {Iterable<string>} ticked
 * @param {Record<string, boolean>} waiting
 */
export function merged(ticked, waiting) {
  const now = new Set(ticked);
  for (const [key, on] of Object.entries(waiting)) {
    if (on) now.add(key);
    else now.delete(key);
  }
  return now;
}

/**
 * What still waits after some were sent: what was changed meanwhile waits on.
 * @param {Record<string, boolean>} waiting
 * @param {Record<string, boolean>} sent
 */
export function afterSending(waiting, sent) {
  return Object.fromEntries(Object.entries(waiting).filter(([key, on]) => !(key in sent) || sent[key] !== on));
}
