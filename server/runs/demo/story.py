"""The demo of Saltmarsh Field Station: Heron with five revisions and their runs, Sandpiper turned and turned back, Limpet
with three revisions and somebody's claim."""

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
#: Heron is one machine, whichever evening it runs
MACHINE = 3


def heron() -> Json:
    """Heron as first built: one radiator over the feet, thick fans, the rear open."""
    data: Json = json.loads(resources.files("runs.demo").joinpath("heron.json").read_text())
    return data


def _part(data: Json, part_id: str) -> Json:
    found: Json = next(part for part in data["parts"] if part["id"] == part_id)
    return found


def revisions() -> list[tuple[Json, str]]:
    """(document, why) of the three revisions, in order."""
    first = heron()
    first["loops"][0]["elements"].remove("radiator-rear")
    first["air_paths"][1]["elements"] = ["fan-rear", "rear-guard"]
    first["parts"] = [part for part in first["parts"] if part["id"] != "radiator-rear"]
    third = heron()
    _part(third, "fan-rear").update({"class": "fan_120x15", "name": "Rear, slim"})
    measured_up(third)
    return [
        (first, "first build: one radiator of 280 over the feet"),
        (
            in_the_plinth(first),
            "radiator moved into the plinth on couplings: cool, but the lectern cannot be wheeled away",
        ),
        (
            third,
            "all inside again; the second radiator with a slim fan at the rear chokes the exhaust and wins nothing",
        ),
    ]


def measured_up(data: Json) -> None:
    """What a ruler said of the lectern: its two slots, where the large parts stand, leads, what lies under the
    graphics plate, what holds the drive."""
    fit: Json = json.loads(resources.files("runs.demo").joinpath("heron_fit.json").read_text())
    for listed in ("slots", "contacts", "leads", "holdings", "near_heat"):
        data[listed] = fit[listed]
    for loop in data["loops"]:
        loop["fill"] = fit["fill"].get(loop["id"])
    for part_id, outline in fit["outlines"].items():
        _part(data, part_id)["outline"] = outline
    on_the_table(data)


def on_the_table(data: Json) -> None:
    """What the build sheet of the lectern rests on: leads, plugs, what is in hand, what it cost."""
    told: Json = json.loads(resources.files("runs.demo").joinpath("heron_sheet.json").read_text())
    data["leads"] = data["leads"] + told["leads"]
    for listed in ("insulators", "feeds", "steps", "assembly", "dues"):
        data[listed] = told[listed]
    for part in data["parts"]:
        if part["kind"] in ("opening", "gap", "obstacle"):
            continue
        part["stock"], due_on = told["to_come"].get(part["id"], ["in_hand", None])
        if due_on is not None:
            part["due_on"] = due_on
        if part["id"] in told["prices"]:
            part["price"] = told["prices"][part["id"]]
        feeds = told["fed"].get(part["id"], [])
        if feeds:
            part["feed"] = feeds[0]
        if feeds[1:]:
            part["also_fed"] = feeds[1:]


GUESS: Json = {"plus_minus": "10%", "from": "estimate"}
IN_THE_PLINTH: list[Json] = [
    {"id": "coupling-down", "kind": "coupling", "name": "Coupling down", "class": "coupling_large"},
    {"id": "coupling-up", "kind": "coupling", "name": "Coupling up", "class": "coupling_large"},
    {
        "id": "tube-plinth",
        "kind": "tube",
        "name": "Tube to the plinth",
        "class": "tube_soft",
        "length_m": {"value": 1.4, **GUESS},
        "bore_mm": {"value": 10, "plus_minus": "5%", "from": "estimate"},
    },
    {
        "id": "plinth-slots",
        "kind": "opening",
        "name": "Plinth slots",
        "class": "opening_dense",
        "area_cm2": {"value": 420, **GUESS},
    },
    {
        "id": "plinth-guard",
        "kind": "opening",
        "name": "Plinth guard",
        "class": "opening_guard",
        "area_cm2": {"value": 376, **GUESS},
    },
]
PLINTH_AIR: Json = {
    "id": "plinth",
    "name": "Plinth air",
    "kind": "box",
    "cross_section_cm2": 600,
    "wall_w_k": {"value": 1.5, "plus_minus": "30%", "from": "estimate"},
}
BOTTOM_PATH: Json = {
    "id": "air-bottom",
    "name": "In through the bottom",
    "from_zone": "outside",
    "to_zone": "box",
    "elements": ["feet", "filter-bottom"],
}
PLINTH_PATHS: list[Json] = [
    {
        "id": "air-plinth-in",
        "name": "Into the plinth",
        "from_zone": "outside",
        "to_zone": "plinth",
        "elements": ["plinth-slots"],
    },
    {
        "id": "air-plinth-out",
        "name": "Out of the plinth",
        "from_zone": "plinth",
        "to_zone": "outside",
        "elements": [{"parallel": [["fan-bottom-left"], ["fan-bottom-right"]]}, "radiator-bottom", "plinth-guard"],
    },
]


def in_the_plinth(first: Json) -> Json:
    """The radiator with its fans in a chamber below the lectern, on two couplings and a longer tube."""
    data = copy.deepcopy(first)
    for part_id in ("radiator-bottom", "fan-bottom-left", "fan-bottom-right"):
        part = _part(data, part_id)
        part.pop("face", None)
        part["direction"] = "out"
    data["parts"] += IN_THE_PLINTH
    data["zones"].append(PLINTH_AIR)
    data["air_paths"] = [BOTTOM_PATH, *data["air_paths"][1:], *PLINTH_PATHS]
    elements = data["loops"][0]["elements"]
    at = elements.index("radiator-bottom")
    elements[at : at + 1] = ["coupling-down", "tube-plinth", "radiator-bottom", "coupling-up"]
    return data


