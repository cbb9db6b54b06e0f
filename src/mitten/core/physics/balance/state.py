"""A state of an enclosure: the temperatures at a moment and what they came from, whoever worked them out."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from mitten.core.physics.air.moisture import MoistureBalance
from mitten.core.physics.air.ventilation import AirExchange
from mitten.core.physics.arrays import Array
from mitten.core.physics.balance.coefficients import Coefficients
from mitten.core.physics.balance.contact import ContactLoad
from mitten.core.physics.balance.load import Landing, Load
from mitten.core.physics.balance.prepared import Prepared
from mitten.core.physics.balance.surroundings import Surroundings
from mitten.core.physics.radiation.exchange import Absorbed
from mitten.core.physics.radiation.lamps import Deposit, Lamp
from mitten.core.physics.radiation.sources import Sources
from mitten.core.physics.solids.network import SolidNetwork

LEAST_M2 = 1e-12


@dataclass(frozen=True, eq=False)
class Inside:
    """Temperatures ``nodes_c`` (N,) of the nodes of the solids, patches first, in °C as amplitudes of an even 1."""

    network: SolidNetwork
    nodes_c: Array

    def ground_c(self, depth_m: float) -> Array:
        """Temperatures (floor patches,) at a depth below the ground's surface."""
        network = self.network
        depths_m = np.array([0.0, *(border.depth_m for border in network.ground)])
        place = float(np.interp(depth_m, depths_m, np.arange(len(depths_m))))
        below = int(np.ceil(place))
        share = below - place
        return np.asarray(share * self._at_border(max(below - 1, 0)) + (1.0 - share) * self._at_border(below))

    def _at_border(self, number: int) -> Array:
        if number == 0:
            return self.nodes_c[self.network.floor]
        return np.asarray(self.network.waves.T @ self.nodes_c[self.network.ground[number - 1].nodes])


@dataclass(frozen=True, eq=False)
class State:
    """Temperatures in °C, ``surface_c`` (n,) and ``air_c`` (columns, layers), in an enclosure and its surroundings,
    what the sources give (``load``), and the films, flows and moisture at these temperatures. ``inside`` are the solids
    where they are not at rest; those of a steady state follow from its surfaces.
    """

    prepared: Prepared
    surroundings: Surroundings
    load: Load
    coefficients: Coefficients
    surface_c: Array
    air_c: Array
    inside: Inside | None = None

    @property
    def sources(self) -> Sources:
        """Everything that runs."""
        return self.load.sources

    @property
    def lamps(self) -> tuple[Lamp, ...]:
        """Everything that radiates."""
        return self.load.sources.lamps

    @property
    def deposits(self) -> tuple[Deposit, ...]:
        """What each of the lamps leaves where, in their order."""
        return self.load.deposits

    @property
    def landings(self) -> tuple[Landing, ...]:
        """The same of one watt of each lamp's beam."""
        return self.load.landings

    @property
    def contacts(self) -> tuple[ContactLoad, ...]:
        """What each of the contact sources gives, in their order."""
        return self.load.contacts

    @property
    def absorbed(self) -> Absorbed:
        """What the lamps leave in the patches with all reflections."""
        return self.load.absorbed

    @property
    def exchange(self) -> AirExchange:
        """Air exchanged with the room."""
        return self.coefficients.exchange

    @property
    def moisture(self) -> MoistureBalance:
        """Water in the air and on the surfaces."""
        return self.coefficients.moisture

    @cached_property
    def film_w_m2k(self) -> Array:
        """Films (n,) of the patches over the area that convects."""
        return np.asarray(self.coefficients.film_w_k / np.maximum(self.prepared.convecting_m2, LEAST_M2))
