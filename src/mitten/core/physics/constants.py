"""The one table of physical constants: value, unit, origin and relative uncertainty.

Formulas take their numbers from here by name; no constant is typed into a formula.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Constant:
    """A number of the model. ``uncertainty`` is one relative standard deviation; 0 where it is exact."""

    value: float
    unit: str
    origin: str
    uncertainty: float = 0.0


_INCROPERA = "Incropera et al., Fundamentals of Heat and Mass Transfer"
_ISO_6946 = "ISO 6946, surface resistances"
_START = "starting value of the zonal model; to be updated by readings"

CONSTANTS: dict[str, Constant] = {
    "stefan_boltzmann": Constant(5.670374419e-8, "W/m2K4", "CODATA 2018, exact"),
    "second_radiation": Constant(0.01438776877, "m K", "CODATA 2018, exact"),
    "zero_celsius": Constant(273.15, "K", "definition"),
    "gravity": Constant(9.80665, "m/s2", "definition"),
    "air_density": Constant(1.199, "kg/m3", f"{_INCROPERA}: air, 21 °C, sea level", 0.02),
    "air_heat_capacity": Constant(1006.0, "J/kgK", f"{_INCROPERA}: air", 0.005),
    "air_conductivity": Constant(0.0261, "W/mK", f"{_INCROPERA}: air, 300 K", 0.02),
    "air_viscosity": Constant(1.58e-5, "m2/s", f"{_INCROPERA}: air, 300 K", 0.02),
    "air_diffusivity": Constant(2.22e-5, "m2/s", f"{_INCROPERA}: air, 300 K", 0.02),
    "air_scale_height": Constant(8434.0, "m", "isothermal atmosphere at 288 K", 0.03),
    "film_least": Constant(0.7, "W/m2K", f"{_START}: a film this thin is never quite still", 0.4),
    "outside_film_free": Constant(8.0, "W/m2K", f"{_ISO_6946}: still indoor air with radiation", 0.25),
    "outside_longwave_share": Constant(
        0.64, "-", f"{_ISO_6946}: 5.1 W/m2K of longwave at 20 °C and emissivity 0.9, of 8.0 in all", 0.1
    ),
    "outside_film_against": Constant(3.0, "W/m2K", f"{_START}: a face against a wall or shelf", 0.35),
    "underside_raised": Constant(
        5.0, "W/m2K", f"{_START}: box on feet: longwave to a shelf that warms too, about 3.8, and air in the gap", 0.25
    ),
    "underside_flat": Constant(1.5, "W/m2K", f"{_START}: box flat on wood", 0.3),
    "underside_insulated": Constant(0.8, "W/m2K", f"{_START}: box on an insulating board", 0.25),
    "insulation_conductivity": Constant(0.034, "W/mK", "ISO 10456: extruded polystyrene", 0.1),
    "insulation_heat_capacity": Constant(4e4, "J/m3K", "ISO 10456: extruded polystyrene", 0.2),
    "contact": Constant(25.0, "W/m2K", f"{_START}: a slab lying on loose ground", 0.4),
    "plume": Constant(0.153, "-", "Morton, Taylor & Turner 1956: Q = 0.153 B^(1/3) z^(5/3)", 0.15),
    "plume_whole": Constant(0.5, "W", f"{_START}: a warm place much weaker than this makes no plume of its own", 0.5),
    "neighbour_exchange": Constant(0.1, "-", f"{_START}: density exchange between columns", 0.4),
    "stable_mixing": Constant(2e-4, "m2/s", f"{_START}: eddy diffusivity in layered air", 0.6),
    "unstable_mixing": Constant(0.3, "-", f"{_START}: overturning of air that is warmer below", 0.4),
    "mesh_exchange": Constant(0.055, "-", "Epstein 1988: exchange through a horizontal opening", 0.2),
    "lid_draught": Constant(
        1.5e-3, "m/s", f"{_START}: two-way exchange through an open top by the room's slight air movement", 0.5
    ),
    "vent_draught": Constant(0.01, "m/s", f"{_START}: the same through vents and gaps", 0.6),
    "discharge": Constant(0.6, "-", "ASHRAE Fundamentals: sharp-edged opening", 0.1),
    "body_heat_through_mesh": Constant(
        0.25, "-", f"{_START}: share of a lamp's body heat that enters through the mesh", 0.4
    ),
    "mesh_heat_inside": Constant(
        0.5, "-", f"{_START}: share of what the mesh's wires absorb that warms the air below", 0.3
    ),
    "wire_film": Constant(60.0, "W/m2K", f"{_INCROPERA}: long cylinder, Morgan; 0.4 mm wire, 60 K", 0.3),
    "ceramic_emissivity": Constant(0.93, "-", f"{_INCROPERA}: glazed ceramic", 0.05),
    "panel_emissivity": Constant(0.93, "-", f"{_INCROPERA}: painted sheet", 0.05),
    "guard_open": Constant(0.90, "-", f"{_START}: share of a lamp's radiation that passes its wire guard", 0.05),
    "guard_distance": Constant(0.07, "m", f"{_START}: from the emitting face to the guard's wires", 0.3),
    "guard_film": Constant(
        30.0, "W/m2K", f"{_INCROPERA}: long cylinder, Morgan; 2 mm wire, 80 K: 23 by air, and longwave", 0.3
    ),
    "guard_absorptance": Constant(0.80, "-", f"{_START}: painted or oxidised wire", 0.15),
    "dome_film": Constant(11.0, "W/m2K", f"{_START}: warm sheet metal, convection and radiation", 0.3),
    "dome_heat_capacity": Constant(2200.0, "J/m2K", f"{_START}: half a millimetre of steel or one of aluminium", 0.4),
    "body_upwards": Constant(
        0.15, "-", f"{_START}: share of the body heat of a lamp inside that leaves upwards as longwave", 0.4
    ),
    "jet_film": Constant(10.0, "W/m2K", f"{_START}: a plume that meets a ceiling", 0.4),
    "jet_most": Constant(0.5, "-", f"{_START}: most of a plume's heat that a ceiling takes at once", 0.3),
    "shell_absorbs": Constant(0.1, "-", f"{_START}: share of a lamp's radiation that its reflector or dome takes", 0.4),
    "shell_share": Constant(0.75, "-", f"{_START}: share of a lamp's body heat that passes through its dome", 0.2),
    "cover_conductivity": Constant(0.20, "W/mK", f"{_START}: liner or plastic over tape and cable", 0.3),
    "shelf_share_raised": Constant(
        0.3, "-", f"{_START}: rise of the shelf under a raised box, by the underside's rise", 0.4
    ),
    "shelf_contact": Constant(25.0, "W/m2K", f"{_START}: from a flat underside into the shelf", 0.4),
    "rock_unevenness": Constant(0.6, "-", f"{_START}: how much more heat a hot rock gives in its middle", 0.4),
    "led_radiant": Constant(0.35, "-", f"{_START}: share of a light's watts that leaves as light", 0.15),
    "hide_film": Constant(2.0, "W/m2K", f"{_START}: nearly still air in a hide", 0.4),
    "hide_wall": Constant(2.5, "W/m2K", f"{_START}: through a hide's sides, films and wall together", 0.4),
    "hide_door": Constant(5e-5, "m3/s", f"{_START}: air through a hide's entrance", 0.6),
    "vaporisation": Constant(2.45e6, "J/kg", "ASHRAE Fundamentals: water at 21 °C", 0.01),
    "lewis": Constant(0.86, "-", "ASHRAE Fundamentals: Lewis number of water vapour in air", 0.03),
    "evaporation_film": Constant(
        3.0,
        "W/m2K",
        f"{_START}: least film for evaporation: the air over water is never as still as over dry ground",
        0.3,
    ),
    "damp_wetness": Constant(0.15, "-", f"{_START}: evaporation of damp ground as a share of a water surface's", 0.5),
    "wet_wetness": Constant(0.9, "-", f"{_START}: the same of wet ground", 0.2),
    "probe_lag_air": Constant(180.0, "s", f"{_START}: time constant of a thermostat's probe in nearly still air", 0.5),
    "probe_lag_surface": Constant(40.0, "s", f"{_START}: the same where it touches what it reads", 0.5),
    "probe_absorptance": Constant(0.9, "-", f"{_START}: dark plastic", 0.1),
    "probe_shape": Constant(0.32, "-", "thin cylinder across a beam: diameter over circumference", 0.05),
    "probe_radius": Constant(0.003, "m", f"{_START}: a probe 6 mm thick", 0.3),
    "probe_film": Constant(18.0, "W/m2K", f"{_START}: thin cylinder, convection and radiation", 0.25),
    "uv_yearly_loss": Constant(0.3, "-", f"{_START}: share of its UV that a lamp loses in a year's use", 0.4),
    "skin_area": Constant(0.10, "m2/kg^(2/3)", "Gates 1980: 10 m^(2/3) cm2 with m in grams", 0.15),
    "shell_area": Constant(0.06, "m2/kg^(2/3)", f"{_START}: half of an ellipsoid and its flat underside", 0.15),
    "body_heat_capacity": Constant(3500.0, "J/kgK", "Porter & Gates 1969", 0.05),
    "skin_short": Constant(0.85, "-", "Gates 1980: shortwave absorptance of lizards", 0.08),
    "skin_long": Constant(0.95, "-", "Gates 1980: longwave absorptance of skin", 0.03),
    "silhouette": Constant(0.35, "-", "Bakken 1976: projected area from above over skin area", 0.15),
    "skin_in_contact": Constant(0.25, "-", f"{_START}: share of the skin that lies on the ground", 0.25),
    "skin_to_ground": Constant(0.25, "-", f"{_START}: share of the skin, its flanks, that sees the ground", 0.3),
    "skin_contact": Constant(25.0, "W/m2K", f"{_START}: belly on the ground", 0.4),
    "silicon_from": Constant(0.4e-6, "m", f"{_START}: hand-held silicon meters see from here", 0.05),
    "silicon_to": Constant(1.1e-6, "m", "band edge of silicon", 0.02),
    "thermopile_from": Constant(0.3e-6, "m", f"{_START}: thermopile behind glass", 0.1),
    "thermopile_to": Constant(3.0e-6, "m", f"{_START}: thermopile behind glass", 0.1),
    "sun": Constant(5772.0, "K", "IAU 2015 nominal solar effective temperature"),
    "sun_to": Constant(2.5e-6, "m", f"{_START}: water vapour takes most of the sun's radiation beyond", 0.1),
    "quartz_cut": Constant(3.5e-6, "m", f"{_START}: quartz is opaque above this wavelength", 0.1),
    "glass_cut": Constant(2.7e-6, "m", f"{_START}: lamp glass is opaque above this wavelength", 0.1),
}


def value(name: str) -> float:
    """The constant's value in its unit.

    Raises:
        KeyError: the table has no such constant.
    """
    return CONSTANTS[name].value


SIGMA_W_M2K4 = value("stefan_boltzmann")
ZERO_C_K = value("zero_celsius")
GRAVITY_M_S2 = value("gravity")
