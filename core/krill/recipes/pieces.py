"""Pieces of a document as recipes write them down: figures with their mark, parts, zones, paths, routes."""

from typing import Any

Json = dict[str, Any]


def estimate(value: float, half: str = "10%") -> Json:
    return {"value": value, "plus_minus": half, "from": "estimate"}


def rule(value: float, half: str = "20%") -> Json:
    return {"value": value, "plus_minus": half, "from": "rule_of_thumb"}


def by_class(value: float, half: float) -> Json:
    return {"value": value, "plus_minus": half, "from": "class"}


def part(kind: str, part_id: str, name: str, class_: str | None = None, **more: Any) -> Json:
    """A part of a kind, of a class where one is named; ``more`` are its other fields."""
    return {"id": part_id, "kind": kind, "name": name} | ({"class": class_} if class_ else {}) | more


def place(place_id: str, name: str, class_: str, temperature_kind: str, limit: Json, **more: Any) -> Json:
    kinds = {"class": class_, "temperature_kind": temperature_kind, "limits": [limit]}
    return {"id": place_id, "name": name} | kinds | more


def throttle(at_c: float) -> Json:
    return {"kind": "throttle", "at_c": at_c}


def own_limit(at_c: float) -> Json:
    return {"kind": "own", "at_c": at_c}


def source(source_id: str, name: str, power_kind: str, *places: Json) -> Json:
    return part("source", source_id, name, power_kind=power_kind, places=list(places))


def opening(part_id: str, name: str, class_: str, face: str, area_cm2: Json) -> Json:
    return part("opening", part_id, name, class_, face=face, area_cm2=area_cm2)


def fan(part_id: str, name: str, class_: str, **more: Any) -> Json:
    return part("fan", part_id, name, class_, **more)


def room_and_box(wall_w_k: Json, name: str = "Box air") -> list[Json]:
    """Room air outside, and the box with what its walls carry."""
    return [
        {"id": "outside", "name": "Room air", "kind": "outside", "room": "room"},
        {"id": "box", "name": name, "kind": "box", "wall_w_k": wall_w_k},
    ]


def air_path(path_id: str, name: str, from_zone: str, to_zone: str, *elements: Any) -> Json:
    return {"id": path_id, "name": name, "from_zone": from_zone, "to_zone": to_zone, "elements": list(elements)}


def route(place_id: str, *hops: Json, name: str | None = None) -> Json:
    return {"id": f"route-{name or place_id}", "place": place_id, "hops": list(hops)}


def to_air(place_id: str, zone: str = "box") -> Json:
    """Route of a place that gives its heat to a zone's air."""
    return route(place_id, {"id": f"{place_id}-air", "kind": "air", "zone": zone, "name": "To box air"})


def into_board(place_id: str, link: str) -> Json:
    """The way of a place beside its named one: through its contacts into the board."""
    hops = [
        {"id": f"{place_id}-link", "kind": "spreader", "part": link},
        {"id": f"{place_id}-board", "kind": "body", "part": "circuit-board"},
    ]
    return route(place_id, *hops, name=f"{place_id}-board")


def joined(place_id: str, interface: str, end: Json) -> Json:
    """Route of a place through an interface to where its heat ends."""
    first = {"id": f"{place_id}-{interface.split('-')[0]}", "kind": "interface", "part": interface}
    return route(place_id, first, {"id": f"{place_id}-{end['kind']}", **end})


def workload(key: str, name: str, watts: dict[str, float], minutes: int, **more: Any) -> Json:
    told = {source: estimate(round(value, 2)) for source, value in watts.items()}
    return {"id": key, "name": name, "watts": told, "duration_min": minutes} | more
