"""Groups of flow edges of one kind: pressure drop and its slope as functions of mass flow, all arrays (batch, edge).

Every drop is monotone in the flow and odd about rest; movers are drops that can be negative. A small linear
resistance keeps an edge at rest regular. ``columns`` says which edges of the network a group stands for.
"""

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from functools import cached_property, lru_cache
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from krill.physics.pipe_flow import laminar_multiple_churchill

#: what every edge asks of the slightest flow, Pa for each kg/s: far below anything that counts, it keeps rest regular
AT_REST = 1e-5

Array = NDArray[np.float64]
Columns = NDArray[np.intp]


@dataclass(frozen=True)
class Medium:
    """Density and viscosity of what flows through each edge, (batch, edge) or broadcastable."""

    density: Array
    viscosity: Array

    def take(self, columns: Columns) -> "Medium":
        return Medium(self.density[:, columns], self.viscosity[:, columns])


#: pressure drop from tail to head, Pa, and its derivative, of mass flows (batch, edge)
DropLaw = Callable[[Array], tuple[Array, Array]]


class EdgeGroup(Protocol):
    @property
    def columns(self) -> Columns: ...

    def at(self, medium: Medium) -> DropLaw:
        """The law of the group's own columns in their medium: what the medium settles is worked out once."""
        ...


@dataclass(frozen=True)
class PipeEdges:
    """Straight bores by Churchill's friction factor, with a loss coefficient on the velocity in the bore."""

    columns: Columns
    length_m: Array
    bore_m: Array
    roughness_m: Array
    loss: Array

    @cached_property
    def _bores(self) -> tuple[Array, Array, Array, Array]:
        """What no medium changes: Reynolds number of unit flow and viscosity, roughness, laminar and local drops."""
        d = self.bore_m
        area = np.pi / 4.0 * d**2
        return d / area, self.roughness_m / d, 32.0 * self.length_m / (d**2 * area), self.loss / (2.0 * area**2)

    def at(self, medium: Medium) -> DropLaw:
        rho, mu = medium.density, medium.viscosity
        of_flow, roughness, of_length, of_loss = self._bores
        reynolds, laminar, minor = of_flow / mu, of_length * mu / rho, of_loss / rho

        def law(mass_flow: Array) -> tuple[Array, Array]:
            size = np.abs(mass_flow)
            multiple, slope = laminar_multiple_churchill(size * reynolds, roughness)
            local = minor * size + AT_REST
            return (laminar * multiple + local) * mass_flow, laminar * (multiple + slope) + 2.0 * local - AT_REST

        return law


@dataclass(frozen=True)
class PowerEdges:
    """linear Q mu/mu_ref + coefficient |Q|^(n-1) Q (rho/rho_ref)^(n-1) (mu/mu_ref)^(2-n), Q the volume flow.

    A drop that goes with Q^n has a friction factor that goes with Re^(n-2): that says what density and viscosity do. From
    n = 2 on it goes with the density alone.
    """

    columns: Columns
    linear: Array
    coefficient: Array
    exponent: Array
    density_ref: Array
    viscosity_ref: Array

    def at(self, medium: Medium) -> DropLaw:
        rho, thicker = medium.density, medium.viscosity / self.viscosity_ref
        power = self.exponent - 1.0
        inertia = np.minimum(power, 1.0)
        linear = self.linear * thicker / rho + AT_REST
        steep = self.coefficient / rho * (rho / self.density_ref) ** inertia * thicker ** (1.0 - inertia)

        def law(mass_flow: Array) -> tuple[Array, Array]:
            curved = steep * (np.abs(mass_flow) / rho + 1e-12) ** power
            return (linear + curved) * mass_flow, linear + self.exponent * curved

        return law


def one_row(group: "PipeEdges | PowerEdges", row: int) -> EdgeGroup:
    """The group with the figures of one sample, (1, edge): what a drawing of that sample asks again."""
    figures = {
        f.name: value if value.shape[0] == 1 or f.name == "columns" else value[row : row + 1]
        for f in fields(group)
        for value in [getattr(group, f.name)]
    }
    return replace(group, **figures)


