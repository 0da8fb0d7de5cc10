"""Recipe "water loop in a small box": a whole document from the watts of three things and a room temperature."""

import math
from typing import Any

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cases import walls
from krill.recipes.common import board_routes, brief, header, in_ranges, rooms, sources, workloads
from krill.recipes.pieces import Json, air_path, estimate, fan, joined, opening, part, room_and_box, rule, to_air

SIZE_MM = (400, 250, 180)
WATTS_A_SECTION = 125.0  # rule of thumb: 100-150 W for each 120 mm section


def loop_parts() -> list[Json]:
    """Interfaces, plates, pump, reservoir, tube and fittings of a common loop."""
    tube: Json = {"length_m": estimate(2.0, "25%"), "bore_mm": estimate(10, "5%")}
    bore = estimate(8.5)
    return [
        part("interface", "paste-processor", "Paste", "paste_ordinary_lid"),
        part("interface", "paste-graphics", "Paste", "paste_ordinary_chip"),
        part("interface", "pads-memory", "Pads 1 mm", "pad_1mm_chip"),
        part("interface", "pads-regulators", "Pads 1 mm", "pad_1mm_chip"),
        part("plate", "plate-processor", "Processor plate", "plate_processor_ordinary"),
        part("plate", "plate-graphics", "Graphics plate", "plate_graphics_typical"),
        part("pump", "pump", "Pump", "pump_strong"),
        part("reservoir", "reservoir", "Reservoir", "reservoir_common", bore_mm=estimate(9)),
        part("tube", "tube", "Tube", "tube_soft", **tube),
        part("fitting", "fittings", "Straight fittings", "fitting_straight", count=10, bore_mm=bore),
        part("fitting", "elbows", "Rotary elbows", "fitting_90_rotary", count=4, bore_mm=bore),
    ]


def _with_radiators(sections: int) -> tuple[list[Json], list[str]]:
    parts, radiators = loop_parts(), []
    for index, count in enumerate(_split(sections)):
        radiator = f"radiator-{'ab'[index]}"
        radiators.append(radiator)
        stands: Json = {"face": ("bottom", "back")[index], "direction": _way(index, sections)}
        size: Json = {"section_mm": 120, "sections": count, "thickness_mm": 28}
        parts.append(part("radiator", radiator, f"Radiator {120 * count}", **size, **stands))
        parts += [
            fan(f"fan-{'ab'[index]}{n}", f"Fan {'AB'[index]}{n}", "fan_120x25", **stands) for n in range(1, count + 1)
        ]
    return parts, radiators


def _way(index: int, sections: int) -> str:
    """One radiator blows out; of two the first breathes the room and the second blows out."""
    return "in" if len(_split(sections)) > 1 and index == 0 else "out"


def _split(sections: int) -> list[int]:
    """Sections over one or two radiators, three at most in each where two are enough."""
    return [sections] if sections <= 3 else [math.ceil(sections / 2), sections // 2]


def _fans(radiator: str, parts: list[Json]) -> Any:
    letter = radiator[-1]
    fans = [part["id"] for part in parts if part["kind"] == "fan" and part["id"].startswith(f"fan-{letter}")]
    return fans[0] if len(fans) == 1 else {"parallel": [[fan] for fan in fans]}


def _air(radiators: list[str], parts: list[Json]) -> list[Json]:
    """Paths through the radiators and the vents, whose openings are put among the parts."""
    parts += [
        opening("grille", "Grille", "opening_honeycomb", "bottom", estimate(_face_cm2(parts), "15%")),
        opening("vents", "Vents", "opening_dense", "back", estimate(300, "20%")),
    ]
    vents = air_path("air-vents", "Vents", "outside", "box", "vents")
    first, *second = radiators
    if not second:
        out = air_path("air-out", "Out through radiator A", "box", "outside", _fans(first, parts), first, "grille")
        return [out, vents]
    return [
        air_path("air-in", "In through radiator A", "outside", "box", "grille", _fans(first, parts), first),
        vents,
        air_path("air-out", "Out through radiator B", "box", "outside", second[0], _fans(second[0], parts)),
    ]


def _face_cm2(parts: list[Json]) -> float:
    """Face of the first radiator, which the grille covers."""
    return float(next(144 * part["sections"] for part in parts if part["kind"] == "radiator"))


STILL_PLACES = ("memory-place", "drive-place", "regulators-place", "supply-body")


def loop_routes() -> list[Json]:
    """Processor and graphics places on their plates, the rest in the air of the box."""

    def liquid(place: str, interface: str, plate: str) -> Json:
        return joined(place, interface, {"kind": "plate", "part": plate, "name": "Plate"})

    return [
        liquid("processor-core", "paste-processor", "plate-processor"),
        liquid("graphics-chip", "paste-graphics", "plate-graphics"),
        liquid("graphics-memory", "pads-memory", "plate-graphics"),
        liquid("graphics-regulators", "pads-regulators", "plate-graphics"),
        *[to_air(place) for place in STILL_PLACES],
        *board_routes(),
    ]


def water_loop(
    processor_w: float, graphics_w: float, rest_w: float, room_c: float, name: str = "Water loop in a small box"
) -> Build:
    """A document with every guess marked as one.

    Watts of processor (10-400), graphics board (0-600) and the rest of the box (0-100); room 5-45 C. Radiator
    sections by the rule of 125 W for each; DocumentRefused outside the ranges.
    """
    in_ranges((processor_w, graphics_w, rest_w), ((10, 400), (0, 600), (0, 100)), room_c)
    sections = min(max(1, math.ceil((processor_w + graphics_w) / WATTS_A_SECTION)), 6)
    on_the_loop, radiators = _with_radiators(sections)
    parts = sources(processor_w, graphics_w) + on_the_loop
    paths = _air(radiators, parts)
    duties = {part["id"]: 0.7 if part["kind"] == "pump" else 0.65 for part in parts if part["kind"] in ("fan", "pump")}
    order = ["pump", "tube", "plate-processor", "plate-graphics", "fittings", *radiators, "elbows", "reservoir"]
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": SIZE_MM, "gravity": [0, 0, -1]},
            "parts": [*parts, *walls(SIZE_MM, "steel", "painted", 0.8)],
            "zones": room_and_box(rule(1.3, "40%")),
            "air_paths": paths,
            "loops": [
                {
                    "id": "loop-a",
                    "name": "Loop A",
                    "volume_l": estimate(0.9, "25%"),
                    "coolant": {"fluid": "propylene_glycol", "mass_share": 0.1},
                    "elements": order,
                }
            ],
            "routes": loop_routes(),
            "workloads": workloads(processor_w, graphics_w, rest_w, duties),
        }
    )
