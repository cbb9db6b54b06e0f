// The bench: parts follow the pointer and the arrow keys with fresh figures, and are stored when they are let go.
const frame = () => document.getElementById("frame");
const drawing = () => document.getElementById("drawing");
const at = (path) => `${frame().dataset.path}/${path}`;
// Whole, slashes too: a name must never lead elsewhere.
const encoded = encodeURIComponent;

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
    const text = await answer.text();
    // A picture that comes after the stored state was drawn is of yesterday.
    if (answer.ok && drawing() && swaps === before) drawing().innerHTML = text;
  } finally {
    busy = false;
    const next = waiting;
    waiting = null;
    if (next) preview(...next);
  }
}

const previewPart = (ref, place) => preview(at(`preview/${encoded(ref)}`) + frame().dataset.query, place);

// Everything that is sent for the bench, one after the other: what is asked for while an answer is on its way would be
// given up with the page that it replaces. Where the page has no place for the answer, it says so and begins anew.
let line = Promise.resolve();

function ask(verb, url, values) {
  const mine = line.then(() => {
    if (document.getElementById("bench"))
      return htmx.ajax(verb, url, { source: "#frame", target: "#bench", swap: "innerHTML", values });
    beginAnew();
    return null;
  });
  line = mine.catch(() => {});
  return mine;
}

function beginAnew() {
  say("This page is not up to date any more: it is loaded again.");
  setTimeout(() => location.reload(), 600);
}

// What is shown comes first, from the full grid; every other condition follows with what is stored.
function store(ref, place) {
  waiting = null;
  previewPart(ref, { ...place, full: "yes" });
  return ask("POST", at(`move/${encoded(ref)}`) + frame().dataset.query, place);
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
    x: event.clientX, y: event.clientY, place: null, before: drawing().innerHTML,
  };
});

// A drag that is given up leaves everything as it was.
function putBack() {
  const { before, ref, from } = drag;
  drag = null;
  waiting = null;
  swaps += 1;
  drawing().innerHTML = before;
  follow(ref, { x_m: from.x, y_m: from.y, z_m: from.z });
  focused = { ref, view: "section" };
  refocus();
}

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
document.addEventListener("pointercancel", () => { if (drag) putBack(); });

function choose(ref) {
  document.querySelector(`[data-chip="${CSS.escape(ref)}"]:not(.shown)`)?.click();
}

// Keys act on the part that has the focus, in the drawing or in the list of parts, and on nothing else. Arrow presses
// are added up, and stored together when the hand rests.
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
const ACTS = { d: "copy", o: "align", delete: "remove" };
const POWER = { "[": -1, "]": 1 };
const REST_MS = 450;
let steps = null;
let sent = null;
let focused = null;
let listed = false;

const writes = (target) => target.matches("input:not([type=range]):not([type=checkbox]), textarea");
const hasKeys = (target) => target.matches("input, select, textarea") || target.closest("details.menu[open]") !== null;
const onChip = (target) => target.closest?.("[data-chip]");

function focusedRef(target) {
  return target.closest?.("#drawing [data-part]")?.dataset.part ?? onChip(target)?.dataset.chip ?? null;
}

function drawn(target) {
  const part = target.closest?.("#drawing [data-part]");
  const chip = onChip(target);
  return part ?? (chip ? drawing()?.querySelector(`[data-part="${CSS.escape(chip.dataset.chip)}"]`) : null);
}

// From where the part is on its way to, whatever the drawing shows by now.
function step(part, [across, up], size) {
  const view = part.closest("[data-view]").dataset.view;
  const ref = part.dataset.part;
  const axis = upAxis(view);
  const same = steps?.ref === ref;
  if (steps && !same) flush();
  const from = same ? steps.place : sent?.ref === ref ? sent.place : placeOf(part);
  const place = { ...from, x: from.x + across * size, [axis]: from[axis] + up * size };
  const axes = same ? new Set([...steps.axes, "x", axis]) : new Set(["x", axis]);
  clearTimeout(steps?.timer);
  steps = { ref, place, axes, timer: setTimeout(flush, REST_MS) };
  follow(ref, named(place, [...axes]));
  previewPart(ref, named(place, [...axes])).then(refocus);
}

function flush() {
  if (!steps) return;
  clearTimeout(steps.timer);
  const mine = { ref: steps.ref, place: steps.place };
  const place = named(steps.place, [...steps.axes]);
  [sent, steps] = [mine, null];
  store(mine.ref, place).finally(() => { if (sent === mine) sent = null; });
}

