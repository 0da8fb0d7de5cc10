"""A radiator of another number of sections: its fans, and the opening that its face breathes through, go along."""

from typing import Any

from krill.document.build import AirPath, Build, leaves
from krill.document.parts import Fan, Opening, Radiator
from krill.document.reading import write_object
from krill.sizing.result import Edit

Json = dict[str, Any]

MAX_SECTIONS = 12


def fans_on(build: Build, radiator: str) -> list[str]:
    """Fans beside each other right before or behind a radiator in its air path, one a section; empty where not so."""
    path = _path_of(build, radiator)
    part = build.part(radiator)
    if path is None or not isinstance(part, Radiator):
        return []
    group = _fan_group(build, path, radiator)
    return group if len(group) == part.sections else []


def sections_edits(build: Build, radiator: str, sections: int) -> tuple[Edit, ...]:
    """Edits that give a radiator so many sections; a fan stands on each where one stood on each before.

    New fans are like the first one and told the same; an opening in the path of this one radiator grows with it.
    """
    part = build.part(radiator)
    edits: list[Edit] = [Edit(target=radiator, field="sections", value=sections)]
    long, longer = (f"{float(part.section_mm) * count:g}" for count in (part.sections, sections))
    if part.name.endswith(f" {long}"):
        edits.append(Edit(target=radiator, field="name", value=f"{part.name.removesuffix(long)}{longer}"))
    path, fans = _path_of(build, radiator), fans_on(build, radiator)
    if path is None:
        return tuple(edits)
    if fans:
        edits += _fan_edits(build, path, fans, sections)
    for item in leaves(path.elements):
        opening = build.part(item)
        if isinstance(opening, Opening) and _radiators_in(build, path) == [radiator]:
            area = write_object(build.model_copy(update={"parts": [opening]}))["parts"][0]["area_cm2"]
            edits.append(Edit(target=item, field="area_cm2", value=_scaled(area, sections / part.sections)))
    return tuple(edits)


def _scaled(figure: Any, share: float) -> Any:
    if isinstance(figure, dict):
        return figure | {"value": round(figure["value"] * share, 1)}
    return round(figure * share, 1)


def _path_of(build: Build, radiator: str) -> AirPath | None:
    return next((path for path in build.air_paths if radiator in leaves(path.elements)), None)


def _radiators_in(build: Build, path: AirPath) -> list[str]:
    return [item for item in leaves(path.elements) if isinstance(build.part(item), Radiator)]


def _fan_group(build: Build, path: AirPath, radiator: str) -> list[str]:
    """Fans of the element next to the radiator in the series of its path."""
    if radiator not in path.elements:
        return []
    at = path.elements.index(radiator)
    for beside in (at - 1, at + 1):
        if 0 <= beside < len(path.elements):
            items = leaves([path.elements[beside]])
            if all(isinstance(build.part(item), Fan) for item in items):
                return items
    return []


def _fan_edits(build: Build, path: AirPath, fans: list[str], sections: int) -> list[Edit]:
    raw = write_object(build)
    first = next(part for part in raw["parts"] if part["id"] == fans[0])
    new = [_new_id(raw, fans[0], number) for number in range(len(fans), sections)]
    edits: list[Edit] = [
        Edit(
            target="parts",
            field="+",
            value=first | {"id": fan, "name": f"{first.get('name') or fans[0]}, no. {len(fans) + 1 + index}"},
        )
        for index, fan in enumerate(new)
    ]
    edits += [
        Edit(target=workload["id"], field=f"movers/{fan}", value=workload["movers"][fans[0]])
        for workload in raw["workloads"]
        if fans[0] in workload.get("movers", {})
        for fan in new
    ]
    kept = [*fans, *new][:sections]
    elements = next(item for item in raw["air_paths"] if item["id"] == path.id)["elements"]
    group = kept[0] if len(kept) == 1 else {"parallel": [[fan] for fan in kept]}
    changed = [group if _items(element) == fans else element for element in elements]
    edits.append(Edit(target=path.id, field="elements", value=changed))
    return edits + [Edit(target="parts", field="-", value=fan) for fan in fans[sections:]]


def _items(element: Any) -> list[str]:
    if isinstance(element, str):
        return [element]
    return [item for branch in element["parallel"] for inner in branch for item in _items(inner)]


def _new_id(raw: Json, like: str, number: int) -> str:
    """An id of its own after the one that it is like."""
    taken = {part["id"] for part in raw["parts"]}
    wanted = f"{like}-{number + 1}"
    while wanted in taken:
        wanted += "b"
    return wanted
