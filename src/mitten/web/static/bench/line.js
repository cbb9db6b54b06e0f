// Everything that is sent for the bench goes one after the other: what is asked for while an answer is on its way would
// be given up with the page that it replaces.
import { beginAnew } from "./notices.js";
import { byId, onHtmx } from "./page.js";

/** @returns {{ajax: (verb: string, url: string, how: object) => Promise<unknown>}} */
const htmx = () => /** @type {any} */ (window).htmx;

/** @typedef {{verb: string, url: string, values?: Record<string, string>}} Asked */
/** @type {Promise<unknown>} */
let line = Promise.resolve();
/** What is in line and was not sent yet.
 * @type {Asked[]} */
const waiting = [];

/** Take the edits that wait out of the line: whoever takes them sends them. */
export const takeWaiting = () => waiting.splice(0).filter(({ verb }) => verb === "POST");

/** When everything that is in line by now has been answered. */
export const afterLine = () => line;

/**
 * Ask for the bench anew, after all that is in line.
 * @param {string} verb
 * @param {string} url
 * @param {Record<string, string>} [values]
 */
export function ask(verb, url, values) {
  const asked = { verb, url, values };
  waiting.push(asked);
  const mine = line.then(() => {
    const place = waiting.indexOf(asked);
    if (place < 0) return null;
    waiting.splice(place, 1);
    if (byId("bench")) return htmx().ajax(verb, url, { source: "#frame", target: "#bench", swap: "innerHTML", values });
    beginAnew();
    return null;
  });
  line = mine.catch(() => {});
  return mine;
}

// Of two quick edits the first may reach the server after the second, which holds all that the first did: each edit
// says which page it comes from and its number there, so that one that was overtaken changes nothing.
const page = crypto.randomUUID();
let edits = 0;

export const numbered = () => ({ "Mitten-Edit": `${page} ${++edits}` });

onHtmx("configRequest", ({ verb, headers }) => {
  if (verb === "post") Object.assign(headers, numbered());
});
