"""Finned sinks in still air and in driven air: channels, opening, flanks, back; one law for every way they stand."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.coolant_parts import PowerFigures
from krill.components.figure_table import Values
from krill.components.flat_faces import face_film
from krill.components.radiator_table import REFERENCE_AIR
from krill.components.stated import STATED_AIR
from krill.document.solids import Sink, Stand
from krill.materials.fluids import air
from krill.physics.conduction import fin_efficiency
from krill.physics.fin_channels import (
    contraction_and_exit,
    developing_friction,
    flow_beside_bypass,
    nusselt_driven_channel,
)
from krill.physics.natural_convection import (
    CHANNEL_RANGE,
    LYING_RANGE,
    elenbaas_number,
    nusselt_channel,
    nusselt_lying_fins,
    rayleigh,
)
from krill.physics.properties import FluidState
from krill.physics.radiation import channel_emissivity, radiation_coefficient, view_between_rectangles

Array = NDArray[np.float64]

#: channels of fins that look down, or lie across a wall, against upright ones (common practice 0.65 +- 0.15; estimate)
LOOKING_DOWN, ON_EDGE = 0.65, 0.5
#: a ceiling over lying fins takes half of what they carry at this distance (estimate)
CEILING_M: Final = 0.02
#: a wall in front gives back half of what it catches (estimate: it warms and radiates to both sides)
WALL_RETURNS = 0.5
STOPPED_CHANNELS = 0.5
BYPASS_LOSS = 1.5  # entry and exit of the way beside the fins (value from memory)
#: velocities between the fins that the pressure law is laid through, m/s
FIT_VELOCITIES = (1.0, 4.0)
DRIVEN_RANGE = (1.0, 2300.0)


@dataclass(frozen=True)
class Fins:
    """Geometry and surface of a sink, SI, arrays over the batch."""

    width: Array
    length: Array
    base: Array
    height: Array
    pitch: Array
    thickness: Array
    conductivity: Array
    emissivity: Array
    holes: Array
    cut: Array
    factor: Array
    stand: Stand
    flanks_free: bool
    facing: str
    facing_gap: Array

    @property
    def count(self) -> Array:
        """Fins over the width, not rounded: two at least."""
        return np.asarray(np.maximum((self.width - self.thickness) / self.pitch + 1.0, 2.0))

    @property
    def spacing(self) -> Array:
        """Clear width of a channel."""
        clear = (self.width - self.count * self.thickness) / (self.count - 1.0)
        return np.asarray(np.maximum(clear, 1e-4))

    @property
    def metal_volume(self) -> Array:
        fins = self.count * self.height * self.thickness * (1.0 - self.cut)
        return np.asarray(self.length * (fins + self.width * self.base * (1.0 - self.holes)))


def fins_of(sink: Sink, stand: Stand, values: Values) -> Fins:
    """Figures of a sink."""

    def at(field: str, missing: float | None = None) -> Array:
        return values(f"{sink.id}/{field}", missing)

    return Fins(
        at("width_mm"),
        at("length_mm"),
        at("base_mm"),
        at("fin_height_mm"),
        at("fin_pitch_mm"),
        at("fin_thickness_mm"),
        at("conductivity_w_mk"),
        np.clip(at("emissivity"), 0.01, 1.0),
        at("holes_share", 0.0),
        at("cut_share", 0.0),
        at("factor", 1.0),
        stand,
        sink.flanks == "free",
        sink.facing,
        at("facing_mm", 1.0),
    )


@dataclass(frozen=True)
class StillLoss:
    """Where a sink's heat goes in still air, W/K over its difference to the air (batch,)."""

    channels: Array
    radiation: Array
    flanks: Array
    film: Array  # W/m2K in the channels
    efficiency: Array
    number: Array  # Elenbaas number upright, Rayleigh number on the spacing lying
    inside: Array  # whether the channel law holds there

    @property
    def total(self) -> Array:
        return self.channels + self.radiation + self.flanks


