"""What a design takes from the mains in a day, and what that costs."""

from dataclasses import dataclass

from mitten.core.design import Design
from mitten.core.judge import Assessment, climate_like
from mitten.core.physics.reading.climate import Climate

HOURS_A_DAY = 24.0
DAYS_A_YEAR = 365.0
SEASONS = ("winter", "summer")


@dataclass(frozen=True)
class DailyUse:
    """Energy of a day in a season, and its price where the tariff is known."""

    season: str
    kwh: float
    cost: float | None


def daily_use(assessment: Assessment) -> list[DailyUse]:
    """Winter and summer, each with its day and its night as long as the schedule says."""
    return [_use(assessment, season) for season in SEASONS]


def kwh_a_year(assessment: Assessment) -> float:
    """Energy of a year: half of it like the coldest days, half like the warmest."""
    uses = daily_use(assessment)
    return sum(use.kwh for use in uses) / len(uses) * DAYS_A_YEAR


def _use(assessment: Assessment, season: str) -> DailyUse:
    design, climates = assessment.design, assessment.climates
    day, night = (climate_like(climates, f"{season}-{time}") for time in ("day", "night"))
    day_h = design.day_hours_in(float(season == "summer"))
    wh = running_w(day) * day_h + running_w(night) * (HOURS_A_DAY - day_h) + _after_dark_wh(design, night)
    kwh = wh / 1000
    tariff = design.room.tariff_per_kwh
    return DailyUse(season, kwh, None if tariff is None else kwh * tariff)


def running_w(climate: Climate) -> float:
    """Electrical power that runs in a climate: heaters at their duty, and every light of that time of day."""
    design, day = climate.design, climate.situation.day
    heat = sum(heater.watts for heater in climate.heaters.values())
    ultraviolet = sum(lamp.watts for lamp in design.uvb if lamp.on in ("day" if day else "night", "always"))
    return heat + ultraviolet + (sum(light.watts for light in design.lights) if day else 0.0)


def _after_dark_wh(design: Design, night: Climate) -> float:
    """What runs on after dark, beside what the night has anyway."""
    if design.schedule is None:
        return 0.0
    watts = {part.name: part.watts for part in design.powered}
    by_night = {name for name, heater in night.heaters.items() if heater.watts > 0}
    return sum(watts[name] * hours for name, hours in design.schedule.after_dark_h.items() if name not in by_night)
