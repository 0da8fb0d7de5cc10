"""Rows of a session, put together into the numbered batches that are sent."""

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass, field


@dataclass
class Session:
    """A logger from its start to its end: its channels by name and unit, and the number of its next batch."""

    key: str
    interval_s: float
    channels: Sequence[tuple[str, str]]
    sequence: int = 0
    rows: list[tuple[float, Sequence[float | None]]] = field(default_factory=list)

    def add(self, steady_s: float, values: Sequence[float | None]) -> None:
        self.rows.append((steady_s, values))

    def batch(self, clock_s: float, steady_s: float) -> tuple[str, str]:
        """(name, JSON lines) of what has been added; the next batch begins empty. There must be rows."""
        header = {
            "session": self.key,
            "sequence": self.sequence,
            "clock": round(clock_s, 3),
            "steady": round(steady_s, 3),
            "interval_s": self.interval_s,
            "channels": [{"name": name, "unit": unit} for name, unit in self.channels],
        }
        lines = [json.dumps(header, ensure_ascii=False)]
        for t, values in self.rows:
            lines.append(json.dumps([round(t, 3), *(None if v is None or math.isnan(v) else v for v in values)]))
        name = f"{self.key}-{self.sequence:08d}.jsonl"
        self.sequence += 1
        self.rows = []
        return name, "\n".join(lines) + "\n"
