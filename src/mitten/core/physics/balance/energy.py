"""Power that comes in and goes out in a state, by way and by face: each reckoned on its own."""

from dataclasses import dataclass

from mitten.core.design import FACES, Face
from mitten.core.physics.balance.state import State
from mitten.core.physics.constants import ZERO_C_K, value
from mitten.core.physics.radiation.exchange import open_loss_w


@dataclass(frozen=True)
class Energy:
    """Power that comes in and goes out, by way. All in W."""

    in_w: float
    from_warmer_faces_w: float
    through_panels_w: float
    as_longwave_w: float
    as_shortwave_w: float
    with_air_w: float
    as_vapour_w: float
    past_the_lid_w: float

    @property
    def out_w(self) -> float:
        """Sum of the ways out."""
        as_radiation_w = self.as_longwave_w + self.as_shortwave_w
        return self.through_panels_w + as_radiation_w + self.with_air_w + self.as_vapour_w + self.past_the_lid_w

    @property
    def turned_over_w(self) -> float:
        """What comes in from the sources, and through faces that look at something else than the room and warmer."""
        return self.in_w + self.from_warmer_faces_w

    @property
    def residual_w(self) -> float:
        """In less out."""
        return self.in_w - self.out_w


def energy_of(state: State) -> Energy:
    """Power in and out."""
    load, exchange = state.load, state.exchange
    heat, room_k, air_k = state.surroundings.air_w_k_per_m3_s, state.surroundings.room_k, state.air_c + ZERO_C_K
    by_face = conducted_w(state)
    return Energy(
        in_w=sum(source.power_w for source in load.sources.all),
        from_warmer_faces_w=-sum(min(by_face[face], 0.0) for face in state.surroundings.faces),
        through_panels_w=sum(by_face.values()),
        as_longwave_w=_through_openings_w(state),
        as_shortwave_w=load.absorbed.lost_w,
        with_air_w=heat * float((exchange.leaving * air_k).sum() - exchange.entering.sum() * room_k),
        as_vapour_w=value("vaporisation") * state.moisture.carried_kg_s,
        past_the_lid_w=sum(received.missed_w for received in load.deposits)
        + sum(float(received.mesh_w.sum()) for received in load.deposits) * (1 - value("mesh_heat_inside"))
        + sum(lamp.body_w - lamp.rising_w - lamp.body_into_air_w for lamp in load.sources.lamps),
    )


def face_heat_w(state: State) -> dict[Face, float]:
    """What each outer face gives to its surroundings in W: through its panel, with what a heater on it loses outwards,
    and through the openings of the top as longwave. Negative where the surroundings are the warmer.
    """
    found = conducted_w(state)
    found["top"] += _through_openings_w(state)
    return found


def conducted_w(state: State) -> dict[Face, float]:
    """Heat in W that leaves through the panel of each face."""
    if state.inside is not None:
        # What a heater in a solid loses outwards passes the solid's nodes, and is among what leaves them.
        outside_c = state.surroundings.outside_k - ZERO_C_K
        by_face = state.inside.network.leaving_w(state.inside.nodes_c, outside_c)
        return {face: float(heat_w) for face, heat_w in zip(FACES, by_face, strict=True)}
    prepared = state.prepared
    outside_k = prepared.outside_k(state.surroundings)
    leaving_w = prepared.outward_w_k * (state.surface_c + ZERO_C_K - outside_k)
    found = {face: float(leaving_w[prepared.outer_face == index].sum()) for index, face in enumerate(FACES)}
    for contact in state.contacts:
        found[contact.face] += contact.lost_w
    return found


def _through_openings_w(state: State) -> float:
    seen_k = state.surroundings.of("top").seen_c + ZERO_C_K
    return open_loss_w(state.prepared.network, state.surface_c + ZERO_C_K, seen_k)
