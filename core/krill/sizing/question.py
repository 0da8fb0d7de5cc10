"""What a study asks: what may vary, and what is demanded. The same models check what a browser sends."""

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError

from krill.document.build import ROOM_C
from krill.document.figures import Number, Strict
from krill.document.part_base import Slug
from krill.document.storable import must_be_storable
from krill.errors import DocumentRefused, Problem

MAX_CANDIDATES = 10_000
MAX_OPTIONS = 200

Criterion = Literal["margin", "sound", "height", "mass", "price"]


class Option(Strict):
    """One value that an axis may take; ``price`` is the user's figure of it."""

    value: Any
    label: str = ""
    price: Annotated[Number, Field(ge=0)] | None = None


class Axis(Strict):
    """What may vary: ``id/field``; ``movers/id`` for a duty (of a mover, a loop's pumps, a path's fans, fans, pumps);
    ``id/class`` (of a part, a path's fans, all fans or pumps); ``id/part`` for a whole part; ``housing/gravity``,
    ``housing/height_mm`` (or width, depth) with the slots that grow along; the ``id/gap_mm`` of a slot.
    """

    address: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_-]*/[a-z0-9_-]+(/[a-z0-9_-]+)?$")]
    options: Annotated[list[Option], Field(min_length=1, max_length=MAX_OPTIONS)]


class MarginDemand(Strict):
    """A margin in a workload, of one place or of every place that has a limit."""

    workload: str
    place: str | None = None
    at_least_k: Number


class SoundDemand(Strict):
    workload: str
    at_most_dba: Number


class Demands(Strict):
    """What is asked of a candidate; ``fits`` names slots that its parts must go into with their tolerance to spare."""

    margins: Annotated[list[MarginDemand], Field(max_length=40)] = []
    sounds: Annotated[list[SoundDemand], Field(max_length=20)] = []
    fits: Annotated[list[Slug], Field(max_length=40)] = []
    height_mm: Number | None = None
    mass_g: Number | None = None
    price: Number | None = None


class Question(Strict):
    """``criteria`` are what candidates are weighed by: more margin, less of everything else."""

    vary: Annotated[list[Axis], Field(min_length=1, max_length=8)]
    demands: Demands = Demands()
    room_c: Annotated[Number, Field(ge=ROOM_C[0], le=ROOM_C[1])] | None = None
    criteria: list[Criterion] = ["margin", "sound", "height"]

    @property
    def size(self) -> int:
        """How many candidates the options make."""
        total = 1
        for axis in self.vary:
            total *= len(axis.options)
        return total

    def workloads(self) -> list[str]:
        """Workloads that something is demanded in, in their order."""
        return list(
            dict.fromkeys([d.workload for d in self.demands.margins] + [d.workload for d in self.demands.sounds])
        )


def read_question(raw: Any) -> Question:
    """A checked question; DocumentRefused says where it is wrong."""
    must_be_storable(raw)
    try:
        question = Question.model_validate(raw)
    except ValidationError as error:
        raise DocumentRefused(
            [
                Problem("/".join(str(step) for step in e["loc"]), e["msg"], "see the question's schema")
                for e in error.errors()
            ]
        ) from None
    addresses = [axis.address for axis in question.vary]
    for address in addresses:
        if addresses.count(address) > 1:
            raise DocumentRefused([Problem(address, "varies twice", "each figure once")])
    if question.size > MAX_CANDIDATES:
        many = " x ".join(str(len(axis.options)) for axis in question.vary)
        raise DocumentRefused(
            [Problem("vary", f"{many} makes {question.size} candidates", f"up to {MAX_CANDIDATES}: narrow a range")]
        )
    return question
