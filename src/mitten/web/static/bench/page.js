// The page that is worked on: what is on it, and the addresses of what it asks for.

/** @param {string} id */
export const byId = (id) => document.getElementById(id);
export const drawing = () => byId("drawing");

/** What says which enclosure is shown, and how; only what is called from the bench may ask for it. */
export const frame = () => /** @type {HTMLElement} */ (byId("frame"));
export const query = () => frame().dataset.query ?? "";

/** @param {string} path */
export const at = (path) => `${frame().dataset.path}/${path}`;
// Whole, slashes too: a name must never lead elsewhere.
export const encoded = encodeURIComponent;

/** @param {string} address */
export const pathOf = (address) => new URL(address, location.href).pathname;

/**
 * What an event is about.
 * @param {Event} event
 */
export const targetOf = (event) => (event.target instanceof HTMLElement || event.target instanceof SVGElement ? event.target : null);

/**
 * Listen to one of htmx's events; the listener is given its detail.
 * @param {string} name
 * @param {(detail: any, event: Event) => void} listener
 */
export function onHtmx(name, listener) {
  document.addEventListener(`htmx:${name}`, (event) => listener(/** @type {CustomEvent} */ (event).detail, event));
}
