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
    "outside_film_against": Constant(3.0, "W/m2K", f"{_START}: a face against a wall or shelf", 0.35),
    "underside_raised": Constant(4.0, "W/m2K", f"{_START}: box on feet", 0.25),
    "underside_flat": Constant(1.5, "W/m2K", f"{_START}: box flat on wood", 0.3),
    "underside_insulated": Constant(0.8, "W/m2K", f"{_START}: box on an insulating board", 0.25),
    "insulation_conductivity": Constant(0.034, "W/mK", "ISO 10456: extruded polystyrene", 0.1),
    "contact": Constant(25.0, "W/m2K", f"{_START}: a slab lying on loose ground", 0.4),
    "plume": Constant(0.153, "-", "Morton, Taylor & Turner 1956: Q = 0.153 B^(1/3) z^(5/3)", 0.15),
    "plume_whole": Constant(0.5, "W", f"{_START}: a warm place much weaker than this makes no plume of its own", 0.5),
    "neighbour_exchange": Constant(0.1, "-", f"{_START}: density exchange between columns", 0.4),
    "stable_mixing": Constant(2e-4, "m2/s", f"{_START}: eddy diffusivity in layered air", 0.6),
    "unstable_mixing": Constant(0.3, "-", f"{_START}: overturning of air that is warmer below", 0.4),
    "mesh_exchange": Constant(0.055, "-", "Epstein 1988: exchange through a horizontal opening", 0.2),
    "discharge": Constant(0.6, "-", "ASHRAE Fundamentals: sharp-edged opening", 0.1),
    "body_heat_through_mesh": Constant(
        0.25, "-", f"{_START}: share of a lamp's body heat that enters through the mesh", 0.4
    ),
    "mesh_heat_inside": Constant(
        0.5, "-", f"{_START}: share of what the mesh's wires absorb that warms the air below", 0.3
    ),
    "wire_film": Constant(60.0, "W/m2K", f"{_INCROPERA}: long cylinder, Morgan; 0.4 mm wire, 60 K", 0.3),
    "ceramic_emissivity": Constant(0.93, "-", f"{_INCROPERA}: glazed ceramic", 0.05),
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
