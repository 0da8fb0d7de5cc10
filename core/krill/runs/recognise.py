"""Suggests what each channel of a log is in a build, from what it measures and the words of its name; the user confirms."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from krill.document.build import Build
from krill.document.parts import Mover
from krill.logs.channels import Channel, is_core, part_of, quantity_of
from krill.logs.units import unit_of
from krill.logs.words import plain, says

SURE: Final = 0.75
_SOURCES: Final = ("processor", "graphics", "memory", "drive", "regulators", "supply")
#: what a source is read for beside its temperature
_OF_SOURCE: Final = ("power", "clock", "load", "limit")
#: words that say what is read, not of what
_SAYS_WHAT: Final = ("temperature", "power", "clock", "load", "speed", "duty", "limit")
_HOTTEST: Final = re.compile(r"max|hottest|package")
_HOT: Final = re.compile(r"hot|in\b|before|warm|vorlauf|chaud|caliente|ciepl")
_COLD: Final = re.compile(r"cold|out\b|after|rucklauf|froid|fri[ao]|zimn")
_JUNCTION: Final = re.compile(r"hot ?spot|junction")


@dataclass(frozen=True)
class Suggestion:
    """A channel's likely role (``address/statistic`` or ``ignore``), how sure, what else it could be, and why."""

    channel: str
    role: str
    score: float
    others: list[str]
    reason: str = ""

    @property
    def sure(self) -> bool:
        return self.score >= SURE


def suggest_roles(names: list[str], units: list[str], build: Build) -> list[Suggestion]:
    """One suggestion a name and unit, as for a log's channels."""
    channels = []
    for name, written in zip(names, units, strict=True):
        known = unit_of(written)
        quantity, reason = quantity_of(name, written if known is None else known.unit)
        channels.append(Channel(name, written, written, quantity, part_of(name, quantity), reason))
    return suggest_for(channels, build)


def suggest(channels: list[Channel], build: Build | None) -> list[Suggestion]:
    """One suggestion a channel: of the build, or without one by what each measures."""
    return suggest_alone(channels) if build is None else suggest_for(channels, build)


def suggest_for(channels: list[Channel], build: Build) -> list[Suggestion]:
    """One suggestion a channel; a role is given to the best channel only, hottest-core names first."""
    scored = [list(_candidates(channel, build)) for channel in channels]
    taken: set[str] = set()
    order = sorted(range(len(channels)), key=lambda i: -max((s for _, s in scored[i]), default=0))
    found: dict[int, Suggestion] = {}
    for index in order:
        options = sorted(scored[index], key=lambda option: -option[1])
        free = [(role, score) for role, score in options if role not in taken]
        role, score = free[0] if free else ("ignore", 0.5)
        if role != "ignore":
            taken.add(role)
        others = [r for r, _ in options if r != role]
        found[index] = Suggestion(channels[index].name, role, score, others, _why(channels[index], role, others))
    return [found[index] for index in range(len(channels))]


def suggest_alone(channels: list[Channel]) -> list[Suggestion]:
    """Roles without a build: the channel's own name and what it measures; room and wall by their words."""
    found: list[Suggestion] = []
    for channel in channels:
        role = "ignore" if channel.dead or channel.quantity not in _ALONE else f"{channel.name}/{channel.quantity}"
        if channel.part in _WORDED.get(channel.quantity, {}) and not channel.dead:
            role = _WORDED[channel.quantity][channel.part]
        if any(one.role == role != "ignore" for one in found):
            role = f"{channel.name}/{channel.quantity}"
        found.append(Suggestion(channel.name, role, 0.5, [], channel.reason))
    return found


_ALONE: Final = ("temperature", "power", "load", "clock", "speed", "duty", "flow", "level", "limit")
_WORDED: Final = {"temperature": {"room": "room/air"}, "power": {"wall": "wall/wall_power"}}


def _why(channel: Channel, role: str, others: list[str]) -> str:
    if channel.dead or channel.ask:
        return channel.ask or channel.reason
    if role != "ignore":
        return f"{channel.quantity}, {channel.reason}; {channel.part or 'its part'} by its name"
    if others:
        return f"{channel.quantity}, {channel.reason}; another channel is rather what it could be"
    return f"{channel.quantity}, {channel.reason}; nothing of this build is called so"


