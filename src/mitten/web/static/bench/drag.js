// Parts follow the pointer, and are stored when they are let go.
import { focusBelongsTo, refocus } from "./focus.js";
import { drawing, targetOf } from "./page.js";
import { choose, drawnPart, follow, named, placeOf, store, upAxis, viewOf } from "./parts.js";
import { drawnAnew, forgetWaiting, previewPart } from "./preview.js";

const A_MOVE_PX = 3;

/**
 * @typedef {object} Drag
 * @property {string} ref
 * @property {string} view
 * @property {number} perM
 * @property {import("./parts.js").Place} from
 * @property {number} x where the pointer took hold
 * @property {number} y
 * @property {Record<string, string> | null} place where the part is, once it has moved
 * @property {string} before the drawing as it was
 */
/** @type {Drag | null} */
let drag = null;

export const isDragging = () => drag !== null;

/**
 * What the pointer takes hold of: the chosen part, where it lies under others, else the uppermost.
 * @param {PointerEvent} event
 */
function grasped(event) {
  const part = drawnPart(targetOf(event));
  const chosen = /** @type {SVGElement | null} */ (part && viewOf(part).querySelector(".chosen"));
  const box = chosen?.querySelector(".grasp")?.getBoundingClientRect();
  const within = box && event.clientX >= box.left && event.clientX <= box.right
    && event.clientY >= box.top && event.clientY <= box.bottom;
  return within ? chosen : part;
}

document.addEventListener("pointerdown", (event) => {
  const part = grasped(event);
  const place = drawing();
  const sheet = part instanceof SVGElement ? part.ownerSVGElement : null;
  if (!part || !place || !sheet || event.button > 0) return;
  event.preventDefault();
  // The part itself is replaced by every preview: what stays is told to hold on to the pointer.
  if (event.isTrusted) place.setPointerCapture(event.pointerId);
  part.focus();
  const { view, perM } = viewOf(part).dataset;
  drag = {
    ref: part.dataset.part ?? "", view: view ?? "",
    perM: Number(perM) * (sheet.getBoundingClientRect().width / sheet.viewBox.baseVal.width),
    from: placeOf(part), x: event.clientX, y: event.clientY, place: null, before: place.innerHTML,
  };
});

document.addEventListener("pointermove", (event) => {
  if (!drag) return;
  if (!drag.place && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < A_MOVE_PX) return;
  const [across, up] = [(event.clientX - drag.x) / drag.perM, (drag.y - event.clientY) / drag.perM];
  const axis = upAxis(drag.view);
  drag.place = named({ ...drag.from, x: drag.from.x + across, [axis]: drag.from[axis] + up }, ["x", axis]);
  follow(drag.ref, drag.place);
  previewPart(drag.ref, drag.place);
});

/** A drag that is given up leaves everything as it was. */
export function putBack() {
  const place = drawing();
  if (!drag || !place) return;
  const { before, ref, from } = drag;
  drag = null;
  forgetWaiting();
  drawnAnew();
  place.innerHTML = before;
  follow(ref, named(from, ["x", "y", "z"]));
  focusBelongsTo(ref, "section");
  refocus();
}

document.addEventListener("pointerup", () => {
  if (!drag) return;
  const { ref, place, view } = drag;
  drag = null;
  focusBelongsTo(ref, view);
  if (place) store(ref, place);
  else choose(ref);
});

document.addEventListener("pointercancel", putBack);

// A finger on a part drags it and does not scroll the page.
document.addEventListener("touchstart", (event) => {
  if (drawnPart(targetOf(event))) event.preventDefault();
}, { passive: false });
