"""Figures on the command line: a wrong call says what is allowed, in one line."""

import argparse
import math
from collections.abc import Callable

from krill.document.build import ROOM_C


def within(low: float, high: float, unit: str = "") -> Callable[[str], float]:
    """A number from ``low`` to ``high``, as an argument's type."""

    def number(text: str) -> float:
        try:
            value = float(text)
        except ValueError:
            value = math.nan
        if not low <= value <= high:
            raise argparse.ArgumentTypeError(f"'{text[:40]}'; allowed: {low:g} to {high:g}{f' {unit}' if unit else ''}")
        return value

    return number


def whole_within(low: int, high: int) -> Callable[[str], int]:
    """A whole number from ``low`` to ``high``, as an argument's type."""

    def number(text: str) -> int:
        if not text.removeprefix("-").isdecimal() or len(text) > len(str(high)) + 1 or not low <= int(text) <= high:
            raise argparse.ArgumentTypeError(f"'{text[:40]}'; allowed: a whole number from {low} to {high}")
        return int(text)

    return number


#: a room temperature, as an argument's type
ROOM = within(*ROOM_C, "°C")
