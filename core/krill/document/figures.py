"""Figures of the build document: a bare number, or a value with its tolerance and origin."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator
from typing_extensions import TypeAliasType

Origin = Literal["stated", "measured", "datasheet", "class", "estimate", "rule_of_thumb", "calibrated"]
Number = Annotated[int | float, Field(allow_inf_nan=False)]


class Strict(BaseModel):
    """Base of every object in the document: unknown keys are refused, instances do not change."""

    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True)


class UnequalTolerance(Strict):
    minus: Annotated[Number, Field(ge=0)]
    plus: Annotated[Number, Field(ge=0)]


class FigureDetail(Strict):
    """``plus_minus`` is the half width of a 90 % interval: a number, a share such as "15%", or {minus, plus}."""

    value: Number
    plus_minus: Annotated[Number, Field(ge=0)] | str | UnequalTolerance | None = None
    origin: Origin | None = Field(default=None, alias="from")
    ref: str | None = None

    @field_validator("plus_minus")
    @classmethod
    def _share_is_a_percentage(cls, given: Any) -> Any:
        if isinstance(given, str):
            text = given.removesuffix("%")
            if text == given or not text.replace(".", "", 1).isdigit():
                raise ValueError('a number, or a percentage such as "15%"')
        return given


Figure = TypeAliasType("Figure", Number | FigureDetail)


def detail(figure: Figure) -> FigureDetail:
    """The long form of a figure."""
    return figure if isinstance(figure, FigureDetail) else FigureDetail(value=figure)