def channel_film(fins: Fins, difference: Array, state: FluidState, film_c: Array) -> tuple[Array, Array, Array]:
    """(W/m2K in the channels, the law's number, whether it is inside its published range)."""
    S = fins.spacing
    Ra = rayleigh(difference, S, state, film_c)
    if fins.stand == "lying_fins_up":
        Nu, number, valid = nusselt_lying_fins(Ra), Ra, LYING_RANGE
    else:
        extent = fins.width if fins.stand == "on_edge" else fins.length
        number = elenbaas_number(Ra, S, extent)
        Nu, valid = nusselt_channel(number), CHANNEL_RANGE
    h = Nu * state.conductivity / S
    published = fins.stand in ("upright", "lying_fins_up")
    inside = (number >= valid[0]) & (number <= valid[1]) & published
    if fins.stand == "lying_fins_down":
        h = LOOKING_DOWN * h
    elif fins.stand == "on_edge":
        h = ON_EDGE * h
    elif fins.stand == "lying_fins_up" and fins.facing != "nothing":
        h = h * fins.facing_gap / (fins.facing_gap + CEILING_M)
    return h, number, np.asarray(inside)


def wetted(fins: Fins, film: Array) -> tuple[Array, Array]:
    """(area between the fins as far as it counts, fin efficiency); fins count with their corrected length H + t/2."""
    corrected = fins.height + fins.thickness / 2
    efficiency = fin_efficiency(film, fins.conductivity, fins.thickness, corrected)
    channel = 2.0 * efficiency * corrected * (1.0 - fins.cut) + fins.spacing * (1.0 - fins.holes)
    return (fins.count - 1.0) * channel * fins.length, efficiency


def seen_share(fins: Fins) -> Array:
    """Share of the front's radiation that leaves past what stands before it."""
    if fins.facing == "nothing":
        return np.asarray(1.0)
    caught = view_between_rectangles(fins.width / fins.facing_gap, fins.length / fins.facing_gap)
    return np.asarray(1.0 - caught * (WALL_RETURNS if fins.facing == "wall" else 1.0))


def still_loss(fins: Fins, base_c: Array, air_c: Array, pressure_pa: Array) -> StillLoss:
    """Loss of the finned side in still air at a base and an air temperature; shapes broadcast."""
    film_c = (base_c + air_c) / 2
    state = air(film_c, pressure_pa)
    h, number, inside = channel_film(fins, base_c - air_c, state, film_c)
    area, efficiency = wetted(fins, h)
    openings = (fins.count - 1.0) * fins.spacing * fins.length
    tips = fins.count * fins.thickness * fins.length
    radiating = openings * channel_emissivity(fins.emissivity, fins.height / fins.spacing) + tips * fins.emissivity
    radiation = radiation_coefficient(1.0, base_c, air_c) * radiating * seen_share(fins)
    flanks = np.zeros(np.shape(h))
    if fins.flanks_free:
        up = (
            fins.length
            if fins.stand == "upright"
            else fins.width
            if fins.stand == "on_edge"
            else fins.height + fins.base
        )
        film = face_film("vertical", up, up, base_c, air_c, pressure_pa)
        film = film + radiation_coefficient(fins.emissivity, base_c, air_c)
        flanks = film * (2 * fins.height * fins.length + 2 * fins.base * (fins.width + fins.length))
    scale = fins.factor
    return StillLoss(scale * h * area, scale * radiation, scale * flanks, h, efficiency, number, inside)


def stopped_loss(fins: Fins, base_c: Array, air_c: Array, pressure_pa: Array) -> Array:
    """W/K of a sink whose stream stands: a stopped fan leaves half of the flow through its channels (estimate)."""
    loss = still_loss(fins, base_c, air_c, pressure_pa)
    return STOPPED_CHANNELS * loss.channels + loss.radiation + loss.flanks


