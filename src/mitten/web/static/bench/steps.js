// Arrow presses are added up, and stored together when the hand rests.
import { refocus } from "./focus.js";
import { sendAside } from "./leaving.js";
import { afterLine, takeWaiting } from "./line.js";
import { beginAnew } from "./notices.js";
import { at, encoded, onHtmx, query } from "./page.js";
import { follow, named, placeOf, store, upAxis, viewOf } from "./parts.js";
import { previewPart } from "./preview.js";

/** @typedef {import("./parts.js").Place} Place */
/** @typedef {{ref: string, place: Place, axes: Set<import("./parts.js").Axis>, timer: number}} Steps */

const REST_MS = 450;
/** @type {Steps | null} */
let steps = null;
/** @type {{ref: string, place: Place} | null} */
let sent = null;

/**
 * One press, from where the part is on its way to, whatever the drawing shows by now.
 * @param {import("./parts.js").Shown} part
 * @param {[number, number]} direction
 * @param {number} sizeM
 */
export function step(part, [across, up], sizeM) {
  const ref = part.dataset.part ?? "";
  const axis = upAxis(viewOf(part).dataset.view);
  if (steps && steps.ref !== ref) flush();
  const from = steps?.place ?? (sent?.ref === ref ? sent.place : placeOf(part));
  const place = { ...from, x: from.x + across * sizeM, [axis]: from[axis] + up * sizeM };
  /** @type {Steps["axes"]} */
  const axes = new Set([...(steps?.axes ?? []), "x", axis]);
  clearTimeout(steps?.timer);
  steps = { ref, place, axes, timer: setTimeout(flush, REST_MS) };
  follow(ref, named(place, axes));
  previewSteps()?.then(refocus);
}

/** Show presses that are not stored yet, if there are any. */
export const previewSteps = () => (steps ? previewPart(steps.ref, named(steps.place, steps.axes)) : null);

function flush() {
  if (!steps) return;
  clearTimeout(steps.timer);
  const mine = { ref: steps.ref, place: steps.place };
  const place = named(steps.place, steps.axes);
  [sent, steps] = [mine, null];
  store(mine.ref, place).finally(() => { if (sent === mine) sent = null; });
}

/** What is still on its way is stored before anything else is asked for, and when the page is left. */
function storeAside() {
  const left = takeWaiting();
  if (steps) {
    clearTimeout(steps.timer);
    const url = at(`move/${encoded(steps.ref)}`) + query();
    left.push({ verb: "POST", url, values: named(steps.place, steps.axes) });
    steps = null;
  }
  return sendAside(left);
}

// Before the next page is asked for, so that it shows what is stored; and when nothing was asked for, at the last moment.
window.addEventListener("beforeunload", storeAside);
window.addEventListener("pagehide", storeAside);

// After what is in line already, which is older; what is in line is itself not held up by what came after it. What does
// not show the whole bench again leaves the presses to their own time: the page would not show what was stored.
onHtmx("confirm", ({ path, verb, elt, target, issueRequest }, event) => {
  if (!steps || path.includes("/move/") || target?.id !== "bench") return;
  event.preventDefault();
  afterLine().then(storeAside).then(() => {
    if (document.body.contains(elt)) issueRequest();
    else if (verb === "get") location.assign(path);
    else beginAnew();
  });
});
