"""Recipe "outside radiator": a station with a large radiator on couplings and some metres of tube beside the machine."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cases import walls
from krill.recipes.common import brief, header, in_ranges, rooms, sources, workloads
from krill.recipes.pieces import Json, air_path, estimate, fan, opening, part, room_and_box, rule
from krill.recipes.water_loop import loop_parts, loop_routes

SIZE_MM = (360, 230, 150)
STATION_FANS = 4
#: fans of 200 mm start somewhere between 30 and 40 %
LOWEST_STATION_DUTY = 0.42
ORDER = [
    "pump",
    "plate-processor",
    "plate-graphics",
    "fittings",
    "coupling-out",
    "tube",
    "radiator-station",
    "tube-back",
    "coupling-back",
    "elbows",
    "reservoir",
]


def outside_radiator(
    processor_w: float, graphics_w: float, rest_w: float, room_c: float, name: str = "Outside radiator"
) -> Build:
    """A document with every guess marked as one.

    Watts of processor (10-400), graphics board (0-600) and the rest of the box (0-100); room 5-45 C. The station
    stands in the same room as a zone of its own; DocumentRefused outside the ranges.
    """
    in_ranges((processor_w, graphics_w, rest_w), ((10, 400), (0, 600), (0, 100)), room_c)
    fans = [f"station-fan-{n + 1}" for n in range(STATION_FANS)]
    outside, box = room_and_box(rule(1.4, "40%"))
    station = {"id": "station", "name": "Air at the station", "kind": "outside", "room": "room"}
    duties = {"pump": 0.8, "fan-box": 0.5} | dict.fromkeys(fans, 0.6)
    lowest = dict.fromkeys(fans, LOWEST_STATION_DUTY)
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": SIZE_MM, "gravity": [0, 0, -1]},
            "parts": [
                *sources(processor_w, graphics_w),
                *loop_parts(),
                *_station(fans),
                *_box(),
                *walls(SIZE_MM, "steel", "painted", 0.8),
            ],
            "feeds": [
                {"id": "station-supply", "name": "Supply of the station", "kind": "mains"},
                {"id": "board", "name": "Board and supply of the machine", "kind": "supply"},
            ],
            "zones": [outside, station, box],
            "air_paths": _air(fans),
            "loops": [_loop()],
            "routes": loop_routes(),
            "workloads": workloads(processor_w, graphics_w, rest_w, duties, lowest=lowest),
        }
    )


def _air(fans: list[str]) -> list[Json]:
    side_by_side = {"parallel": [[fan] for fan in fans]}
    return [
        air_path("air-station", "Through the station", "station", "station", side_by_side, "radiator-station"),
        air_path("air-out", "Out at the back", "box", "outside", "fan-box", "guard-box"),
        air_path("air-in", "Front vents", "outside", "box", "vents"),
    ]


def _loop() -> Json:
    coolant = {"fluid": "propylene_glycol", "mass_share": 0.1}
    return {
        "id": "loop-a",
        "name": "Loop A",
        "volume_l": estimate(2.5, "25%"),
        "coolant": coolant,
        "elements": ORDER,
    }


def _station(fans: list[str]) -> list[Json]:
    return [
        part("radiator", "radiator-station", "Radiator 9 x 140", section_mm=140, sections=9, thickness_mm=45),
        part("tube", "tube-back", "Tube back", "tube_soft", length_m=estimate(2.0, "25%"), bore_mm=estimate(10, "5%")),
        part("coupling", "coupling-out", "Coupling out", "coupling_large"),
        part("coupling", "coupling-back", "Coupling back", "coupling_large"),
        *(
            fan(fan_id, f"Station fan {n}", "fan_200x30", feed="station-supply")
            for n, fan_id in enumerate(fans, start=1)
        ),
    ]


def _box() -> list[Json]:
    return [
        fan("fan-box", "Box fan", "fan_92x25", face="back", direction="out", feed="board"),
        opening("guard-box", "Guard", "opening_guard", "back", estimate(80)),
        opening("vents", "Front vents", "opening_dense", "front", estimate(180, "20%")),
    ]
