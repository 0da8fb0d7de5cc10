"""Series as they are stored: chunks of 4 096 little-endian floats with a pyramid for quick drawing."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

CHUNK = 4096
STEP = 256
FINE_FACTOR = 20  # above this many rows a drawn point the pyramid is drawn


def packed(values: Array) -> Iterator[tuple[bytes, bytes]]:
    """(data, pyramid) of each chunk, one after the other."""
    for start in range(0, len(values), CHUNK):
        piece = values[start : start + CHUNK]
        yield piece.astype("<f8").tobytes(), pyramid(piece).astype("<f8").tobytes()


def pyramid(values: Array) -> Array:
    """(bucket, 3): min, mean and max of each 256 values, NaN where all are missing."""
    padded = np.full(-(-len(values) // STEP) * STEP, np.nan)
    padded[: len(values)] = values
    buckets = padded.reshape(-1, STEP)
    good = np.isfinite(buckets)
    count = good.sum(1)
    low = np.where(good, buckets, np.inf).min(1)
    high = np.where(good, buckets, -np.inf).max(1)
    mean = np.where(good, buckets, 0.0).sum(1) / np.maximum(count, 1)
    empty = count == 0
    return np.stack([np.where(empty, np.nan, column) for column in (low, mean, high)], axis=1)


def unpacked(chunks: list[bytes]) -> Array:
    """The values of consecutive chunks."""
    return np.frombuffer(b"".join(chunks), dtype="<f8").astype(np.float64)


def thinned(time_s: Array, values: Array, points: int) -> tuple[Array, Array]:
    """At most about ``points`` samples that keep the lowest and the highest of each stretch."""
    if len(time_s) <= points:
        return time_s, values
    size = int(np.ceil(2 * len(time_s) / points))
    keep: list[int] = []
    for start in range(0, len(time_s), size):
        piece = values[start : start + size]
        if np.any(np.isfinite(piece)):
            keep += sorted({start + int(np.nanargmin(piece)), start + int(np.nanargmax(piece))})
        else:
            keep.append(start)
    return time_s[keep], values[keep]
