"""Recipe "two machines": two boards with their coolers and supplies in one box, that warm each other by its air."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.air_box import LOW, TOWER, ProcessorCooler
from krill.recipes.cases import Size, case_fan, cooler_in_box, vents, walls
from krill.recipes.common import brief, header, in_ranges, processor_place, rating_for, rooms, still
from krill.recipes.pieces import (
    Json,
    estimate,
    joined,
    own_limit,
    part,
    place,
    room_and_box,
    rule,
    source,
    to_air,
    workload,
)

SIZE_MM: Size = (380, 400, 320)
MACHINES = {"a": TOWER, "b": LOW}
LOWEST_DUTY = 0.35
IDLE_W, IDLE_REST_W = 9.0, 4.0


def two_machines(
    first_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Two machines in one box"
) -> Build:
    """A document with every guess marked as one; each machine has its own supply.

    Watts of the processor of machine A (10-400), of machine B (0-250) and of the rest of each (0-40); room 5-45 C.
    DocumentRefused outside the ranges.
    """
    in_ranges((first_w, second_w, rest_w), ((10, 400), (0, 250), (0, 40)), room_c)
    front, front_path = case_fan("fan-front", "fan_140x25", "front", "in", 150)
    rear, rear_path = case_fan("fan-rear", "fan_120x25", "back", "out", 110)
    slots, leak = vents("vents", "Vents at the back", "opening_dense", "back", 120)
    coolers = {key: _cooler(key, kind) for key, kind in MACHINES.items()}
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": SIZE_MM, "gravity": [0, 0, -1]},
            "parts": [
                *_machine("a", first_w, rest_w),
                *_machine("b", second_w, rest_w),
                *[item for parts, _ in coolers.values() for item in parts],
                *front,
                *rear,
                slots,
                *walls(SIZE_MM, "steel", "painted", 0.8),
            ],
            "machines": [{"id": f"machine-{key}", "name": f"Machine {key.upper()}"} for key in MACHINES],
            "feeds": [
                {"id": f"feed-{key}", "name": f"Supply of machine {key.upper()}", "kind": "supply"} for key in MACHINES
            ],
            "zones": room_and_box(rule(1.0, "40%")),
            "air_paths": [*[path for _, path in coolers.values()], front_path, rear_path, leak],
            "routes": [route for key in MACHINES for route in _routes(key)],
            "workloads": _workloads(first_w, second_w, rest_w),
        }
    )


def _cooler(key: str, kind: ProcessorCooler) -> tuple[list[Json], Json]:
    parts, path = cooler_in_box(f"cooler-{key}", f"{kind.name} {key.upper()}", kind.cooler, kind.fan)
    return [*parts, part("interface", f"paste-{key}", "Paste", "paste_ordinary_lid")], path


def _machine(key: str, watts: float, rest_w: float) -> list[Json]:
    """Processor, memory, drive and supply of one of the two."""
    letter = key.upper()
    body = place(f"supply-{key}-body", f"Supply {letter}", "supply_body", "case", own_limit(85))
    made = [
        source(
            f"processor-{key}",
            f"Processor {letter}",
            "package",
            processor_place(f"processor-{key}-core", watts, f"Processor {letter}"),
        ),
        still(f"memory-{key}", f"Memory {letter}", "memory_pair", "memory", 85),
        still(f"drive-{key}", f"Drive {letter}", "drive_m2", "case", 72),
        part(
            "supply",
            f"supply-{key}",
            f"Power supply {letter}",
            "supply_small_fan",
            rating_w=estimate(rating_for(watts + rest_w)),
            places=[body],
        ),
    ]
    return [item | {"machine": f"machine-{key}"} for item in made]


def _routes(key: str) -> list[Json]:
    end: Json = {"kind": "stream", "part": f"cooler-{key}", "name": "Cooler"}
    still_places = (f"memory-{key}-place", f"drive-{key}-place", f"supply-{key}-body")
    return [joined(f"processor-{key}-core", f"paste-{key}", end), *[to_air(place_id) for place_id in still_places]]


def _workloads(first_w: float, second_w: float, rest_w: float) -> list[Json]:
    def one(key: str, name: str, first: float, second: float, speed: float, loudest: float) -> Json:
        shares = {"a": first, "b": second}
        watts = {
            f"{what}-{machine}": value
            for machine, full in (("a", first_w), ("b", second_w))
            for what, value in _draws(full, rest_w, busy=shares[machine] > 0).items()
        }
        duties = {fan: round(max(speed * duty, LOWEST_DUTY), 3) for fan, duty in DUTIES.items()}
        movers = {fan: {"duty": duty} for fan, duty in duties.items()}
        return workload(key, name, watts, 60, movers=movers, sound_ceiling_dba=loudest)

    return [
        one("idle", "Idle", 0, 0, 0.55, 30),
        one("only-a", "Machine A", 1, 0, 0.92, 38),
        one("only-b", "Machine B", 0, 1, 0.92, 38),
        one("both", "Both", 1, 1, 1.0, 38),
    ]


DUTIES = {"fan-a": 0.7, "fan-b": 0.85, "fan-front": 0.6, "fan-rear": 0.6}


def _draws(full_w: float, rest_w: float, *, busy: bool) -> dict[str, float]:
    rest = rest_w if busy else min(rest_w, IDLE_REST_W)
    return {"processor": full_w if busy else min(full_w, IDLE_W), "memory": 0.6 * rest, "drive": 0.4 * rest}
