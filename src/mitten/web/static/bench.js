// The bench: parts follow the pointer and the arrow keys with fresh figures, and are stored when they are let go.
const frame = () => document.getElementById("frame");
const drawing = () => document.getElementById("drawing");
const at = (path) => `${frame().dataset.path}/${path}`;
const encoded = (ref) => ref.split("/").map(encodeURIComponent).join("/");

// One preview is in flight at a time, and only the latest waiting one follows it.
let busy = false;
let waiting = null;
let swaps = 0;

async function preview(url, body) {
  if (busy) {
    waiting = [url, body];
    return;
  }
  busy = true;
  const before = swaps;
  try {
    const answer = await fetch(url, body ? { method: "POST", body: new URLSearchParams(body) } : {});
    const text = answer.ok ? await answer.text() : "";
    // A picture that comes after the stored state was drawn is of yesterday.
    if (text && drawing() && swaps === before) drawing().innerHTML = text;
  } finally {
    busy = false;
    const next = waiting;
    waiting = null;
    if (next) preview(...next);
  }
}

const previewPart = (ref, place) => preview(at(`preview/${encoded(ref)}`) + frame().dataset.query, place);

// What is shown comes first, from the full grid; every other condition follows with what is stored.
function store(ref, place) {
  waiting = null;
  previewPart(ref, { ...place, full: "yes" });
  htmx.ajax("POST", at(`move/${encoded(ref)}`) + frame().dataset.query, {
    source: "#frame", target: "#bench", swap: "innerHTML", values: place,
  });
}

// Where the pointer is on the sheet, in the drawing's own units, and which of its views that is.
function onSheet(event) {
  const sheet = drawing()?.querySelector("svg.heat-sheet");
  if (!sheet) return null;
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(sheet.getScreenCTM().inverse());
  for (const view of sheet.querySelectorAll("[data-view]")) {
    const { left, base, perM, length, height } = view.dataset;
    const x = (point.x - left) / perM;
    const up = (base - point.y) / perM;
    if (x >= 0 && x <= Number(length) && up >= 0 && up <= Number(height)) return { name: view.dataset.view, x, up, point };
  }
  return { name: "", point };
}

const upAxis = (view) => (view === "plan" ? "y" : "z");
const placeOf = (part) => ({ x: Number(part.dataset.x), y: Number(part.dataset.y), z: Number(part.dataset.z) });
const named = (place, axes) => Object.fromEntries(axes.map((axis) => [`${axis}_m`, place[axis].toFixed(4)]));

// What the pointer takes hold of: the chosen part, where it lies under others, else the uppermost.
function grasped(event) {
  const part = event.target.closest?.("#drawing [data-part]");
  const chosen = part?.closest("[data-view]").querySelector(".chosen");
  const box = chosen?.querySelector(".grasp").getBoundingClientRect();
  const within = box && event.clientX >= box.left && event.clientX <= box.right
    && event.clientY >= box.top && event.clientY <= box.bottom;
  return within ? chosen : part;
}

// Dragging.
let drag = null;

document.addEventListener("pointerdown", (event) => {
  const part = grasped(event);
  if (!part || event.button > 0) return;
  event.preventDefault();
  // The part itself is replaced by every preview: what stays is told to hold on to the pointer.
  if (event.isTrusted) drawing().setPointerCapture(event.pointerId);
  part.focus();
  const view = part.closest("[data-view]");
  const sheet = part.ownerSVGElement;
  const perM = Number(view.dataset.perM) * (sheet.getBoundingClientRect().width / sheet.viewBox.baseVal.width);
  drag = {
    ref: part.dataset.part, view: view.dataset.view, perM, from: placeOf(part),
    x: event.clientX, y: event.clientY, place: null,
  };
});

document.addEventListener("pointermove", (event) => {
  if (!drag) {
    readout(event);
    return;
  }
  const [across, up] = [(event.clientX - drag.x) / drag.perM, (drag.y - event.clientY) / drag.perM];
  if (!drag.place && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < 3) return;
  const axis = upAxis(drag.view);
  drag.place = named({ ...drag.from, x: drag.from.x + across, [axis]: drag.from[axis] + up }, ["x", axis]);
  hideReadout();
  follow(drag.ref, drag.place);
  previewPart(drag.ref, drag.place);
});

