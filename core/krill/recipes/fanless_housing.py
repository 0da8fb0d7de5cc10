"""Recipe "fanless housing": a sealed box whose finned back takes a chip's heat through pipes, its sides the rest."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.common import brief, header, in_ranges, processor_place, rooms
from krill.recipes.pieces import (
    Json,
    estimate,
    part,
    place,
    room_and_box,
    route,
    rule,
    source,
    throttle,
    workload,
)

#: watts of finned back a square metre of front and kelvin that a size is guessed from, and the rise it is guessed for
W_M2K, RISE_K = 28.0, 28.0
#: which bodies meet along an edge of the box
SEAMS = (
    *(("back", f"panel-{face}") for face in ("top", "bottom", "left", "right")),
    *((f"panel-{face}", "panel-front") for face in ("top", "bottom", "left", "right")),
)
#: more watts than this go through paste, not through a pad
MAX_THROUGH_PAD_W = 12.0
DEPTH_MM = 90


def fanless_housing(
    chip_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Fanless housing"
) -> Build:
    """A document with every guess marked as one.

    Watts of the part on the pipes (1-250), of a second one pressed on the back by a pad (0-150), of the rest in the
    box (0-15); room 5-45 C. DocumentRefused outside the ranges.
    """
    in_ranges((chip_w, second_w, rest_w), ((1, 250), (0, 150), (0, 15)), room_c)
    side = back_side_mm(chip_w + second_w + rest_w)
    return read_object(
        header(name)
        | {
            "brief": brief("full", 1.0),
            "rooms": rooms(room_c),
            "housing": {
                "inner_size_mm": [side, DEPTH_MM, side],
                "gravity": [0, 0, -1],
                "material": "aluminium sheet",
            },
            "parts": [*_sources(chip_w, second_w), *_joints(chip_w, second_w, side), _back(side), *_panels(side)],
            "zones": room_and_box(rule(0.05, "50%"), "Box"),
            "routes": _routes(side),
            "bonds": [_seam(n, first, second, side) for n, (first, second) in enumerate(SEAMS, 1)],
            "workloads": [
                _workload("full", "Full", chip_w, second_w, rest_w),
                _workload("typical", "Typical", 0.5 * chip_w, 0.6 * second_w, 0.7 * rest_w),
                _workload("idle", "Idle", 0.12 * chip_w, 0.3 * second_w, 0.5 * rest_w),
            ],
        }
    )


def _routes(side: float) -> list[Json]:
    def on_back(hop_id: str, share: float) -> Json:
        return {"id": hop_id, "kind": "body", "part": "back", "at_mm": [side / 2, round(share * side)]}

    through_board = {"id": "chip-board", "kind": "air", "zone": "box", "name": "Through the board"}
    return [
        route(
            "chip-place",
            {"id": "chip-paste", "kind": "interface", "part": "paste-chip"},
            {"id": "chip-block", "kind": "spreader", "part": "block"},
            {"id": "chip-pipes", "kind": "pipes", "parts": ["pipes"]},
            on_back("chip-back", 0.55),
            name="chip",
        ),
        route("chip-place", through_board | {"resistance_k_w": rule(12, "25%")}, name="chip-board"),
        route(
            "second-place",
            {"id": "second-pad", "kind": "interface", "part": "pad-second"},
            on_back("second-back", 0.2),
            name="second",
        ),
        route(
            "rest-place",
            {"id": "rest-air", "kind": "air", "zone": "box", "name": "To the air in the box"},
            name="rest",
        ),
    ]


def _seam(number: int, first: str, second: str, side: float) -> Json:
    return {"id": f"seam-{number}", "first": first, "second": second, "seam_mm": estimate(side, "10%")}


def back_side_mm(watts: float) -> int:
    """Side of a square finned back that a first guess gives to so many watts, in steps of 10 mm."""
    side = (watts / (W_M2K * RISE_K)) ** 0.5
    return int(min(max(10 * round(side * 100), 90), 500))


def pipes_for(watts: float) -> int:
    """8 mm pipes that carry the watts at half of their limit."""
    return max(2, -(-int(watts) // 25))


def _sources(chip_w: float, second_w: float) -> list[Json]:
    bare = "bare_mobile_15" if second_w <= 28 else "bare_mobile_45"
    second = place("second-place", "Second part", bare, "chip_sensor", throttle(90))
    rest = place("rest-place", "Memory", "memory_pair_still", "memory", throttle(85))
    return [
        source("chip", "Processor", "package", processor_place("chip-place", chip_w)),
        source("second", "Second part", "board", second),
        source("rest", "Memory and drive", "board", rest),
    ]


def _joints(chip_w: float, second_w: float, side: float) -> list[Json]:
    """What lies between the parts and the back: pastes and pads, the block and its pipes."""
    pad = second_w <= MAX_THROUGH_PAD_W
    joint, joint_class = ("Pad 1 mm", "pad_1mm_chip") if pad else ("Paste under the second part", "paste_ordinary_chip")
    return [
        part("interface", "paste-chip", "Paste", "paste_ordinary_lid", touches=["copper"]),
        part("spreader", "block", "Block over the pipes", "block_kit"),
        part(
            "heat_pipe",
            "pipes",
            "Heat pipes",
            "pipe_8_sintered",
            count=pipes_for(chip_w),
            evaporator_mm=estimate(40, "10%"),
            adiabatic_mm=estimate(50, "20%"),
            condenser_mm=estimate(round(0.6 * side), "10%"),
            bends=1,
            run_mm=[0, 40, round(0.5 * side / 4)],
            groove_pitch_mm=estimate(24, "10%"),
        ),
        part("interface", "pad-second", joint, joint_class, touches=["aluminium"]),
    ]


def _back(side: float) -> Json:
    return part(
        "sink",
        "back",
        "Finned back",
        face="back",
        finish="anodised",
        outside="outside",
        inside="box",
        flanks="covered",
        touched_for="1_min",
        width_mm=estimate(side, "2%"),
        length_mm=estimate(side, "2%"),
        base_mm=estimate(8, "10%"),
        fin_height_mm=estimate(40, "5%"),
        fin_pitch_mm=estimate(10, "5%"),
        fin_thickness_mm=estimate(2, "15%"),
    )


def _panels(side: float) -> list[Json]:
    sizes = {
        "top": (side, DEPTH_MM),
        "bottom": (side, DEPTH_MM),
        "left": (DEPTH_MM, side),
        "right": (DEPTH_MM, side),
        "front": (side, side),
    }
    return [
        part(
            "panel",
            f"panel-{face}",
            f"{face.capitalize()} panel",
            face=face,
            width_mm=estimate(width, "2%"),
            height_mm=estimate(height, "2%"),
            material="aluminium_sheet",
            finish="anodised",
            thickness_mm=estimate(2, "10%"),
            outside="outside",
            inside="box",
            touched_for="1_min",
        )
        for face, (width, height) in sizes.items()
    ]


def _workload(key: str, name: str, chip: float, second: float, rest: float) -> Json:
    return workload(key, name, {"chip": chip, "second": second, "rest": rest}, 120)
