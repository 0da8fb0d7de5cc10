"""Units as people write them, the one each is kept in, and where a unit stands in a channel's name."""

import re
from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class Unit:
    """A unit as it was written: the one its figures are kept in, and ``kept = figure * factor + offset``."""

    unit: str
    factor: float = 1.0
    offset: float = 0.0


#: what a unit measures; others are known and kept as they stand
QUANTITY: Final = {
    "°C": "temperature", "W": "power", "rpm": "speed", "MHz": "clock", "l/min": "flow", "dBA": "level", "V": "voltage",
    "A": "current", "Pa": "pressure", "m/s": "air_speed", "s": "time", "%": "share", "frames/s": "frames_mean",
    "jobs/h": "jobs_per_hour", "Wh": "energy",
}  # fmt: skip


def _alike(words: str, scale: tuple[float, float]) -> dict[str, tuple[float, float]]:
    """Spellings of one scale, parted by blanks."""
    return dict.fromkeys(words.split(), scale)


_SPELLED: Final[dict[str, dict[str, tuple[float, float]]]] = {
    "°C": {
        **_alike("°c c degc degreec degreesc celsius grad gradc gradcelsius oc", (1.0, 0.0)),
        **_alike("°f f degf degreesf fahrenheit", (1 / 1.8, -32 / 1.8)),
        **_alike("k kelvin °k degk", (1.0, -273.15)),
    },
    "W": {
        **_alike("w watt watts va", (1.0, 0.0)),
        **_alike("mw milliwatt milliwatts", (1e-3, 0.0)),
        "kw": (1e3, 0.0),
    },
    "rpm": _alike(
        "rpm rpms r.p.m 1/min min-1 min^-1 min⁻¹ u/min upm umdr/min r/min rev/min rev./min tr/min tpm obr/min obr./min", (1.0, 0.0)
    ),
    "%": _alike("% percent pct prozent", (1.0, 0.0)),
    "MHz": {"mhz": (1.0, 0.0), "ghz": (1e3, 0.0), "khz": (1e-3, 0.0), "hz": (1e-6, 0.0)},
    "l/min": {
        **_alike("l/min lpm lmin liter/min litre/min l/m", (1.0, 0.0)),
        **_alike("l/h lph l/hr", (1 / 60, 0.0)),
        **_alike("gpm gal/min", (3.785411784, 0.0)),
        "ml/min": (1e-3, 0.0), "ml/s": (0.06, 0.0), "l/s": (60.0, 0.0),
    },
    "dBA": _alike("dba db(a) db dbspl", (1.0, 0.0)),
    "V": {"v": (1.0, 0.0), "volt": (1.0, 0.0), "volts": (1.0, 0.0), "mv": (1e-3, 0.0)},
    "A": {"a": (1.0, 0.0), "amp": (1.0, 0.0), "amps": (1.0, 0.0), "ma": (1e-3, 0.0)},
    "Pa": {"pa": (1.0, 0.0), "kpa": (1e3, 0.0), "mbar": (1e2, 0.0), "hpa": (1e2, 0.0), "bar": (1e5, 0.0), "psi": (6894.757, 0.0)},
    "m/s": {"m/s": (1.0, 0.0), "mps": (1.0, 0.0)},
    "s": {
        **_alike("s sec secs second seconds sek sekunden secondes segundos sekundy", (1.0, 0.0)),
        **_alike("ms msec millis milliseconds", (1e-3, 0.0)),
        **_alike("min mins minute minutes minuten minutos minuty", (60.0, 0.0)),
        **_alike("h hr hrs hour hours std stunden heures horas godz", (3600.0, 0.0)),
    },
    "frames/s": _alike("fps frames/s frame/s", (1.0, 0.0)),
    "jobs/h": {"jobs/h": (1.0, 0.0)},
    "Wh": {"wh": (1.0, 0.0), "kwh": (1e3, 0.0)},
    "MB": {"mb": (1.0, 0.0), "gb": (1e3, 0.0), "kb": (1e-3, 0.0)},
    "MB/s": {"mb/s": (1.0, 0.0), "kb/s": (1e-3, 0.0), "gb/s": (1e3, 0.0)},
    "x": {"x": (1.0, 0.0)},
}  # fmt: skip
_KNOWN: Final = {text: Unit(unit, *scale) for unit, spellings in _SPELLED.items() for text, scale in spellings.items()}
#: units of one or two letters that may as well be a label: a name that ends in one has it only where others do so too
_LABELS: Final = frozenset(
    {"c", "f", "k", "w", "v", "a", "s", "h", "x", "hz", "ma", "mb", "min", "pa", "db", "grad", "oc"}
)
_SAME: Final = str.maketrans({"º": "°", "˚": "°", "℃": "°c", "℉": "°f"})
_BRACKET: Final = re.compile(r"\s*([\[({<])\s*([^\[\](){}<>]{1,16}(?:\([^()]\))?)\s*[\])}>]")
#: what parts the words of a name from each other and from a unit behind them
_PARTED: Final = re.compile(r"(\s*[,;/|]\s*|\s+(?:in|en|w)\s+|_+|\s+-\s+|\s+)")
#: parts that are told apart by a letter
_COUNTED: Final = re.compile(r"(fan|pump|zone|bank|slot|port)\s*$", re.IGNORECASE)
#: from this share of a header's names on that end in a unit a lone letter is one as well
MOST_END_SO: Final = 0.5


