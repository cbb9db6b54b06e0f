"""A climate as the object that ``mitten solve --json`` prints, and exact points of it."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import isfinite
from typing import Any, Literal, cast, get_args

from mitten.core.design import BadDesignError, Design, Fault, Site
from mitten.core.judge import Condition
from mitten.core.physics.reading.climate import Climate
from mitten.core.physics.reading.spot import SpotClimate
from mitten.core.physics.reading.validity import Beyond, beyond_validity
from mitten.core.physics.uncertainty import Interval

PointKind = Literal["surface", "air", "inside"]


@dataclass(frozen=True)
class ReportPoint:
    """A place and what is asked of it; ``inside`` is within the substrate or a slab."""

    x_m: float
    y_m: float
    z_m: float
    kind: PointKind

    @property
    def key(self) -> str:
        """Its place among the figures that carry an interval."""
        return f"points.{self.x_m:g},{self.y_m:g},{self.z_m:g},{self.kind}"

    def celsius(self, climate: Climate) -> float:
        """The temperature there."""
        if self.kind == "air":
            return climate.air_at(self.x_m, self.z_m)
        if self.kind == "surface":
            return climate.surface_at(self.x_m, self.y_m, self.z_m)
        return climate.inside_at(self.x_m, self.y_m, self.z_m)


def read_point(design: Design, text: str) -> ReportPoint:
    """Read ``x,y,z,surface|air|inside``.

    Raises:
        BadDesignError: it is no such point, or lies outside the box.
    """
    parts = [part.strip() for part in text.split(",")]
    try:
        x_m, y_m, z_m = (float(part) for part in parts[:3])
    except ValueError:
        raise _no_point(f"'{text}' is no point; write x,y,z,surface (or air, or inside), in metres.") from None
    if len(parts) != 4 or parts[3] not in get_args(PointKind):
        raise _no_point(f"'{text}' must end in ,surface or ,air or ,inside.")
    point = ReportPoint(x_m, y_m, z_m, cast("PointKind", parts[3]))
    _check_place(design, point)
    return point


def _check_place(design: Design, point: ReportPoint) -> None:
    box, ground_m = design.enclosure, design.substrate.depth_m
    limits = (("x", point.x_m, box.length_m), ("y", point.y_m, box.depth_m), ("z", point.z_m, box.height_m))
    for name, value, limit in limits:
        if not 0.0 <= value <= limit:
            raise _no_point(f"{name} = {value:g} is outside the box, which reaches from 0 to {limit:g} m.")
    slab = _slab_at(design, point)
    if point.kind == "inside" and point.z_m > ground_m and slab is None:
        raise _no_point(f"z = {point.z_m:g} is above the ground, which is {ground_m:g} m deep, and in no slab.")
    if point.kind == "air" and point.z_m < ground_m:
        raise _no_point(f"z = {point.z_m:g} is in the ground; its air begins at {ground_m:g} m.")
    if point.kind == "air" and slab is not None:
        raise _no_point(f"the point is in '{slab.name}', where there is no air; ask for inside or surface.")


def _slab_at(design: Design, point: ReportPoint) -> Site | None:
    """The site whose slab holds a point, if there is one."""
    return next((site for site in design.sites if holds(site, design.substrate.depth_m, point)), None)


def holds(site: Site, ground_m: float, point: ReportPoint) -> bool:
    """Whether a point lies within a site's slab."""
    across = site.is_under(point.x_m, point.y_m)
    return across and site.underside_m(ground_m) < point.z_m < site.top_m(ground_m)


def _no_point(sentence: str) -> BadDesignError:
    return BadDesignError([Fault("--at", sentence)])


def answer_point(climate: Climate, point: ReportPoint, sure: Mapping[str, Interval]) -> dict[str, Any]:
    """The temperature at a point, with its interval where that is known."""
    answer = {"at": [point.x_m, point.y_m, point.z_m], "kind": point.kind, "c": round(point.celsius(climate), 2)}
    if point.key in sure:
        answer["interval"] = [round(end, 3) for end in sure[point.key]]
    return answer


