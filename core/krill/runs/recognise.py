"""Suggests what each channel of a log is, from its name and unit; the user confirms."""

import json
import re
from dataclasses import dataclass
from importlib.resources import files
from typing import Final

from krill.document.build import Build

SURE = 0.75

#: what people call things in English, German, French, Spanish and Polish, with common abbreviations
WORDS: Final[dict[str, list[str]]] = json.loads(files("krill.runs").joinpath("words.json").read_text(encoding="utf-8"))
_SOURCES: Final = ("processor", "graphics", "memory", "drive", "regulators", "supply")
_WHOLE: Final = {
    kind: re.compile(rf"(?<!\w)(?:{'|'.join(re.escape(word) for word in words)})(?!\w)")
    for kind, words in WORDS.items()
}
_PART: Final = {kind: re.compile("|".join(re.escape(word) for word in words)) for kind, words in WORDS.items()}


def says(kind: str, text: str) -> bool:
    """Whether a lower-case text has a whole word of a kind."""
    return _WHOLE[kind].search(text) is not None


def hints(kind: str, text: str) -> bool:
    """Whether a lower-case text has a word of a kind, also within another one."""
    return _PART[kind].search(text) is not None


@dataclass(frozen=True)
class Suggestion:
    """A channel's likely role (``address/statistic`` or ``ignore``), how sure, and what else it could be."""

    channel: str
    role: str
    score: float
    others: list[str]

    @property
    def sure(self) -> bool:
        return self.score >= SURE


def suggest_roles(names: list[str], units: list[str], build: Build) -> list[Suggestion]:
    """One suggestion a channel; a role is given to the best channel only, hottest-core names first."""
    scored = [_candidates(name, unit, build) for name, unit in zip(names, units, strict=True)]
    taken: set[str] = set()
    order = sorted(range(len(names)), key=lambda i: -max((s for _, s in scored[i]), default=0))
    found: dict[int, Suggestion] = {}
    for index in order:
        options = sorted(scored[index], key=lambda option: -option[1])
        free = [(role, score) for role, score in options if role not in taken]
        role, score = free[0] if free else ("ignore", 0.5)
        if role != "ignore":
            taken.add(role)
        found[index] = Suggestion(names[index], role, score, [r for r, _ in options if r != role])
    return [found[index] for index in range(len(names))]


def _kind(name: str, unit: str) -> str:
    text = f"{name} {unit}".lower()
    unit = unit.lower().strip()
    if unit in ("°c", "c", "degc", "℃") or re.search(r"temp|°c|(^|[\s_])(t|hot ?spot)($|[\s_])", text):
        return "temperature"
    if unit in ("rpm", "1/min", "u/min") or hints("speed", text):
        return "speed"
    if unit in ("l/min", "lpm", "l/h") or hints("flow", text):
        return "flow"
    if unit in ("dba", "db(a)", "db") or "sound" in text or "noise" in text:
        return "level"
    if unit in ("mhz", "ghz") or hints("clock", text):
        return "clock"
    if unit == "w" or hints("power", text):
        return "power"
    if unit == "%" or "duty" in text or says("load", text) or "util" in text:
        return "duty" if "duty" in text or "pwm" in text or hints("fan", text) else "load"
    return "coolant" if hints("coolant", text) else "unknown"


def _candidates(name: str, unit: str, build: Build) -> list[tuple[str, float]]:
    text = re.sub(r"[_\-]+", " ", name.lower())
    kind = _kind(name, unit)
    sources = [source for source in _SOURCES if says(source, text)]
    options: list[tuple[str, float]] = []
    if kind == "temperature":
        options += _temperatures(text, sources, build)
    elif kind in ("power", "clock", "load"):
        if kind == "power" and hints("wall", text):
            options.append(("wall/wall_power", 0.95))
        for heater in build.heat_sources():
            if heater.name and heater.name.lower() == re.sub(r" (power|clock|load)\b.*$", "", text).strip():
                options.append((f"{heater.id}/{kind}", 0.97))
            elif any(source in f"{heater.id} {heater.name}".lower() for source in sources):
                options.append((f"{heater.id}/{kind}", 0.9 if "core" not in text else 0.7))
    elif kind in ("speed", "duty"):
        options += _movers(text, kind, sources, build)
    elif kind == "flow":
        options += [(f"{loop.id}/flow", 0.9) for loop in build.loops]
    elif kind == "level":
        options.append(("sound/level", 0.9))
    return options


def _movers(text: str, kind: str, sources: list[str], build: Build) -> list[tuple[str, float]]:
    """Fans and pumps that a speed or duty may be of; one that names another device is not theirs."""
    options: list[tuple[str, float]] = []
    for part in build.parts:
        if part.kind in ("fan", "pump") and hints(part.kind, text):
            exact = part.id in text.replace(" ", "-") or (part.name and part.name.lower() in text)
            own = f"{part.id} {part.name}".lower()
            if exact or not sources or any(source in own for source in sources):
                options.append((f"{part.id}/{kind}", 0.95 if exact else 0.6))
    return options


def _temperatures(text: str, sources: list[str], build: Build) -> list[tuple[str, float]]:
    options: list[tuple[str, float]] = []
    if says("room", text):
        options.append(("room/air", 0.9))
    for loop in build.loops:
        if hints("coolant", text):
            hot = re.search(r"hot|in\b|before|warm", text)
            cold = re.search(r"cold|out\b|after", text)
            options.append((f"{loop.id}/coolant_hot", 0.9 if hot else 0.7))
            options.append((f"{loop.id}/coolant_cold", 0.9 if cold else 0.6))
    for zone in build.zones:
        if zone.kind == "box" and says("box", text):
            options.append((f"{zone.id}/air", 0.85))
    for place, part in build.place_owners().values():
        known = f"{place.id} {place.name} {part.id} {part.name}".lower()
        if place.name and place.name.lower() == text.replace(" temperature", "").strip():
            options.append((f"{place.id}/temperature", 0.97))
        elif any(source in known for source in sources):
            options.append((f"{place.id}/temperature", _place_score(text, known, place.temperature_kind)))
    return options


def _place_score(text: str, known: str, kind: str) -> float:
    score = 0.6
    on_graphics = says("graphics", text)
    if ("graphics" in known) != on_graphics:
        return 0.2
    for words, kind_of_part in (("memory", "memory"), ("regulators", "regulator")):
        if says(words, text) != (kind_of_part in known):
            return 0.15
        if kind_of_part in known:
            return 0.88
    if kind == "hottest_core":
        score = 0.9 if re.search(r"max|hottest|package", text) else 0.55 if re.search(r"\d", text) else 0.8
    elif kind == "chip_sensor":
        score = 0.4 if re.search(r"hot ?spot|junction", text) else 0.88
    return score
