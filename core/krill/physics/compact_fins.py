"""Air side of flat-tube cores: heat transfer and friction of louvred and plain fins."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


@dataclass(frozen=True)
class FinRow:
    """Fins between two flat tubes, all in metres; ``tube_gap`` is the fin's height from tube to tube."""

    fin_pitch: float
    fin_thickness: float
    tube_gap: float
    tube_pitch: float
    depth: float
    louvre_pitch: float
    louvre_length: float
    louvre_angle_deg: float

    @property
    def free_share(self) -> float:
        """Open area between fins and tubes over the face."""
        return self.tube_gap / self.tube_pitch * (1.0 - self.fin_thickness / self.fin_pitch)

    @property
    def fin_area(self) -> float:
        """Fin surface for each square metre of face."""
        return 2.0 * self.tube_gap * self.depth / (self.fin_pitch * self.tube_pitch)

    @property
    def tube_area(self) -> float:
        """Bare tube surface for each square metre of face."""
        return 2.0 * self.depth * (1.0 - self.fin_thickness / self.fin_pitch) / self.tube_pitch


@correlation("chang-wang-1997", {"reynolds_louvre": (100.0, 3000.0)}, scatter=0.15)
def colburn_louvred(reynolds_louvre: ArrayLike, fins: FinRow) -> Array:
    """Colburn j of louvred fins on flat tubes, general correlation; Reynolds number on the louvre pitch.

    j = Re^-0.49 (a/90)^0.27 (Fp/Lp)^-0.14 (Fl/Lp)^-0.29 (Td/Lp)^-0.23 (Ll/Lp)^0.68 (Tp/Lp)^-0.28 (df/Lp)^-0.05.

    Any shapes that broadcast: ``reynolds_louvre`` on the louvre pitch; ``fins`` geometry.

    >>> fins = FinRow(1.5e-3, 1e-4, 8e-3, 1e-2, 16e-3, 1.2e-3, 6.5e-3, 27.0)
    >>> f"{colburn_louvred(500.0, fins):.4g}"
    '0.0209'
    """
    Lp = fins.louvre_pitch
    geometry = (
        (fins.louvre_angle_deg / 90.0) ** 0.27
        * (fins.fin_pitch / Lp) ** -0.14
        * (fins.tube_gap / Lp) ** -0.29
        * (fins.depth / Lp) ** -0.23
        * (fins.louvre_length / Lp) ** 0.68
        * (fins.tube_pitch / Lp) ** -0.28
        * (fins.fin_thickness / Lp) ** -0.05
    )
    return np.asarray(np.asarray(reynolds_louvre, dtype=np.float64) ** -0.49 * geometry)


@correlation("shah-london-1978", {"dimensionless_length": (1e-4, 10.0)}, scatter=0.10)
def nusselt_developing(developed: ArrayLike, dimensionless_length: ArrayLike) -> Array:
    """Mean Nusselt number of a short laminar channel: developed value and entry of a flat plate, blended by cubes.

    ``dimensionless_length`` is x* = (L/Dh)/(Re Pr); entry 1.85 x*^(-1/3) (Leveque's form for parallel plates).

    Any shapes that broadcast: ``developed`` Nusselt number far from the entry; ``dimensionless_length`` x*.

    >>> f"{nusselt_developing(7.54, 0.05):.4g}"
    '8.219'
    """
    x = np.asarray(dimensionless_length, dtype=np.float64)
    return np.asarray((np.asarray(developed, dtype=np.float64) ** 3 + (1.85 * x ** (-1 / 3)) ** 3) ** (1 / 3))
