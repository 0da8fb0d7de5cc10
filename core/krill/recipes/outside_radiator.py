"""Recipe "outside radiator": a station with a large radiator on couplings and some metres of tube beside the machine."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.common import Json, brief, checked, estimate, header, rooms, rule, sources, workloads
from krill.recipes.water_loop import loop_parts, loop_routes

STATION_FANS = 4


def outside_radiator(
    processor_w: float, graphics_w: float, rest_w: float, room_c: float, name: str = "Outside radiator"
) -> Build:
    """A document with every guess marked as one.

    Watts of processor (10-400), graphics board (10-600) and the rest of the box (1-300); room 5-45 C. The station
    stands in the same room as a zone of its own; DocumentRefused outside the ranges.
    """
    checked("processor_w", processor_w, 10, 400)
    checked("graphics_w", graphics_w, 10, 600)
    checked("rest_w", rest_w, 1, 300)
    checked("room_c", room_c, 5, 45)
    fans = [f"station-fan-{n + 1}" for n in range(STATION_FANS)]
    parts = [*sources(processor_w, graphics_w), *loop_parts(), *_station(fans), *_box()]
    order = [
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
    duties = {"pump": 0.8, "fan-box": 0.5} | dict.fromkeys(fans, 0.6)
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": [360, 230, 150], "gravity": [0, 0, -1]},
            "parts": parts,
            "feeds": [
                {"id": "station-supply", "name": "Supply of the station", "kind": "mains"},
                {"id": "board", "name": "Board and supply of the machine", "kind": "supply"},
            ],
            "zones": [
                {"id": "outside", "name": "Room air", "kind": "outside", "room": "room"},
                {"id": "station", "name": "Air at the station", "kind": "outside", "room": "room"},
                {"id": "box", "name": "Box air", "kind": "box", "wall_w_k": rule(2.0, "30%")},
            ],
            "air_paths": [
                {
                    "id": "air-station",
                    "name": "Through the station",
                    "from_zone": "station",
                    "to_zone": "station",
                    "elements": [{"parallel": [[fan] for fan in fans]}, "radiator-station"],
                },
                {
                    "id": "air-out",
                    "name": "Out at the back",
                    "from_zone": "box",
                    "to_zone": "outside",
                    "elements": ["fan-box", "guard-box"],
                },
                {
                    "id": "air-in",
                    "name": "Front vents",
                    "from_zone": "outside",
                    "to_zone": "box",
                    "elements": ["vents"],
                },
            ],
            "loops": [
                {
                    "id": "loop-a",
                    "name": "Loop A",
                    "volume_l": estimate(2.5, "25%"),
                    "coolant": {"fluid": "propylene_glycol", "mass_share": 0.1},
                    "elements": order,
                }
            ],
            "routes": loop_routes(),
            "workloads": workloads(processor_w, graphics_w, rest_w, duties),
        }
    )


def _station(fans: list[str]) -> list[Json]:
    station: list[Json] = [
        {
            "id": "radiator-station",
            "kind": "radiator",
            "name": "Radiator 9 x 140",
            "section_mm": 140,
            "sections": 9,
            "thickness_mm": 45,
        },
        {
            "id": "tube-back",
            "kind": "tube",
            "name": "Tube back",
            "class": "tube_soft",
            "length_m": estimate(2.0, "25%"),
            "bore_mm": estimate(10, "5%"),
        },
        {"id": "coupling-out", "kind": "coupling", "name": "Coupling out", "class": "coupling_large"},
        {"id": "coupling-back", "kind": "coupling", "name": "Coupling back", "class": "coupling_large"},
    ]
    return station + [
        {"id": fan, "kind": "fan", "name": f"Station fan {n + 1}", "class": "fan_200x30", "feed": "station-supply"}
        for n, fan in enumerate(fans)
    ]


def _box() -> list[Json]:
    return [
        {
            "id": "fan-box",
            "kind": "fan",
            "name": "Box fan",
            "class": "fan_92x25",
            "face": "back",
            "direction": "out",
            "feed": "board",
        },
        {
            "id": "guard-box",
            "kind": "opening",
            "name": "Guard",
            "class": "opening_guard",
            "face": "back",
            "area_cm2": estimate(80),
        },
        {
            "id": "vents",
            "kind": "opening",
            "name": "Front vents",
            "class": "opening_dense",
            "face": "front",
            "area_cm2": estimate(180, "20%"),
        },
    ]
