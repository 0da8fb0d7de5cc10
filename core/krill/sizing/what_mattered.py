"""What a change of a build did in kelvins: every difference put into the build before by itself, and all of them together."""

import copy
import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Final

from krill.document.build import Build
from krill.document.quantities import described
from krill.document.reading import read_object, write_object
from krill.errors import KrillError
from krill.prediction.predict import predict

Json = dict[str, Any]

#: differences solved by themselves at most, and told at most; fewer kelvins than this are no difference
MOST_SOLVED, MOST_TOLD = 24, 3
LEAST_K = 0.3
_LISTS: Final = ("parts", "zones", "air_paths", "loops", "routes", "rooms", "recirculations", "bonds")
_TABLES: Final = {"watts": "watts", "movers": "speed", "burst": "burst"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mattered:
    """One difference in words, and the kelvins that it wins by itself on the place."""

    says: str
    won_k: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatMattered:
    """Kelvins won by all together on the place that is tightest now, in a workload; None where either cannot be solved."""

    place: str
    workload: str
    won_k: float
    changes: list[Mattered]


@dataclass(frozen=True)
class _Difference:
    says: str
    document: Json


def what_mattered(before: Build, after: Build) -> WhatMattered | None:
    """The few differences between two builds that count, in the workload that is worst in the new one."""
    workload = (after.brief.worst_workloads or [item.id for item in after.workloads])[:1]
    if not workload or workload[0] not in {item.id for item in before.workloads}:
        return None
    new, old = _temperatures(after, workload[0]), _temperatures(before, workload[0])
    if new is None or old is None:
        return None
    place = min((key for key in new if key in old), key=lambda key: new[key][1], default=None)
    if place is None:
        return None
    found: list[Mattered] = []
    for difference in _differences(before, after)[:MOST_SOLVED]:
        alone = _solved(difference.document, workload[0])
        if alone is not None and place in alone:
            won = old[place][0] - alone[place][0]
            if abs(won) >= LEAST_K:
                found.append(Mattered(says=difference.says, won_k=won))
    named = after.place_owners()[place][0].name or place
    name = next(item.name or item.id for item in after.workloads if item.id == workload[0])
    ranked = sorted(found, key=lambda item: -abs(item.won_k))[:MOST_TOLD]
    return WhatMattered(place=named, workload=name, won_k=old[place][0] - new[place][0], changes=ranked)


def _solved(document: Json, workload: str) -> dict[str, tuple[float, float]] | None:
    try:
        return _temperatures(read_object(document), workload)
    except KrillError:
        return None


def _temperatures(build: Build, workload: str) -> dict[str, tuple[float, float]] | None:
    """Temperature and margin of every place with a limit, C and K."""
    try:
        found = predict(build, [workload], samples=0).workloads[0]
    except KrillError:
        return None
    return {
        place.address: (place.temperature_c, place.margin_k) for place in found.places if place.margin_k is not None
    }


def _differences(before: Build, after: Build) -> list[_Difference]:
    old, new = write_object(before), write_object(after)
    comes = _things(before) ^ _things(after)
    found: list[_Difference] = []
    for key in _LISTS:
        was, now = ({item["id"]: item for item in side.get(key, [])} for side in (old, new))
        for item in {**was, **now}:
            differs = was.get(item) != now.get(item)
            if differs and (item in comes or not _mentions(was.get(item), now.get(item), comes)):
                document = _with(copy.deepcopy(old), new, key, item)
                if item in comes:
                    _take_along(document, new, item)
                found.append(_Difference(_says(before, after, was.get(item), now.get(item)), document))
    found += [_Difference(says, document) for says, document in _of_workloads(after, old, new, comes)]
    if old.get("housing") != new.get("housing"):
        found.append(_Difference("the housing", old | {"housing": new.get("housing", {})}))
    return found


def _things(build: Build) -> set[str]:
    """What ways lead through: parts and zones."""
    return {item.id for item in [*build.parts, *build.zones]}


def _mentions(was: Json | None, now: Json | None, ids: set[str]) -> bool:
    """Whether either state names a part that comes or goes: then it goes along with that."""
    text = json.dumps([was, now])
    return any(f'"{item}"' in text for item in ids)


def _with(document: Json, new: Json, key: str, item: str) -> Json:
    """The document with one item of a list as it is in the new one: changed, added or gone."""
    now = next((one for one in new.get(key, []) if one["id"] == item), None)
    kept = [now if one["id"] == item else one for one in document.get(key, [])]
    if now is not None and now not in kept:
        kept.append(now)
    document[key] = [one for one in kept if one is not None]
    return document


def _take_along(document: Json, new: Json, part: str) -> None:
    """Ways that a part which comes or goes stands in, and what workloads tell it."""
    for key in ("loops", "air_paths", "routes"):
        for item in {one["id"] for one in [*document.get(key, []), *new.get(key, [])]}:
            was, now = (next((one for one in side.get(key, []) if one["id"] == item), None) for side in (document, new))
            if was != now and _mentions(was, now, {part}):
                _with(document, new, key, item)
    told = {workload["id"]: workload for workload in new["workloads"]}
    for workload in document["workloads"]:
        for table in _TABLES:
            asked = (told.get(workload["id"], {}).get(table) or {}).get(part)
            if asked is not None:
                workload.setdefault(table, {})[part] = asked
            elif workload.get(table):
                workload[table].pop(part, None)


def _of_workloads(after: Build, old: Json, new: Json, comes: set[str]) -> Iterator[tuple[str, Json]]:
    """Each thing that a workload tells otherwise."""
    now = {item["id"]: item for item in new["workloads"]}
    names = {part.id: part.name or part.id for part in after.parts}
    for index, workload in enumerate(old["workloads"]):
        other = now.get(workload["id"], workload)
        for table, what in _TABLES.items():
            mine, theirs = workload.get(table) or {}, other.get(table) or {}
            for told in theirs:
                if told in comes or mine.get(told) == theirs[told]:
                    continue
                document = copy.deepcopy(old)
                document["workloads"][index].setdefault(table, {})[told] = theirs[told]
                yield f"{names.get(told, told)}: {what} {_change(mine.get(told), theirs[told])}".strip(), document


def _says(before: Build, after: Build, was: Json | None, now: Json | None) -> str:
    item = now or was or {}
    name = str(item.get("name") or item["id"])
    if was is None:
        return f"{name} added"
    if now is None:
        return f"{name} taken out"
    fields = [field for field in {**was, **now} if was.get(field) != now.get(field)]
    owner = after.owner(item["id"]) or before.owner(item["id"])
    if len(fields) != 1 or owner is None:
        return name
    label = described(type(owner)).get(fields[0])
    return f"{name}: {label.label if label else fields[0]} {_change(was.get(fields[0]), now.get(fields[0]))}".strip()


def _change(was: Any, now: Any) -> str:
    shown = [_shown(value) for value in (was, now)]
    return f"{shown[0]} → {shown[1]}" if all(shown) else ""


def _shown(value: Any) -> str:
    """A figure, a duty or a word; nothing of what is longer."""
    if isinstance(value, dict) and "value" in value:
        value = value["value"]
    if isinstance(value, dict) and value.get("duty") is not None:
        return f"{100 * value['duty']:.0f} %"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return f"{value:g}"
    return value.replace("_", " ") if isinstance(value, str) and len(value) < 40 else ""
