"""A run as an open JSON file: what ran, what was read, where it stood, how it was set. A log lies beside it, named by hash."""

import json
import re
from typing import Annotated, Any, Final, Literal, Self

from pydantic import AfterValidator, Field, ValidationError, model_validator

from krill import CORE_VERSION
from krill.document.figures import Number, Strict
from krill.document.reading import json_value, with_header
from krill.document.refusals import refusal
from krill.errors import DocumentRefused, Problem
from krill.logs.units import unit_of
from krill.runs.quantities_read import READ, quantity_read, statistic_of

FORMAT: Final = "krill-run"
VERSION: Final = 1
FIRST_WINDOW: Final = "load"

Kind = Literal["now", "highest", "mean"]
RunKind = Literal["log", "readings", "claim"]
Id = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_-]{0,63}$")]
RoomC = Annotated[Number, Field(ge=-30, le=60)]
Watts = Annotated[Number, Field(ge=0, le=5_000)]
Minute = Annotated[Number, Field(ge=0, le=100_000)]
Line = Annotated[str, Field(max_length=200)]


class Reading(Strict):
    """One figure, or one word, that somebody read off: when, of what, of which kind.

    ``after_s``: read so many seconds after the load ended. ``window`` names the load it belongs to, the first one unless
    said; ``at_m`` is the distance of a sound; ``more_is_better`` is said once of a bare score.
    """

    minute: Minute
    role: Annotated[str, Field(max_length=160)]
    kind: Kind = "now"
    value: Number | None = None
    word: Annotated[str, Field(max_length=40)] | None = None
    load_on: bool = True
    after_s: Annotated[Number, Field(ge=0, le=600)] | None = None
    at_m: Annotated[Number, Field(gt=0, le=20)] | None = None
    more_is_better: bool | None = None
    window: Id | None = None

    @model_validator(mode="after")
    def _in_range(self) -> Self:
        quantity = quantity_read(self.role)
        if (self.value is None) == (self.word is None):
            raise ValueError("either a figure or a word")
        if quantity.words and self.word not in quantity.words:
            raise ValueError(f"{self.word or self.value} is none of: {', '.join(quantity.words)}")
        if self.value is None and not quantity.words:
            raise ValueError(f"a figure in {quantity.unit or 'points'}")
        if self.value is not None and not quantity.least <= self.value <= quantity.most:
            span = f"{quantity.least:g} to {quantity.most:g} {quantity.unit}".strip()
            raise ValueError(f"{self.value:g} {quantity.unit} is outside {span}".replace("  ", " "))
        return self

    @property
    def is_before(self) -> bool:
        """Read of the waiting machine, before the load."""
        return not self.load_on and self.after_s is None and self.minute <= 0


class RoomTold(Strict):
    """What is known of the room: two figures, one, a rough one, or another run of the same evening by its id."""

    start_c: RoomC | None = None
    end_c: RoomC | None = None
    about_c: RoomC | None = None
    evening_of: Annotated[str, Field(max_length=64)] | None = None


class PowerLimit(Strict):
    """The limit that was set for a source, the one that the machine granted, and for how long the first holds."""

    source: Id
    wanted_w: Watts | None = None
    granted_w: Watts | None = None
    hold_s: Annotated[Number, Field(ge=0, le=86_400)] | None = None

    @property
    def in_force_w(self) -> float | None:
        """What the source may draw: what was granted, else what was asked for."""
        told = self.wanted_w if self.granted_w is None else self.granted_w
        return None if told is None else float(told)


class Settings(Strict):
    """How the machine was set, as far as somebody noted it."""

    power_limits: Annotated[list[PowerLimit], Field(max_length=40)] = []
    fans_by: Line = ""
    firmware: Line = ""
    lid: Literal["on", "off"] | None = None
    filter: Literal["none", "clean", "dusty"] | None = None
    locked: Annotated[list[Line], Field(max_length=40)] = []


class LoadWindow(Strict):
    """One load of a run. Without times the load is found in the log, or is the whole of what was typed."""

    id: Id = FIRST_WINDOW
    name: Line = ""
    workload: Id
    start_s: Annotated[Number, Field(ge=0)] | None = None
    end_s: Annotated[Number, Field(ge=0)] | None = None
    power_limits: Annotated[list[PowerLimit], Field(max_length=40)] = []

    @model_validator(mode="after")
    def _runs_forward(self) -> Self:
        if (self.start_s is None) != (self.end_s is None):
            raise ValueError("a start and an end, or neither")
        if self.start_s is not None and self.end_s is not None and self.end_s <= self.start_s:
            raise ValueError("an end after the start")
        return self


def _known_unit(text: str) -> str:
    if unit_of(text) is None:
        raise ValueError(
            f"the unit '{text[:20]}' is not known; allowed: °C, °F, K, W, rpm, %, MHz, l/min, dBA, V and their kin"
        )
    return text


