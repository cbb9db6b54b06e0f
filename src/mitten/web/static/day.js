// The course of a day: its chart, and the box drawn at the minute that is pointed at.
// @ts-types="./vendor/uplot/uPlot.d.ts"
import uPlot from "./vendor/uplot/uPlot.esm.js";
import { byId, onHtmx } from "./bench/page.js";

/** @typedef {{key: string, label: string, shown: boolean, axis: "degrees" | "watts" | "percent", values: number[]}} Line */
/** @typedef {{label: string, low: number, high: number}} Stripe */
/** @typedef {{minutes: number[], unit: string, lines: Line[], stripes: Stripe[], dark: number[][]}} Course */

const COLOURS = ["#b3261e", "#7a4b00", "#8d5fa8", "#c2571a", "#1f6f54", "#2a5f9e", "#5b6770", "#9a3b6f", "#4f6d1d", "#6b4fa0"];
/** What is no part of the box has the ink's colour and a dash of its own. */
const APART = { room: [2, 4], body: [9, 4] };
const ANEW = [5, 3];
const OF_AXIS = { degrees: "#1f2b2e", watts: "#5b6770", percent: "#2a6f8f" };
const STRIPES = ["rgb(201 122 43 / 16%)", "rgb(64 130 170 / 14%)"];
const DAY_MIN = 1440;
const LETTERS = "12px 'Atkinson Hyperlegible Next', sans-serif";
const SETTLE_MS = 90;

