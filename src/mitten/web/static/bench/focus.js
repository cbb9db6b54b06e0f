// What had the focus has it again, and what was open is open again, when the bench or a part of it was replaced.
import { byId, onHtmx, targetOf } from "./page.js";
import { chipOf, refOf, viewOf } from "./parts.js";

/** @type {{ref: string, view: string} | null} */
let focused = null;
let listed = false;

/**
 * The part that the focus belongs to, in a view of the drawing.
 * @param {string} ref
 * @param {string} view
 */
export function focusBelongsTo(ref, view) {
  focused = { ref, view };
}

/**
 * The part that the focus is on, in the drawing or in the list.
 * @param {Element} target
 * @param {string} ref
 */
export function remember(target, ref) {
  listed = chipOf(target) !== null;
  focusBelongsTo(ref, viewOf(target)?.dataset.view ?? "section");
}

document.addEventListener("focusin", (event) => {
  if (!refOf(targetOf(event))) focused = null;
});

/** A part that had the focus has it again when the drawing has been replaced. */
export function refocus() {
  if (!focused || (document.activeElement && document.activeElement !== document.body)) return;
  const ref = CSS.escape(focused.ref);
  const within = listed ? `[data-chip="${ref}"]` : `#drawing [data-view="${focused.view}"] [data-part="${ref}"]`;
  /** @type {HTMLElement | SVGElement | null} */ (document.querySelector(within))?.focus();
}

const CHANGES_THE_LIST = /\/do\/(remove|copy)\//;
/** @type {string[]} */
let opened = [];
let held = "";
let toTheList = false;

onHtmx("beforeSwap", ({ target, pathInfo, xhr }) => {
  opened = [...target.querySelectorAll("details[id][open]")].map((one) => one.id);
  held = document.activeElement?.id ?? "";
  if (target.id !== "bench") return;
  toTheList = CHANGES_THE_LIST.test(pathInfo.requestPath) && xhr.status === 200;
});

/** Open again what was open. */
export function reopen() {
  for (const id of opened) {
    const one = byId(id);
    if (one instanceof HTMLDetailsElement) one.open = true;
  }
  // What was in there had the focus while it was shut.
  if (held && document.activeElement === document.body) byId(held)?.focus();
}

/** After a copy or a removal the focus is on what is shown in the list, else on the part that had it. */
export function restoreFocus() {
  const chip = /** @type {HTMLElement | null} */ (document.querySelector(".chips .shown"));
  if (toTheList) (chip ?? byId("add-what"))?.focus();
  else refocus();
}

/**
 * What was refused is opened, and gone to; a hand that writes elsewhere by now is not torn away.
 * @param {boolean} isWriting
 */
export function showFault(isWriting) {
  const field = /** @type {HTMLElement | null} */ (document.querySelector("#bench [aria-invalid=true]"));
  const fault = field ?? document.querySelector("#bench .fault");
  for (let around = fault?.closest("details"); around; around = around.parentElement?.closest("details"))
    around.open = true;
  if (!isWriting) field?.focus();
}