@dataclass(frozen=True)
class DrivenLoss:
    """A sink in an air stream: W/K over the air that enters its path, and what the fins see (batch,)."""

    conductance: Array
    velocity: Array  # at the reference density
    film: Array
    efficiency: Array
    reynolds: Array
    share: Array  # of the flow that goes through the fins
    inside: Array


def driven_loss(sink: Sink, fins: Fins, values: Values, volume_flow: Array, air_c: float = 35.0) -> DrivenLoss:
    """Heat of a sink from the flow of its path (batch,); what goes beside the fins carries nothing.

    ``volume_flow`` is the mass flow at the reference density, m3/s: films and shares follow the mass velocity, so thin air
    needs no law of its own.
    """
    linear, square = _fin_pressure(fins)
    Q = np.maximum(np.abs(volume_flow), 1e-7)
    through: Array = Q
    if sink.bypass_cm2 is not None:
        through = flow_beside_bypass(Q, linear, square, _bypass_square(sink, values))
    state = air(air_c)
    velocity = through / _free_area(fins)
    Re = REFERENCE_AIR * velocity * fins.spacing / state.viscosity
    film = nusselt_driven_channel(Re * fins.spacing / fins.length, state.prandtl) * state.conductivity / fins.spacing
    area, efficiency = wetted(fins, film)
    reynolds = 2 * Re
    inside = (reynolds >= DRIVEN_RANGE[0]) & (reynolds <= DRIVEN_RANGE[1])
    share = through / Q
    return DrivenLoss(fins.factor * film * area, velocity, film, efficiency, reynolds, share, np.asarray(inside))


def sink_air(sink: Sink, fins: Fins, values: Values) -> PowerFigures:
    """Pressure of a sink in its path: fins with what passes beside them, as linear and square parts."""
    linear, square = _fin_pressure(fins)
    if sink.bypass_cm2 is None:
        return PowerFigures(square, np.asarray(2.0), STATED_AIR, linear)
    beside = _bypass_square(sink, values)
    first, second = (v * _free_area(fins) * 2 for v in FIT_VELOCITIES)
    drops = []
    for Q in (first, second):
        q = flow_beside_bypass(Q, linear, square, beside)
        drops.append(linear * q + square * q**2)
    return _through(first, drops[0], second, drops[1])


def _free_area(fins: Fins) -> Array:
    return np.asarray((fins.count - 1.0) * fins.spacing * fins.height)


def _bypass_square(sink: Sink, values: Values) -> Array:
    area = values(f"{sink.id}/bypass_cm2")
    return np.asarray(BYPASS_LOSS * REFERENCE_AIR / (2 * area**2))


def _fin_pressure(fins: Fins) -> tuple[Array, Array]:
    """Linear and square part of the fins' pressure over the flow through them, laid through two velocities."""
    state, area = air(20.0), _free_area(fins)
    diameter = 2 * fins.spacing * fins.height / (fins.spacing + fins.height)
    aspect = np.minimum(fins.spacing / fins.height, fins.height / fins.spacing)
    ends = contraction_and_exit(fins.spacing / fins.pitch)
    drops = []
    for V in FIT_VELOCITIES:
        Re = V * diameter * state.density / state.viscosity
        friction = developing_friction(Re, fins.length / diameter, aspect) / Re
        drops.append((4 * friction * fins.length / diameter + ends) * REFERENCE_AIR * V**2 / 2)
    found = _through(FIT_VELOCITIES[0] * area, drops[0], FIT_VELOCITIES[1] * area, drops[1])
    return np.asarray(found.linear), found.coefficient


def _through(first: Array, first_pa: Array, second: Array, second_pa: Array) -> PowerFigures:
    """a q + b q^2 through two points."""
    square = (second_pa / second - first_pa / first) / (second - first)
    return PowerFigures(square, np.asarray(2.0), STATED_AIR, first_pa / first - square * first)
