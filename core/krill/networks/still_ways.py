"""What a body made for a stream gives off beside it: all of it where the air stands, next to nothing where it is driven."""

from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components import air_parts
from krill.components.figure_table import Values
from krill.components.sinks import stopped_loss
from krill.document.parts import Cooler
from krill.document.solids import Sink
from krill.networks.bodies import BodyModel
from krill.networks.laws import FilmLaw, LinkLaw
from krill.networks.layers import DIRECT_AIR_K_W
from krill.networks.pattern import StreamHop, ThermalPattern
from krill.physics.mixed_convection import joined_films

Array = NDArray[np.float64]


class StillWays:
    """Links from the faces in streams to the air around them, in one batch of figures.

    Free and forced flow join by cubes on the film; what the stream does not carry of that goes this way.
    """

    def __init__(
        self, pattern: ThermalPattern, values: Values, bodies: dict[str, BodyModel], pressure_pa: Array
    ) -> None:
        self._values, self._bodies, self._pressure = values, bodies, pressure_pa
        self._streams = pattern.streams
        self._coolers = [self._cooler(stream) for stream in pattern.streams]

    def laws(self, streams: Array) -> list[LinkLaw]:
        """One a stream, at what the streams carry now, W/K (batch, stream)."""
        return [FilmLaw(partial(self._beside, index, streams[:, index])) for index in range(len(self._streams))]

    def _cooler(self, stream: StreamHop) -> tuple[Array, Array] | None:
        """Metal, K/W, and film in still air at the reference difference, W/K, of a cooler or a stated resistance."""
        values, hop = self._values, stream.hop
        part = values.build.part(stream.part)
        stated = hop is not None and hop.resistance_k_w is not None
        if isinstance(part, Sink) and not stated:
            return None
        if isinstance(part, Cooler) and not stated:
            return air_parts.metal_resistance(part, values), air_parts.still_film(part, values)
        stream_k_w = values(f"{hop.id if hop is not None else part.id}/resistance_k_w", DIRECT_AIR_K_W)
        return np.asarray(0.0), np.asarray(air_parts.STILL_OF_STATED / stream_k_w)

    def _beside(self, index: int, moving: Array, face_c: Array, air_c: Array) -> Array:
        """W/K to the air around, beside what the stream takes."""
        cooler = self._coolers[index]
        if cooler is None:
            fins = self._bodies[self._streams[index].part].fins
            assert fins is not None
            return joined_films(stopped_loss(fins, face_c, air_c, self._pressure), moving) - moving
        metal, at_reference = cooler
        still = at_reference * air_parts.still_growth(face_c - air_c)
        film = 1.0 / np.maximum(1.0 / np.maximum(moving, 1e-12) - metal, 1e-12)
        return np.asarray(np.maximum(1.0 / (metal + 1.0 / joined_films(still, film)) - moving, 0.0))
