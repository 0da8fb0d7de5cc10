"""What runs have taught about a build: a joint posterior of factors on its figures, kept in the document itself."""

from typing import Annotated, Self

from pydantic import Field, model_validator

from krill.document.figures import Number, Strict

Address = Annotated[str, Field(max_length=200, pattern=r"^[a-z0-9][a-z0-9_-]*(/[a-z0-9_-]+){1,2}$")]
Line = Annotated[str, Field(max_length=200)]


class Moved(Strict):
    """A figure that an unknown moves, SI: value × exp(power × x), learnt where it stood ``at``.

    A figure that has been changed since is another part's: nothing was learnt about that one.
    """

    address: Address
    power: Number
    at: Number


class Unknown(Strict):
    """One thing that was learnt: ``x`` is the logarithm of a factor on all that it moves.

    ``assumed`` is its standard deviation before, around 0; ``chosen`` whether somebody asked for it, others moved along.
    """

    id: Line
    name: Line
    moves: Annotated[list[Moved], Field(min_length=1, max_length=400)]
    assumed: Annotated[Number, Field(gt=0, le=10)]
    mean: Annotated[Number, Field(ge=-10, le=10)]
    chosen: bool = False


class LearntFrom(Strict):
    """A run that taught something, and the load of it that did."""

    run: Line
    name: Line
    window: Line = ""


class Calibration(Strict):
    """Joint normal posterior of ``unknowns``; ``covariance`` in their order. ``places`` were read while it was learnt."""

    runs: Annotated[list[LearntFrom], Field(min_length=1, max_length=40)]
    unknowns: Annotated[list[Unknown], Field(min_length=1, max_length=200)]
    covariance: list[list[Number]]
    places: list[Address] = []

    @model_validator(mode="after")
    def _is_square(self) -> Self:
        count = len(self.unknowns)
        if len(self.covariance) != count or any(len(row) != count for row in self.covariance):
            raise ValueError(f"a covariance of {count} rows of {count}, one of each unknown")
        return self