/** @param {number} minute */
const clock = (minute) => {
  const whole = ((Math.round(minute) % DAY_MIN) + DAY_MIN) % DAY_MIN;
  return `${String(Math.floor(whole / 60)).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
};

/** Every line's colour and dash, no two of them alike: once the colours are through they come again, dashed.
 * @param {Line[]} lines
 * @returns {{stroke: string, dash: number[] | undefined}[]}
 */
function looksOf(lines) {
  let coloured = 0;
  return lines.map((line) => {
    if (line.axis !== "degrees") return { stroke: OF_AXIS[line.axis], dash: undefined };
    if (line.key in APART) return { stroke: OF_AXIS.degrees, dash: APART[/** @type {keyof typeof APART} */ (line.key)] };
    const number = coloured++;
    return { stroke: COLOURS[number % COLOURS.length], dash: number < COLOURS.length ? undefined : ANEW };
  });
}

/** Night and what is wanted lie behind the lines.
 * @param {uPlot} plot
 * @param {Course} course
 * @param {boolean} withStripes
 */
function paintBehind(plot, course, withStripes) {
  const { ctx, bbox } = plot;
  ctx.save();
  ctx.fillStyle = "rgb(40 52 70 / 9%)";
  for (const [from, to] of course.dark) {
    const [left, right] = [plot.valToPos(from, "x", true), plot.valToPos(to, "x", true)];
    ctx.fillRect(left, bbox.top, right - left, bbox.height);
  }
  if (withStripes) {
    course.stripes.forEach((stripe, number) => {
      const [top, bottom] = [plot.valToPos(stripe.high, "y", true), plot.valToPos(stripe.low, "y", true)];
      const [high, low] = [Math.max(top, bbox.top), Math.min(bottom, bbox.top + bbox.height)];
      if (low <= high) return;
      ctx.fillStyle = STRIPES[number];
      ctx.fillRect(bbox.left, high, bbox.width, low - high);
      ctx.fillStyle = "#43505c";
      // What the axes were last written with is still set when a line is shown or hidden.
      [ctx.textAlign, ctx.textBaseline] = ["left", "alphabetic"];
      ctx.font = `${11.5 * devicePixelRatio}px 'Atkinson Hyperlegible Next', sans-serif`;
      ctx.fillText(stripe.label, bbox.left + 6 * devicePixelRatio, high + 13 * devicePixelRatio);
    });
  }
  ctx.restore();
}

/**
 * @param {HTMLElement} place
 * @param {Course} course
 * @param {Line[]} lines
 * @param {string} unit
 * @param {number} height
 * @param {(minute: number) => void} onMinute
 */
function plotOf(place, course, lines, unit, height, onMinute) {
  const withStripes = lines[0].axis === "degrees";
  const looks = looksOf(lines);
  const options = {
    width: Math.max(place.clientWidth, 280), height,
    cursor: { sync: { key: "course" }, drag: { x: false, y: false } },
    scales: { x: { time: false }, ...(withStripes ? {} : { y: { range: (/** @type {uPlot} */ _plot, /** @type {number} */ _low, /** @type {number} */ high) => [0, Math.max(high * 1.15, 10)] } }) },
    legend: { show: false },
    axes: [
      { values: (/** @type {uPlot} */ _plot, /** @type {number[]} */ at) => at.map(clock), incrs: [60, 120, 180, 240], space: 60, font: LETTERS },
      { label: unit, size: 54, font: LETTERS, labelFont: LETTERS, space: withStripes ? 30 : 18 },
    ],
    series: [
      { label: "Time", value: (/** @type {uPlot} */ _plot, /** @type {number | null} */ at) => (at === null ? "" : clock(at)) },
      ...lines.map((line, number) => ({
        label: line.label, show: line.shown, ...looks[number],
        width: 1.75, points: { show: false }, fill: line.axis === "watts" ? "rgb(91 103 112 / 14%)" : undefined,
      })),
    ],
    hooks: {
      setCursor: [(/** @type {uPlot} */ plot) => tell(plot, lines)],
      drawClear: [(/** @type {uPlot} */ plot) => paintBehind(plot, course, withStripes)],
      ready: [(/** @type {uPlot} */ plot) => plot.over.addEventListener("click", () => {
        const at = plot.cursor.idx;
        if (at !== null && at !== undefined) onMinute(course.minutes[at]);
      })],
    },
  };
  return new uPlot(/** @type {any} */ (options), /** @type {any} */ ([course.minutes, ...lines.map((line) => line.values)]), place);
}

/** What the lines are under the pointer is told on their buttons.
 * @param {uPlot} plot
 * @param {Line[]} lines
 */
function tell(plot, lines) {
  const at = plot.cursor.idx;
  for (const line of lines) {
    const said = plot.root.parentElement?.parentElement?.querySelector(`[data-line="${line.key}"] output`);
    if (said) said.textContent = at === null || at === undefined ? "" : line.values[at].toFixed(1);
  }
}

/** The lines' names are buttons that show and hide them.
 * @param {HTMLElement} place
 * @param {uPlot} plot
 * @param {Line[]} lines
 */
function nameLines(place, plot, lines) {
  const looks = looksOf(lines);
  lines.forEach((line, number) => {
    const { stroke, dash } = looks[number];
    const button = document.createElement("button");
    const [chip, said] = [document.createElement("i"), document.createElement("output")];
    button.type = "button";
    button.dataset.line = line.key;
    chip.style.border = `2px ${dash ? "dashed" : "solid"} ${stroke}`;
    button.append(chip, line.label, said);
    const show = (/** @type {boolean} */ shown) => {
      button.setAttribute("aria-pressed", String(shown));
      chip.style.background = shown && !dash ? stroke : "transparent";
      chip.style.boxShadow = shown && dash ? `inset 0 0 0 2px ${stroke}` : "";
    };
    show(line.shown);
    button.addEventListener("click", () => {
      const shown = button.getAttribute("aria-pressed") !== "true";
      show(shown);
      plot.setSeries(number + 1, { show: shown });
    });
    place.append(button);
  });
}

/** @param {HTMLElement} figure */
function scrubber(figure) {
  const slider = /** @type {HTMLInputElement} */ (figure.querySelector("#minute"));
  const words = /** @type {HTMLOutputElement} */ (figure.querySelector("#minute-words"));
  const moment = /** @type {HTMLElement} */ (figure.querySelector("#moment"));
  let asked = 0;
  let latest = 0;
  const draw = async () => {
    const number = ++latest;
    const answer = await fetch(`${figure.dataset.moment}&minute=${slider.value}`);
    if (number !== latest || !answer.ok) return;
    moment.innerHTML = await answer.text();
  };
  const show = () => {
    words.textContent = clock(Number(slider.value));
    slider.setAttribute("aria-valuetext", words.textContent);
    clearTimeout(asked);
    asked = setTimeout(draw, SETTLE_MS);
  };
  slider.addEventListener("input", show);
  return (/** @type {number} */ minute) => {
    slider.value = String(minute);
    show();
  };
}

/** @param {HTMLElement} figure */
async function draw(figure) {
  const answer = await fetch(figure.dataset.course ?? "");
  if (!answer.ok || !figure.isConnected) return;
  const course = /** @type {Course} */ (await answer.json());
  const [temperatures, power, humid] = /** @type {HTMLElement[]} */ ([...figure.querySelectorAll(".chart")]);
  const of = (/** @type {string} */ axis) => course.lines.filter((line) => line.axis === axis);
  const go = scrubber(figure);
  const plots = [
    plotOf(temperatures, course, of("degrees"), course.unit, 300, go),
    plotOf(power, course, of("watts"), "W", 110, go),
    plotOf(humid, course, of("percent"), "% humidity", 110, go),
  ];
  nameLines(/** @type {HTMLElement} */ (figure.querySelector(".lines")), plots[0], of("degrees"));
  new ResizeObserver(() => {
    for (const plot of plots) plot.setSize({ width: Math.max(temperatures.clientWidth, 280), height: plot.height });
  }).observe(temperatures);
  go(course.minutes[Math.floor(course.minutes.length * 0.45)]);
  figure.dataset.drawn = "yes";
}

const drawNew = () => {
  for (const figure of document.querySelectorAll("figure[data-course]:not([data-begun])")) {
    /** @type {HTMLElement} */ (figure).dataset.begun = "yes";
    draw(/** @type {HTMLElement} */ (figure));
  }
};

onHtmx("load", drawNew);
if (byId("course")) drawNew();
