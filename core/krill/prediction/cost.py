"""What an answer costs to work out, asked before the work: who waits for it holds a thread meanwhile."""

from typing import Final

from krill.document.build import Build
from krill.errors import DocumentRefused, Problem

#: some ten seconds on one core (measured: 5 to 9 million a second)
MOST: Final = 50_000_000


def must_be_affordable(build: Build, cases: int, samples: int) -> None:
    """DocumentRefused where cases x (draws + 1) x parts x parts is over the limit, with the draws that are not."""
    rows, each = cases * (samples + 1), max(len(build.parts), 1) ** 2
    if rows * each > MOST:
        fewer = max(MOST // (each * max(cases, 1)) - 1, 0)
        what = f"{samples} draws of {cases} workloads of {len(build.parts)} parts would take too long"
        raise DocumentRefused([Problem("samples", what, f"up to {fewer} draws")])
