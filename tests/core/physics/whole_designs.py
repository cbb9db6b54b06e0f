"""Whole random designs for Hypothesis: any box, lid, vents, ground, sites and sources that fit together."""

from typing import Any

from hypothesis import strategies as st

from tests.designs import Data, steady_room

PANELS = ("glass", "acrylic", "foam-pvc-white", "foam-pvc-dark", "melamine", "plywood", "polypropylene", "hdpe")
GROUNDS = ("paper", "dry-sand", "soil", "soil-sand", "coconut-fibre", "wood-shavings", "bark", "gravel", "tile")
SLABS = ("slate", "sandstone", "hardwood", "cork", "resin", "tile")
LAMPS = (
    "halogen-flood", "halogen-spot", "incandescent-reflector", "incandescent-globe", "coloured-lamp", "mercury-vapour",
    "carbon-projector", "ceramic-emitter",
)  # fmt: skip
AREAS = ("radiant-panel", "heat-mat", "heat-tape", "heat-cable")
FIXTURES = ("dome", "wide-dome", "wire-cage", "bare-socket", "guarded-socket")


@st.composite
def boxes(draw: st.DrawFn) -> Data:
    """A box of any usual size and make, with any lid and vents."""
    length, depth, height = (draw(st.floats(0.3, most)) for most in (1.6, 0.8, 0.9))
    panel = st.fixed_dictionaries(
        {"material": st.sampled_from(PANELS), "thickness_mm": st.floats(3.0, 19.0)},
        optional={"insulation_mm": st.floats(0.0, 40.0)},
    )
    faces = ("floor", "top", "left", "right", "front", "back")
    box: Data = {
        "length_m": length, "depth_m": depth, "height_m": height,
        "panels": {face: draw(panel) for face in faces},
        "door_gap_mm": draw(st.sampled_from([0.0, 2.0])),
        "fan_l_s": draw(st.sampled_from([0.0, 0.0, 2.0])),
        "underside": {"raised": draw(st.booleans()), "insulated": draw(st.booleans())},
        "against": draw(st.sampled_from([[], ["back"], ["left", "back"]])),
    }  # fmt: skip
    lid = draw(st.sampled_from(["solid", "mesh", "part", "open"]))
    if lid == "mesh":
        box["lid_mesh"] = {"mesh": draw(st.sampled_from(["mesh-coarse", "mesh-fine"]))}
    elif lid == "part":
        box["lid_mesh"] = {
            "mesh": "mesh-standard", "x_m": length / 2, "y_m": depth / 2, "length_m": length / 2, "depth_m": depth / 2
        }  # fmt: skip
    elif lid == "open":
        box["open_top"] = True
    walls = draw(st.lists(st.sampled_from(["left", "right", "front", "back"]), max_size=3))
    box["vents"] = [
        {"face": wall, "area_cm2": draw(st.floats(5.0, 80.0)), "z_m": draw(st.floats(0.15, 0.95)) * height} for wall in walls
    ]  # fmt: skip
    return box


@st.composite
def sites(draw: st.DrawFn, box: Data, ground_m: float) -> list[Data]:
    """Up to two slabs on the ground, in it or above it, in different halves of the box."""
    found = []
    for number in range(draw(st.integers(0, 2))):
        length = draw(st.floats(0.1, 0.4)) * box["length_m"]
        depth = draw(st.floats(0.2, 0.6)) * box["depth_m"]
        low = draw(st.sampled_from([None, 0.0, ground_m + 0.1]))
        thickness = draw(st.floats(5.0, 50.0)) + (ground_m * 1000 if low == 0.0 else 0.0)
        site: Data = {
            "name": f"Site {number}", "role": draw(st.sampled_from(["basking", "cool-hide", "perch"])),
            "material": draw(st.sampled_from(SLABS)), "dark": draw(st.booleans()),
            "x_m": box["length_m"] * (0.25 + 0.5 * number), "y_m": box["depth_m"] / 2,
            "length_m": length, "depth_m": depth, "thickness_mm": thickness,
        }  # fmt: skip
        found.append(site if low is None else {**site, "z_m": low})
    return found


@st.composite
def heaters(draw: st.DrawFn, box: Data, with_sites: list[Data], ground_m: float) -> list[Data]:
    """One to three sources of any kinds."""
    found: list[Data] = []
    for number in range(draw(st.integers(1, 3))):
        kinds = [*LAMPS, *AREAS, *(["hot-rock"] if with_sites else [])]
        kind = draw(st.sampled_from(kinds))
        heater: Data = {
            "name": f"Heater {number}", "kind": kind, "watts": draw(st.floats(3.0, 120.0)),
            "x_m": draw(st.floats(0.2, 0.8)) * box["length_m"], "y_m": draw(st.floats(0.3, 0.7)) * box["depth_m"],
        }  # fmt: skip
        if kind in LAMPS:
            heater |= draw(hung(box, ground_m))
        elif kind == "hot-rock":
            heater |= {"site": with_sites[0]["name"], "watts": draw(st.floats(3.0, 15.0))}
        else:
            heater |= {
                "length_m": 0.3 * box["length_m"],
                "depth_m": 0.4 * box["depth_m"],
                "watts": draw(st.floats(3.0, 60.0)),
            }
        found.append(heater)
    return found


@st.composite
def hung(draw: st.DrawFn, box: Data, ground_m: float) -> Data:
    """A lamp's height and fixture, above the lid where it can be, and clear of every site."""
    fixture = {"kind": draw(st.sampled_from(FIXTURES)), "max_watts": 250.0}
    if ("lid_mesh" in box or box.get("open_top")) and draw(st.booleans()):
        return {"z_m": box["height_m"] + draw(st.floats(0.01, 0.3)), "above_mesh": True, "fixture": fixture}
    least = ground_m + 0.22
    return {
        "z_m": max(draw(st.floats(0.6, 0.98)) * box["height_m"], min(least, box["height_m"])),
        "tilt_deg": draw(st.floats(-30.0, 30.0)), "fixture": fixture,
    }  # fmt: skip


@st.composite
def designs(draw: st.DrawFn) -> Data:
    """A whole dry design without controls."""
    box = draw(boxes())
    ground_m = draw(st.floats(0.005, 0.08))
    with_sites = draw(sites(box, ground_m))
    substrate: dict[str, Any] = {"material": draw(st.sampled_from(GROUNDS)), "depth_mm": ground_m * 1000}
    return {
        "format": "mitten-design/1",
        "animal": {"species": "rosy-boa"},
        "room": steady_room(21.0),
        "enclosure": box,
        "substrate": substrate,
        "sites": with_sites,
        "heaters": draw(heaters(box, with_sites, ground_m)),
    }
