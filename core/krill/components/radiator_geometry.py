"""A radiator's table from the geometry of its core: flat tubes, louvred or plain fins."""

from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.radiator_table import (
    AIR_HEAT_CAPACITY,
    CORE_SHARE,
    REFERENCE_AIR,
    REFERENCE_FLOW,
    RadiatorCore,
    conductance_from_inlet_figure,
    section_face,
)
from krill.document.part_base import Metal
from krill.document.parts import CoreGeometry
from krill.materials.fluids import air, reference_water
from krill.physics.compact_fins import FinRow, colburn_louvred, nusselt_developing
from krill.physics.conduction import fin_efficiency
from krill.physics.heat_exchange import (
    effectiveness_crossflow,
    friction_petukhov,
    nusselt_gnielinski,
    nusselt_laminar_rectangular_h1,
)
from krill.physics.pipe_flow import laminar_friction_rectangular
from krill.physics.properties import FluidState

Array = NDArray[np.float64]

VELOCITIES = np.array([0.25, 0.5, 1.0, 2.0, 3.0, 5.0])
#: fins as made and sold, and the hub's shadow, against the correlation's clean samples (value from memory)
AS_SOLD = 0.75
#: share of the air that passes beside the core (value from memory)
BESIDE = 0.10
#: Colburn j over Fanning f of louvred fins, and what entry and exit add to the pressure (value from memory)
J_OVER_F, PRESSURE_FACTOR = 0.30, 1.4
#: of fins as they are rolled, W/mK (value from memory)
FIN_W_MK: Final[dict[Metal, float]] = {
    "copper": 385.0,
    "brass": 110.0,
    "nickel": 90.0,
    "aluminium": 205.0,
    "stainless": 15.0,
}
LOUVRE_SHARE = 0.85  # louvre length over fin height
#: core of each class of frame thickness, mm: depth, tube pitch, fins an inch (value from memory)
CLASS_CORE = {28: (18, 9.5, 20), 38: (26, 9.5, 16), 45: (32, 9.5, 14), 60: (46, 10.0, 11)}
LAMINAR_RE, TURBULENT_RE = 2300.0, 4000.0


def fin_row(core: CoreGeometry, thickness_mm: float) -> FinRow:
    """The core in metres; what it leaves out from the class of its thickness."""
    names = list(CLASS_CORE)
    depth, tube_pitch, per_inch = (
        float(np.interp(thickness_mm, names, [CLASS_CORE[n][i] for n in names])) for i in range(3)
    )
    tube_pitch = core.tube_pitch_mm or tube_pitch
    gap = (tube_pitch - core.tube_height_mm) / 1000
    return FinRow(
        fin_pitch=(core.fin_pitch_mm or 25.4 / per_inch) / 1000,
        fin_thickness=core.fin_thickness_mm / 1000,
        tube_gap=gap,
        tube_pitch=tube_pitch / 1000,
        depth=(core.depth_mm or depth) / 1000,
        louvre_pitch=core.louvre_pitch_mm / 1000,
        louvre_length=LOUVRE_SHARE * gap,
        louvre_angle_deg=float(core.louvre_angle_deg),
    )


def air_side(core: CoreGeometry, fins: FinRow, face_velocity: Array, metal: Metal) -> tuple[Array, Array]:
    """Conductance for each square metre of face, W/m2K, and core pressure, Pa, at face velocities."""
    state = air(35.0, 101325.0)
    rho, mu, k = float(state.density), float(state.viscosity), float(state.conductivity)
    prandtl = mu * AIR_HEAT_CAPACITY / k
    V = face_velocity * (1.0 - BESIDE) / fins.free_share
    total = fins.fin_area + fins.tube_area
    if core.fins == "louvred":
        j = colburn_louvred(rho * V * fins.louvre_pitch / mu, fins)
        h = j * rho * V * AIR_HEAT_CAPACITY * prandtl ** (-2 / 3)
        fanning = j / J_OVER_F
    else:
        channel = fins.fin_pitch - fins.fin_thickness
        diameter, aspect = 2 * channel * fins.tube_gap / (channel + fins.tube_gap), channel / fins.tube_gap
        reynolds = rho * V * diameter / mu
        developed = nusselt_laminar_rectangular_h1(min(aspect, 1 / aspect))
        h = nusselt_developing(developed, fins.depth / diameter / (reynolds * prandtl)) * k / diameter
        fanning = laminar_friction_rectangular(min(aspect, 1 / aspect)) / reynolds / 4
    h = AS_SOLD * h
    efficiency = fin_efficiency(h, FIN_W_MK[metal], fins.fin_thickness, fins.tube_gap / 2)
    pressure = PRESSURE_FACTOR * fanning * total / fins.free_share * rho * V**2 / 2
    return h * (fins.tube_area + efficiency * fins.fin_area), np.asarray(pressure)