def unit_of(text: str) -> Unit | None:
    """The unit that a text spells; None where it spells none that is known."""
    bare = text.translate(_SAME).lower().strip(" .[](){}<>\"'")
    bare = re.sub(r"\s+", "", bare)
    return _KNOWN.get(bare) or _KNOWN.get(f"{bare})")


def spellings(units: tuple[str, ...]) -> list[str]:
    """How some units are spelled, in lower case."""
    return [text for text, known in _KNOWN.items() if known.unit in units]


@dataclass(frozen=True)
class Named:
    """A channel's name without its unit, and the unit as it was written; ``sure`` where no label could be meant."""

    name: str
    spelled: str = ""
    sure: bool = True


def named(cell: str) -> Named:
    """A header cell parted into name and unit: in brackets, or behind a comma, slash, "in", underscore or blank."""
    for found in _BRACKET.finditer(cell):
        rest = " ".join((cell[: found.start()] + " " + cell[found.end() :]).split())
        if unit_of(found.group(2)) is not None and rest:
            return Named(rest, found.group(2).strip())
    square = re.match(r"^(.*?)\s*\[([^\]]{1,16})\]\s*$", cell)
    if square and square.group(1):
        return Named(square.group(1).strip(), square.group(2).strip())
    return _behind(cell)


def _behind(cell: str) -> Named:
    """The longest ending of a name that spells a unit."""
    tokens = _PARTED.split(cell)
    for count in (5, 3, 1):
        text = "".join(tokens[-count:])
        before = tokens[: -count - 1]
        if len(tokens) <= count + 1 or unit_of(text) is None or not "".join(before).strip():
            continue
        parted = tokens[-count - 1]
        sure = text.lower() not in _LABELS or bool(re.search(r"[,;/|]|\b(in|en|w)\b", parted))
        return Named("".join(before).strip(), text, sure)
    return Named(cell)


def names_and_units(cells: list[str]) -> tuple[list[str], list[str]]:
    """Names and written units of a header: a lone letter is a unit only where most names end in a unit so."""
    found = [named(cell) for cell in cells]
    others = [one for one, cell in zip(found, cells, strict=True) if cell]
    ended = sum(bool(one.spelled) for one in others)
    agreed = ended >= max(1, MOST_END_SO * (len(others) - 1))
    names, units = [], []
    for one, cell in zip(found, cells, strict=True):
        taken = one.sure or (agreed and not _is_label(one))
        names.append(one.name if taken else cell)
        units.append(one.spelled if taken else "")
    return names, units


def _is_label(one: Named) -> bool:
    """ "Fan C" is the third fan, not a temperature."""
    return len(one.spelled) == 1 and _COUNTED.search(one.name) is not None
