// What is still on its way when the page is left is sent at once, and by itself; the next page may have been asked for
// before it came, and then shows what is no more: it looks, and shows the bench again.
import { ask, numbered } from "./line.js";
import { at, byId, frame, query } from "./page.js";

const MARK = "sent-when-left";
const LOOKS_MS = [300, 1500, 5000];

/**
 * Send edits aside of the line, all at once, for a page that is left does not come back to the second. Their numbers say
 * which was first.
 * @param {import("./line.js").Asked[]} edits
 */
export async function sendAside(edits) {
  if (!edits.length) return;
  sessionStorage.setItem(MARK, frame().dataset.path ?? "");
  const came = await Promise.all(edits.map(send));
  if (came.every(Boolean)) sessionStorage.removeItem(MARK);
}

/**
 * Whether an answer came.
 * @param {import("./line.js").Asked} edit
 */
async function send({ url, values }) {
  const body = new URLSearchParams(values);
  const headers = { ...numbered(), "Mitten-Revision": frame().dataset.revision ?? "" };
  try {
    await (await fetch(url, { method: "POST", body, headers, keepalive: true })).text();
    return true;
  } catch {
    // The page is being left, or the server has gone, which whatever is asked for next will say.
    return false;
  }
}

/** Show the bench again where another state is in force than the one that is shown. */
async function look() {
  const answer = await fetch(at("revision")).catch(() => null);
  if (!answer?.ok || !byId("frame")) return;
  const { revision } = await answer.json();
  if (String(revision) !== frame().dataset.revision) ask("GET", frame().dataset.path + query());
}

if (sessionStorage.getItem(MARK) === frame()?.dataset.path) {
  for (const ms of LOOKS_MS) setTimeout(look, ms);
}
sessionStorage.removeItem(MARK);
