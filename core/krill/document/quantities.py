"""What a field of the document says of itself, once: unit, range, default tolerance, words, and what a change of it is.

A ``Quantity`` stands in the annotation of its field. Checks of ranges, conversion to SI, default bands, what a study may
vary, what a change costs and the published schema (``x-unit``, ``x-range``, ``x-label``, ``x-group``, ``x-help``) read it.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final, Literal, get_args

from pydantic import GetJsonSchemaHandler
from pydantic_core import CoreSchema

from krill.document.figures import FigureDetail, Strict, UnequalTolerance
from krill.numerics.sampling import Tolerance
from krill.units import UNITS

Group = Literal["size", "heat", "flow", "drive", "sound", "state", "cost"]
#: far beyond what stands in a housing: more is a slip of the unit
MAX_WATTS: Final = 1e5
#: the most that anything in or about a housing is, by unit (estimate): more is a slip of the unit
MOST: Final[dict[str, float]] = {
    "": 1e7, "A": 1e4, "J/K": 1e7, "K": 1e3, "K/W": 1e4, "MPa": 1e6, "N": 1e5, "Pa": 1e6, "Pa·s/m³": 1e12, "W": MAX_WATTS,
    "W/K": 1e5, "W/m·K": 1e5, "W/m²": 2e3,
    "W/m²·K": 1e6, "cm²": 1e8, "dBA": 300.0, "g": 1e7, "kPa": 1e4, "l": 1e5, "l/min": 1e4, "m": 1e4,
    "m/s": 1e3, "min": 1e6, "ml": 1e8, "mm": 1e4, "mm²": 1e8, "mm²·K/W": 1e6, "m³/h": 1e6, "rpm": 1e6, "s": 1e8, "°C": 300.0,
    "µm": 1e5,
}  # fmt: skip
#: less than this of what may not be nothing is a slip as well; so much is a way to say next to nothing
LEAST: Final = 1e-9
#: a tolerance is no more than this times its value, or so many kelvins or decibels
MOST_TOLERANCE: Final = 10.0
MOST_ADDED: Final = 100.0


@dataclass(frozen=True)
class Described:
    """A field in words; ``buys`` says whether changing it means buying something, or setting, telling or turning it."""

    label: str
    help: str = ""
    group: Group = "size"
    buys: bool = True

    def __get_pydantic_json_schema__(self, core: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {**handler(core), **self.schema_keys()}

    def schema_keys(self) -> dict[str, Any]:
        """What the published schema says beside the type."""
        keys = {"x-label": self.label, "x-group": self.group}
        return keys | ({"x-help": self.help} if self.help else {})


@dataclass(frozen=True)
class Quantity(Described):
    """A number of the document in its ``unit``, as people write it.

    ``tolerance`` is the half width of a 90 % interval of a bare number: a share such as "15%", or in the unit itself.
    ``options`` are the values that are made, where there are few; a ``whole`` number is one that shapes a part.
    ``varies`` says whether a question may look for it. ``because`` is added where too much is refused.
    """

    unit: str = ""
    above: float | None = 0.0
    at_least: float | None = None
    at_most: float | None = None
    tolerance: str | float = 0.0
    varies: bool = True
    whole: bool = False
    options: tuple[int, ...] = ()
    because: str = ""

    @property
    def factor(self) -> float:
        """From the unit to SI; temperatures stay in C."""
        return UNITS[self.unit]

    @property
    def lower(self) -> float | None:
        """The lower end, open where ``at_least`` is not given."""
        return self.above if self.at_least is None else self.at_least

    def default_tolerance(self, value: float) -> Tolerance:
        """Of a bare number."""
        return Tolerance(*(2 * [_half(self.tolerance, value)]))

    def holds(self, value: float) -> bool:
        """Whether a value may stand in the document."""
        if self.at_most is not None and value > self.at_most:
            return False
        if self.at_least is not None:
            return value >= self.at_least
        return self.above is None or value > self.above

    def is_plausible(self, value: float) -> bool:
        """Whether it can be so much of its unit, or so little where it may not be nothing."""
        return abs(value) <= MOST[self.unit] and (abs(value) >= LEAST or self.holds(0.0))

    def plausible(self) -> str:
        """What can be, in words."""
        return f"{0.0 if self.holds(0.0) else LEAST:g} to {self.in_unit(MOST[self.unit])}"

    def in_unit(self, value: float) -> str:
        """A value as people write it."""
        return f"{value:g} {self.unit}".rstrip()

    def widest(self, value: float) -> float:
        """The widest tolerance of a value."""
        if self.unit in ("°C", "dBA"):
            return MOST_ADDED
        return MOST_TOLERANCE * abs(value) if value else MOST[self.unit]

    def allowed(self) -> str:
        """The range in words."""
        return f"{self._range()}{f': {self.because}' if self.because else ''}"

    def _range(self) -> str:
        low = self.lower
        if self.at_most is None:
            return (
                "any number"
                if low is None
                else f"{low:g} or more"
                if self.at_least is not None
                else f"more than {low:g}"
            )
        ends = f"{low or 0.0:g} to {self.in_unit(self.at_most)}"
        return f"a share from {ends}" if not self.unit and self.at_most <= 1 else ends

    def schema_keys(self) -> dict[str, Any]:
        bounds = {
            "above": None if self.at_least is not None else self.above,
            "at_least": self.at_least,
            "at_most": self.at_most,
        }
        stated = {key: value for key, value in bounds.items() if value is not None}
        keys = super().schema_keys() | {"x-unit": self.unit, "x-range": stated}
        return (
            keys
            | ({"x-options": list(self.options)} if self.options else {})
            | ({"x-whole": True} if self.whole else {})
        )


def _half(tolerance: str | float, value: float) -> float:
    if isinstance(tolerance, str):
        return float(tolerance.removesuffix("%")) / 100 * abs(value)
    return tolerance


def tolerance_of(quantity: Quantity, figure: FigureDetail) -> Tolerance:
    """Stated tolerance of a figure, or the default of its quantity."""
    given = figure.plus_minus
    if given is None:
        return quantity.default_tolerance(figure.value)
    if isinstance(given, UnequalTolerance):
        return Tolerance(float(given.minus), float(given.plus))
    half = _half(given if isinstance(given, str) else float(given), figure.value)
    return Tolerance(half, half)


@lru_cache(maxsize=256)
def described(model: type[Strict]) -> dict[str, Described]:
    """Fields of a model that say something of themselves, by their key in the document."""
    found = {info.alias or name: _said(info.metadata) for name, info in model.model_fields.items()}
    return {key: says for key, says in found.items() if says is not None}


def _said(metadata: list[Any]) -> Described | None:
    return next((item for item in metadata if isinstance(item, Described)), None)


@lru_cache(maxsize=256)
def quantities(model: type[Strict]) -> dict[str, Quantity]:
    """Numbers of a model, figures and others, by name."""
    return {name: says for name, says in described(model).items() if isinstance(says, Quantity)}


@lru_cache(maxsize=256)
def figures_of(model: type[Strict]) -> dict[str, Quantity]:
    """Fields of a model that hold a figure: a number with a tolerance and an origin."""
    own = model.model_fields
    return {name: says for name, says in quantities(model).items() if _holds_figure(own[name].annotation)}


def _holds_figure(annotation: Any) -> bool:
    return any(part is FigureDetail for part in _parts(annotation))


def _parts(annotation: Any) -> Iterator[Any]:
    inner = getattr(annotation, "__value__", annotation)
    yield inner
    for part in get_args(inner):
        yield from _parts(part)