// What is still on its way is stored before anything else is asked for, and when the page is left.
function storeAside() {
  clearTimeout(steps.timer);
  const url = at(`move/${encoded(steps.ref)}`) + frame().dataset.query;
  const body = new URLSearchParams(named(steps.place, [...steps.axes]));
  const headers = { "Mitten-Edit": `${page} ${++edits}`, "Mitten-Revision": frame().dataset.revision };
  steps = null;
  return fetch(url, { method: "POST", body, headers, keepalive: true }).then((answer) => answer.text()).catch(() => {});
}

window.addEventListener("pagehide", () => { if (steps) storeAside(); });

// After what is in line already, which is older; what is in line is itself not held up by what came after it. What does
// not show the whole bench again leaves the presses to their own time: the page would not show what was stored.
document.addEventListener("htmx:confirm", (event) => {
  const { path, verb, elt, target, issueRequest } = event.detail;
  if (!steps || path.includes("/move/") || target?.id !== "bench") return;
  event.preventDefault();
  line.then(() => (steps ? storeAside() : null)).then(() => {
    if (document.body.contains(elt)) issueRequest();
    else if (verb === "get") location.assign(path);
    else beginAnew();
  });
});

document.addEventListener("keydown", (event) => {
  if (!frame() || event.altKey) return;
  if (event.ctrlKey || event.metaKey) {
    takeBack(event);
    return;
  }
  const ref = focusedRef(event.target);
  if (ARROWS[event.key] && ref) {
    const part = drawn(event.target);
    if (!part) return;
    event.preventDefault();
    remember(event.target, ref);
    step(part, ARROWS[event.key], event.shiftKey ? 0.05 : 0.01);
  } else if (event.key === "Enter" || event.key === " ") {
    if (!event.target.closest?.("#drawing [data-part]")) return;
    event.preventDefault();
    remember(event.target, ref);
    choose(ref);
  } else if (ref && (event.key === "Delete" || lettersCount()) && (ACTS[event.key.toLowerCase()] || POWER[event.key])) {
    event.preventDefault();
    remember(event.target, ref);
    act(ref, event.key);
  } else if (!hasKeys(event.target) && lettersCount()) {
    pressed(event.key, event);
  }
});

function remember(target, ref) {
  listed = Boolean(onChip(target));
  focused = { ref, view: target.closest?.("[data-view]")?.dataset.view ?? "section" };
}

// Undo and redo as everywhere; within a field they are the field's own.
function takeBack(event) {
  if (event.key.toLowerCase() !== "z" || writes(event.target)) return;
  const button = document.getElementById(event.shiftKey ? "redo" : "undo");
  if (!button || button.disabled) return;
  event.preventDefault();
  button.click();
}

function act(ref, key) {
  if (POWER[key]) {
    powered(ref, POWER[key]);
    return;
  }
  const deed = ACTS[key.toLowerCase()];
  ask("POST", at(`do/${deed}/${encoded(ref)}`) + frame().dataset.query, {});
}

// A part has its power in its form: one whose form is not shown is chosen first.
function powered(ref, by) {
  if (document.getElementById("part-form")?.dataset.part === ref) {
    stepWatts(by);
    return;
  }
  document.addEventListener("htmx:afterSettle", () => {
    if (document.getElementById("part-form")?.dataset.part === ref) stepWatts(by);
  }, { once: true });
  choose(ref);
}

// Keys of one letter can be switched off, for those who speak to their machine or hit keys unawares.
const LETTERS = "letters-are-commands";
const lettersCount = () => localStorage.getItem(LETTERS) !== "no";

function showLetters() {
  const box = document.getElementById("letters");
  if (box) box.checked = lettersCount();
}

document.addEventListener("change", (event) => {
  if (event.target.id === "letters") localStorage.setItem(LETTERS, event.target.checked ? "yes" : "no");
});
showLetters();

// What has a key of its own says so in its markup; a list is gone to, everything else is done.
function pressed(key, event) {
  const meant = document.querySelector(`[aria-keyshortcuts="${CSS.escape(key.length === 1 ? key.toUpperCase() : key)}"]`);
  if (!meant || meant.closest(".acts")) return;
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
  if (listed) {
    document.querySelector(`[data-chip="${CSS.escape(focused.ref)}"]`)?.focus();
    return;
  }
  const view = drawing()?.querySelector(`[data-view="${focused.view}"]`);
  view?.querySelector(`[data-part="${CSS.escape(focused.ref)}"]`)?.focus();
}

