"""What happened to the lines of a file: every one is kept, repaired, skipped, or of the header."""

from collections import Counter
from dataclasses import dataclass, field


@dataclass
class ReadReport:
    """Counts of lines, with the reasons; ``kept + repaired + skipped + header`` is ``lines``. ``time`` is its form."""

    encoding: str = "utf-8"
    delimiter: str = ","
    decimal: str = "."
    time: str = ""
    lines: int = 0
    header: int = 0
    kept: int = 0
    repaired: int = 0
    skipped: int = 0
    reasons: Counter[str] = field(default_factory=Counter)

    def skip(self, reason: str, lines: int = 1) -> None:
        self.skipped += lines
        self.reasons[reason] += lines

    def tell(self, reason: str, times: int = 1) -> None:
        """A reason that stands beside no line of its own."""
        self.reasons[reason] += times
