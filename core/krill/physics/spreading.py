"""Heat that spreads from small faces into a plate: closed form, and series for faces anywhere on it."""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.polynomial import chebyshev
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]

#: terms each way of the part that depends on the plate's shape alone
SHAPE_TERMS = 300
#: beyond this depth (z t) a term no longer feels the far face
FELT_DEPTH, MAX_FELT_TERMS = 4.0, 160


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("lee-1995", {"source_area": (1e-8, 1.0), "plate_area": (1e-8, 10.0)}, scatter=0.10)
def spreading_lee(
    source_area: ArrayLike,
    plate_area: ArrayLike,
    thickness_m: ArrayLike,
    conductivity: ArrayLike,
    film_w_m2k: ArrayLike,
) -> Array:
    """Mean spreading resistance of a centred source on a plate with a film on its far face, K/W.

    Equal-area circles: eps = a/b, tau = t/b, lambda = pi + 1/(sqrt(pi) eps), Bi = h b/k,
    phi = (tanh(lambda tau) + lambda/Bi) / (1 + lambda/Bi tanh(lambda tau)),
    R = 0.5 (1 - eps)^1.5 phi / (k sqrt(source area)). Lee, Song, Au & Moran 1995 (quick form, within 10 %).
    Zero for full coverage; the one-dimensional slab and the film itself are not included.

    Any shapes that broadcast: ``source_area`` m2; ``plate_area`` m2; ``thickness_m`` m; ``conductivity`` W/mK;
    ``film_w_m2k`` W/m2K.

    >>> f"{spreading_lee(1.5e-4, 1.6e-3, 0.003, 390.0, 4000.0):.4g}"
    '0.09916'
    """
    A1, A2, t, k = _array(source_area), _array(plate_area), _array(thickness_m), _array(conductivity)
    a, b = np.sqrt(A1 / np.pi), np.sqrt(A2 / np.pi)
    eps = np.minimum(a / b, 1.0)
    lam = np.pi + 1.0 / (np.sqrt(np.pi) * eps)
    resist = lam * k / (_array(film_w_m2k) * b)
    tanh = np.tanh(lam * t / b)
    phi = (tanh + resist) / (1.0 + resist * tanh)
    return np.asarray(0.5 * (1.0 - eps) ** 1.5 * phi / (k * np.sqrt(A1)))


@dataclass(frozen=True)
class Face:
    """A rectangular source: sizes along x and y and its centre from one corner of the plate, metres."""

    size: tuple[float, float]
    centre: tuple[float, float]


def _means(face: Face, plate: tuple[float, float], terms: int) -> tuple[Array, Array]:
    """Mean of cos(lambda x) and cos(delta y) over a face, (terms,) each."""
    n = np.arange(1, terms + 1, dtype=np.float64) * np.pi
    found = []
    for axis in (0, 1):
        z = n / plate[axis]
        found.append(np.cos(z * face.centre[axis]) * np.sinc(z * face.size[axis] / 2 / np.pi))
    return found[0], found[1]


@lru_cache(maxsize=256)
def _shape(first: Face, second: Face, plate: tuple[float, float], terms: int) -> tuple[float, Array, Array, Array]:
    """What only the plan decides: k R of a plate without end below, and the weights of the first ``terms`` terms.

    Weights of x, y and both, so that k R = shape + sum weight (depth - 1).
    """
    a, b = plate
    n = np.arange(1, SHAPE_TERMS + 1, dtype=np.float64)
    lam, delta = n * np.pi / a, n * np.pi / b
    (f1, g1), (f2, g2) = _means(first, plate, SHAPE_TERMS), _means(second, plate, SHAPE_TERMS)
    along_x, along_y = 2 * f1 * f2 / lam / (a * b), 2 * g1 * g2 / delta / (a * b)
    both = 4 * np.outer(f1 * f2, g1 * g2) / np.hypot(lam[:, None], delta[None, :]) / (a * b)
    total = float(along_x.sum() + along_y.sum() + both.sum())
    return total, along_x[:terms], along_y[:terms], both[:terms, :terms].copy()


def _depth(z: Array, thickness: Array, film_over_k: Array) -> Array:
    """What a term feels of the far face, less one; shapes broadcast."""
    tanh = np.tanh(z * thickness)
    return np.asarray((z + film_over_k * tanh) / (film_over_k + z * tanh) - 1.0)


def _felt_terms(plate: tuple[float, float], thickness: float) -> int:
    return max(8, min(MAX_FELT_TERMS, math.ceil(FELT_DEPTH * max(plate) / (np.pi * thickness))))


