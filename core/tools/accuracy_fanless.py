"""Fanless rows of the accuracy page: common practice P1, P2 without a fan, P9, P10; the same class defaults for all."""

from typing import Any

from accuracy_rows import Inside, Json, Row, against, asked, band, place, yes_no

from krill.document.reading import read_object
from krill.sizing.holds import watts_it_holds

ROOM_C = 23.0


def estimate(value: float, half: str = "5%") -> Json:
    return {"value": value, "plus_minus": half, "from": "estimate"}


def fanless(
    parts: list[Json], routes: list[Json], watts: dict[str, dict[str, float]], room: float = ROOM_C, **more: Any
) -> Json:
    """A machine without a fan in a room; one workload for each set of watts."""
    return {
        "format": "krill-build",
        "version": 1,
        "name": "case",
        "brief": {"margin_wanted_k": 0},
        "rooms": [{"id": "room", "air_c": {"value": room, "plus_minus": 2, "from": "estimate"}}],
        "parts": parts,
        "zones": [{"id": "out", "kind": "outside", "room": "room"}],
        "routes": routes,
        "workloads": [
            {"id": key, "watts": {s: estimate(w, "5%") for s, w in each.items()}} for key, each in watts.items()
        ],
    } | more


def source(part_id: str, class_id: str, kind: str = "hottest_core", limit_c: float = 100.0) -> Json:
    return {
        "id": part_id,
        "kind": "source",
        "places": [
            {
                "id": f"{part_id}-place",
                "class": class_id,
                "temperature_kind": kind,
                "limits": [{"kind": "throttle", "at_c": limit_c}],
            }
        ],
    }


def hop(hop_id: str, kind: str, part: str, **more: Any) -> Json:
    return {"id": hop_id, "kind": kind, "part": part, **more}


def lying_sink(finish: str, flanks: str) -> Json:
    """P1: an extrusion that closes a housing, lying with fins up, on six 6 mm pipes from a home-made clamp."""
    pipes = {
        "id": "pipes",
        "kind": "heat_pipe",
        "class": "pipe_6_sintered",
        "count": 6,
        "evaporator_mm": estimate(40, "10%"),
        "adiabatic_mm": estimate(40, "25%"),
        "condenser_mm": estimate(150, "10%"),
        "bends": 1,
        "groove_pitch_mm": estimate(24, "20%"),
    }
    sink = {
        "id": "sink",
        "kind": "sink",
        "outside": "out",
        "stands": "lying_fins_up",
        "flanks": flanks,
        "finish": finish,
        "width_mm": estimate(205, "1%"),
        "length_mm": estimate(215, "1%"),
        "base_mm": estimate(8),
        "fin_height_mm": estimate(25),
        "fin_pitch_mm": {"value": 8.5, "plus_minus": 2, "from": "class"},
        "fin_thickness_mm": estimate(1.8, "15%"),
    }
    parts = [
        source("chip", "lidded_65"),
        {"id": "paste", "kind": "interface", "class": "paste_ordinary_lid"},
        {"id": "block", "kind": "spreader", "class": "block_clamp_home_made"},
        pipes,
        sink,
    ]
    route = {
        "id": "route",
        "place": "chip-place",
        "hops": [
            hop("p", "interface", "paste"),
            hop("b", "spreader", "block"),
            {"id": "h", "kind": "pipes", "parts": ["pipes"]},
            hop("s", "body", "sink"),
        ],
    }
    return fanless(parts, [route], {"w12": {"chip": 12}, "w45": {"chip": 45}, "w60": {"chip": 60}})


def mean_core(raw: Json) -> Json:
    other: Json = read_object(raw).model_dump(mode="json", by_alias=True, exclude_unset=True)
    other["parts"][0]["places"][0]["temperature_kind"] = "mean_core"
    return other


def p1() -> list[Row]:
    """Lying extrusion on six pipes from a home-made clamp."""
    rows = []
    why = "a home-made clamp may cost 0.2 K/W more, the start may have been warm, the pitch is a class figure"
    for finish in ("raw", "anodised"):
        for flanks in ("covered", "free"):
            raw = lying_sink(finish, flanks)
            found = place(asked(mean_core(raw), "w45"), "chip-place")
            rows.append(
                Row(
                    "P1",
                    f"45 W, mean core settled; {finish}, flanks {flanks}",
                    band(found),
                    "92 ± 10 °C after 30 min",
                    against(found, 82, 102),
                    why,
                )
            )
    held = {
        finish: watts_it_holds(read_object(lying_sink(finish, "covered")), [ROOM_C], ["w45"]).held[0].watts or 0.0
        for finish in ("raw", "anodised")
    }
    assert held["anodised"] > held["raw"]
    rows.append(
        Row(
            "P1",
            "watts at 100 °C, flanks covered: raw, anodised",
            f"{held['raw']:.0f}, {held['anodised']:.0f} W",
            "45 to 50 W",
            yes_no(45 <= held["raw"] <= 50),
            why,
        )
    )
    return rows


def still_board(chip_w: float, board_w: float) -> Any:
    return place(asked(still_case({"on": (chip_w, board_w)}), "on"), "chip-place")


