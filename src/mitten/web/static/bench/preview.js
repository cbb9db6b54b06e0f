// The drawing as it would be: one preview is in flight at a time, and only the latest waiting one follows it.
import { at, drawing, encoded, query } from "./page.js";

let busy = false;
/** @type {[string, Record<string, string> | null] | null} */
let waiting = null;
let drawn = 0;

/**
 * @param {string} url
 * @param {Record<string, string> | null} body
 */
export async function preview(url, body) {
  if (busy) {
    waiting = [url, body];
    return;
  }
  busy = true;
  const before = drawn;
  try {
    const answer = await fetch(url, body ? { method: "POST", body: new URLSearchParams(body) } : {});
    const text = await answer.text();
    const place = drawing();
    // A picture that comes after the stored state was drawn is of yesterday.
    if (answer.ok && place && drawn === before) place.innerHTML = text;
  } finally {
    busy = false;
    const next = waiting;
    waiting = null;
    if (next) preview(...next);
  }
}

/**
 * @param {string} ref
 * @param {Record<string, string>} place
 */
export const previewPart = (ref, place) => preview(at(`preview/${encoded(ref)}`) + query(), place);

/** What waits to be drawn is not wanted any more. */
export function forgetWaiting() {
  waiting = null;
}

/** The stored state was drawn. */
export function drawnAnew() {
  drawn += 1;
}
