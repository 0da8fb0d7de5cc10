"""Fan and pump curves as people have them: two columns of text in one of the usual units."""

import itertools
import re
from dataclasses import dataclass
from typing import Final, Literal

from krill.errors import DocumentRefused, Problem

Kind = Literal["fan", "pump"]

#: unit -> factor to m3/s; a gallon is the US one
FLOW_UNITS: Final[dict[str, float]] = {
    "m3/h": 1 / 3600,
    "cfm": 0.3048**3 / 60,
    "l/s": 1e-3,
    "l/min": 1e-3 / 60,
    "l/h": 1e-3 / 3600,
    "gal/min": 231 * 0.0254**3 / 60,
}
#: unit -> factor to Pa; columns of water at 1000 kg/m3 and standard gravity
PRESSURE_UNITS: Final[dict[str, float]] = {
    "pa": 1.0,
    "mmh2o": 9.80665,
    "inh2o": 25.4 * 9.80665,
    "m": 9806.65,
    "kpa": 1e3,
    "psi": 6894.757293168361,
    "mbar": 100.0,
}
#: what a build document holds: flow and pressure of fans and of pumps
DOCUMENT_UNITS: Final[dict[str, tuple[str, str]]] = {"fan": ("m3/h", "pa"), "pump": ("l/min", "kpa")}
_SPELLINGS: Final = {
    "m³/h": "m3/h",
    "m^3/h": "m3/h",
    "cmh": "m3/h",
    "ft3/min": "cfm",
    "lpm": "l/min",
    "lph": "l/h",
    "gpm": "gal/min",
    "l/m": "l/min",
    "mmaq": "mmh2o",
    "mm h2o": "mmh2o",
    "in h2o": "inh2o",
    "mh2o": "m",
    "mwc": "m",
    "inwg": "inh2o",
}
MAX_POINTS = 200
MAX_DIFFERENT = 4  # figures after the point that the document keeps


@dataclass(frozen=True)
class ReadCurve:
    """Points in the document's units, the units that they were read in, and lines that held no pair of figures."""

    points: list[tuple[float, float]]
    flow_unit: str
    pressure_unit: str
    skipped: list[str]


def read_curve(text: str, kind: Kind, flow_unit: str | None = None, pressure_unit: str | None = None) -> ReadCurve:
    """A curve from pasted text or a file: two columns, flow and pressure, in rising or falling order.

    Units named in a heading count unless others are given; without either, those of the document. Decimal commas are
    understood. DocumentRefused says where a line or unit cannot be.
    """
    rows, skipped, heading = _rows(text)
    flow = _unit("flow_unit", flow_unit or _named(heading, FLOW_UNITS) or DOCUMENT_UNITS[kind][0], FLOW_UNITS)
    pressure = _unit(
        "pressure_unit", pressure_unit or _named(heading, PRESSURE_UNITS) or DOCUMENT_UNITS[kind][1], PRESSURE_UNITS
    )
    if len(rows) < 2:
        raise DocumentRefused(
            [Problem("text", f"{len(rows)} pair of figures", "two or more lines of flow and pressure")]
        )
    if len(rows) > MAX_POINTS:
        raise DocumentRefused([Problem("text", f"{len(rows)} points", f"up to {MAX_POINTS}")])
    q = FLOW_UNITS[flow] / FLOW_UNITS[DOCUMENT_UNITS[kind][0]]
    p = PRESSURE_UNITS[pressure] / PRESSURE_UNITS[DOCUMENT_UNITS[kind][1]]
    points = sorted((round(a * q, MAX_DIFFERENT), round(b * p, MAX_DIFFERENT)) for a, b in rows)
    for (a, _), (b, _) in itertools.pairwise(points):
        if a == b:
            raise DocumentRefused([Problem("text", f"two points at a flow of {a:g}", "each flow once")])
    if points[0][0] < 0 or min(head for _, head in points) < 0:
        raise DocumentRefused([Problem("text", "a flow or pressure below 0", "figures of 0 or more")])
    return ReadCurve(points, flow, pressure, skipped)


def _rows(text: str) -> tuple[list[tuple[float, float]], list[str], str]:
    rows: list[tuple[float, float]] = []
    skipped: list[str] = []
    for line in text.strip().splitlines():
        cells = _cells(line)
        if len(cells) == 2:
            rows.append((cells[0], cells[1]))
        elif line.strip():
            skipped.append(line.strip()[:120])
    return rows, skipped, " ".join(skipped).lower()


def _cells(line: str) -> list[float]:
    """Figures of a line; commas are decimal signs where another sign parts the columns."""
    parted = re.split(r"[\t;|]+|\s{1,}", line.strip())
    if len([cell for cell in parted if cell]) < 2:
        parted = line.strip().split(",")
    try:
        return [float(cell.strip().rstrip(",").replace(",", ".")) for cell in parted if cell.strip()]
    except ValueError:
        return []


def _named(heading: str, units: dict[str, float]) -> str | None:
    """The unit that stands in a heading, in any of its spellings."""
    names = dict.fromkeys(units, "") | {name: unit for name, unit in _SPELLINGS.items() if unit in units}
    for name in sorted(names, key=len, reverse=True):
        if re.search(rf"(?<![a-z0-9/]){re.escape(name)}(?![a-z0-9/])", heading):
            return names[name] or name
    return None


def _unit(where: str, given: str, units: dict[str, float]) -> str:
    unit = _SPELLINGS.get(given.strip().lower(), given.strip().lower())
    if unit not in units:
        raise DocumentRefused([Problem(where, f"'{given}'", ", ".join(units))])
    return unit