def sandpiper() -> Json:
    """Sandpiper: an LED array and, behind it in the same duct, a small computer; one blower, two outlets."""
    data: Json = json.loads(resources.files("runs.demo").joinpath("sandpiper.json").read_text())
    return data


def sandpiper_turned() -> Json:
    """Sandpiper on its side, its outlets up and down: the only thing changed is where gravity points."""
    data = sandpiper()
    data["housing"]["gravity"] = [0, -1, 0]
    return data


def bench_of_sandpiper(workload: str, minutes: float, seed: int) -> BenchLog:
    """A log of Sandpiper as built in a room of 20.5 C; everything in it is as stated."""
    plan = BenchPlan(
        workload, 20.5, load_min=minutes, lead_in_min=4, after_min=3, seed=seed, hidden_spread=HIDDEN_SPREAD
    )
    return run_bench(read_object(sandpiper()), plan)


def limpet(pipes: int = 3, finish: str = "anodised") -> Json:
    """Limpet, sealed in its hut: how many heat pipes feed the finned back, and what its aluminium is finished with."""
    data: Json = json.loads(resources.files("runs.demo").joinpath("limpet.json").read_text())
    for part in data["parts"]:
        if part["kind"] == "heat_pipe":
            part["count"] = pipes
        if part["kind"] in ("sink", "panel"):
            part["finish"] = finish
    return data


def limpet_revisions() -> list[tuple[Json, str]]:
    """(document, why) of the three revisions, in order."""
    return [
        (limpet(), "first build: three heat pipes, everything anodised"),
        (limpet(5), "five heat pipes: one kelvin won, the rest lies in the back's own surface"),
        (
            limpet(5, "raw"),
            "a new housing left bare to save a week: five kelvins worse, and too hot to touch in summer",
        ),
    ]


def bench_of_limpet(document: Json, minutes: float, seed: int) -> BenchLog:
    """A log of Limpet at full load in a hut of 19 C."""
    plan = BenchPlan(
        "full",
        19.0,
        load_min=minutes,
        lead_in_min=10,
        after_min=5,
        step_s=5,
        room_drift_k=0.8,
        seed=seed,
        hidden_spread=HIDDEN_SPREAD,
    )
    return run_bench(read_object(document), plan)


def bench(document: Document, workload: str, minutes: float, seed: int) -> BenchLog:
    """A log of the demo machine in a room of 24.5 C."""
    plan = BenchPlan(
        workload,
        24.5,
        load_min=minutes,
        lead_in_min=6,
        after_min=4 if minutes > 30 else 0,
        seed=seed,
        hidden_spread=HIDDEN_SPREAD,
        hidden=HIDDEN,
    )
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


#: what the new pads state, and a machine that they are laid into as stated
NEW_PADS: Json = {
    "name": "Pads 1.5 mm, new",
    "resistance_mm2k_w": {"value": 300, "plus_minus": 45, "from": "datasheet"},
}


def with_new_pads() -> Json:
    """The third revision with other pads under the graphics memory, nothing else changed."""
    data = revisions()[2][0]
    _part(data, "pads-memory").update(copy.deepcopy(NEW_PADS))
    return data


def driven(data: Json, workload: str, **duties: float) -> Document:
    """A build with movers at other duties in one workload, as somebody set them for a run."""
    changed = copy.deepcopy(data)
    for item in changed["workloads"]:
        if item["id"] == workload:
            item["movers"] |= {mover.replace("_", "-"): {"duty": duty} for mover, duty in duties.items()}
    return read_object(changed)


def bench_of_new_pads(document: Document, workload: str, seed: int, room_c: float = 24.5) -> BenchLog:
    """A log of the same machine with the new pads in it as they are stated."""
    plan = BenchPlan(
        workload,
        room_c,
        load_min=60,
        lead_in_min=5,
        after_min=3,
        seed=seed,
        machine=MACHINE,
        hidden_spread=HIDDEN_SPREAD,
    )
    return run_bench(document, plan)


def bench_on_a_quiet_night() -> BenchLog:
    """Fans turned down in a warm room until the processor gives up watts at its limit, which this firmware does."""
    data = revisions()[2][0]
    for place in _part(data, "processor")["places"]:
        place["throttles"] = True
    quiet = driven(data, "both", fan_rear=0.36, fan_bottom_left=0.36, fan_bottom_right=0.36)
    plan = BenchPlan(
        "both",
        30.0,
        load_min=50,
        lead_in_min=5,
        after_min=3,
        seed=7,
        machine=MACHINE,
        hidden_spread=HIDDEN_SPREAD,
        hidden=HIDDEN,
        clocks=True,
    )
    return run_bench(quiet, plan)


def sandpiper_log(data: Json, seed: int) -> BenchLog:
    """A log of Sandpiper imaging, as it stands or on its side; everything in it is as stated."""
    plan = BenchPlan(
        "imaging", 21.0, load_min=40, lead_in_min=4, after_min=3, seed=seed, machine=4, hidden_spread=HIDDEN_SPREAD
    )
    return run_bench(read_object(data), plan)


def packed_csv(log: BenchLog) -> bytes:
    """The log as a logger with little room would keep it."""
    return gzip.compress(log.csv().encode(), mtime=0)