class LogFile(Strict):
    """The log of a run, byte for byte as it came: the file's own name and its SHA-256 in hexadecimal.

    ``interval_s`` is the time between its rows where no column of it tells the time, ``units`` those that somebody told of
    channels by their names where the log tells none that is known.
    """

    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    name: Annotated[str, Field(max_length=200)] = ""
    interval_s: Annotated[Number, Field(gt=0, le=3600)] | None = None
    units: Annotated[dict[str, Annotated[str, AfterValidator(_known_unit)]], Field(max_length=512)] = {}


class RunPicture(Strict):
    """A picture that lies beside the run, by the SHA-256 of its bytes in hexadecimal, with what somebody wrote under it."""

    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    caption: Line = ""
    media_type: Literal["image/png", "image/jpeg", "image/webp"]
    width: Annotated[int, Field(ge=1, le=20_000)]
    height: Annotated[int, Field(ge=1, le=20_000)]


class RunDocument(Strict):
    """``revision`` is the number of the build's revision that ran; ``source`` says where a claim is from."""

    format: Literal["krill-run"] = FORMAT
    version: Literal[1] = VERSION
    written_by: Line = ""
    name: Annotated[str, Field(max_length=120)]
    kind: RunKind
    revision: Annotated[int, Field(ge=1)] | None = None
    note: Annotated[str, Field(max_length=2000)] = ""
    pictures: Annotated[list[RunPicture], Field(max_length=60)] = []
    source: Line = ""
    windows: Annotated[list[LoadWindow], Field(min_length=1, max_length=40)]
    room: RoomTold = RoomTold()
    settings: Settings = Settings()
    readings: Annotated[list[Reading], Field(max_length=500)] = []
    roles: dict[str, Annotated[str, Field(max_length=160)]] = {}
    log: LogFile | None = None

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        ids = [window.id for window in self.windows]
        if len(set(ids)) < len(ids):
            raise ValueError("each window an id of its own")
        for reading in self.readings:
            if reading.window is not None and reading.window not in ids:
                raise ValueError(f"readings of a window that is there: {', '.join(ids)}")
        if self.kind == "readings" and not self.readings:
            raise ValueError("at least one reading")
        return self

    def window(self, wanted: str | None = None) -> LoadWindow:
        """A window by its id, the first one unless said; DocumentRefused where there is none."""
        if wanted is None:
            return self.windows[0]
        known = {window.id: window for window in self.windows}
        if wanted not in known:
            raise DocumentRefused([Problem("window", f"there is no window '{wanted}'", ", ".join(known))])
        return known[wanted]

    def readings_in(self, window: LoadWindow) -> list[Reading]:
        """Readings of one window; what names none belongs to the first."""
        return [r for r in self.readings if (r.window or self.windows[0].id) == window.id]

    def limits_in(self, window: LoadWindow) -> dict[str, PowerLimit]:
        """Power limits by source: the window's own, else the run's."""
        return {limit.source: limit for limit in [*self.settings.power_limits, *window.power_limits]}

    @property
    def lacks(self) -> list[str]:
        """What a figure needs to be held against another one and nobody wrote down."""
        room, stated = self.room, {statistic_of(r.role) for r in self.readings}
        missing = []
        if room == RoomTold() and not any(r.role == "room/air" for r in self.readings):
            missing.append("the room")
        if not stated & {"power", "wall_power"}:
            missing.append("the watts")
        if not stated & {"speed", "duty"}:
            missing.append("the speeds")
        if all(r.minute == 0 for r in self.readings):
            missing.append("how long it ran")
        return missing if self.log is None else []


#: as ``repr`` writes them: a character of no text, and halves of characters
_UNSTORABLE: Final = re.compile(r"\\x00|\\ud[89a-f]")


def read_run(text: str) -> RunDocument:
    """A checked run from JSON text; DocumentRefused says where, what, and what is allowed."""
    return read_run_object(json_value(text, "a run"))


def read_run_object(raw: Any) -> RunDocument:
    """A checked run from a JSON value."""
    found = with_header(raw, FORMAT, VERSION)
    try:
        run = RunDocument.model_validate(found)
    except ValidationError as error:
        raise refusal(found, error) from None
    if _UNSTORABLE.search(repr(run.model_dump())):
        raise DocumentRefused([Problem("file", "holds characters that cannot be stored", "text")])
    return run


def write_run(run: RunDocument) -> str:
    """Canonical text: one key order, two spaces, a line end."""
    told = run.model_dump(mode="json", exclude_defaults=True, exclude_none=True)
    header = {"format": FORMAT, "version": VERSION, "written_by": f"krill {CORE_VERSION}"}
    return json.dumps({**header, **told, **header}, indent=2, ensure_ascii=False) + "\n"


def run_schema() -> dict[str, Any]:
    """The JSON Schema of run files, with the units and ranges of what may be read."""
    schema = RunDocument.model_json_schema()
    schema["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    schema["x-roles"] = {
        name: {"unit": q.unit, "words": list(q.words)} if q.words else {"unit": q.unit, "range": [q.least, q.most]}
        for name, q in READ.items()
    }
    return schema
