"""Columns of air that are lighter or heavier than the air outside."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
STANDARD_GRAVITY = 9.80665
