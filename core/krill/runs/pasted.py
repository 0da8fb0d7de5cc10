"""Lines that somebody pasted, one reading each: "60 min processor 78 °C", "graphics 71 max", "fan rear 1100 rpm"."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from pydantic import ValidationError

from krill.document.build import Build
from krill.document.parts import Mover, Opening
from krill.logs.units import spellings, unit_of
from krill.runs.quantities_read import READ
from krill.runs.recognise import suggest_roles
from krill.runs.run_document import Kind, Reading

MAX_LINES: Final = 500
_NUMBER: Final = r"[-+]?\d+(?:[.,]\d+)?"
#: units that readings are pasted in; a temperature in kelvin is none of them, as kelvins are told of differences
_PASTED: Final = ("°C", "W", "rpm", "%", "dBA", "l/min", "m/s", "Pa", "MHz", "frames/s", "jobs/h")
_KINDS: Final[dict[str, Kind]] = {
    "max": "highest", "maximum": "highest", "highest": "highest", "peak": "highest", "mean": "mean", "average": "mean",
    "avg": "mean", "now": "now",
}  # fmt: skip
_UNIT: Final = "|".join(
    re.escape(text)
    for text in sorted(spellings(_PASTED), key=len, reverse=True)
    if text not in ("k", "kelvin", "°k", "degk")
)
_MINUTE: Final = re.compile(rf"(?:^|\s)(?:at\s+)?({_NUMBER})\s*(?:min(?:utes?)?|')(?=\s|$|[,;:])", re.IGNORECASE)
_FIGURE: Final = re.compile(rf"({_NUMBER}(?:e\d)?)\s*({_UNIT})?(?![\w.,]*\w)", re.IGNORECASE)
_IDLE: Final = re.compile(r"\b(idle|before|waiting)\b", re.IGNORECASE)
_AFTER: Final = re.compile(rf"({_NUMBER})\s*s(?:ec(?:onds?)?)?\s+after", re.IGNORECASE)
#: statistics that are no temperature of the build, by unit, where no part of it is named
_OF_UNIT: Final = {"dBA": "sound/level", "frames/s": "job/frames_mean", "jobs/h": "job/jobs_per_hour"}


@dataclass(frozen=True)
class Pasted:
    """Readings in the order of the lines, and lines that say nothing, each with the reason."""

    readings: list[Reading]
    refused: list[str]


def read_pasted(text: str, build: Build) -> Pasted:
    """One reading a line; a minute once told holds for the lines below it."""
    readings: list[Reading] = []
    refused: list[str] = []
    minute = 60.0
    for number, line in enumerate(text.splitlines()[:MAX_LINES], 1):
        if not line.strip():
            continue
        try:
            found, minute = _of_line(line, build, minute)
            readings += found
        except _NoReading as refusal:
            refused.append(f"line {number}: {refusal}")
    return Pasted(readings, refused)


class _NoReading(Exception):
    pass


def _of_line(line: str, build: Build, minute: float) -> tuple[list[Reading], float]:
    rest = line.strip()
    after = _AFTER.search(rest)
    rest = rest if after is None else rest[: after.start()] + rest[after.end() :]
    told = _MINUTE.search(rest)
    if told is not None:
        minute = _number(told.group(1))
        rest = rest[: told.start()] + " " + rest[told.end() :]
    figures = list(_FIGURE.finditer(rest))
    if not figures:
        if told is not None and not rest.strip(" :,;-"):
            return [], minute
        raise _NoReading(f"'{line.strip()[:60]}' holds no figure")
    figure = figures[-1]
    name = f"{rest[: figure.start()]} {rest[figure.end() :]}"
    words = name.lower().split()
    kind = next((_KINDS[word.strip(",;:()")] for word in words if word.strip(",;:()") in _KINDS), "now")
    idle = _IDLE.search(name) is not None
    value, unit = _number(figure.group(1)), ""
    written = unit_of(figure.group(2) or "")
    if written is not None:
        value, unit = value * written.factor + written.offset, written.unit
    role = _role(re.sub(r"[:;,=()]", " ", _IDLE.sub(" ", name)), unit, kind, build)
    try:
        reading = Reading(
            minute=0.0 if idle else minute,
            role=role,
            kind=kind,
            value=round(value, 4),
            load_on=not idle and after is None,
            after_s=None if after is None else _number(after.group(1)),
        )
    except ValidationError as wrong:
        raise _NoReading(str(wrong.errors()[0]["msg"]).removeprefix("Value error, ")) from None
    return [reading], minute


def _role(name: str, unit: str, kind: str, build: Build) -> str:
    said = " ".join(word for word in name.split() if word.lower() not in _KINDS)
    if unit in _OF_UNIT:
        return _OF_UNIT[unit]
    named = _named(said, unit, build)
    if named is not None:
        return named
    (found,) = suggest_roles([said], [unit or "°C"], build)
    if found.role == "ignore":
        raise _NoReading(f"'{said.strip()[:60]}' is nothing of this build")
    expected = READ.get(found.role.rpartition("/")[2])
    if unit and expected is not None and expected.unit != unit:
        raise _NoReading(f"'{said.strip()[:60]}' in {unit}: {expected.name} is read in {expected.unit}")
    return found.role


def _named(said: str, unit: str, build: Build) -> str | None:
    """The role of what is called by its very name in the build, the longest name first."""
    words = f" {said.lower()} "
    found = [(len(name), role) for name, role in _names(unit, build) if name and f" {name.lower()} " in words]
    return max(found)[1] if found else None


def _names(unit: str, build: Build) -> Iterator[tuple[str, str]]:
    """What may be read in a unit, by its name in the build."""
    if unit in ("", "°C"):
        yield from ((place.name, f"{place.id}/temperature") for place, _ in build.place_owners().values())
        yield from ((zone.name, f"{zone.id}/air") for zone in build.zones if zone.kind == "box")
        yield from ((loop.name, f"{loop.id}/coolant_hot") for loop in build.loops)
    if unit in ("rpm", "%"):
        statistic = "speed" if unit == "rpm" else "duty"
        yield from ((part.name, f"{part.id}/{statistic}") for part in build.parts if isinstance(part, Mover))
    if unit == "W":
        yield from ((part.name, f"{part.id}/power") for part in build.heat_sources())
    if unit == "l/min":
        yield from ((loop.name, f"{loop.id}/flow") for loop in build.loops)
    if unit == "m/s":
        yield from ((part.name, f"{part.id}/air_speed") for part in build.parts if isinstance(part, Opening))


def _number(text: str) -> float:
    return float(text.replace(",", "."))