def tube_side(core: CoreGeometry, thickness_mm: float, section_mm: float, flow: Array, liquid: FluidState) -> Array:
    """Conductance from the coolant to the tubes of one section, W/K, at coolant flows in m3/s, any shape."""
    fins = fin_row(core, thickness_mm)
    width = fins.depth - 2 * core.tube_wall_mm / 1000
    height = (core.tube_height_mm - 2 * core.tube_wall_mm) / 1000
    tubes = max(round(CORE_SHARE**0.5 * section_mm / 1000 / fins.tube_pitch), core.passes)
    diameter = 2 * width * height / (width + height)
    speed = flow / (tubes / core.passes) / (width * height)
    reynolds = liquid.density * speed * diameter / liquid.viscosity
    laminar = nusselt_laminar_rectangular_h1(height / width)
    fast = np.maximum(reynolds, 3000.0)
    turbulent = nusselt_gnielinski(fast, liquid.prandtl, friction_petukhov(fast))
    share = np.clip((reynolds - LAMINAR_RE) / (TURBULENT_RE - LAMINAR_RE), 0.0, 1.0)
    nusselt = (1 - share) * laminar + share * np.maximum(turbulent, laminar)
    surface = 2 * (width + height) * tubes * section_mm / 1000
    return np.asarray(nusselt * liquid.conductivity / diameter * surface)


@lru_cache(maxsize=256)
def geometry_core(
    core: CoreGeometry, section_mm: float, sections: int, thickness_mm: float, metal: Metal = "copper"
) -> RadiatorCore:
    """The table of a core with fins of a metal: what it gives on the inlet difference at 4 l/min, and what the air pays."""
    fins = fin_row(core, thickness_mm)
    face = section_face(section_mm)
    per_face, pressure = air_side(core, fins, VELOCITIES, metal)
    water = reference_water()
    inner = sections * float(tube_side(core, thickness_mm, section_mm, np.asarray(REFERENCE_FLOW), water))
    loop = float(REFERENCE_FLOW * water.density * water.heat_capacity)
    found = []
    for velocity, outer in zip(VELOCITIES, per_face, strict=True):
        UA = 1.0 / (1.0 / (float(outer) * face * sections) + 1.0 / inner)
        stream = REFERENCE_AIR * AIR_HEAT_CAPACITY * velocity * face * sections
        through = stream * (1.0 - BESIDE)
        least, most = min(through, loop), max(through, loop)
        w_k = least * float(effectiveness_crossflow(UA / least, least / most))
        found.append(conductance_from_inlet_figure(w_k, stream, loop) / sections)
    powers = np.stack([VELOCITIES, VELOCITIES**2], axis=1)
    weights = 1.0 / pressure
    linear, square = np.linalg.lstsq(powers * weights[:, None], pressure * weights, rcond=None)[0]
    return RadiatorCore(VELOCITIES, np.asarray(found), float(linear), float(square))


@lru_cache(maxsize=256)
def share_of_copper(core: CoreGeometry, section_mm: float, thickness_mm: float, metal: Metal) -> Array:
    """Conductance with fins of a metal over that with copper ones, at ``VELOCITIES``."""
    made = geometry_core(core, section_mm, 1, thickness_mm, metal)
    return np.asarray(made.conductance / geometry_core(core, section_mm, 1, thickness_mm).conductance)