def climate_report(
    condition: Condition, climate: Climate, points: list[dict[str, Any]], sure: Mapping[str, Interval]
) -> dict[str, Any]:
    """One object of ``solve --json``; ``sure`` are the 90 % intervals by path."""
    air, floor = climate.air, climate.floor
    hottest_c, (x, y) = floor.hottest()
    energy = climate.energy
    return {
        "condition": condition.name,
        "room_c": condition.room_c,
        "sites": {name: spot_report(site) for name, site in climate.sites.items()},
        "air": {
            "warm_c": round(air.warm_c, 2),
            "middle_c": round(air.middle_c, 2),
            "cool_c": round(air.cool_c, 2),
            "top_c": round(air.top_c, 2),
            "mean_c": round(air.mean_c, 2),
            "rh_warm": round(climate.humidity.warm, 3),
            "rh_cool": round(climate.humidity.cool, 3),
            "rh_mean": round(climate.humidity.mean, 3),
        },
        "floor": {
            "max_c": round(hottest_c, 2),
            "min_c": round(floor.lowest_c(), 2),
            "max_at": [round(x, 3), round(y, 3)],
        },
        "base": {"max_c": round(climate.base_c, 2)},
        "shelf": {"max_c": round(climate.shelf_c, 2)},
        "basking": spot_report(climate.basking),
        "animal": _animal(climate),
        "points": points,
        "heaters": _heaters(climate),
        "controls": _controls(climate),
        "evaporation_l_week": round(climate.humidity.litres_a_week, 3),
        "condensation_l_week": round(climate.humidity.condensed_litres_a_week, 3),
        "runs_down_l_week": {name: round(litres, 3) for name, litres in climate.humidity.runs_down.items()},
        "ventilation_l_s": round(climate.ventilation_l_s, 3),
        "air_changes_per_hour": round(climate.air_changes_per_hour, 2),
        "energy": {
            "in_w": round(energy.in_w, 4),
            "out_w": round(energy.out_w, 4),
            "residual_w": round(energy.residual_w, 6),
        },
        "interval": {path: [round(low, 3), round(high, 3)] for path, (low, high) in sure.items()},
        "settled": _settled(climate),
        "beyond_validity": [_beyond(one) for one in beyond_validity(climate.state)],
    }


def spot_report(spot: SpotClimate) -> dict[str, Any]:
    """Figures of a site, or of the ground's hottest spot."""
    shares, flows = spot.arriving.shares, spot.flows
    report: dict[str, Any] = {
        "surface_c": round(spot.surface_c, 2),
        "air_c": round(spot.air_c, 2),
        "irradiance_w_m2": round(spot.irradiance_w_m2, 1),
        "silicon_w_m2": round(spot.arriving.silicon_w_m2, 1),
        "thermopile_w_m2": round(spot.arriving.thermopile_w_m2, 1),
        "operative_c": round(spot.operative_c, 2),
        "visible": round(shares.visible, 3),
        "ir_a": round(shares.ir_a, 3),
        "ir_b": round(shares.ir_b, 3),
        "ir_c": round(shares.ir_c, 3),
        "uvi": round(spot.uvi, 2),
        "uvi_most": round(spot.uvi_most, 2),
        "flows_w_m2": {
            "absorbed": round(flows.absorbed, 1),
            "to_air": round(flows.to_air, 1),
            "as_longwave": round(flows.as_longwave, 1),
            "evaporated": round(flows.evaporated, 1),
            "conducted": round(flows.conducted, 1),
        },
    }
    if spot.hide_air_c is not None:
        report["hide_air_c"] = round(spot.hide_air_c, 2)
    return report


def _animal(climate: Climate) -> dict[str, Any]:
    patch = climate.patch
    return {
        "operative_c": round(climate.basking.operative_c, 2),
        "warm_up_min": _minutes(climate.warm_up_minutes),
        "half_cool_down_min": _minutes(climate.cool_down_minutes),
        "patch_m2": round(patch.area_m2, 4),
        "outline_m2": round(patch.outline_m2, 4),
        "patch_covers": round(patch.covers, 2),
    }


def _minutes(value: float | None) -> float | None:
    return None if value is None else round(value, 1)


def _heaters(climate: Climate) -> dict[str, dict[str, Any]]:
    """Duty and power of every heater, and the hottest of its outside where that is known."""
    report: dict[str, dict[str, Any]] = {}
    for name, heater in climate.heaters.items():
        report[name] = {"duty": round(heater.duty, 4), "watts": round(heater.watts, 3)}
        if heater.hottest is not None:
            report[name] |= {"surface_c": round(heater.hottest.celsius, 1), "surface": heater.hottest.what}
    return report


def _controls(climate: Climate) -> dict[str, dict[str, Any]]:
    return {
        name: {
            "duty": round(held.duty, 4),
            "probe_c": round(held.probe_c, 2),
            "setpoint_c": held.setpoint_c,
            "word": held.status,
        }
        for name, held in climate.controls.items()
    }


def _settled(climate: Climate) -> dict[str, Any] | None:
    """How the solution came to rest; nothing where it is one on its way."""
    steady = climate.settled
    return None if steady is None else {"rounds": steady.rounds, "last_move_k": round(steady.last_move_k, 5)}


def _beyond(one: Beyond) -> dict[str, Any]:
    """A correlation that was used outside the range in which it was found."""
    known = one.correlation
    return {
        "correlation": known.name,
        "symbol": known.symbol,
        "holds": [known.low, known.high if isfinite(known.high) else None],
        "used": [float(f"{one.low:.3g}"), float(f"{one.high:.3g}")],
        "share": round(one.share, 3),
    }