def still_case(watts: dict[str, tuple[float, float]]) -> Json:
    """P2 without a fan: a capped chip under a stick-on sink in a small plastic box, the board beside it; watts of the chip
    and of the board as a whole."""
    parts = [
        source("chip", "board_small_3_8w", "chip_sensor", 80.0),
        source("board", "network_chip", "case", 100.0),
        {"id": "tape", "kind": "interface", "class": "tape_stick_on"},
    ]
    routes = [
        {
            "id": "r1",
            "place": "chip-place",
            "hops": [
                hop("t", "interface", "tape"),
                {
                    "id": "a",
                    "kind": "air",
                    "zone": "box",
                    "resistance_k_w": {"value": 34, "plus_minus": 8, "from": "class"},
                },
            ],
        },
        {
            "id": "r2",
            "place": "chip-place",
            "hops": [
                {
                    "id": "b",
                    "kind": "air",
                    "zone": "box",
                    "resistance_k_w": {"value": 12, "plus_minus": 3, "from": "class"},
                }
            ],
        },
        {"id": "r3", "place": "board-place", "hops": [{"id": "c", "kind": "air", "zone": "box"}]},
    ]
    zones = [
        {"id": "out", "kind": "outside", "room": "room"},
        {"id": "box", "kind": "box", "wall_w_k": {"value": 0.2, "plus_minus": 0.06, "from": "class"}},
    ]
    each = {load: {"chip": chip_w, "board": board_w - chip_w} for load, (chip_w, board_w) in watts.items()}
    return fanless(parts, routes, each, zones=zones)


def p2_still() -> list[Row]:
    """Single-board computer in a small plastic box without a fan."""
    light, full = still_board(2.6, 4.0), still_board(5.0, 6.5)
    return [
        Row(
            "P2",
            "no fan, light game (2.6 W chip, 4 W board)",
            band(light),
            "63 ± 7 °C",
            against(light, 56, 70),
            "W/K of the box and the board's own path are class guesses",
        ),
        Row(
            "P2",
            "no fan, full load (5 W chip, 6.5 W board), unthrottled",
            band(full),
            "80 °C and throttling",
            yes_no(full.temperature_c >= 80),
            "",
        ),
    ]


def small_sealed(watts: float) -> Any:
    """P9: a bare chip pressed on the ribbed lid of a sealed box 180 x 120 x 50 mm that stands flat."""
    size = {"width_mm": estimate(180, "2%"), "length_mm": estimate(120, "2%")}
    lid = {
        "id": "lid",
        "kind": "sink",
        "name": "Lid",
        "material": "aluminium_cast",
        "finish": "anodised",
        "outside": "out",
        "inside": "box",
        "stands": "lying_fins_up",
        "flanks": "free",
        "base_mm": estimate(4),
        "fin_height_mm": estimate(10),
        "fin_pitch_mm": estimate(9, "15%"),
        "fin_thickness_mm": estimate(2, "15%"),
        **size,
    }
    walls = [
        {
            "id": f"wall-{n}",
            "kind": "panel",
            "material": "aluminium_cast",
            "finish": "anodised",
            "outside": "out",
            "inside": "box",
            "width_mm": estimate(w),
            "height_mm": estimate(h),
            "thickness_mm": estimate(2),
            "lies": lies,
        }
        for n, (w, h, lies) in enumerate(
            (
                (180, 40, "vertical"),
                (180, 40, "vertical"),
                (120, 40, "vertical"),
                (120, 40, "vertical"),
                (180, 120, "facing_down"),
            )
        )
    ]
    parts = [
        source("chip", "bare_mobile_15"),
        {"id": "paste", "kind": "interface", "class": "paste_good_chip"},
        lid,
        *walls,
    ]
    zones = [{"id": "out", "kind": "outside", "room": "room"}, {"id": "box", "kind": "box", "wall_w_k": 0}]
    route = {"id": "r", "place": "chip-place", "hops": [hop("p", "interface", "paste"), hop("b", "body", "lid")]}
    board = {
        "id": "r2",
        "place": "chip-place",
        "hops": [
            {"id": "a", "kind": "air", "zone": "box", "resistance_k_w": {"value": 12, "plus_minus": 3, "from": "class"}}
        ],
    }
    seams = [
        (first, f"wall-{n}", length) for first in ("lid", "wall-4") for n, length in enumerate((180, 180, 120, 120))
    ]
    bonds = [
        {"id": f"seam-{n}", "first": a, "second": b, "seam_mm": estimate(length)}
        for n, (a, b, length) in enumerate(seams)
    ]
    return asked(fanless(parts, [route, board], {"on": {"chip": watts}}, zones=zones, bonds=bonds), "on")


