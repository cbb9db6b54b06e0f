// The parts of an enclosure on the page: where they are in the drawing and in the list, and their form.
import { ask } from "./line.js";
import { at, byId, drawing, encoded, query, targetOf } from "./page.js";
import { forgetWaiting, previewPart } from "./preview.js";

/** @typedef {"x" | "y" | "z"} Axis */
/** @typedef {Record<Axis, number>} Place */
/** @typedef {HTMLElement | SVGElement} Shown */

/** @param {Shown} part @returns {Place} */
export const placeOf = (part) => ({ x: Number(part.dataset.x), y: Number(part.dataset.y), z: Number(part.dataset.z) });

/**
 * A place as the server takes it.
 * @param {Place} place
 * @param {Iterable<Axis>} axes
 * @returns {Record<string, string>}
 */
export const named = (place, axes) => Object.fromEntries([...axes].map((axis) => [`${axis}_m`, place[axis].toFixed(4)]));

/** @param {string | undefined} view @returns {Axis} */
export const upAxis = (view) => (view === "plan" ? "y" : "z");

/** @param {Element | null} target @returns {Shown | null} */
export const drawnPart = (target) => target?.closest("#drawing [data-part]") ?? null;

/** @param {Element | null} target @returns {HTMLElement | null} */
export const chipOf = (target) => target?.closest("[data-chip]") ?? null;

/** @param {Element} part @returns {Shown} */
export const viewOf = (part) => /** @type {Shown} */ (part.closest("[data-view]"));

/** The part that something in the drawing or in the list of parts stands for. @param {Element | null} target */
export const refOf = (target) => drawnPart(target)?.dataset.part ?? chipOf(target)?.dataset.chip ?? null;

/** The same in the drawing. @param {Element | null} target @returns {Shown | null} */
export function inDrawing(target) {
  const chip = chipOf(target);
  const ref = chip?.dataset.chip ?? "";
  return drawnPart(target) ?? (chip ? drawing()?.querySelector(`[data-part="${CSS.escape(ref)}"]`) ?? null : null);
}

/** The form of the part that is shown. @returns {HTMLFormElement | null} */
export const partForm = () => /** @type {HTMLFormElement | null} */ (byId("part-form"));

/** @param {string} ref */
export function choose(ref) {
  /** @type {HTMLElement | null} */ (document.querySelector(`[data-chip="${CSS.escape(ref)}"]:not(.shown)`))?.click();
}

/**
 * Put a part somewhere for good. What is shown comes first, from the full grid; every other condition follows with what
 * is stored.
 * @param {string} ref
 * @param {Record<string, string>} place
 */
export function store(ref, place) {
  forgetWaiting();
  previewPart(ref, { ...place, full: "yes" });
  return ask("POST", at(`move/${encoded(ref)}`) + query(), place);
}

/**
 * The form's numbers follow their part.
 * @param {string} ref
 * @param {Record<string, string>} place
 */
export function follow(ref, place) {
  const form = partForm();
  if (!form || form.dataset.part !== ref) return;
  for (const slider of /** @type {NodeListOf<HTMLInputElement>} */ (form.querySelectorAll("input[type=range]"))) {
    const metres = place[slider.dataset.axis ?? ""];
    if (metres === undefined) continue;
    slider.value = String(Math.round((Number(metres) - Number(slider.dataset.ground)) * 100));
    showNumber(slider);
  }
}

/** @param {HTMLInputElement} slider */
function showNumber(slider) {
  const shown = Number(slider.value) * Number(slider.dataset.shownPerCm);
  const number = byId(slider.dataset.for ?? "");
  if (number instanceof HTMLInputElement) number.value = String(Math.round(shown * 10) / 10);
}

// A slider's number follows it, and the drawing with both; its form is sent when it is let go.
document.addEventListener("input", (event) => {
  const slider = targetOf(event);
  if (!(slider instanceof HTMLInputElement) || slider.type !== "range" || !slider.dataset.for) return;
  showNumber(slider);
  const metres = Number(slider.value) / 100 + Number(slider.dataset.ground);
  const ref = slider.form?.dataset.part;
  if (!ref || !drawing()?.querySelector(".heat-sheet")) return;
  previewPart(ref, { [slider.dataset.axis ?? ""]: metres.toFixed(4) });
});
