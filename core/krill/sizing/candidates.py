"""A study: every combination of what may vary, solved in batches, held against what is demanded."""

from dataclasses import dataclass, field
from functools import cached_property
from itertools import product, takewhile
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.errors import DocumentRefused, KrillError, Problem
from krill.networks.states import Case
from krill.prediction.answer.lasting import lasting
from krill.prediction.answer.solving import Solved, try_cases
from krill.prediction.answer.sound import total_levels
from krill.prediction.predict import cases_of
from krill.sizing.band_shares import half_shares, halves
from krill.sizing.bounds import hard_bounds
from krill.sizing.by_row import margins
from krill.sizing.locks import check_free
from krill.sizing.measures import highest_stack, least_left, total_mass
from krill.sizing.prices import prices_of, with_option
from krill.sizing.question import Option, Question
from krill.sizing.result import Edit
from krill.sizing.steps.step import edited
from krill.sizing.varied import FigureAt, RoomAir, varied

Array = NDArray[np.float64]
Indices = NDArray[np.int64]

#: rows of one batch: progress is told after each
MAX_ROWS = 600
FIGURES: Final = (
    "spare_k", "margin_k", "half_k", "spare_db", "level_dba", "height_mm", "mass_g", "price", "left_mm", "spare_mm",
)  # fmt: skip


@dataclass(frozen=True)
class Chunk:
    """Candidates that share one structure: which option of each structural axis, and the numbers of the candidates."""

    structural: tuple[int, ...]
    numbers: Indices


@dataclass(frozen=True)
class Columns:
    """Figures of some candidates, each (candidate,); NaN is unknown. ``tightest`` is a place's id, '' where it failed.

    ``failures`` says of a candidate, by its number, why it has no figures.
    """

    numbers: Indices
    figures: dict[str, Array]
    tightest: list[str]
    failures: dict[int, str] = field(default_factory=dict)


