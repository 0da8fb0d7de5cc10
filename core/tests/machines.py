"""Small documents for tests of loops and air: zones, paths and loops from a few words."""

from typing import Any

from hypothesis import strategies as st

from krill.catalogue.classes import RadiatorClass, radiator_classes

Json = dict[str, Any]
HALVES = {"plus_minus": 0, "from": "measured"}


def sure(value: float) -> Json:
    """A figure that nobody doubts."""
    return {"value": value, **HALVES}


def radiator_row(section_mm: float, thickness_mm: float) -> RadiatorClass:
    """The row of the class table of exactly this section and thickness."""
    [row] = [r for r in radiator_classes() if (r.section_mm, r.thickness_mm) == (section_mm, thickness_mm)]
    return row


def fan(part_id: str, shutoff: float = 30.0, free: float = 100.0, **more: Any) -> Json:
    """A fan with a parabolic curve, exact at its points."""
    points = [
        [round(free * s, 6), round(shutoff * (1 - s**2), 6)]
        for s in (0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1)
    ]
    return {
        "id": part_id,
        "kind": "fan",
        "curve": points,
        "flow_factor": sure(1),
        "pressure_factor": sure(1),
        "rated_rpm": sure(1500),
        "level_dba": sure(25),
        "power_w": sure(0),
        "start_duty": sure(0.2),
        **more,
    }


def opening(part_id: str, area_cm2: float = 100.0, loss: float = 2.5, **more: Any) -> Json:
    return {"id": part_id, "kind": "opening", "area_cm2": sure(area_cm2), "loss": sure(loss), **more}


def path(path_id: str, start: str, end: str, *elements: Any) -> Json:
    return {"id": path_id, "from_zone": start, "to_zone": end, "elements": list(elements)}


def box(zone_id: str, wall_w_k: float = 1e-9) -> Json:
    return {"id": zone_id, "kind": "box", "wall_w_k": sure(wall_w_k), "cross_section_cm2": sure(200)}


def source(part_id: str, zone: str) -> tuple[Json, Json]:
    """A source that gives its heat straight to a zone's air, and its route."""
    place = f"{part_id}-place"
    part = {
        "id": part_id,
        "kind": "source",
        "places": [{"id": place, "temperature_kind": "case", "limits": [{"kind": "own", "at_c": 80}]}],
    }
    hop = {"id": f"{place}-air", "kind": "air", "zone": zone, "resistance_k_w": sure(0.5)}
    return part, {"id": f"route-{place}", "place": place, "hops": [hop]}


def machine(
    parts: list[Json],
    zones: list[Json],
    paths: list[Json],
    *,
    loops: list[Json] | None = None,
    sources: list[tuple[Json, Json]] | None = None,
    watts: dict[str, float] | None = None,
    movers: dict[str, Json] | None = None,
    room_c: float = 25.0,
    **more: Any,
) -> Json:
    """A whole document with one workload ``full``."""
    sources = sources or []
    return {
        "format": "krill-build",
        "version": 1,
        "name": "machine",
        "rooms": [{"id": "room", "air_c": room_c}],
        "parts": parts + [part for part, _ in sources],
        "zones": [{"id": "out", "kind": "outside", "room": "room"}, *zones],
        "air_paths": paths,
        "loops": loops or [],
        "routes": [route for _, route in sources],
        "workloads": [{"id": "full", "watts": {k: sure(v) for k, v in (watts or {}).items()}, "movers": movers or {}}],
        **more,
    }


def loop_parts(pumps: int = 1, plates: int = 1, radiators: int = 1) -> list[Json]:
    """Parts of a loop by class figures that nobody doubts."""
    parts = [{"id": f"pump-{n}", "kind": "pump", "class": "pump_strong"} for n in range(pumps)]
    parts += [{"id": f"plate-{n}", "kind": "plate", "class": "plate_processor_good"} for n in range(plates)]
    parts += [
        {"id": f"radiator-{n}", "kind": "radiator", "section_mm": 120, "sections": 2, "thickness_mm": 28}
        for n in range(radiators)
    ]
    parts += [
        {"id": "tube", "kind": "tube", "class": "tube_soft", "length_m": sure(2), "bore_mm": sure(10)},
        {"id": "tank", "kind": "reservoir", "class": "reservoir_common", "bore_mm": sure(9)},
    ]
    return parts


def on_plate(part_id: str, plate: str) -> tuple[Json, Json]:
    """A source on a cold plate, and its route."""
    place = f"{part_id}-place"
    part = {
        "id": part_id,
        "kind": "source",
        "places": [
            {
                "id": place,
                "temperature_kind": "chip_sensor",
                "package_k_w": sure(0.05),
                "chip_area_mm2": sure(500),
                "limits": [{"kind": "own", "at_c": 80}],
            }
        ],
    }
    hop = {"id": f"{place}-plate", "kind": "plate", "part": plate}
    return part, {"id": f"route-{place}", "place": place, "hops": [hop]}


