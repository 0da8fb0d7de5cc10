"""How often the band of a difference of two runs holds, and its sign is right: python tools/compare_pairs.py [PAIRS A KIND].

Each machine is drawn from the stated tolerances and run twice, once before and once after one known change; a reading errs
by 1 K (90 %) anew each time, and the room by what two figures of it leave open.
"""

import sys
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from strategies import recipe

from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.runs.as_run import value_of
from krill.runs.compare import ROOM_READ_K, RunSide, compare
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured
from krill.simulated_bench.bench import BenchPlan, hidden_figures

CORE, CHIP, MEMORY = "processor-core/temperature", "graphics-chip/temperature", "memory-place/temperature"
ROLES = (CORE, CHIP, MEMORY, "loop-a/coolant_hot")
SENSOR_K, QUANTILE = 1.0, 1.645
Change = Callable[[dict[str, Any]], None]


def of_kind(kind: str, **more: Any) -> Change:
    def change(raw: dict[str, Any]) -> None:
        raw["parts"] = [part | more if part["kind"] == kind else part for part in raw["parts"]]

    return change


def of_part(part_id: str, **more: Any) -> Change:
    def change(raw: dict[str, Any]) -> None:
        raw["parts"] = [part | more if part["id"] == part_id else part for part in raw["parts"]]

    return change


def turned(raw: dict[str, Any]) -> None:
    """The rear fan turned round: it blows in what it blew out."""
    raw["air_paths"] = [
        path | {"from_zone": path["to_zone"], "to_zone": path["from_zone"], "elements": path["elements"][::-1]}
        if path["id"] == "air-rear"
        else path
        for path in raw["air_paths"]
    ]


CHANGES: dict[str, Change] = {
    "radiator": of_kind("radiator", thickness_mm=45),
    "fans": of_kind("fan", **{"class": "fan_120x25_very_fast"}),
    "plate": of_part("plate-processor", factor=1.8),
    "paste": of_part("paste-processor", **{"class": "paste_dry_lid"}),
    "direction": turned,
    "room": lambda raw: None,
}


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 34
    build, total = recipe(), Counter[str]()
    for number, (kind, change) in enumerate(CHANGES.items()):
        raw = write_object(build)
        change(raw)
        after = read_object(raw)
        told = Counter[str]()
        for seed in range(1000 * number, 1000 * number + count):
            told += _pair(build, after, 24.0, 29.0 if kind == "room" else 24.0, seed)
        total += told
        print(f"{kind:12s}{_said(told)}")
    print(f"{'all':12s}{_said(total)}")


def _said(told: Counter[str]) -> str:
    sign = f"{100 * told['sign'] / told['clear']:5.1f} % of {told['clear']}" if told["clear"] else "  none over 2 K"
    honest = 100 * told["flagged"] / told["pairs"]
    return f"band holds {100 * told['held'] / told['of']:5.1f} % of {told['of']}, sign right {sign}, inconsistent {honest:4.1f} %"


def _pair(before: Build, after: Build, room: float, later: float, seed: int) -> Counter[str]:
    rng = np.random.default_rng([seed, 3])
    sides, truths = [], []
    for build, air_c in ((before, room), (after, later)):
        load = next(w for w in build.workloads if w.id == "both")
        hidden = hidden_figures(build, BenchPlan("both", air_c, seed=seed, hidden_spread=1.0))
        solved = solve_cases(build, [Case(load, air_c)], 0, overrides=hidden)
        true = [float(value_of(solved, role, 0)) for role in ROLES]
        off = rng.normal(0, SENSOR_K / QUANTILE, len(ROLES)) + rng.normal(0, ROOM_READ_K / QUANTILE)
        read = np.array(true) + off
        measured = [Measured(role, float(value), SENSOR_K) for role, value in zip(ROLES, read, strict=True)]
        known = {address: hidden[address] for s in load.watts if (address := watts_address("both", s)) in hidden}
        sides.append(RunSide("run", build, "both", RunRoom(air_c), measured, known))
        truths.append([value - air_c for value in true])
    found = compare(*sides, samples=60)
    told = Counter(pairs=1, flagged=int(bool(found.inconsistent)))
    for part in found.parts:
        i = ROLES.index(part.role)
        true_k = truths[1][i] - truths[0][i]
        told["of"] += 1
        told["held"] += abs(part.equal_k - true_k) <= part.equal_half_k
        if abs(true_k) > 2.0:
            told["clear"] += 1
            told["sign"] += np.sign(part.equal_k) == np.sign(true_k)
    return told


if __name__ == "__main__":
    main()
