"""What the controls of a design are set to, in words, in summer too where that differs."""

from mitten.core.design import Control
from mitten.core.design.units import TEMPERATURE, Units


def setpoint_words(control: Control, units: Units) -> str:
    """``31 °C by day (29 °C in summer) and 24 °C by night, with a cut-out in line at 45 °C``; empty without any."""

    own = control.summer
    settings = (
        ("day", control.day_c, None if own is None else own.day_c),
        ("night", control.night_c, None if own is None else own.night_c),
    )
    times = [
        f"{units.say_with_unit(TEMPERATURE, winter_c)} by {time}"
        + ("" if summer_c is None else f" ({units.say_with_unit(TEMPERATURE, summer_c)} in summer)")
        for time, winter_c, summer_c in settings
        if winter_c is not None
    ]
    at_c = control.cut_out_c
    cut_out = [] if at_c is None else [f"with a cut-out in line at {units.say_with_unit(TEMPERATURE, at_c)}"]
    return ", ".join([" and ".join(times), *cut_out] if times else cut_out)
