"""What recipes share: checked ranges, sources of the usual classes, rooms and workloads."""

from krill import CORE_VERSION
from krill.errors import DocumentRefused, Problem
from krill.recipes.pieces import (
    Json,
    by_class,
    estimate,
    into_board,
    own_limit,
    part,
    place,
    route,
    source,
    throttle,
    workload,
)

IDLE_PROCESSOR_W, IDLE_GRAPHICS_W = 9, 12
CEILING_DBA = 38
LOWEST_DUTY = 0.3
#: what two sticks and a stick drive take under load, and regulators of their processor's watts (value from memory)
MEMORY_W, DRIVE_W, REGULATORS_SHARE = 5.0, 5.0, 0.08
#: laminate and the parts on it (common practice)
BOARD_LIMIT_C = 100


def checked(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise DocumentRefused([Problem(name, f"{value}", f"{low:g} to {high:g}")])


#: least and most watts of one of a recipe's three figures
Range = tuple[float, float]
ROOMS_C: Range = (5, 45)


def in_ranges(watts: tuple[float, float, float], ranges: tuple[Range, Range, Range], room_c: float) -> None:
    """DocumentRefused where one of a recipe's three watt figures, or the room, is out of its range."""
    for key, value, (low, high) in zip(("processor_w", "graphics_w", "rest_w"), watts, ranges, strict=True):
        checked(key, value, low, high)
    checked("room_c", room_c, *ROOMS_C)


def processor_class(watts: float) -> str:
    return "lidded_65" if watts <= 80 else "lidded_125" if watts <= 165 else "lidded_250"


def graphics_class(watts: float) -> int:
    return min((115, 150, 220, 320), key=lambda board: abs(board - watts))


def sources(processor_w: float, graphics_w: float) -> list[Json]:
    """Processor, graphics board, memory, drive, regulators and the supply of a machine."""
    rest = place("board-chips-place", "Board chips", "board_chips", "case", own_limit(BOARD_LIMIT_C))
    return [
        source("processor", "Processor", "package", processor_place("processor-core", processor_w)),
        card_source("graphics", "Graphics", graphics_w),
        still("memory", "Memory", "memory_pair_film", "memory", 85),
        still("drive", "Drive", "drive_m2", "case", 72),
        still("regulators", "Regulators", "board_regulators", "case", 100),
        source("board-chips", "Board chips", "board", rest),
        _supply(processor_w + graphics_w),
        *_board(),
    ]


def _board() -> list[Json]:
    """A small square board with a tray behind it, and the ways of socket and memory into it."""
    sides: Json = {
        "width_mm": estimate(170, "1%"),
        "height_mm": estimate(170, "1%"),
        "thickness_mm": estimate(1.57, "8%"),
    }
    # a tray at 6 to 10 mm halves the film of its side (value from memory)
    films: Json = {"outside": "box", "inside": "box", "lies": "vertical", "factor": by_class(0.76, 0.15)}
    return [
        part("panel", "circuit-board", "Board", material="circuit_board", **sides, **films),
        part("spreader", "link-socket", "Socket into the board", "link_socket"),
        part("spreader", "link-memory", "Memory slots into the board", "link_memory_pair"),
    ]


def board_routes() -> list[Json]:
    """What goes into the board: the rest of it, and the ways of processor and memory beside their named ones."""
    return [
        route(
            "board-chips-place", {"id": "board-chips-board", "kind": "body", "part": "circuit-board", "name": "Board"}
        ),
        into_board("processor-core", "link-socket"),
        into_board("memory-place", "link-memory"),
    ]


def processor_place(place_id: str, watts: float, name: str = "Processor") -> Json:
    return place(place_id, name, processor_class(watts), "hottest_core", throttle(95))


def card_source(card: str, name: str, watts: float) -> Json:
    """A graphics board whose chip, memory and regulators are places of their own."""
    return source(card, name, "board", *_graphics_places(card, name, graphics_class(watts)))


def _graphics_places(card: str, name: str, board: int) -> list[Json]:
    return [
        place(
            f"{card}-chip",
            name,
            f"graphics_chip_{board}",
            "chip_sensor",
            throttle(88),
            power_share=by_class(0.73, 0.06),
        ),
        place(
            f"{card}-memory",
            f"{name} memory",
            "graphics_memory",
            "memory",
            throttle(105),
            power_share=by_class(0.12, 0.06),
        ),
        place(
            f"{card}-regulators",
            f"{name} regulators",
            "graphics_regulators",
            "case",
            own_limit(105),
            power_share=by_class(0.10, 0.06),
        ),
    ]


def _supply(watts: float) -> Json:
    body = place("supply-body", "Supply", "supply_body", "case", own_limit(85))
    rating = estimate(rating_for(watts))
    return part("supply", "supply", "Power supply", "supply_good", rating_w=rating, places=[body])


def still(part_id: str, name: str, class_: str, temperature_kind: str, limit_c: float) -> Json:
    return source(part_id, name, "chip", place(f"{part_id}-place", name, class_, temperature_kind, throttle(limit_c)))


def rating_for(watts: float) -> float:
    """Supply rating with half as much again in hand, in steps of 100 W; there is none smaller than one step."""
    return max(100.0 * -(-watts * 1.5 // 100), 100.0)


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


def split_of_rest(processor_w: float, rest_w: float) -> dict[str, float]:
    """Memory, drive and regulators take a share of the rest, at most what their classes take; the board gets what is left."""
    found = {
        "memory": min(0.2 * rest_w, MEMORY_W),
        "drive": min(0.1 * rest_w, DRIVE_W),
        "regulators": min(0.5 * rest_w, REGULATORS_SHARE * processor_w),
    }
    return found | {"board-chips": rest_w - sum(found.values())}


def workloads(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    movers: dict[str, float],
    *,
    lowest: dict[str, float] | None = None,
) -> list[Json]:
    """Idle, one source alone, everything at once; ``movers`` are duties of the full load, ``lowest`` least ones beside 0.3."""
    rest, idle_graphics = split_of_rest(processor_w, rest_w), min(IDLE_GRAPHICS_W, graphics_w)

    def one(key: str, name: str, p: float, g: float, share: float, speed: float, loudest: float) -> Json:
        watts = {"processor": p, "graphics": g} | {k: share * w for k, w in rest.items()}
        duties = {
            mover: {"duty": round(max(speed * duty, (lowest or {}).get(mover, LOWEST_DUTY)), 3)}
            for mover, duty in movers.items()
        }
        return workload(key, name, watts, 60, movers=duties, sound_ceiling_dba=loudest)

    return [
        one("idle", "Idle", min(IDLE_PROCESSOR_W, processor_w), idle_graphics, 0.25, 0.55, 30),
        one("processor-only", "Processor", processor_w, idle_graphics, 0.8, 0.92, CEILING_DBA),
        one("graphics-only", "Graphics", 0.3 * processor_w, graphics_w, 0.8, 0.92, CEILING_DBA),
        one("both", "Both", processor_w, graphics_w, 1.0, 1.0, CEILING_DBA),
    ]
