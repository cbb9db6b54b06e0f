"""What a box goes through as CSV, a row a minute, and as a JSON summary."""

from typing import Any

import numpy as np

from mitten.core.judge.exposed import Exposed
from mitten.core.physics.arrays import Array
from mitten.core.physics.reading.traced import Course
from mitten.reports.csv_text import csv_of

DECIMALS = 3
KJ = 1000.0


def columns_of(course: Course, exposed: Exposed) -> dict[str, Array]:
    """Every column of the trace by its name, each (T,)."""
    design, trace = course.design, course.trace
    found: dict[str, Array] = {
        "minute": course.minutes - course.minutes[0], "room_c": trace.room_c, "warm_c": course.warm_c,
        "middle_c": course.middle_c, "cool_c": course.cool_c, "top_c": course.top_c,
        "floor_max_c": course.floor_max_c, "floor_min_c": course.floor_min_c, "base_max_c": course.base_max_c,
        "rh_mean": course.rh_mean, "power_w": course.power_w,
        "contact_max_c": exposed.contact_c, "body_c": exposed.body_c,
    }  # fmt: skip
    for site in design.sites:
        found[f"{site.name}.surface_c"] = course.site_c(site.name)
        found[f"{site.name}.air_c"] = course.site_air_c(site.name)
    for number, channel in enumerate(course.box.channels):
        found[f"{channel.name}.watts"] = trace.fed_w[:, number]
    for number, control in enumerate(control for control in design.controls if control.is_thermostat):
        found[f"{control.name}.probe_c"] = course.probes_c[:, number]
        found[f"{control.name}.duty"] = trace.duties[:, number]
    return found


def course_csv(course: Course) -> str:
    """The trace as CSV (RFC 4180)."""
    columns = {**columns_of(course, Exposed(course)), **_balance(course)}
    table = np.column_stack(list(columns.values()))
    rows = ([f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".") for value in row] for row in table)
    return csv_of([columns, *rows])


def course_report(course: Course) -> dict[str, Any]:
    """Highest and lowest of every temperature and when, minutes to danger, warm-up, thermostats and energy."""
    exposed = Exposed(course)
    columns = columns_of(course, exposed)
    minutes = columns.pop("minute")
    temperatures = {name: values for name, values in columns.items() if name.endswith("_c")}
    return {
        "minutes": int(minutes[-1]),
        "figures": {name: _ends(minutes, values) for name, values in temperatures.items()},
        "rh_mean": {"highest": round(float(course.rh_mean.max()), 3), "lowest": round(float(course.rh_mean.min()), 3)},
        "minutes_to_danger": exposed.minutes_to_danger,
        "warm_up_min": course.warm_up_minutes,
        "controls": _controls(course),
        "energy_kwh": round(float(course.trace.fed_j.sum()) / 3.6e6, 4),
    }


def _ends(minutes: Array, values: Array) -> dict[str, float]:
    # Of what is printed, the first: digits beyond do not choose between minutes.
    printed = values.round(DECIMALS)
    highest, lowest = int(printed.argmax()), int(printed.argmin())
    return {
        "highest_c": float(printed[highest]), "highest_at_min": float(minutes[highest]),
        "lowest_c": float(printed[lowest]), "lowest_at_min": float(minutes[lowest]), "last_c": float(printed[-1]),
    }  # fmt: skip


def _balance(course: Course) -> dict[str, Array]:
    """What leaves in W, what is stored since the beginning, and what is left of it all, in kJ."""
    return {
        "heat_out_w": course.heat_out_w, "stored_kj": course.stored_j / KJ, "unaccounted_kj": course.unaccounted_j / KJ,
    }  # fmt: skip


def _controls(course: Course) -> dict[str, dict[str, float]]:
    hours = float(course.minutes[-1] - course.minutes[0]) / 60.0
    found = {}
    for number, control in enumerate(control for control in course.design.controls if control.is_thermostat):
        settled = course.probes_c[len(course.probes_c) // 2 :, number]
        found[control.name] = {
            "swing_k": round(float(settled.max() - settled.min()), DECIMALS),
            "switchings_an_hour": round(course.trace.switchings[control.name] / hours, 2),
            "share_on": round(float(course.trace.duties[:, number].mean()), 3),
        }
    return found
