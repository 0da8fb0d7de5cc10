"""Every figure of a build with its tolerance and origin, class defaults filled in; and draws of them."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Any, Final, cast

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.classes import class_figure
from krill.catalogue.known_classes import must_know_classes
from krill.catalogue.materials import material_figure
from krill.components.fitted import Fitted, fitted_figures
from krill.components.law_doubt import law_doubts
from krill.components.learnt import Learnt
from krill.components.recirculation import drawn_again
from krill.document.addresses import stated_figures
from krill.document.build import Build, Recirculation
from krill.document.calibration import Calibration
from krill.document.figures import Figure, Strict, detail
from krill.document.parts import Source, Supply
from krill.document.quantities import Quantity, figures_of, tolerance_of
from krill.document.solids import Body, Spreader
from krill.errors import DocumentRefused, Problem
from krill.numerics.sampling import Tolerance, normal_draws

Array = NDArray[np.float64]
#: origin of the factors that laws are drawn with
LAW: Final = "law"
#: origin of figures that runs have taught
CALIBRATED: Final = "calibrated"
#: share of a class's doubt in which like parts differ from each other; the rest they have in common (estimate)
OWN_SHARE: Final = 0.4
#: of a figure that is set and that neither the document nor a class states
NAMELESS = Quantity("", above=None)


@dataclass(frozen=True)
class ResolvedFigure:
    """One figure in SI (temperatures in C); ``draw_key`` is shared by parts of one class that nobody measured."""

    address: str
    value: float
    tolerance: Tolerance
    origin: str
    draw_key: str
    quantity: Quantity

    @property
    def in_units(self) -> float:
        """The value as the document writes it."""
        return self.value / self.quantity.factor

    @property
    def uncertain(self) -> bool:
        return self.tolerance.minus > 0 or self.tolerance.plus > 0


def _resolved(address: str, figure: Figure, quantity: Quantity, class_id: str | None) -> ResolvedFigure:
    field = address.split("/")[1]
    given = detail(figure)
    factor = quantity.factor
    spread = tolerance_of(quantity, given)
    origin = given.origin or "stated"
    shared = given.ref or class_id
    draw_key = f"class:{shared}/{field}" if origin == "class" and shared else address
    return ResolvedFigure(address, given.value * factor, _scaled(spread, factor), origin, draw_key, quantity)


def _scaled(spread: Tolerance, factor: float) -> Tolerance:
    return Tolerance(spread.minus * factor, spread.plus * factor)


@lru_cache(maxsize=2048)
def _defaults_of(model: type[Strict], kind: str, class_id: str | None) -> tuple[ResolvedFigure, ...]:
    """Every figure that a class or kind states; the field alone stands for its address."""
    found = []
    for field, quantity in figures_of(model).items():
        default = class_figure(class_id, kind, field)
        if default is not None:
            value, below, above, where = default
            spread = _scaled(Tolerance(below, above), quantity.factor)
            key = f"class:{where}/{field}"
            found.append(ResolvedFigure(field, value * quantity.factor, spread, "class", key, quantity))
    return tuple(found)


def _class_defaults(item: str, kind: str, class_id: str | None, model: Strict) -> list[ResolvedFigure]:
    return [
        replace(default, address=f"{item}/{default.address}")
        for default in _defaults_of(type(model), kind, class_id)
        if default.address not in model.model_fields_set or getattr(model, default.address) is None
    ]


def _material_figures(part: Body | Spreader) -> list[ResolvedFigure]:
    """Conductivity and emissivity of a part that states neither: those of its material and finish."""
    found = []
    finish = part.finish if isinstance(part, Body) else None
    for field in ("conductivity_w_mk", "emissivity"):
        known = material_figure(part.material, finish, field)
        if known is not None and field in type(part).model_fields and getattr(part, field) is None:
            value, half, where = known
            spread, quantity = Tolerance(half, half), figures_of(type(part))[field]
            found.append(
                ResolvedFigure(f"{part.id}/{field}", value, spread, "class", f"class:{where}/{field}", quantity)
            )
    return found


def _fitted(found: Fitted) -> ResolvedFigure:
    """A figure that follows from slots and contacts, in SI; nobody may set it beside them."""
    address, quantity = f"{found.part.id}/{found.field}", figures_of(type(found.part))[found.field]
    quantity = replace(quantity, varies=False)
    spread = _scaled(Tolerance(found.below, found.above), quantity.factor)
    return ResolvedFigure(address, found.value * quantity.factor, spread, found.origin, address, quantity)


def _law_figures(build: Build) -> list[ResolvedFigure]:
    """A factor of one for each law and surface; drawn by its published scatter, alike for surfaces of one address only."""
    return [
        ResolvedFigure(
            address, 1.0, Tolerance(half, half), LAW, f"law:{law}/{address}", Quantity(f"law: {words}", varies=False)
        )
        for address, words, law, half in law_doubts(build)
        if half > 0.0
    ]


class FigureTable:
    """Figures of one document by address; DocumentRefused names classes that nobody knows."""

    def __init__(self, build: Build) -> None:
        must_know_classes(build)
        self.build = build
        class_of = {part.id: part.class_ for part in build.parts}
        class_of |= {place.id: place.class_ for place, _ in build.place_owners().values()}
        self.figures: dict[str, ResolvedFigure] = {}
        for address, figure, quantity in stated_figures(build):
            self.figures[address] = _resolved(address, figure, quantity, class_of.get(address.split("/")[0]))
        for part in build.parts:
            self._add(_class_defaults(part.id, part.kind, part.class_, part))
            if isinstance(part, Body | Spreader):
                self._add(_material_figures(part))
            if isinstance(part, Source | Supply):
                for place in part.places:
                    self._add(_class_defaults(place.id, "place", place.class_, place))
        for zone in build.zones:
            if zone.kind == "box":
                self._add(_class_defaults(zone.id, "box", None, zone))
        for room in build.rooms:
            self._add(_class_defaults(room.id, "room", None, room))
        for loop in build.loops:
            self._add(_class_defaults(loop.id, "loop", None, loop))
        for bond in build.bonds:
            self._add(_class_defaults(bond.id, "bond", None, bond))
        self._add([self._drawn_again(item) for item in build.recirculations if item.recirculated_share is None])
        self._add([_fitted(found) for found in fitted_figures(build, self._stated)])
        self._add(_law_figures(build))
        self.learnt: Learnt | None = None
        if build.calibration is not None:
            self._lay_over(build.calibration)

    def _lay_over(self, calibration: Calibration) -> None:
        """What runs have taught stands in place of what was assumed."""
        stated = {address: figure.value for address, figure in self.figures.items()}
        self.learnt = Learnt.of(calibration, stated)
        for address, (factor, share) in self.learnt.factors().items():
            known, value = self.figures[address], stated[address] * factor
            self.figures[address] = replace(
                known,
                value=value,
                tolerance=Tolerance(share.minus * value, share.plus * value),
                origin=CALIBRATED if address in self.learnt.taught else known.origin,
                draw_key=address,
            )

    def _drawn_again(self, item: Recirculation) -> ResolvedFigure:
        """The share of an exhaust that an intake draws again, by how the two mouths lie."""
        share, half = drawn_again(self.build, item, self._stated)
        address = f"{item.id}/recirculated_share"
        quantity = figures_of(Recirculation)["recirculated_share"]
        return ResolvedFigure(address, share, Tolerance(half, half), "class", address, quantity)

    def _stated(self, address: str) -> float | None:
        known = self.figures.get(address)
        return None if known is None else known.value

    def _add(self, figures: list[ResolvedFigure]) -> None:
        for figure in figures:
            self.figures[figure.address] = figure

    @cached_property
    def by_owner(self) -> dict[str, list[str]]:
        """Addresses of the figures of each id."""
        found: dict[str, list[str]] = {}
        for address in self.figures:
            found.setdefault(address.split("/")[0], []).append(address)
        return found

    def uncertain(self) -> list[ResolvedFigure]:
        return [figure for figure in self.figures.values() if figure.uncertain]

    def with_override(self, address: str, value: float) -> "FigureTable":
        """The same table with one figure set (SI, certain)."""
        other = object.__new__(FigureTable)
        other.build, other.figures, other.learnt = self.build, dict(self.figures), self.learnt
        spread = Tolerance(0.0, 0.0)
        known = self.figures.get(address)
        quantity = known.quantity if known is not None else NAMELESS
        other.figures[address] = ResolvedFigure(address, value, spread, "measured", address, quantity)
        return other

    def draws(self, seed: int, count: int) -> dict[str, Array]:
        """Drawn values of every uncertain figure, (count,), keyed by address."""
        together = {} if self.learnt is None else self.learnt.deviates(seed, count)
        return {
            figure.address: figure.value * together[figure.address]
            if figure.address in together
            else figure.tolerance.deviate(figure.value, _normal(seed, figure, count))
            for figure in self.uncertain()
        }


def _normal(seed: int, figure: ResolvedFigure, count: int) -> Array:
    """Standard normal draws of a figure; of one that parts of a class share, mostly the class's and a little its own."""
    common = normal_draws(seed, figure.draw_key, count)
    if figure.draw_key == figure.address or figure.origin == LAW:
        return common
    own = normal_draws(seed, f"{figure.draw_key}/{figure.address}", count)
    return np.asarray(np.sqrt(1.0 - OWN_SHARE**2) * common + OWN_SHARE * own)


