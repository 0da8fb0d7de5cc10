"""Suggests what each channel of a log is, from its name and unit; the user confirms."""

import re
from dataclasses import dataclass
from typing import Final

from krill.document.build import Build

SURE = 0.75

_SOURCE_WORDS: Final = {
    "processor": r"\b(cpu|processor|package|core|tctl|tdie|p-core)\b",
    "graphics": r"\b(gpu|graphics|vga)\b",
    "memory": r"\b(dimm|memory|ram|mem)\b",
    "drive": r"\b(ssd|drive|nvme|m\.?2|disk|hdd)\b",
    "regulators": r"\b(vrm|vrms|regulators?|mos)\b",
    "supply": r"\b(psu|supply)\b",
}


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
    if unit in ("°c", "c", "degc", "℃") or re.search(r"temp|°c|\bt(ctl|die)\b|(^|[\s_])(t|hot ?spot)($|[\s_])", text):
        return "temperature"
    if unit in ("rpm", "1/min") or "rpm" in text:
        return "speed"
    if unit in ("l/min", "lpm", "l/h") or "flow" in text:
        return "flow"
    if unit in ("dba", "db(a)", "db") or "sound" in text or "noise" in text:
        return "level"
    if unit in ("mhz", "ghz") or "clock" in text:
        return "clock"
    if unit == "w" or re.search(r"power|watt", text):
        return "power"
    if unit == "%" or re.search(r"usage|load|util|duty", text):
        return "duty" if re.search(r"duty|pwm|fan", text) else "load"
    return "coolant" if re.search(r"coolant|water|liquid", text) else "unknown"


def _candidates(name: str, unit: str, build: Build) -> list[tuple[str, float]]:
    text = re.sub(r"[_\-]+", " ", name.lower())
    kind = _kind(name, unit)
    sources = [source for source, words in _SOURCE_WORDS.items() if re.search(words, text)]
    options: list[tuple[str, float]] = []
    if kind == "temperature":
        options += _temperatures(text, sources, build)
    elif kind in ("power", "clock", "load"):
        if kind == "power" and re.search(r"wall|socket|mains", text):
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
        if part.kind in ("fan", "pump") and part.kind in text:
            exact = part.id in text.replace(" ", "-") or (part.name and part.name.lower() in text)
            own = f"{part.id} {part.name}".lower()
            if exact or not sources or any(source in own for source in sources):
                options.append((f"{part.id}/{kind}", 0.95 if exact else 0.6))
    return options


def _temperatures(text: str, sources: list[str], build: Build) -> list[tuple[str, float]]:
    options: list[tuple[str, float]] = []
    if re.search(r"room|ambient|intake|outside", text):
        options.append(("room/air", 0.9))
    for loop in build.loops:
        if re.search(r"coolant|water|liquid|loop", text):
            hot = re.search(r"hot|in\b|before|warm", text)
            cold = re.search(r"cold|out\b|after", text)
            options.append((f"{loop.id}/coolant_hot", 0.9 if hot else 0.7))
            options.append((f"{loop.id}/coolant_cold", 0.9 if cold else 0.6))
    for zone in build.zones:
        if zone.kind == "box" and re.search(r"\b(box|case|chassis|housing)\b", text):
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
    on_graphics = bool(re.search(r"\bgpu\b|graphics|vga", text))
    if ("graphics" in known) != on_graphics:
        return 0.2
    for words, kind_of_part in ((r"memory|dimm|\bram\b", "memory"), (r"vrm|regulator|\bmos\b", "regulator")):
        if bool(re.search(words, text)) != (kind_of_part in known):
            return 0.15
        if kind_of_part in known:
            return 0.88
    if kind == "hottest_core":
        score = 0.9 if re.search(r"max|hottest|package|tctl|tdie", text) else 0.55 if re.search(r"\d", text) else 0.8
    elif kind == "chip_sensor":
        score = 0.4 if re.search(r"hot ?spot|junction", text) else 0.88
    return score