// The inspector's numbers follow their part.
function follow(ref, place) {
  const form = document.getElementById("part-form");
  if (form?.dataset.part !== ref) return;
  for (const slider of form.querySelectorAll("input[type=range]")) {
    const metres = place[slider.dataset.axis];
    if (metres === undefined) continue;
    slider.value = Math.round((metres - slider.dataset.ground) * 100);
    showNumber(slider);
  }
}

function showNumber(slider) {
  const shown = slider.value * slider.dataset.shownPerCm;
  document.getElementById(slider.dataset.for).value = String(Math.round(shown * 10) / 10);
}

// A finger on a part drags it and does not scroll the page.
document.addEventListener("touchstart", (event) => {
  if (event.target.closest?.("#drawing [data-part]")) event.preventDefault();
}, { passive: false });

function letGo() {
  if (!drag) return;
  const { ref, place, view } = drag;
  drag = null;
  focused = { ref, view };
  if (place) store(ref, place);
  else choose(ref);
}

document.addEventListener("pointerup", letGo);
document.addEventListener("pointercancel", () => { drag = null; });

function choose(ref) {
  document.querySelector(`[data-chip="${CSS.escape(ref)}"]:not(.shown)`)?.click();
}

// Keys: arrows move the focused part of the drawing, else the chosen one; they are stored when the hand rests.
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
const REST_MS = 450;
let steps = null;
let focused = null;

const typing = (target) => target.matches("input, select, textarea, summary, a, button");

function movedPart(target) {
  const part = target.closest?.("#drawing [data-part]");
  if (part) return part;
  if (typing(target)) return null;
  const ref = document.getElementById("part-form")?.dataset.part;
  return ref ? drawing()?.querySelector(`[data-part="${CSS.escape(ref)}"]`) : null;
}

function step(part, [across, up], size) {
  const view = part.closest("[data-view]").dataset.view;
  const ref = part.dataset.part;
  const axis = upAxis(view);
  const from = steps?.ref === ref ? steps.place : placeOf(part);
  const place = { ...from, x: from.x + across * size, [axis]: from[axis] + up * size };
  const axes = steps?.ref === ref ? new Set([...steps.axes, "x", axis]) : new Set(["x", axis]);
  clearTimeout(steps?.timer);
  const send = named(place, [...axes]);
  steps = { ref, place, axes, timer: setTimeout(() => { steps = null; store(ref, send); }, REST_MS) };
  focused = { ref, view };
  follow(ref, send);
  previewPart(ref, send).then(refocus);
}

document.addEventListener("keydown", (event) => {
  if (!frame() || event.ctrlKey || event.metaKey || event.altKey) return;
  const onPart = event.target.closest?.("#drawing [data-part]");
  if (ARROWS[event.key]) {
    const part = movedPart(event.target);
    if (!part) return;
    event.preventDefault();
    step(part, ARROWS[event.key], event.shiftKey ? 0.05 : 0.01);
  } else if (onPart && (event.key === "Enter" || event.key === " ")) {
    event.preventDefault();
    focused = { ref: onPart.dataset.part, view: onPart.closest("[data-view]").dataset.view };
    choose(onPart.dataset.part);
  } else if (!typing(event.target)) {
    act(event);
  }
});

function act(event) {
  const wattage = { "[": -1, "]": 1 }[event.key];
  if (wattage) stepWatts(wattage);
  else pressed(event.key, event);
}

// What has a key of its own says so in its markup; a list is gone to, everything else is done.
function pressed(key, event) {
  const meant = document.querySelector(`[aria-keyshortcuts="${CSS.escape(key.length === 1 ? key.toUpperCase() : key)}"]`);
  if (!meant) return;
  event.preventDefault();
  // Another sheet begins at its top, however far down the last one was read.
  if (meant.closest(".rail")) window.scrollTo(0, 0);
  if (meant.matches("select")) meant.focus();
  else meant.click();
}

