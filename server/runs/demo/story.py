"""The demo of Saltmarsh Field Station: Heron with three revisions and four runs of the third."""

import copy
import gzip
import json
from importlib import resources
from typing import Any

from krill.document.build import Build as Document
from krill.document.reading import read_object
from krill.simulated_bench.bench import BenchLog, BenchPlan, run_bench

Json = dict[str, Any]

#: the machine that the runs are of: its memory pads lie thicker than the build says, all else is as stated
HIDDEN = {"pads-memory/resistance_mm2k_w": 1.9}
HIDDEN_SPREAD = 0.25


def heron() -> Json:
    """Heron as first built: one radiator over the feet, thick fans, the rear open."""
    data: Json = json.loads(resources.files("runs.demo").joinpath("heron.json").read_text())
    return data


def _part(data: Json, part_id: str) -> Json:
    found: Json = next(part for part in data["parts"] if part["id"] == part_id)
    return found


def revisions() -> list[tuple[Json, str]]:
    """(document, why) of the three revisions, in order."""
    third_first = heron()
    first = copy.deepcopy(third_first)
    first["loops"][0]["elements"].remove("radiator-rear")
    first["air_paths"][1]["elements"] = ["fan-rear", "rear-guard"]
    first["parts"] = [part for part in first["parts"] if part["id"] != "radiator-rear"]
    second = third_first
    third = copy.deepcopy(second)
    _part(third, "fan-rear").update({"class": "fan_120x15", "name": "Rear, slim"})
    return [
        (first, "first build: one radiator of 280 over the feet"),
        (second, "second radiator at the rear: both loads together left too little on a hot day"),
        (third, "slim fan at the rear: the thick one touched the wall side"),
    ]


def bench(document: Document, workload: str, minutes: float, seed: int) -> BenchLog:
    """A log of the demo machine in a room of 24.5 C."""
    plan = BenchPlan(workload, 24.5, load_min=minutes, lead_in_min=6, after_min=4 if minutes > 30 else 0,
                     seed=seed, hidden_spread=HIDDEN_SPREAD, hidden=HIDDEN)  # fmt: skip
    return run_bench(document, plan)


def typed(log: BenchLog) -> list[Json]:
    """Six readings that somebody took off a display towards the end of a load."""

    def at(minute: float, name: str) -> float:
        row = round(minute * 60 / (log.time_s[1] - log.time_s[0]))
        return round(float(log.channels[name][row]))

    plan = [
        (45, "Processor"),
        (45, "Graphics"),
        (62, "Processor"),
        (62, "Graphics"),
        (64, "Graphics memory"),
        (65, "Drive"),
    ]
    roles = {name.removesuffix(" temperature"): role for name, role in log.roles.items()}
    return [
        {
            "minute": minute,
            "role": roles[name],
            "kind": "now",
            "value": at(minute, f"{name} temperature"),
            "load_on": True,
        }
        for minute, name in plan
    ]


def third() -> Document:
    return read_object(revisions()[2][0])


def packed_csv(log: BenchLog) -> bytes:
    """The log as a logger with little room would keep it."""
    return gzip.compress(log.csv().encode(), mtime=0)
