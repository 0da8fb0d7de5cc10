"""Heat pipes as parts: resistance of a group, its limit at a temperature and tilt, and what happens beyond it."""

from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.document.solids import HeatPipe
from krill.materials.fluids import saturated_water
from krill.physics import heat_pipe as physics

Array = NDArray[np.float64]

#: state that a class or data sheet states a pipe's limit in: C, metres of effective length, level, round, straight
REFERENCE_C, REFERENCE_LENGTH_M = 60.0, 0.14
#: heated and cooled lengths that class resistances stand for
REFERENCE_EVAPORATOR_M, REFERENCE_CONDENSER_M = 0.04, 0.09
#: an evaporator below its condenser carries at most this multiple of level (common practice 1.3-1.6)
MAX_ASSISTED = 1.45
#: each 90 degree bend (common practice 0.05-0.15 lost), and one tighter than three diameters
BEND, TIGHT_BEND, TIGHTEST = 0.90, 0.80, 3.0
#: flattened to a share of the diameter -> share of the limit (value from memory)
FLAT_SHARE, FLAT_LIMIT = (0.3, 0.4, 0.5, 0.6, 1.0), (0.15, 0.35, 0.65, 0.85, 1.0)
#: beyond its limit a pipe takes more watts only at this share of its conductance: partly dried out (estimate)
DRY_SHARE = 0.1
#: walls and wicks of copper-water pipes against the diameter, m (value from memory)
WALL_SHARE, WICK_M = 0.05, {"sintered": 0.75e-3, "grooved": 0.25e-3, "mesh": 0.4e-3}
#: (effective pore radius m, permeability m2): sintered of 0.1 mm spheres at 45 %, grooves of 0.2 mm, two layers of mesh
WICKS: Final[dict[str, tuple[float, float]]] = {
    "sintered": (4.1e-5, 8.03e-11),
    "grooved": (1.0e-4, 1.5e-9),
    "mesh": (6.0e-5, 6.0e-11),
}
#: evaporators dry out at this flux (common practice 50-100 W/cm2 for sintered wicks)
FLUX_W_M2 = {"sintered": 75e4, "grooved": 25e4, "mesh": 30e4}
#: pitch of grooves in a base where none is given, in diameters
GROOVE_PITCH = 1.5


@dataclass(frozen=True)
class PipeFigures:
    """One pipe of a group, SI, arrays over the batch."""

    part: HeatPipe
    diameter: Array
    flat: Array | None
    evaporator: Array
    adiabatic: Array
    condenser: Array
    lift: Array
    stated_limit: Array
    uneven: Array
    bore: physics.Bore
    pore: float
    permeability: float
    wick_area: Array

    @cached_property
    def round_bore(self) -> physics.Bore:
        """The bore before it is pressed flat."""
        return physics.bore_of(self.diameter, WALL_SHARE * self.diameter, WICK_M[self.part.wick])

    @cached_property
    def reference_capillary(self) -> Array:
        """Chi's form in the state that a limit is stated in, W."""
        return _capillary(self, np.asarray(REFERENCE_C), np.asarray(REFERENCE_LENGTH_M), np.asarray(0.0))

    @property
    def effective_length(self) -> Array:
        return np.asarray(self.adiabatic + (self.evaporator + self.condenser) / 2)

    @property
    def total_length(self) -> Array:
        return np.asarray(self.evaporator + self.adiabatic + self.condenser)

    @property
    def width(self) -> Array:
        """Across the pipe where it lies in a groove."""
        if self.flat is None:
            return self.diameter
        return physics.flattened(self.diameter, self.flat, 0.0)[0]


def pipe_figures(part: HeatPipe, lift_m: float | None, values: Values) -> PipeFigures:
    """Figures of a group; ``lift_m`` from the run of the pipes and gravity beats the stated lift."""

    def at(field: str, missing: float | None = None) -> Array:
        return values(f"{part.id}/{field}", missing)

    D = at("diameter_mm")
    flat = at("flat_mm") if part.flat_mm is not None else None
    wall, wick = WALL_SHARE * D, WICK_M[part.wick]
    bore = physics.bore_of(D, wall, wick, flat)
    inner = D / 2 - wall
    lift = at("lift_mm", 0.0) if lift_m is None else np.asarray(lift_m)
    pore, permeability = WICKS[part.wick]
    return PipeFigures(
        part,
        D,
        flat,
        at("evaporator_mm"),
        at("adiabatic_mm"),
        at("condenser_mm"),
        lift,
        at("limit_w"),
        at("uneven", 1.0) if part.count > 1 else np.asarray(1.0),
        bore,
        pore,
        permeability,
        np.pi * (inner**2 - (inner - wick) ** 2),
    )


@dataclass(frozen=True)
class PipeResistance:
    """K/W of one pipe, hot block to cold base (batch,)."""

    groove_in: Array
    evaporator: Array
    vapour: Array
    condenser: Array
    groove_out: Array

    @property
    def total(self) -> Array:
        return self.groove_in + self.evaporator + self.vapour + self.condenser + self.groove_out