class Study:
    """A question put to a build. DocumentRefused where the two do not fit."""

    def __init__(self, build: Build, question: Question) -> None:
        self.build, self.question = build, question
        self.table = FigureTable(build)
        # options of the structural axes of the last structure; the documents on its way stand in _variants
        self._chosen: list[int] = []
        self.varied = [varied(build, self.table, axis.address) for axis in question.vary]
        for one, axis in zip(self.varied, question.vary, strict=True):
            for option in axis.options:
                one.check(option.value)
        self.names = question.workloads() or build.brief.worst_workloads[:1] or [w.id for w in build.workloads[:1]]
        self.cases = cases_of(
            build, list(self.names), None if question.room_c is None else float(question.room_c), throttles=False
        )
        self.varies_room = any(isinstance(one, RoomAir) for one in self.varied)
        if self.varies_room and question.room_c is not None:
            raise DocumentRefused(
                [Problem("room_c", "the room varies already", "a question without a room of its own")]
            )
        self._check_demands()
        self._check_figures()
        self._variants = [self._stated()]

    def check_free(self) -> "Study":
        """Itself; DocumentRefused where anything that varies is locked. A map may look at what a study may not change."""
        for one in self.varied:
            check_free(self.build, one)
        return self

    def _stated(self) -> Build:
        """The build with every figure that varies stated: what a class says may follow its air, what is stated does not."""
        build = self.build
        for one, axis in zip(self.varied, self.question.vary, strict=True):
            if isinstance(one, FigureAt) and self.table.figures[one.address].origin == "class":
                build = edited(build, one.edits(axis.options[0].value, list(self.names)))
        return build

    def _check_figures(self) -> None:
        """The ends of every figure's values stand in a document first: rows of a batch pass none of its checks."""
        for one, axis in zip(self.varied, self.question.vary, strict=True):
            if isinstance(one, FigureAt):
                for option in (min(axis.options, key=_value), max(axis.options, key=_value)):
                    edited(self.build, one.edits(option.value, list(self.names)))

    def _check_demands(self) -> None:
        places = self.build.place_owners()
        for demand in self.question.demands.margins:
            if demand.place is not None and demand.place not in places:
                raise DocumentRefused([Problem(f"demands/{demand.place}", "there is no such place", ", ".join(places))])
        slots = [slot.id for slot in self.build.slots]
        for slot in self.question.demands.fits:
            if slot not in slots:
                known = ", ".join(slots) or "(there is no slot)"
                raise DocumentRefused([Problem(f"demands/{slot}", "there is no such slot", known)])

    @property
    def shape(self) -> tuple[int, ...]:
        return tuple(len(axis.options) for axis in self.question.vary)

    @cached_property
    def structural(self) -> list[int]:
        """Axes that need documents of their own."""
        return [
            index
            for index, (one, axis) in enumerate(zip(self.varied, self.question.vary, strict=True))
            if any(one.rows(option.value) is None for option in axis.options)
        ]

    def chunks(self) -> list[Chunk]:
        """All candidates, structure by structure, no more than MAX_ROWS in each."""
        grid = np.arange(self.question.size).reshape(self.shape)
        found = []
        for choice in product(*(range(self.shape[axis]) for axis in self.structural)):
            at: list[slice | int] = [slice(None)] * len(self.shape)
            for axis, option in zip(self.structural, choice, strict=True):
                at[axis] = option
            numbers = grid[tuple(at)].ravel()
            found += [Chunk(choice, part) for part in _parts(numbers)]
        return found

    def options_of(self, number: int) -> tuple[int, ...]:
        """Which option of each axis a candidate takes."""
        if not 0 <= number < self.question.size:
            raise DocumentRefused(
                [Problem(f"candidate/{number}", "there is no such candidate", f"0 to {self.question.size - 1}")]
            )
        return tuple(int(i) for i in np.unravel_index(number, self.shape))

    def made(self, number: int, build: Build) -> tuple[Build, list[Edit]]:
        """A candidate made of a build, and the edits that make it."""
        document, edits = build, list[Edit]()
        for axis, option in zip(self.question.vary, self.options_of(number), strict=True):
            document, found = with_option(document, axis, axis.options[option], list(self.names))
            edits += found
        return document, edits

    def document(self, number: int) -> Build:
        """The document of a candidate."""
        return self.made(number, self.build)[0]

    def solve(self, chunk: Chunk) -> Columns:
        """Figures of the candidates of a chunk; whatever cannot be says why in ``failures``."""
        try:
            return self._columns(self._variant(chunk), chunk.numbers)
        except KrillError as error:
            return self._failed(chunk.numbers, str(error))

    def _variant(self, chunk: Chunk) -> Build:
        """The document of a structure; what it has in common with the one before is not made again."""
        shared = sum(
            1 for _ in takewhile(lambda pair: pair[0] == pair[1], zip(chunk.structural, self._chosen, strict=False))
        )
        del self._chosen[shared:], self._variants[shared + 1 :]
        for index, option in list(zip(self.structural, chunk.structural, strict=True))[shared:]:
            axis = self.question.vary[index]
            self._variants.append(with_option(self._variants[-1], axis, axis.options[option], list(self.names))[0])
            self._chosen.append(option)
        return self._variants[-1]

    def _columns(self, variant: Build, numbers: Indices) -> Columns:
        table = FigureTable(variant)
        cases = cases_of(variant, list(self.names), self.cases[0].room_c, throttles=False)
        solved = try_cases(variant, cases, len(numbers), draws=self._draws(variant, table, numbers))
        figures, tightest = self._judged(solved, cases, len(numbers), half_shares(variant, cases))
        drawn = solved.drawn(0)
        for name, measured in (("height_mm", highest_stack), ("mass_g", total_mass)):
            rows = np.broadcast_to(measured(variant, solved.network.values), (solved.network.values.batch,))
            figures[name] = np.array(rows[drawn])
        options = np.unravel_index(numbers, self.shape)
        figures["price"] = prices_of(variant, self.question.vary, self.structural, options, self.names[0])
        failed = _failures(solved)
        for row in failed:
            tightest[row] = ""
            for figure in figures.values():
                figure[row] = np.nan
        figures |= self._lengths(variant, len(numbers))
        return Columns(numbers, figures, tightest, {int(numbers[row]): why for row, why in failed.items()})

    def _lengths(self, variant: Build, count: int) -> dict[str, Array]:
        """What is left in the slots that are asked for: known of a candidate that boils, too."""
        left, spare = least_left(variant, self.question.demands.fits)
        return {"left_mm": np.full(count, left), "spare_mm": np.full(count, spare)}

    def _draws(self, variant: Build, table: FigureTable, numbers: Indices) -> dict[str, Array]:
        """Rows of what needs no document of its own."""
        draws: dict[str, Array] = {}
        options = np.unravel_index(numbers, self.shape)
        for index, axis in enumerate(self.question.vary):
            if index in self.structural:
                continue
            one = self.varied[index].on(variant, table)
            sets = [one.rows(option.value) or {} for option in axis.options]
            for address in sets[0]:
                draws[address] = np.array([found[address] for found in sets])[options[index]]
        return draws

    def _judged(
        self, solved: Solved, cases: list[Case], count: int, shares: Array
    ) -> tuple[dict[str, Array], list[str]]:
        """Margins with their bands and levels against what is demanded; ``shares`` (case, place) of a band of the rise."""
        places, every = margins(solved)
        half = halves(solved, shares)
        levels = total_levels(solved)
        of_case = {case.workload.id: solved.drawn(index) for index, case in enumerate(cases)}
        spare, margin, surely = np.full((3, count), np.inf)
        tightest = np.full(count, -1)
        for demand in self.question.demands.margins:
            columns = [i for i, place in enumerate(places) if demand.place in (None, place)]
            if not columns:
                continue
            rows = of_case[demand.workload]
            found, wanted = every[rows][:, columns], float(demand.at_least_k)
            least = found.min(axis=1)
            closer = least - wanted < spare
            spare = np.where(closer, least - wanted, spare)
            margin = np.where(closer, least, margin)
            tightest = np.where(closer, np.asarray(columns)[found.argmin(axis=1)], tightest)
            surely = np.minimum(surely, (found - half[rows][:, columns]).min(axis=1) - wanted)
        band = np.subtract(spare, surely, out=np.zeros(count), where=tightest >= 0)
        if not self.question.demands.margins and places:
            found = every[solved.drawn(0)]
            margin, tightest = found.min(axis=1), found.argmin(axis=1)
            band = margin - (found - half[solved.drawn(0)]).min(axis=1)
        named = [places[i] if i >= 0 else "" for i in tightest]
        spare, named = _with_hard_bounds(solved, list(of_case.values()), spare, named)
        loudest, spare_db = np.array(levels[solved.drawn(0)]), np.full(count, np.inf)
        for sound in self.question.demands.sounds:
            level = levels[of_case[sound.workload]]
            closer = float(sound.at_most_dba) - level < spare_db
            spare_db = np.where(closer, float(sound.at_most_dba) - level, spare_db)
            loudest = np.where(closer, level, loudest)
        figures = {"spare_k": spare, "margin_k": margin, "half_k": band, "spare_db": spare_db, "level_dba": loudest}
        return figures, named

    def _failed(self, numbers: Indices, failure: str) -> Columns:
        figures = {name: np.full(len(numbers), np.nan) for name in FIGURES}
        return Columns(numbers, figures, [""] * len(numbers), dict.fromkeys(numbers.tolist(), failure))


def _with_hard_bounds(solved: Solved, cases: list[slice], spare: Array, tightest: list[str]) -> tuple[Array, list[str]]:
    """What is to spare and of what, with a bound in its place that a candidate breaks in any of the cases asked for."""
    found = list(tightest)
    for address, _, left in hard_bounds(solved):
        every = np.broadcast_to(left, (solved.network.values.batch,))
        least = np.min([every[rows] for rows in cases], axis=0)
        worse = (least < 0.0) & (least < spare)
        spare = np.where(worse, least, spare)
        found = [address if broken else name for broken, name in zip(worse, found, strict=True)]
    return spare, found


def _value(option: Option) -> float:
    return float(option.value)


def _parts(numbers: Indices) -> list[Indices]:
    return np.array_split(numbers, max(-(-len(numbers) // MAX_ROWS), 1))


def _failures(solved: Solved) -> dict[int, str]:
    """Why a candidate did not settle in one of the cases, by its row among the draws of each."""
    at = ((row % solved.stride - 1, why) for row, why in lasting(solved).why.items())
    return {row: why for row, why in at if row >= 0}
