"""What a page shows when typing pauses: bands, and the next changes of figures and duties."""

from krill.document.build import Build
from krill.prediction.answer.result import Prediction
from krill.prediction.predict import predict
from krill.sizing.next_changes import next_changes
from krill.sizing.result import NextChanges


def bands_and_changes(
    build: Build, workload: str, place: str | None = None, room_c: float | None = None, samples: int = 400
) -> tuple[Prediction, NextChanges | None]:
    """Bands of a workload, and quick next changes for a place, or for the tightest one by the bands; none without places."""
    bands = predict(build, [workload], room_c, samples)
    known = {found.address for found in bands.workloads[0].places}
    if not known:
        return bands, None
    wanted = place if place in known else bands.workloads[0].tightest
    return bands, next_changes(build, workload, wanted, room_c, quick=True)
