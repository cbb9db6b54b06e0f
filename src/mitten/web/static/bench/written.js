// What was written while an answer was on its way outlives the page that the answer replaces: each field that was
// written in, until its own form has been answered with what it holds.
import { onHtmx, pathOf, targetOf } from "./page.js";

/** @typedef {HTMLInputElement | HTMLSelectElement} Field */
/**
 * A field that is to be written again.
 * @typedef {object} Unanswered
 * @property {string} path of its form
 * @property {string | null} formId
 * @property {string} name
 * @property {string | boolean} state
 * @property {[number | null, number | null] | null} caret where the hand was in it
 */

const FIELDS = "#bench form[hx-post] :is(input:not([type=range]), select)";
/** @type {WeakSet<Element>} */
const written = new WeakSet();
const neverSent = new WeakSet();
/** @type {Unanswered[]} */
let unanswered = [];

/** Whether the hand was in a field that was written again. */
export const isWriting = () => unanswered.some(({ caret }) => caret !== null);

/** @param {Field} field */
const formPath = (field) => pathOf(/** @type {HTMLFormElement} */ (field.form).action);

/** @param {Field} field */
const isTicked = (field) => (field instanceof HTMLInputElement && field.type === "checkbox" ? field.checked : null);

/**
 * Whether a form was sent with what a field of it holds.
 * @param {Field} field
 * @param {{verb: string, path: string, formData: FormData}} request
 */
function isAnswered(field, { verb, path, formData }) {
  if (verb !== "post" || pathOf(path) !== formPath(field)) return false;
  return formData.getAll(field.name).includes(field.value) === (isTicked(field) ?? true);
}

/** @param {Element} field */
export const noteWritten = (field) => written.add(field);

document.addEventListener("input", (event) => {
  const target = targetOf(event);
  if (target?.matches(FIELDS)) noteWritten(target);
});

onHtmx("beforeSwap", ({ target, requestConfig }) => {
  if (target.id !== "bench") return;
  const fields = /** @type {Field[]} */ ([...target.querySelectorAll("input, select")]).filter((one) => written.has(one));
  for (const field of fields) if (isAnswered(field, requestConfig)) written.delete(field);
  unanswered = fields.filter((field) => written.has(field)).map((field) => ({
    path: formPath(field),
    // A part that was given another name has another address.
    formId: pathOf(requestConfig.path) === formPath(field) ? field.form?.id || null : null,
    name: field.name,
    state: isTicked(field) ?? field.value,
    caret: field === document.activeElement ? caretOf(field) : null,
  }));
});

/** @param {Field} field @returns {[number | null, number | null]} */
const caretOf = (field) => (field instanceof HTMLInputElement ? [field.selectionStart, field.selectionEnd] : [null, null]);

/** Write again what was not answered. */
export function restoreWritten() {
  for (const one of unanswered) {
    const field = fieldOf(one);
    if (field) rewrite(field, one);
  }
}

/** @param {Unanswered} one */
function fieldOf({ path, formId, name }) {
  const forms = /** @type {HTMLFormElement[]} */ ([...document.querySelectorAll("#bench form[hx-post]")]);
  const alike = forms.filter((form) => form.id === formId || pathOf(form.action) === path);
  return /** @type {Field | undefined} */ (
    alike.map((form) => form.elements.namedItem(name)).find((found) => found instanceof HTMLElement)
  );
}

/**
 * @param {Field} field
 * @param {Unanswered} as
 */
function rewrite(field, { state, caret }) {
  if (typeof state === "string") field.value = state;
  else /** @type {HTMLInputElement} */ (field).checked = state;
  written.add(field);
  if (!caret) return;
  neverSent.add(field);
  field.focus();
  if (caret[0] !== null && field instanceof HTMLInputElement) field.setSelectionRange(...caret);
}

// The browser tells of a change by the hand alone, and not of what was put back here.
document.addEventListener("change", (event) => { if (event.target) neverSent.delete(event.target); });
document.addEventListener("focusout", (event) => {
  if (event.target && neverSent.delete(event.target)) event.target.dispatchEvent(new Event("change", { bubbles: true }));
});