def p9() -> list[Row]:
    """Small sealed aluminium computer, chip pressed on the lid."""
    cool, warm, between = (small_sealed(watts) for watts in (15, 28, 21.5))
    found, hot, middle = (place(x, "chip-place") for x in (cool, warm, between))
    lids = [next(b.temperature_c for b in x.workloads[0].bodies if b.address == "lid") for x in (cool, warm)]
    why = "how thick the cast walls are and how they meet the lid is a guess"
    return [
        Row(
            "P9",
            "15 to 28 W, which of them is not said: chip at 21.5 W",
            band(middle),
            "about 60 ± 8 °C",
            against(middle, 52, 68, watts_doubt=0.3),
            why,
        ),
        Row("P9", "15 W, chip", band(found), "about 60 ± 8 °C", Inside(against(found, 52, 68).text), why),
        Row("P9", "15 W, lid", f"{lids[0]:.0f} °C", "lukewarm (below 45 °C)", yes_no(lids[0] <= 45), why),
        Row(
            "P9",
            "28 W, chip",
            band(hot),
            "about 60 ± 8 °C",
            Inside(against(hot, 52, 68).text),
            f"28 W held for long cannot leave the lid ({lids[1]:.0f} °C) lukewarm: the figure is of less",
        ),
    ]


def whole_housing(room: float) -> Any:
    """P10: two side sinks 380 x 300 with 40 mm fins, a processor and a graphics chip limited by choice, memory in still air."""

    def side(part_id: str) -> Json:
        return {
            "id": part_id,
            "kind": "sink",
            "outside": "out",
            "inside": "box",
            "finish": "anodised",
            "flanks": "covered",
            "width_mm": estimate(380, "1%"),
            "length_mm": estimate(300, "1%"),
            "base_mm": estimate(8),
            "fin_height_mm": estimate(40),
            "fin_pitch_mm": {"value": 10, "plus_minus": 2, "from": "class"},
            "fin_thickness_mm": estimate(2, "15%"),
        }

    def pipes(part_id: str) -> Json:
        return {
            "id": part_id,
            "kind": "heat_pipe",
            "class": "pipe_6_sintered",
            "count": 6,
            "evaporator_mm": estimate(40, "10%"),
            "adiabatic_mm": estimate(60, "25%"),
            "condenser_mm": estimate(250, "10%"),
            "bends": 1,
            "groove_pitch_mm": estimate(40, "20%"),
        }

    parts = [
        source("cpu", "lidded_125"),
        source("gpu", "graphics_chip_150", "chip_sensor", 88.0),
        source("ram", "memory_pair_still", "memory", 85.0),
        {"id": "paste-c", "kind": "interface", "class": "paste_ordinary_lid"},
        {"id": "paste-g", "kind": "interface", "class": "paste_ordinary_chip"},
        {"id": "block-c", "kind": "spreader", "class": "block_kit"},
        {"id": "block-g", "kind": "spreader", "class": "block_kit"},
        pipes("pipes-c"),
        pipes("pipes-g"),
        side("left"),
        side("right"),
    ]

    def route(key: str, place_id: str, body: str) -> Json:
        return {
            "id": f"route-{key}",
            "place": place_id,
            "hops": [
                hop(f"p-{key}", "interface", f"paste-{key}"),
                hop(f"b-{key}", "spreader", f"block-{key}"),
                {"id": f"h-{key}", "kind": "pipes", "parts": [f"pipes-{key}"]},
                hop(f"s-{key}", "body", body),
            ],
        }

    routes = [
        route("c", "cpu-place", "left"),
        route("g", "gpu-place", "right"),
        {"id": "r3", "place": "ram-place", "hops": [{"id": "a3", "kind": "air", "zone": "box"}]},
    ]
    zones = [
        {"id": "out", "kind": "outside", "room": "room"},
        {"id": "box", "kind": "box", "wall_w_k": {"value": 2, "plus_minus": 1, "from": "class"}},
    ]
    for part in parts:
        if part["id"] == "gpu":
            part["places"][0]["power_share"] = 1
    return asked(fanless(parts, routes, {"on": {"cpu": 65, "gpu": 90, "ram": 5}}, room=room, zones=zones), "on")


#: what watts were chosen is not said: 65 + 90 to 85 + 120 W would both be meant
CHOSEN_WATTS = 0.3


def p10() -> list[Row]:
    """Fanless desktop of a 125 W class processor and a 170 W class graphics, limited to 65 and 90 W."""
    why = "the watts that were chosen are not known: 65 and 90 W are assumed for all rows"
    rows = []
    for room, low, high, words in ((28.0, 55, 65, "room 28 °C: 55 to 65 °C"), (33.0, 65, 75, "hot day: 65 to 75 °C")):
        found = whole_housing(room)
        for name, key in (("processor", "cpu-place"), ("graphics", "gpu-place")):
            rows.append(
                Row(
                    "P10",
                    f"65 + 90 W, room {room:.0f} °C: {name}",
                    band(place(found, key)),
                    words,
                    against(place(found, key), low, high, room_said=room == 28.0, watts_doubt=CHOSEN_WATTS),
                    why,
                )
            )
    memory = place(whole_housing(29.0), "ram-place")
    rows.append(
        Row(
            "P10",
            "memory, bare pair of 5 W, room 29 °C",
            band(memory),
            "67 °C until it got larger sinks",
            against(memory, 60, 74, room_said=True, watts_doubt=CHOSEN_WATTS),
            "how warm the air in the box is follows from the watts",
        )
    )
    return rows
