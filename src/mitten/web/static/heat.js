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

// A source is dragged on the section: its form follows in whole centimetres, and is sent when it is let go.
const FIELDS = { x: "x_cm", y: "height_cm" };
let drag = null;

function selected() {
  return document.querySelector("form.part[data-preview]");
}

function slide(form, key, value) {
  const field = form.elements[key];
  const slider = form.querySelector(`[data-for="${field?.id}"]`);
  if (!field || !slider) return;
  slider.value = Math.round(value);
  field.value = slider.value;
}

document.addEventListener("pointerdown", (event) => {
  const name = event.target.closest?.("#drawing [data-part]")?.dataset.part;
  if (name === undefined) return;
  event.preventDefault();
  const form = selected();
  if (form?.dataset.part !== name) {
    document.querySelector(`[data-chip="${CSS.escape(name)}"]`)?.click();
    return;
  }
  const sheet = document.querySelector("#drawing svg");
  const perCm = Number(sheet.dataset.perCm) * sheet.clientWidth / sheet.viewBox.baseVal.width;
  const from = Object.fromEntries(Object.values(FIELDS).map((key) => [key, Number(form.elements[key]?.value)]));
  drag = { form, perCm, from, x: event.clientX, y: event.clientY, moved: false };
});

document.addEventListener("pointermove", (event) => {
  if (!drag) return;
  drag.moved = true;
  slide(drag.form, FIELDS.x, drag.from[FIELDS.x] + (event.clientX - drag.x) / drag.perCm);
  slide(drag.form, FIELDS.y, drag.from[FIELDS.y] - (event.clientY - drag.y) / drag.perCm);
  preview(drag.form);
});

document.addEventListener("pointerup", () => {
  if (drag?.moved) drag.form.dispatchEvent(new Event("change", { bubbles: true }));
  drag = null;
});

// [ and ] step the wattage through what is sold, wherever nothing is being typed.
document.addEventListener("keydown", (event) => {
  const step = { "[": -1, "]": 1 }[event.key];
  const watts = selected()?.elements.watts;
  if (!step || !watts || event.target.matches("input, select, textarea")) return;
  const next = watts.selectedIndex + step;
  if (next < 0 || next >= watts.options.length) return;
  watts.selectedIndex = next;
  watts.dispatchEvent(new Event("change", { bubbles: true }));
});

// Of two quick edits the first may reach the server after the second, which holds all that the first did: each edit
// says which page it comes from and its number there, so that one that was overtaken changes nothing.
const page = crypto.randomUUID();
let edits = 0;

document.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.verb === "post") event.detail.headers["Mitten-Edit"] = `${page} ${++edits}`;
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
