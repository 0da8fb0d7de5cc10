"""What a cell of a log may be: a figure in its dress, a time, a state, a unit, or text."""

import re
from typing import Final

_MARK: Final = r"(?:[~≈<>±]|ca\.?|about|approx\.?)"
_NUMBER: Final = r"(?:\d{1,3}(?:[ '’]\d{3})+(?:[.,]\d+)?|\d[\d.,]*|[.,]\d+)"
_UNIT: Final = r"[^\d\s?*][^\d?*]{0,9}?|1/min|min-1"
#: figures as people write them, in three groups: with a mark of doubt and grouped thousands, a power, a unit behind
DRESSED: Final = rf"^{_MARK}?\s*([+\-−]?{_NUMBER})((?:[eE][+\-]?\d+)?)\s*({_UNIT})?\s*[?*]?$"
DOUBTFUL: Final = rf"^\s*{_MARK}|[?*]\s*$"
STATES: Final = {
    **dict.fromkeys(
        ["yes", "on", "true", "active", "ja", "ein", "an", "wahr", "oui", "vrai", "si", "sí", "activo", "tak", "wł"],
        1.0,
    ),
    **dict.fromkeys(
        ["no", "off", "false", "inactive", "nein", "aus", "falsch", "non", "faux", "inactivo", "nie", "wył"], 0.0
    ),
}
#: how loggers begin the lines that add a file up
SUMMARY: Final = re.compile(
    r"^(max(imum|imal|ima|\.)?|maksimum|m[aá]ximo|min(imum|imal|ima|\.)?|m[ií]nimo|average|avg|ave|mean|sum|total|median"
    r"|mittel(wert)?|durchschnitt|moyenne|moy|media|promedio|[sś]rednia|summe|somme|suma|samples|count|std(dev)?)\W*$",
    re.IGNORECASE,
)
_FIGURE: Final = re.compile(DRESSED)
_TIME: Final = re.compile(
    r"^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}([T ].*)?$|^\d{1,3}:\d{2}(:\d{2})?([.,]\d+)?(\s*[AaPp]\.?[Mm]\.?)?$"
    r"|^\d{1,2}[ -][^\W\d]{3,10}\.?[ -]\d{2,4}\b|^[^\W\d]{3,10}\.? \d{1,2},? \d{4}\b"
)
_NOTHING: Final = frozenset({"", "-", "--", "n/a", "na", "nan", "null", "none", "n.a.", "?"})


def is_figure(cell: str) -> bool:
    """A number, however it is dressed."""
    return _FIGURE.match(cell) is not None


def is_time(cell: str) -> bool:
    """A date, a time of day, or both."""
    return _TIME.match(cell) is not None


def is_datum(cell: str) -> bool:
    """What stands in a row of figures: figure, time, state or nothing."""
    return is_figure(cell) or is_time(cell) or cell.lower() in STATES


def is_nothing(cell: str) -> bool:
    """A cell that says that there is no figure."""
    return cell.lower() in _NOTHING
