"""What recipes share: marks of guesses, checked ranges, sources of the usual classes, rooms and workloads."""

from typing import Any

from krill import CORE_VERSION
from krill.errors import DocumentRefused, Problem

IDLE_PROCESSOR_W, IDLE_GRAPHICS_W = 9, 12

Json = dict[str, Any]


def estimate(value: float, half: str = "10%") -> Json:
    return {"value": value, "plus_minus": half, "from": "estimate"}


def rule(value: float, half: str = "20%") -> Json:
    return {"value": value, "plus_minus": half, "from": "rule_of_thumb"}


def checked(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise DocumentRefused([Problem(name, f"{value}", f"{low:g} to {high:g}")])


def processor_class(watts: float) -> str:
    return "lidded_65" if watts <= 80 else "lidded_125" if watts <= 165 else "lidded_250"


def graphics_class(watts: float) -> int:
    return min((115, 150, 220, 320), key=lambda board: abs(board - watts))


def limit(kind: str, at_c: float) -> Json:
    return {"kind": kind, "at_c": at_c}


def sources(processor_w: float, graphics_w: float) -> list[Json]:
    board = graphics_class(graphics_w)
    return [
        {
            "id": "processor",
            "kind": "source",
            "name": "Processor",
            "power_kind": "package",
            "places": [
                {
                    "id": "processor-core",
                    "name": "Processor",
                    "class": processor_class(processor_w),
                    "temperature_kind": "hottest_core",
                    "limits": [limit("throttle", 95)],
                }
            ],
        },
        {
            "id": "graphics",
            "kind": "source",
            "name": "Graphics",
            "power_kind": "board",
            "places": [
                {
                    "id": "graphics-chip",
                    "name": "Graphics",
                    "class": f"graphics_chip_{board}",
                    "temperature_kind": "chip_sensor",
                    "power_share": {"value": 0.73, "plus_minus": 0.06, "from": "class"},
                    "limits": [limit("throttle", 88)],
                },
                {
                    "id": "graphics-memory",
                    "name": "Graphics memory",
                    "class": "graphics_memory",
                    "temperature_kind": "memory",
                    "power_share": {"value": 0.12, "plus_minus": 0.06, "from": "class"},
                    "limits": [limit("throttle", 105)],
                },
                {
                    "id": "graphics-regulators",
                    "name": "Graphics regulators",
                    "class": "graphics_regulators",
                    "temperature_kind": "case",
                    "power_share": {"value": 0.10, "plus_minus": 0.06, "from": "class"},
                    "limits": [limit("own", 105)],
                },
            ],
        },
        still("memory", "Memory", "memory_pair", "memory", 85),
        still("drive", "Drive", "drive_m2", "case", 72),
        still("regulators", "Regulators", "board_regulators", "case", 100),
        {
            "id": "supply",
            "kind": "supply",
            "name": "Power supply",
            "class": "supply_good",
            "rating_w": estimate(rating_for(processor_w + graphics_w)),
            "places": [
                {
                    "id": "supply-body",
                    "name": "Supply",
                    "class": "supply_body",
                    "temperature_kind": "case",
                    "limits": [limit("own", 85)],
                }
            ],
        },
    ]


def still(part_id: str, name: str, class_id: str, temperature_kind: str, limit_c: float) -> Json:
    place = {
        "id": f"{part_id}-place",
        "name": name,
        "class": class_id,
        "temperature_kind": temperature_kind,
        "limits": [limit("throttle", limit_c)],
    }
    return {"id": part_id, "kind": "source", "name": name, "power_kind": "chip", "places": [place]}


def rating_for(watts: float) -> float:
    """Supply rating with half as much again in hand, in steps of 100 W."""
    return 100.0 * -(-watts * 1.5 // 100)


def rooms(room_c: float) -> list[Json]:
    return [
        {"id": "room", "name": "Room", "air_c": room_c},
        {"id": "cool-day", "name": "Cool day", "air_c": max(room_c - 5, 5)},
        {"id": "hot-day", "name": "Hot day", "air_c": room_c + 5},
    ]


def brief(worst: str, listener_m: float = 0.8) -> Json:
    return {
        "purpose": "",
        "listener_m": listener_m,
        "margin_wanted_k": 3,
        "hottest_room": "hot-day",
        "coolest_room": "cool-day",
        "worst_workloads": [worst],
    }


def header(name: str) -> Json:
    return {"format": "krill-build", "version": 1, "written_by": f"krill {CORE_VERSION}", "name": name}


def to_air(place: str, zone: str = "box") -> Json:
    """Route of a place that gives its heat to a zone's air."""
    hop = {"id": f"{place}-air", "kind": "air", "zone": zone, "name": "To box air"}
    return {"id": f"route-{place}", "place": place, "hops": [hop]}


def joined(place: str, interface: str, end: Json) -> Json:
    """Route of a place through an interface to where its heat ends."""
    first = {"id": f"{place}-{interface.split('-')[0]}", "kind": "interface", "part": interface}
    return {"id": f"route-{place}", "place": place, "hops": [first, {"id": f"{place}-{end['kind']}", **end}]}


def workloads(
    processor_w: float, graphics_w: float, rest_w: float, movers: dict[str, float], ceiling: float = 38
) -> list[Json]:
    """Idle, one source alone, everything at once; ``movers`` are duties of the full load."""
    rest = {"memory": 0.2 * rest_w, "drive": 0.1 * rest_w, "regulators": 0.7 * rest_w}

    def workload(key: str, name: str, p: float, g: float, share: float, speed: float, loudest: float) -> Json:
        watts = {"processor": p, "graphics": g} | {k: round(share * w, 2) for k, w in rest.items()}
        return {
            "id": key,
            "name": name,
            "watts": {source: estimate(value) for source, value in watts.items()},
            "movers": {mover: {"duty": round(max(speed * duty, 0.3), 3)} for mover, duty in movers.items()},
            "duration_min": 60,
            "sound_ceiling_dba": loudest,
        }

    return [
        workload("idle", "Idle", IDLE_PROCESSOR_W, IDLE_GRAPHICS_W, 0.25, 0.55, 30),
        workload("processor-only", "Processor", processor_w, IDLE_GRAPHICS_W, 0.8, 0.92, ceiling),
        workload("graphics-only", "Graphics", 0.3 * processor_w, graphics_w, 0.8, 0.92, ceiling),
        workload("both", "Both", processor_w, graphics_w, 1.0, 1.0, ceiling),
    ]
