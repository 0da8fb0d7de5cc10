"""Two to five options on one page: every part of each, what each measures, and what differs from the first."""

from typing import Any, Final

from krill.document.build import Build
from krill.document.reading import write_object
from krill.errors import DocumentRefused, Problem
from krill.prediction.answer.result import WorkloadResult
from krill.prediction.answer.workload_states import worst_workload
from krill.prediction.predict import CERTIFIES, DEFAULT_SAMPLES, predict
from krill.sizing.measures import measures_of
from krill.sizing.result import Beside, Difference, SideBySide

MAX_OPTIONS: Final = 5
MAX_DIFFERENCES: Final = 200
#: keys that say how a file was made, not what the build is
NOT_A_DIFFERENCE: Final = ("written_by", "prices", "ready_made")


def side_by_side(
    options: list[tuple[str, Build]], workload: str, room_c: float | None = None, samples: int = DEFAULT_SAMPLES
) -> SideBySide:
    """Each option in the workload (the one of its name, else its worst) and the same room, in the order given.

    DocumentRefused where there is none, or more than MAX_OPTIONS.
    """
    if not 1 <= len(options) <= MAX_OPTIONS:
        raise DocumentRefused([Problem("options", f"{len(options)} options", f"1 to {MAX_OPTIONS}")])
    first = options[0][1]
    found: list[Beside] = []
    room = room_c
    for label, build in options:
        chosen = _workload(build, workload)
        result = predict(build, [chosen], room, samples=samples).workloads[0]
        room = result.room_c if room is None else room
        found.append(_beside(label, build, result, first))
    return SideBySide(workload=workload, room_c=float(room or 0.0), options=found, certifies=CERTIFIES)


def _workload(build: Build, wanted: str) -> str:
    names = [item.id for item in build.workloads]
    if not names:
        raise DocumentRefused([Problem(f"{build.name}/workloads", "the build has no workload", "at least one")])
    return wanted if wanted in names else worst_workload(build)


def _beside(label: str, build: Build, result: WorkloadResult, first: Build) -> Beside:
    hours = build.brief.hours_per_day
    price = build.brief.energy_price
    a_year = None if hours is None or price is None else result.power_w / 1000 * float(hours) * 365 * float(price)
    return Beside(
        label=label,
        result=result,
        measures=measures_of(build),
        energy_a_year=a_year,
        differences=differences(first, build),
    )


def differences(first: Build, second: Build) -> list[Difference]:
    """What stands otherwise in the second document, by address; None where it stands nowhere."""
    a, b = (dict(_flat(write_object(build), "")) for build in (first, second))
    found: list[Difference] = [
        Difference(address=address, first=a.get(address), second=b.get(address))
        for address in dict.fromkeys([*a, *b])
        if a.get(address) != b.get(address)
    ]
    return found[:MAX_DIFFERENCES]


def _flat(value: Any, address: str) -> list[tuple[str, Any]]:
    """(address, value) of every leaf; a figure with its tolerance is one leaf, what has an id starts an address."""
    if isinstance(value, dict) and "value" not in value:
        own = str(value["id"]) if "id" in value else address
        return [
            leaf
            for key, inner in value.items()
            if key != "id" and not (not address and key in NOT_A_DIFFERENCE)
            for leaf in _flat(inner, f"{own}/{key}" if own else key)
        ]
    if isinstance(value, list) and value and all(isinstance(item, dict) and "id" in item for item in value):
        return [leaf for item in value for leaf in [(str(item["id"]), "there"), *_flat(item, str(item["id"]))]]
    return [(address, value)]
