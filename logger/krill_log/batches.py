"""Rows of a session as the lines of the numbered batches that are sent."""

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass
class Session:
    """A logger from its start to its end: its channels by name and unit, and the number of its next batch."""

    key: str
    interval_s: float
    channels: Sequence[tuple[str, str]]
    sequence: int = 0

    def header(self, clock_s: float, steady_s: float) -> tuple[str, str]:
        """(name, first line) of the next batch; both clocks at the same moment, that of its first row."""
        told = {
            "session": self.key,
            "sequence": self.sequence,
            "clock": round(clock_s, 3),
            "steady": round(steady_s, 3),
            "interval_s": self.interval_s,
            "channels": [{"name": name, "unit": unit} for name, unit in self.channels],
        }
        name = f"{self.key}-{self.sequence:08d}"
        self.sequence += 1
        return name, json.dumps(told, ensure_ascii=False)


def row(steady_s: float, values: Sequence[float | None]) -> str:
    """One line: seconds of the steady clock, then a figure a channel, null where nothing was read."""
    return json.dumps([round(steady_s, 3), *(None if v is None or math.isnan(v) else v for v in values)])
