// While a slider moves, its number follows and the drawing with it; nothing is stored until it is released.
// One request is in flight at a time, and only the latest waiting one follows it.
let busy = false;
let waiting = null;

async function preview(form) {
  if (busy) {
    waiting = form;
    return;
  }
  busy = true;
  try {
    const answer = await fetch(form.dataset.preview, { method: "POST", body: new URLSearchParams(new FormData(form)) });
    const drawing = document.getElementById("drawing");
    if (answer.ok && drawing && form.isConnected) drawing.innerHTML = await answer.text();
  } finally {
    busy = false;
    const next = waiting;
    waiting = null;
    if (next && next.isConnected) preview(next);
  }
}

document.addEventListener("input", (event) => {
  const slider = event.target;
  if (slider.type !== "range" || !slider.dataset.for) return;
  document.getElementById(slider.dataset.for).value = slider.value;
  preview(slider.form);
});

// A change that could not be made must never look as if it had been.
function say(sentence) {
  const notice = document.getElementById("notice");
  notice.textContent = sentence;
  notice.hidden = !sentence;
}

document.addEventListener("htmx:responseError", () =>
  say("That could not be computed, and nothing was stored. Reload the page to see what is."));
document.addEventListener("htmx:sendError", () =>
  say("Mitten does not answer; nothing was stored. Is it still running?"));
document.addEventListener("htmx:afterSwap", () => say(""));