@correlation("muzychka-2003", {"thickness_m": (1e-4, 0.1), "film_w_m2k": (0.1, 1e5)}, scatter=0.005)
def influence(
    first: Face,
    second: Face,
    plate: tuple[float, float],
    thickness_m: ArrayLike,
    conductivity: ArrayLike,
    film_w_m2k: ArrayLike,
) -> Array:
    """Kelvins of one face over the plate's mean for each watt into another, K/W (symmetric; the same face: spreading).

    Double Fourier series of Muzychka, Culham & Yovanovich 2003 averaged over the first face. Figures broadcast; far
    apart it is negative. The one-dimensional slab and the film are not included.

    ``first`` face that warms; ``second`` face that is heated; ``plate`` sides, m; ``thickness_m`` m;
    ``conductivity`` W/mK; ``film_w_m2k`` W/m2K.

    >>> face = Face((0.03, 0.03), (0.05, 0.05))
    >>> f"{influence(face, face, (0.1, 0.1), 0.003, 390.0, 4000.0):.4g}"
    '0.06593'
    """
    t, k, h = np.broadcast_arrays(_array(thickness_m), _array(conductivity), _array(film_w_m2k))
    terms = _felt_terms(plate, float(np.min(t)))
    shape, along_x, along_y, both = _shape(first, second, plate, terms)
    n = np.arange(1, terms + 1, dtype=np.float64) * np.pi
    lam, delta = n / plate[0], n / plate[1]
    beta = np.hypot(lam[:, None], delta[None, :])
    t1, ratio = t[..., None], (h / k)[..., None]
    total = shape + np.sum(along_x * _depth(lam, t1, ratio), axis=-1)
    total = total + np.sum(along_y * _depth(delta, t1, ratio), axis=-1)
    total = total + np.sum(both * _depth(beta, t1[..., None], ratio[..., None]), axis=(-2, -1))
    return np.asarray(total / k)


class InfluenceTable:
    """Influences of every pair of faces on one plate over a range of film and thickness.

    Chebyshev polynomials in the logarithms, so that a thousand samples cost what a dozen do.
    """

    FILM_NODES, THICKNESS_NODES = 7, 4

    def __init__(
        self, faces: list[Face], plate: tuple[float, float], ratio: tuple[float, float], thickness: tuple[float, float]
    ):
        self.count = len(faces)
        self._spans = [_span(*ratio), _span(*thickness)]
        nodes = [chebyshev.chebpts1(n) for n in (self.FILM_NODES, self.THICKNESS_NODES)]
        x, y = (np.exp(middle + half * node) for (middle, half), node in zip(self._spans, nodes, strict=True))
        film, thick = np.meshgrid(x, y, indexing="ij")
        vander = [chebyshev.chebvander(node, len(node) - 1) for node in nodes]
        inverse = [np.linalg.inv(v) for v in vander]
        self._coefficients = np.zeros((self.count, self.count, self.FILM_NODES, self.THICKNESS_NODES))
        for i in range(self.count):
            for j in range(i + 1):
                values = influence(faces[i], faces[j], plate, thick, 1.0, film)
                self._coefficients[i, j] = self._coefficients[j, i] = inverse[0] @ values @ inverse[1].T

    def covers(self, ratio: Array, thickness: Array) -> bool:
        """Whether every sample lies in the range that the table was made for."""
        return all(
            abs(float(f(np.log(values))) - middle) <= half * 1.0001
            for (middle, half), values in zip(self._spans, (ratio, thickness), strict=True)
            for f in (np.min, np.max)
        )

    def __call__(self, ratio: Array, thickness: Array, conductivity: Array) -> Array:
        """K/W (batch, face, face) at film over conductivity, thickness and conductivity (batch,)."""
        rows = []
        for (middle, half), values, count in zip(
            self._spans, (ratio, thickness), (self.FILM_NODES, self.THICKNESS_NODES), strict=True
        ):
            rows.append(chebyshev.chebvander((np.log(values) - middle) / half, count - 1))
        kR = np.einsum("ijab,na,nb->nij", self._coefficients, rows[0], rows[1], optimize=True)
        return np.asarray(kR / conductivity[:, None, None])


#: ends of a shared table's film range lie on powers of this, so that builds a little apart ask the same table
FILM_STEP = 1.5


def shared_table(
    faces: tuple[Face, ...], plate: tuple[float, float], ratio: tuple[float, float], thickness: tuple[float, float]
) -> InfluenceTable:
    """A table that covers at least these ranges, kept for whoever asks for the same plan next."""
    ends = tuple(
        rounded(math.log(end) / math.log(FILM_STEP))
        for rounded, end in zip((math.floor, math.ceil), ratio, strict=True)
    )
    return _kept_table(faces, plate, (FILM_STEP ** ends[0], FILM_STEP ** ends[1]), thickness)


@lru_cache(maxsize=256)
def _kept_table(
    faces: tuple[Face, ...], plate: tuple[float, float], ratio: tuple[float, float], thickness: tuple[float, float]
) -> InfluenceTable:
    return InfluenceTable(list(faces), plate, ratio, thickness)


def _span(low: float, high: float) -> tuple[float, float]:
    """Middle and half width of a range in logarithms, never of no width."""
    a, b = math.log(low), math.log(high)
    return (a + b) / 2, max((b - a) / 2, 0.01)