def _candidates(channel: Channel, build: Build) -> Iterator[tuple[str, float]]:
    """Roles that a channel may have, each with how likely."""
    text, kind = plain(channel.name), channel.quantity
    if channel.dead or channel.ask:
        return
    sources = [source for source in _SOURCES if says(source, text)]
    if "graphics" in sources and "processor" in sources:
        sources.remove("processor")  # "GPU core": the word for a core is no word for the processor there
    if kind == "temperature":
        yield from _temperatures(channel, text, sources, build)
    elif kind in _OF_SOURCE:
        yield from _of_sources(channel, text, sources, build)
    elif kind in ("speed", "duty"):
        yield from _movers(text, kind, sources, build)
    elif kind == "flow":
        yield from ((f"{loop.id}/flow", 0.9) for loop in build.loops)
    elif kind == "level":
        yield "sound/level", 0.9


def _of_sources(channel: Channel, text: str, sources: list[str], build: Build) -> Iterator[tuple[str, float]]:
    """Watts, clock, load or limit of a source; watts of the wall."""
    if channel.quantity == "power" and channel.part == "wall":
        yield "wall/wall_power", 0.95
        return
    bare = _bare(text)
    for heater in build.heat_sources():
        own = plain(f"{heater.id} {heater.name}")
        if heater.name and plain(heater.name) in (bare, text):
            yield f"{heater.id}/{channel.quantity}", 0.97
        elif any(says(source, own) for source in sources):
            yield f"{heater.id}/{channel.quantity}", 0.7 if is_core(channel.name) or "core" in text else 0.9


def _bare(text: str) -> str:
    """A plain name without the words that say what is read."""
    return " ".join(word for word in text.split() if not any(says(kind, word) for kind in _SAYS_WHAT))


def _movers(text: str, kind: str, sources: list[str], build: Build) -> Iterator[tuple[str, float]]:
    """Fans and pumps that a speed or duty may be of; one that names another device is not theirs."""
    for part in build.parts:
        if isinstance(part, Mover) and says(part.kind, text):
            exact = (
                part.id in text.replace(" ", "-") or plain(part.id) in text or (part.name and plain(part.name) in text)
            )
            own = plain(f"{part.id} {part.name}")
            if exact or not sources or any(says(source, own) for source in sources):
                yield f"{part.id}/{kind}", 0.95 if exact else 0.6


def _temperatures(channel: Channel, text: str, sources: list[str], build: Build) -> Iterator[tuple[str, float]]:
    if channel.part == "room":
        yield "room/air", 0.9
    for loop in build.loops:
        if channel.part == "coolant":
            yield f"{loop.id}/coolant_hot", 0.9 if _HOT.search(text) else 0.7
            yield f"{loop.id}/coolant_cold", 0.9 if _COLD.search(text) else 0.6
    for zone in build.zones:
        if zone.kind == "box" and channel.part == "box":
            yield f"{zone.id}/air", 0.85
    bare = _bare(text)
    for place, part in build.place_owners().values():
        known = plain(f"{place.id} {place.name} {part.id} {part.name}")
        if place.name and plain(place.name) in (bare, text):
            yield f"{place.id}/temperature", 0.97
        elif any(says(source, known) for source in sources):
            yield f"{place.id}/temperature", _place_score(channel.name, text, known, place.temperature_kind)


def _place_score(name: str, text: str, known: str, kind: str) -> float:
    score = 0.6
    if says("graphics", known) != says("graphics", text):
        return 0.2
    for part in ("memory", "regulators"):
        if says(part, text) != says(part, known):
            return 0.15
        if says(part, known):
            return 0.88
    if kind == "hottest_core":
        score = 0.9 if _HOTTEST.search(text) else 0.55 if is_core(name) or re.search(r"\d", text) else 0.8
    elif kind == "chip_sensor":
        score = 0.4 if _JUNCTION.search(text) else 0.88
    return score