def pipe_resistance(pipe: PipeFigures, values: Values, temperature_c: Array | float = REFERENCE_C) -> PipeResistance:
    """Class or stated resistances, scaled with the lengths that are heated and cooled; joints on half the circumference."""
    part = pipe.part
    joint = values(f"{part.id}/groove_mm2k_w") / (np.pi / 2 * pipe.diameter)
    T = np.asarray(temperature_c, dtype=np.float64)
    return PipeResistance(
        joint / pipe.evaporator,
        values(f"{part.id}/evaporator_k_w") * REFERENCE_EVAPORATOR_M / pipe.evaporator,
        physics.vapour_resistance(saturated_water(T), T, pipe.bore, pipe.effective_length),
        values(f"{part.id}/condenser_k_w") * REFERENCE_CONDENSER_M / pipe.condenser,
        joint / pipe.condenser,
    )


@dataclass(frozen=True)
class PipeLimits:
    """Limits of one pipe, W (batch,); the least binds. Boiling (nucleation) is stated, its physics is weak."""

    capillary: Array
    heat_flux: Array
    entrainment: Array
    sonic: Array
    viscous: Array
    boiling: Array

    @property
    def least(self) -> Array:
        return np.asarray(np.minimum.reduce(np.broadcast_arrays(*self.each().values())))

    def each(self) -> dict[str, Array]:
        return {
            "capillary": self.capillary,
            "heat flux": self.heat_flux,
            "entrainment": self.entrainment,
            "sonic": self.sonic,
            "viscous": self.viscous,
            "boiling": self.boiling,
        }


def pipe_limits(pipe: PipeFigures, temperature_c: Array | float) -> PipeLimits:
    """Limits at a vapour temperature.

    The capillary one is the stated limit, scaled by Chi's form from the state it is stated in to this one; bends and
    flattening by common practice; help from gravity is capped. The others are computed from the round bore.
    """
    T = np.asarray(temperature_c, dtype=np.float64)
    water, round_bore = saturated_water(T), pipe.round_bore
    length = np.maximum(pipe.effective_length, 0.02)
    level = _capillary(pipe, T, length, np.asarray(0.0))
    raised = np.minimum(_capillary(pipe, T, length, pipe.lift), MAX_ASSISTED * level)
    shape = flattening_share(pipe) * bend_share(pipe)
    return PipeLimits(
        pipe.stated_limit * raised / pipe.reference_capillary * shape,
        physics.heat_flux_limit(round_bore, pipe.evaporator, FLUX_W_M2[pipe.part.wick]),
        physics.entrainment_limit(water, round_bore.vapour_area, pipe.pore) * shape,
        physics.sonic_limit(water, T, pipe.bore.vapour_area),
        physics.viscous_limit(water, pipe.bore, length),
        physics.boiling_limit(water, T, round_bore, 40.0, pipe.evaporator, pipe.pore),
    )


def _capillary(pipe: PipeFigures, T: Array, length: Array, lift: Array) -> Array:
    total = np.maximum(pipe.total_length, 0.02)
    level = np.sqrt(np.clip(1.0 - (lift / total) ** 2, 0.0, 1.0))
    return physics.capillary_limit(
        saturated_water(T), pipe.round_bore, pipe.pore, pipe.permeability, pipe.wick_area, length, lift, level
    )[0]


def flattening_share(pipe: PipeFigures) -> Array:
    """What pressing flat leaves of the capillary limit."""
    if pipe.flat is None:
        return np.asarray(1.0)
    return np.asarray(np.interp(pipe.flat / pipe.diameter, FLAT_SHARE, FLAT_LIMIT))


def bend_share(pipe: PipeFigures) -> float:
    """What bends leave of the limit; tighter than three diameters each costs twice."""
    radius = pipe.part.bend_radius_mm
    if radius is None:
        return float(BEND**pipe.part.bends)
    given = float(radius if isinstance(radius, int | float) else radius.value)
    tight = given < TIGHTEST * float(np.mean(pipe.diameter)) * 1000
    return float((TIGHT_BEND if tight else BEND) ** pipe.part.bends)


class PipeGroup:
    """Like pipes side by side: their conductance, and their heat over a difference."""

    def __init__(self, pipe: PipeFigures, values: Values) -> None:
        self.pipe, self._values = pipe, values
        self._fixed = pipe_resistance(pipe, values)

    @property
    def as_stated(self) -> Array:
        """W/K of the group at the temperature that class figures are stated at."""
        return self.conductance(np.asarray(REFERENCE_C))

    def resistance(self, mean_c: Array) -> Array:
        """K/W of one pipe at the temperature of its vapour: cold vapour is thin and pays more to flow."""
        water, fixed = saturated_water(mean_c), self._fixed
        vapour = physics.vapour_resistance(water, mean_c, self.pipe.bore, self.pipe.effective_length)
        return np.asarray(fixed.total - fixed.vapour + vapour)

    def conductance(self, mean_c: Array) -> Array:
        """W/K of the group."""
        return np.asarray(self.pipe.part.count / (self.resistance(mean_c) * self.pipe.uneven))

    def limit(self, mean_c: Array) -> Array:
        """W of the group at which its busiest pipe reaches its limit."""
        return np.asarray(self.pipe.part.count * pipe_limits(self.pipe, mean_c).least / self.pipe.uneven)

    def heat(self, difference_k: Array, mean_c: Array) -> Array:
        """W: beyond the limit each further kelvin carries a tenth."""
        wet, limit = self.conductance(mean_c) * difference_k, self.limit(mean_c)
        return np.asarray(np.where(wet > limit, limit + DRY_SHARE * (wet - limit), wet))
