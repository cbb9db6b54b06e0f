// What the page says of itself: that something was not stored, that it is loaded again, and each new verdict.
import { byId, onHtmx } from "./page.js";

/**
 * A change that could not be made must never look as if it had been.
 * @param {string} sentence
 */
export function say(sentence) {
  const notice = byId("notice");
  if (!notice) return;
  notice.textContent = sentence;
  notice.hidden = !sentence;
}

/** Where the page has no place for an answer, or may be out of date. */
export function beginAnew() {
  say("This page is not up to date any more: it is loaded again.");
  setTimeout(() => location.reload(), 600);
}

onHtmx("responseError", ({ xhr }) => {
  const answer = new DOMParser().parseFromString(xhr.responseText, "text/html");
  say(answer.querySelector("main h1")?.textContent
    ?? "That could not be computed, and nothing was stored. Reload the page to see what is.");
});
onHtmx("sendError", () => say("Mitten does not answer; nothing was stored. Is it still running?"));
onHtmx("targetError", beginAnew);
onHtmx("beforeSwap", ({ target }) => {
  if (!document.body.contains(target)) beginAnew();
});
// A page that a browser shows again as it was left may have been overtaken meanwhile.
window.addEventListener("pageshow", (event) => { if (event.persisted) location.reload(); });

let verdict = byId("headline")?.textContent ?? "";

/** Read out a new verdict once, by the one place that stays when everything else is replaced. */
export function speak() {
  const now = byId("headline")?.textContent ?? verdict;
  const spoken = byId("spoken");
  if (now !== verdict && spoken) spoken.textContent = now;
  verdict = now;
}