@dataclass(frozen=True)
class Curve:
    """A mover's falling curve at rated speed: cubic pieces in flow, knots (mover, knot), padded at the end.

    Beyond both ends it goes on as a parabola of the curve's own mean steepness, so a mover that is pushed
    backwards, overrun or stopped keeps a resistance. Affinity laws hold for the extensions, too.
    """

    knots: Array
    pieces: Array  # (mover, piece, 4)
    shutoff: Array
    free_flow: Array
    steepness: Array

    @staticmethod
    def stack(curves: list["Curve"]) -> "Curve":
        count = max(curve.knots.shape[1] for curve in curves)

        def padded(values: Array, missing: int) -> Array:
            last = np.repeat(values[:, -1:], missing, axis=1)
            return np.concatenate([values, last], axis=1)

        return Curve(
            np.concatenate([_pad_knots(c.knots, count) for c in curves]),
            np.concatenate([padded(c.pieces, count - c.knots.shape[1]) for c in curves]),
            *(np.concatenate([getattr(c, f) for c in curves]) for f in ("shutoff", "free_flow", "steepness")),
        )

    @cached_property
    def _in_a_row(self) -> tuple[Columns, Array, Array]:
        """Pieces of all movers one after another: where each mover's begin, where each piece starts, its cubic (4, piece)."""
        movers, pieces = self.pieces.shape[:2]
        cubics = np.ascontiguousarray(self.pieces.reshape(movers * pieces, 4).T)
        return np.arange(movers) * pieces, self.knots[:, :-1].ravel(), cubics

    def head(self, flow: Array) -> tuple[Array, Array]:
        """Pressure gained at rated speed and its derivative, flow (batch, mover)."""
        inner = np.minimum(np.maximum(flow, 0.0), self.free_flow)
        first, starts, cubics = self._in_a_row
        piece = first + (inner[..., None] >= self.knots[:, 1:-1]).sum(axis=-1)
        a, b, c, d = cubics.take(piece, axis=1)
        x = inner - starts.take(piece)
        head = ((a * x + b) * x + c) * x + d
        slope = (3 * a * x + 2 * b) * x + c
        outside = inner != flow
        if outside.any():
            k = self.steepness
            beyond = np.where(flow < 0.0, self.shutoff + k * flow**2, -k * (flow**2 - self.free_flow**2))
            head = np.where(outside, beyond, head)
            slope = np.where(outside, -2.0 * k * np.abs(flow), slope)
        return head, slope


def head_of(curve: Curve, mover: int, flow: Array) -> Array:
    """Pressure gained at rated speed by one mover of a stack, at flows (point,)."""
    every = np.zeros((len(flow), len(curve.shutoff)))
    every[:, mover] = flow
    return curve.head(every)[0][:, mover]


def _pad_knots(knots: Array, count: int) -> Array:
    missing = count - knots.shape[1]
    beyond = knots[:, -1:] + 1e9 * np.arange(1, missing + 1)
    return np.concatenate([knots, beyond], axis=1) if missing else knots


def curve_from_points(flows: Array, heads: Array) -> Curve:
    """Monotone curve (PCHIP) through points, SI; a stall dip is flattened to its falling envelope.

    The curve is continued to zero pressure along its last slope where the points end above it.
    """
    return _curve_through(tuple(flows.tolist()), tuple(heads.tolist()))


@lru_cache(maxsize=512)
def _curve_through(at: tuple[float, ...], pressures: tuple[float, ...]) -> Curve:
    from scipy.interpolate import PchipInterpolator  # a quarter of a second, and only a stated curve needs it

    flows, heads = np.array(at), np.array(pressures)
    heads = np.maximum.accumulate(heads[::-1])[::-1]
    if heads[-1] > 0.0:
        fall = max((heads[-2] - heads[-1]) / (flows[-1] - flows[-2]), heads[0] / flows[-1] / 10)
        flows, heads = np.append(flows, flows[-1] + heads[-1] / fall), np.append(heads, 0.0)
    if flows[0] > 0.0:
        flows, heads = np.append(0.0, flows), np.append(heads[0], heads)
    pieces = PchipInterpolator(flows, heads).c.T
    steepness = heads[0] / flows[-1] ** 2
    return Curve(
        flows[None, :], pieces[None], np.array([heads[0]]), np.array([flows[-1]]), np.array([float(steepness)])
    )


def curve_from_parabola(shutoff: float, free_flow: float) -> Curve:
    """head = shutoff (1 - (Q/free_flow)^2), continued as the same parabola on both sides."""
    k = shutoff / free_flow**2
    pieces = np.array([[[0.0, -k, 0.0, shutoff]]])
    return Curve(np.array([[0.0, free_flow]]), pieces, np.array([shutoff]), np.array([free_flow]), np.array([k]))


@dataclass(frozen=True)
class MoverEdges:
    """Pumps and fans: head = pressure_factor (rho/rho_ref) n^2 H(Q / (n flow_factor)).

    ``rest_slope`` takes the place of ``idle_slope`` where the mover stands still.
    """

    columns: Columns
    curve: Curve
    speed: Array
    flow_factor: Array
    pressure_factor: Array
    density_ref: Array
    idle_slope: Array
    rest_slope: Array | None = None

    def at(self, medium: Medium) -> DropLaw:
        rho = medium.density
        n = np.maximum(self.speed, 1e-6)
        at_rated = 1.0 / (n * self.flow_factor * rho)
        scale = -self.pressure_factor * rho / self.density_ref * n**2
        steep = scale * at_rated

        def law(mass_flow: Array) -> tuple[Array, Array]:
            head, slope = self.curve.head(mass_flow * at_rated)
            return scale * head + self.idle_slope * mass_flow, steep * slope + self.idle_slope

        return law


#: stiffness of an imposed flow, Pa for each kg/s: a fan's 100 Pa shift it by 1e-6 kg/s
IMPOSED_PA_S_KG = 1e8


class ImposedFlow:
    """One edge that carries a given mass flow (batch,) whatever it costs: what a system curve is asked with."""

    def __init__(self, column: int, mass_flow: Array) -> None:
        self.columns: Columns = np.array([column])
        self._mass_flow = mass_flow[:, None]

    def at(self, medium: Medium) -> DropLaw:
        return lambda flow: (IMPOSED_PA_S_KG * (flow - self._mass_flow), np.full_like(flow, IMPOSED_PA_S_KG))
