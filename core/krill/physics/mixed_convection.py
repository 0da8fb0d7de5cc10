"""Still and moving air at one face together."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


@correlation("churchill-1977-mixed", {"still": (0.0, 1e6), "moving": (0.0, 1e6)}, scatter=0.10)
def joined_films(still: ArrayLike, moving: ArrayLike) -> Array:
    """Films or conductances of free and forced flow at one face: (still^3 + moving^3)^(1/3).

    Any shapes that broadcast: ``still`` W/m2K or W/K of still air alone; ``moving`` the same of the stream alone.

    >>> f"{joined_films(3.0, 4.0):.4g}"
    '4.498'
    """
    s, m = np.asarray(still, dtype=np.float64), np.asarray(moving, dtype=np.float64)
    return np.asarray(np.cbrt(s**3 + m**3))


@correlation("pohlhausen-1921", {"reynolds": (1e2, 5e5), "prandtl": (0.5, 50.0)}, scatter=0.10)
def nusselt_plate(reynolds: ArrayLike, prandtl: ArrayLike) -> Array:
    """Mean over a flat plate in a laminar stream along it, on its length: 0.664 Re^0.5 Pr^(1/3).

    Any shapes that broadcast: ``reynolds`` on the length; ``prandtl`` Prandtl number.

    >>> f"{nusselt_plate(1e4, 0.71):.4g}"
    '59.24'
    """
    return np.asarray(0.664 * np.sqrt(np.asarray(reynolds, dtype=np.float64)) * np.cbrt(prandtl))
