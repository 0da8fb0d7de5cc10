"""Figures of the build document: a bare number, or a value with its tolerance and origin."""

from typing import Annotated, Any, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

from krill.numerics.sampling import Tolerance

Origin = Literal["measured", "datasheet", "class", "estimate", "rule_of_thumb", "calibrated"]
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


Figure = Number | FigureDetail

#: default 90 % half width of a bare number, as a share of its value, by the last words of its field's name
DEFAULT_SHARES: Final[dict[str, float]] = {
    "power_w": 0.05,
    "watts": 0.05,
    "power_share": 0.08,
    "area_mm2": 0.15,
    "mm2k_w": 0.33,
    "k_w": 0.20,
    "w_k": 0.15,
    "kpa": 0.30,
    "factor": 0.0,
    "loss": 0.35,
    "bore_mm": 0.05,
    "length_m": 0.05,
    "thickness_mm": 0.10,
    "free_flow_l_min": 0.12,
    "shutoff_kpa": 0.12,
    "rated_rpm": 0.05,
    "pressure_pa": 0.30,
    "airflow_m3_h": 0.12,
    "current_a": 0.15,
    "gap_mm": 0.10,
    "blocked_share": 0.20,
    "leak_cm2": 0.40,
    "recirculated_share": 0.40,
    "volume_ml": 0.15,
    "volume_l": 0.15,
}
#: default 90 % half width in the figure's own unit, where a share makes no sense
DEFAULT_ABSOLUTE: Final[dict[str, float]] = {"level_dba": 4.0, "air_c": 0.0, "at_c": 0.0}


def detail(figure: Figure) -> FigureDetail:
    """The long form of a figure."""
    return figure if isinstance(figure, FigureDetail) else FigureDetail(value=figure)


def default_tolerance(field: str, value: float) -> Tolerance:
    """Tolerance of a bare number of the given field."""
    for ending, half in DEFAULT_ABSOLUTE.items():
        if field.endswith(ending):
            return Tolerance(half, half)
    for ending, share in DEFAULT_SHARES.items():
        if field.endswith(ending):
            return Tolerance(share * abs(value), share * abs(value))
    return Tolerance(0.0, 0.0)


def tolerance(field: str, figure: FigureDetail) -> Tolerance:
    """Stated tolerance of a figure, or the default of its kind."""
    given = figure.plus_minus
    if given is None:
        return default_tolerance(field, figure.value)
    if isinstance(given, UnequalTolerance):
        return Tolerance(float(given.minus), float(given.plus))
    if isinstance(given, str):
        half = float(given.removesuffix("%")) / 100 * abs(figure.value)
        return Tolerance(half, half)
    return Tolerance(float(given), float(given))