document.addEventListener("focusin", (event) => {
  if (!focusedRef(event.target)) focused = null;
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

// What the slider was last set to is asked for when the hand rests, and again if it moved on meanwhile.
const ROOM_REST_MS = 250;
let roomWanted = null;
let roomTimer = null;

document.addEventListener("change", (event) => {
  if (!event.target.closest?.("#room-form")) return;
  roomWanted = { condition: roomCondition(), shown: document.getElementById("room-c").value };
  clearTimeout(roomTimer);
  roomTimer = setTimeout(askForRoom, ROOM_REST_MS);
});

function askForRoom() {
  const mine = roomWanted;
  const query = new URLSearchParams(frame().dataset.query);
  query.set("condition", mine.condition);
  const url = `${frame().dataset.path}?${query}`;
  ask("GET", url).then(() => {
    if (roomWanted !== mine) return;
    roomWanted = null;
    history.replaceState(history.state, "", url);
  });
}

function keepRoom() {
  const slider = document.getElementById("room-c");
  if (slider && roomWanted) slider.value = roomWanted.shown;
}

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

// While a menu is open, what lies under it can be neither hit nor gone to.
function shade() {
  const open = document.querySelector("details.menu[open]");
  for (const one of document.querySelectorAll(".tabs, .sheet-columns, .two-columns, #margin"))
    one.inert = open !== null && !one.contains(open);
}

// A menu tells nobody but itself that it was opened or shut.
document.addEventListener("toggle", shade, true);

// Menus close when the hand goes elsewhere.
document.addEventListener("click", (event) => {
  for (const menu of document.querySelectorAll("details.menu[open]"))
    if (!menu.contains(event.target)) menu.open = false;
});

document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  if (drag) {
    putBack();
    return;
  }
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

document.addEventListener("htmx:responseError", (event) => {
  const answer = new DOMParser().parseFromString(event.detail.xhr.responseText, "text/html");
  say(answer.querySelector("main h1")?.textContent
    ?? "That could not be computed, and nothing was stored. Reload the page to see what is.");
});
document.addEventListener("htmx:sendError", () =>
  say("Mitten does not answer; nothing was stored. Is it still running?"));
document.addEventListener("htmx:targetError", beginAnew);
document.addEventListener("htmx:beforeSwap", (event) => {
  if (!document.body.contains(event.detail.target)) beginAnew();
});
// A page that a browser shows again as it was left may have been overtaken meanwhile.
window.addEventListener("pageshow", (event) => { if (event.persisted) location.reload(); });

// What was open stays open; after a copy or a removal the focus is on what is shown in the list.
const CHANGES_THE_LIST = /\/do\/(remove|copy)\//;
let opened = [];
let held = "";
let toTheList = false;

document.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.target.id !== "bench") return;
  opened = [...document.querySelectorAll("#bench details[id][open]")].map((one) => one.id);
  held = document.activeElement?.id ?? "";
  toTheList = CHANGES_THE_LIST.test(event.detail.pathInfo.requestPath) && event.detail.xhr.status === 200;
});

function reopen() {
  for (const id of opened) {
    const one = document.getElementById(id);
    if (one) one.open = true;
  }
  // What was in there had the focus while it was shut.
  if (held && document.activeElement === document.body) document.getElementById(held)?.focus();
}

// Each new verdict is read out once, by the one place that stays when everything else is replaced.
let verdict = document.getElementById("headline")?.textContent ?? "";

function speak() {
  const now = document.getElementById("headline")?.textContent ?? verdict;
  if (now !== verdict) document.getElementById("spoken").textContent = now;
  verdict = now;
}

// What was refused is opened, gone to and read out.
function showFault() {
  const field = document.querySelector("#bench [aria-invalid=true]");
  const said = document.querySelector("#bench .fault");
  for (let at = (field ?? said)?.closest("details"); at; at = at.parentElement.closest("details")) at.open = true;
  field?.focus();
}

document.addEventListener("htmx:afterSwap", (event) => {
  say("");
  speak();
  if (event.detail.target.id !== "bench") return;
  swaps += 1;
  reopen();
  keepRoom();
  if (toTheList) (document.querySelector(".chips .shown") ?? document.getElementById("add-what"))?.focus();
  else refocus();
  if (event.detail.xhr.status === 422) showFault();
  if (steps) previewPart(steps.ref, named(steps.place, [...steps.axes]));
});