class Values:
    """Figures as arrays over the batch: ``values(address)`` is a scalar where nothing varies, else (batch,)."""

    def __init__(self, table: FigureTable, batch: int, varied: dict[str, Array]) -> None:
        self.table = table
        self._varied = varied
        self.batch = batch

    @property
    def build(self) -> Build:
        """The document that the figures are of."""
        return self.table.build

    def has(self, address: str) -> bool:
        return address in self._varied or address in self.table.figures

    def drawn(self, address: str) -> Array | None:
        """Values that vary over the batch, (batch,); None where this address does not."""
        return self._varied.get(address)

    def __call__(self, address: str, missing: float | None = None) -> Array:
        if address in self._varied:
            return self._varied[address]
        figure = self.table.figures.get(address)
        value = missing if figure is None else figure.value
        if value is None:
            raise DocumentRefused(
                [Problem(address, "is missing, and no class states it", "a figure, or a class with one")]
            )
        return cast(Array, np.float64(value))  # a scalar: quicker in arithmetic than an array without axes

    def columns(self, values: list[Any]) -> Array:
        """Scalars and (batch,) arrays side by side: (batch or 1, len(values))."""
        if not any(map(np.ndim, values)):
            return np.array([values], dtype=np.float64)
        rows = max((len(v) for v in values if np.ndim(v)), default=1)
        found = np.empty((rows, len(values)))
        for column, value in enumerate(values):
            found[:, column] = value
        return found