_LOSS = st.floats(0.3, 20.0)
_AREA = st.floats(20.0, 400.0)


@st.composite
def random_air(draw: st.DrawFn) -> Json:
    """Outside, one to three chambers, some paths between any two of them with one to three elements each."""
    chambers = [f"box-{n}" for n in range(draw(st.integers(1, 3)))]
    ends = ["out", *chambers]
    parts: list[Json] = []
    paths: list[Json] = []
    movers: dict[str, Json] = {}

    def element(part_id: str) -> str:
        kind = draw(st.sampled_from(("fan", "opening", "opening", "duct", "gap", "obstacle", "cooler", "filter")))
        if kind == "fan":
            parts.append(fan(part_id, draw(st.floats(10, 120)), draw(st.floats(20, 200))))
            movers[part_id] = draw(st.sampled_from(({"duty": 1.0}, {"duty": 0.5}, {"off": True})))
        elif kind == "duct":
            parts.append(
                {
                    "id": part_id,
                    "kind": "duct",
                    "class": "duct_printed",
                    "length_m": sure(draw(st.floats(0.05, 1))),
                    "bore_mm": sure(draw(st.floats(25, 100))),
                }
            )
        elif kind == "gap":
            parts.append({"id": part_id, "kind": "gap", "gap_mm": sure(draw(st.floats(4, 40))), "span_mm": sure(100)})
        elif kind == "obstacle":
            parts.append(
                {
                    "id": part_id,
                    "kind": "obstacle",
                    "area_cm2": sure(draw(_AREA)),
                    "blocked_share": sure(draw(st.floats(0.05, 0.9))),
                }
            )
        elif kind == "cooler":
            parts.append({"id": part_id, "kind": "cooler", "class": "cooler_low_47"})
        elif kind == "filter":
            parts.append({"id": part_id, "kind": "filter", "class": "filter_fine", "area_cm2": sure(draw(_AREA))})
        else:
            parts.append(opening(part_id, draw(_AREA), draw(_LOSS)))
        return part_id

    for n, chamber in enumerate(chambers):  # every chamber can breathe
        parts += [opening(f"in-{n}", draw(_AREA), draw(_LOSS)), opening(f"exit-{n}", draw(_AREA), draw(_LOSS))]
        paths += [path(f"path-in-{n}", "out", chamber, f"in-{n}"), path(f"path-exit-{n}", chamber, "out", f"exit-{n}")]
    for n in range(draw(st.integers(1, 4))):
        start, end = draw(st.permutations(ends))[:2] if len(ends) > 1 else ("out", "out")
        elements: list[Any] = [element(f"e-{n}-{k}") for k in range(draw(st.integers(1, 3)))]
        if draw(st.booleans()):
            elements.append({"parallel": [[element(f"e-{n}-a")], [element(f"e-{n}-b")]]})
        paths.append(path(f"path-{n}", start, end, *elements))
    sources = [source(f"heat-{n}", chamber) for n, chamber in enumerate(chambers)]
    watts = {f"heat-{n}": draw(st.floats(1, 150)) for n in range(len(chambers))}
    zones = [box(chamber, 1.0) for chamber in chambers]
    return machine(parts, zones, paths, sources=sources, watts=watts, movers=movers)


@st.composite
def random_loop(draw: st.DrawFn) -> Json:
    """One to three pumps in series or parallel, plates in branches, one or two radiators behind each other in one stream."""
    pumps, plates, radiators = draw(st.integers(1, 3)), draw(st.integers(1, 3)), draw(st.integers(1, 2))
    parts = loop_parts(pumps, plates, radiators)
    ids = [f"pump-{n}" for n in range(pumps)]
    together: list[Any] = ids if draw(st.booleans()) or pumps == 1 else [{"parallel": [[i] for i in ids]}]
    cold = [f"plate-{n}" for n in range(plates)]
    plate_tree: list[Any] = cold if draw(st.booleans()) or plates == 1 else [{"parallel": [[i] for i in cold]}]
    warm = [f"radiator-{n}" for n in range(radiators)]
    parts += [fan("blow", 60, 150), opening("vent", 300, 1.0)]
    loops = [{"id": "loop", "elements": [*together, "tube", *plate_tree, *warm, "tank"]}]
    movers: dict[str, Json] = {"blow": {"duty": draw(st.floats(0.3, 1.0))}}
    for n, pump in enumerate(ids):
        movers[pump] = (
            {"duty": draw(st.floats(0.3, 1.0))}
            if n == 0
            else draw(st.sampled_from(({"duty": 0.6}, {"duty": 1.0}, {"off": True})))
        )
    sources = [on_plate(f"chip-{n}", plate) for n, plate in enumerate(cold)]
    watts = {f"chip-{n}": draw(st.floats(5, 250)) for n in range(plates)}
    paths = [path("through", "out", "out", "blow", *warm, "vent")]
    return machine(parts, [], paths, loops=loops, sources=sources, watts=watts, movers=movers)