function stepWatts(by) {
  const watts = document.querySelector("#part-form select[name=watts]");
  const next = (watts?.selectedIndex ?? -1) + by;
  if (!watts || next < 0 || next >= watts.options.length) return;
  watts.selectedIndex = next;
  watts.dispatchEvent(new Event("change", { bubbles: true }));
}

// A part that had the focus has it again when the drawing has been replaced.
function refocus() {
  if (!focused || (document.activeElement && document.activeElement !== document.body)) return;
  const view = drawing()?.querySelector(`[data-view="${focused.view}"]`);
  view?.querySelector(`[data-part="${CSS.escape(focused.ref)}"]`)?.focus();
}

document.addEventListener("focusin", (event) => {
  const part = event.target.closest?.("#drawing [data-part]");
  if (!part) focused = null;
});

// A slider's number follows it, and the drawing with both; its form is sent when it is let go.
document.addEventListener("input", (event) => {
  const slider = event.target;
  if (slider.id === "room-c") {
    previewRoom(slider);
    return;
  }
  if (slider.type !== "range" || !slider.dataset.for) return;
  showNumber(slider);
  const metres = slider.value / 100 + Number(slider.dataset.ground);
  if (drawing()?.querySelector(".heat-sheet")) previewPart(slider.form.dataset.part, { [slider.dataset.axis]: metres.toFixed(4) });
});

// The room by its own slider: a condition that is no season's.
const roomCondition = () =>
  `room=${document.getElementById("room-c").value},${document.getElementById("room-time").value}`;

function previewRoom(slider) {
  const us = slider.dataset.us === "yes";
  document.getElementById("room-out").textContent = us
    ? `${(slider.value * 1.8 + 32).toFixed(1)} °F` : `${Number(slider.value).toFixed(1)} °C`;
  preview(`${at("sketch")}?${new URLSearchParams({ condition: roomCondition() })}`, null);
}

document.addEventListener("change", (event) => {
  if (!event.target.closest?.("#room-form")) return;
  const query = new URLSearchParams(frame().dataset.query);
  query.set("condition", roomCondition());
  htmx.ajax("GET", `${frame().dataset.path}?${query}`, { source: "#frame", target: "#bench", swap: "innerHTML" });
});

// The readout under the pointer.
let asking = false;
let asked = null;

async function readout(event) {
  const spot = drawing() && event.target.closest?.("#drawing") ? onSheet(event) : null;
  if (!spot?.name) {
    hideReadout();
    return;
  }
  asked = { spot, x: event.clientX, y: event.clientY };
  if (asking) return;
  asking = true;
  while (asked) {
    const now = asked;
    asked = null;
    const query = new URLSearchParams(frame().dataset.query);
    query.set("x_m", now.spot.x.toFixed(3));
    query.set(now.spot.name === "plan" ? "y_m" : "z_m", now.spot.up.toFixed(3));
    try {
      const answer = await fetch(`${at("readout")}?${query}`);
      if (answer.ok && !drag) showReadout((await answer.json()).words, now);
    } catch {
      asked = null;
    }
  }
  asking = false;
}

function showReadout(words, { x, y }) {
  const box = document.getElementById("readout");
  if (!box || !words) return;
  box.textContent = words;
  box.classList.add("shown");
  const around = box.offsetParent.getBoundingClientRect();
  const left = Math.min(x - around.left + 14, around.width - box.offsetWidth - 4);
  box.style.left = `${Math.max(left, 0)}px`;
  box.style.top = `${y - around.top + 16}px`;
}

function hideReadout() {
  asked = null;
  document.getElementById("readout")?.classList.remove("shown");
}

// Menus close when the hand goes elsewhere.
document.addEventListener("click", (event) => {
  for (const menu of document.querySelectorAll("details.menu[open]"))
    if (!menu.contains(event.target)) menu.open = false;
});

document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  const open = document.querySelectorAll("details.menu[open]");
  for (const menu of open) {
    menu.open = false;
    menu.querySelector("summary").focus();
  }
  // Out of a field, so that keys are commands again.
  if (!open.length) document.activeElement?.blur();
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
document.addEventListener("htmx:afterSwap", (event) => {
  say("");
  if (event.detail.target.id !== "bench") return;
  swaps += 1;
  refocus();
});
