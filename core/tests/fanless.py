"""Small fanless documents for tests: a chip, what lies between, and a body in still air."""

from typing import Any

from machines import Json, sure


def chip(area_mm2: float = 120.0, mm2k_w: float = 18.0, limit_c: float = 95.0, **more: Any) -> Json:
    """A source with one bare chip."""
    place = {
        "id": "chip-place",
        "temperature_kind": "chip_sensor",
        "chip_area_mm2": sure(area_mm2),
        "chip_mm2k_w": sure(mm2k_w),
        "limits": [{"kind": "throttle", "at_c": limit_c}],
        **more,
    }
    return {"id": "chip", "kind": "source", "places": [place]}


def layer(mm2k_w: float, part_id: str = "joint", **more: Any) -> Json:
    return {"id": part_id, "kind": "interface", "resistance_mm2k_w": sure(mm2k_w), **more}


def sink(width: float, length: float, height: float, pitch: float, **more: Any) -> Json:
    """An anodised extrusion in the room's air, flanks free."""
    given = {
        "id": "sink",
        "kind": "sink",
        "finish": "anodised",
        "outside": "out",
        "flanks": "free",
        "factor": sure(1),
        "width_mm": sure(width),
        "length_mm": sure(length),
        "base_mm": sure(8),
        "fin_height_mm": sure(height),
        "fin_pitch_mm": sure(pitch),
        "fin_thickness_mm": sure(1.5),
        "conductivity_w_mk": sure(195),
        "emissivity": sure(0.82),
    }
    return given | more


def panel(width: float, height: float, thickness: float, **more: Any) -> Json:
    """A painted steel side in the room's air."""
    given = {
        "id": "panel",
        "kind": "panel",
        "material": "steel",
        "finish": "painted",
        "outside": "out",
        "factor": sure(1),
        "width_mm": sure(width),
        "height_mm": sure(height),
        "thickness_mm": sure(thickness),
        "conductivity_w_mk": sure(50),
        "emissivity": sure(0.9),
    }
    return given | more


def hop(kind: str, part: str, **more: Any) -> Json:
    return {"id": f"hop-{part}", "kind": kind, "part": part, **more}


def pipes_hop(*parts: str) -> Json:
    return {"id": "hop-pipes", "kind": "pipes", "parts": list(parts)}


def pipe(part_id: str = "pipes", count: int = 3, **more: Any) -> Json:
    """8 mm sintered pipes, 40 + 60 + 120 mm."""
    given = {
        "id": part_id,
        "kind": "heat_pipe",
        "class": "pipe_8_sintered",
        "count": count,
        "evaporator_mm": sure(40),
        "adiabatic_mm": sure(60),
        "condenser_mm": sure(120),
        "uneven": sure(1),
    }
    return given | more


def fanless(watts: float, parts: list[Json], hops: list[Json], *, room_c: float = 25.0, **more: Any) -> Json:
    """One chip with its route, in a room without a fan."""
    base = {
        "format": "krill-build",
        "version": 1,
        "name": "fanless",
        "rooms": [{"id": "room", "air_c": room_c}],
        "parts": parts if any(part["kind"] == "source" for part in parts) else [chip(), *parts],
        "zones": [{"id": "out", "kind": "outside", "room": "room"}],
        "routes": [{"id": "route", "place": "chip-place", "hops": hops}],
        "workloads": [{"id": "full", "watts": {"chip": sure(watts)}}],
    }
    return base | more
