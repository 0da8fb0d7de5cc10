"""How a delimited log is laid out: its delimiter, its header of one or more rows, units, and where the figures begin."""

import re
from collections import Counter
from dataclasses import dataclass
from typing import Final

from krill.errors import LogRefused
from krill.logs.cells import is_datum, is_figure, is_nothing, is_time
from krill.logs.limits import must_have_few_columns
from krill.logs.lines import BLANK, BLANKS, cells_of
from krill.logs.units import names_and_units, unit_of

DELIMITERS: Final = (";", "\t", ",", "|", BLANKS)
#: lines by which a delimiter is told, and lines of header that are looked through
LOOK_AHEAD: Final = 120
MOST_HEAD: Final = 60
#: share of a row's cells that say something and are figures, times or states
MOSTLY: Final = 0.5
UNITS_SHARE: Final = 0.5
_BRACKET: Final = re.compile(r"[\[(]")
_COMMENT: Final = re.compile(r"^\s*(#+|//)\s*(?=\D)")


@dataclass(frozen=True)
class Layout:
    """The delimiter, the channels' names, their units as written, the first line of figures, and the header's lines."""

    delimiter: str
    names: list[str]
    units: list[str]
    first: int
    header: list[int]

    @property
    def width(self) -> int:
        return len(self.names)


def layout_of(lines: list[str]) -> Layout:
    """The layout of a text's lines; LogRefused where they are no table."""
    look = [line for line in lines[:LOOK_AHEAD] if line.strip()]
    delimiter = _delimiter(look)
    rows = [cells_of(_uncommented(line, delimiter), delimiter) for line in lines[: LOOK_AHEAD + MOST_HEAD]]
    must_have_few_columns(max(map(len, rows)))
    first = _first(rows)
    above = [i for i in range(first) if len(rows[i]) >= 2 and _says_something(rows[i])]
    if not above:
        names = [f"column {i + 1}" for i in range(len(rows[first]))]
        return Layout(delimiter, names, [""] * len(names), first, [])
    return _headed(rows, delimiter, first, above)


def _delimiter(lines: list[str]) -> str:
    """The delimiter whose rows of one width hold the most figures; single blanks where no other one makes a table."""
    scored = [(_score(lines, delimiter), delimiter) for delimiter in DELIMITERS]
    most, best = max(scored, key=lambda one: one[0])
    if most > 0.0:
        return best
    if _score(lines, BLANK) > 0.0 and any(is_row_of_figures(cells_of(line, BLANK)) for line in lines):
        return BLANK
    raise LogRefused("no table was found: no comma, semicolon, tab, bar or blank parts the lines into columns")


def _score(lines: list[str], delimiter: str) -> float:
    """Share of figures in rows of the usual width, and of such rows; a little more for a wide table; 0 for none."""
    rows = [cells_of(line, delimiter) for line in lines]
    widths = Counter(len(row) for row in rows if len(row) >= 2)
    if not widths:
        return 0.0
    width, often = max(widths.items(), key=lambda item: (_share_of_figures(rows, item[0]) * item[1], item[0]))
    if often < min(2, len(rows) - 1):
        return 0.0
    return _share_of_figures(rows, width) * often / len(rows) + 0.01 * min(width, 8)


def _share_of_figures(rows: list[list[str]], width: int) -> float:
    cells = [cell for row in rows if len(row) == width for cell in row if not is_nothing(cell)]
    return sum(map(is_datum, cells)) / len(cells) if cells else 0.0


def is_row_of_figures(cells: list[str]) -> bool:
    """Whether at least half of what a row says is figures, with one that is no mere date."""
    said = [cell for cell in cells if not is_nothing(cell)]
    data = sum(map(is_datum, said))
    return len(cells) >= 2 and data >= 1 and data >= MOSTLY * len(said) and any(map(is_figure, said))


def _first(rows: list[list[str]]) -> int:
    """The first row of figures that another one of its width follows soon."""
    candidates = [i for i, row in enumerate(rows) if is_row_of_figures(row)]
    for index in candidates:
        near = [len(rows[i]) for i in candidates if index < i <= index + 4]
        if not near or len(rows[index]) in near or len(candidates) < 3:
            return index
    raise LogRefused("a header but no row of figures was found; a log needs at least two rows of figures")


def _says_something(cells: list[str]) -> bool:
    return any(not is_nothing(cell) for cell in cells)


def _headed(rows: list[list[str]], delimiter: str, first: int, above: list[int]) -> Layout:
    width = len(rows[first])
    near = [i for i in above if i > above[-1] - 4 and _fits(rows[i], width)] or [above[-1]]
    units_at = next((i for i in reversed(near) if _is_units(rows[i])), None) if len(near) > 1 else None
    near = [i for i in near if i != units_at]
    names_at = max(near, key=lambda i: (len(rows[i]) == width, _says(rows[i]), i))
    names, units = _named(rows[names_at], [] if units_at is None else rows[units_at])
    groups = [i for i in near if i < names_at and _is_group(rows[i], rows[names_at])]
    for index in reversed(groups):
        names = _under(rows[index], names)
    lower = [i for i in near if i > names_at]
    for index in lower:
        names = [_joined(name, cell) for name, cell in zip(names, rows[index] + [""] * len(names), strict=False)]
    header = sorted({names_at, *groups, *lower, *([] if units_at is None else [units_at])})
    return Layout(delimiter, [name or f"column {i + 1}" for i, name in enumerate(names)], units, first, header)


def _named(cells: list[str], row: list[str]) -> tuple[list[str], list[str]]:
    """Names and written units of a header and the row of units below it, [] for none."""
    while len(cells) > 1 and not cells[-1]:
        cells = cells[:-1]
    names, units = names_and_units(cells)
    for i, cell in enumerate(row[: len(names)]):
        if is_nothing(cell) or (units[i] and unit_of(cell) is None):
            continue
        # a unit below a name counts more than a word at its end: "Mains watts" over "mW"
        names[i] = names[i] if _BRACKET.search(cells[i]) else cells[i]
        units[i] = cell.strip("[](){} ")
    return names, units


def _fits(cells: list[str], width: int) -> bool:
    """Whether a row may stand over a table of a width."""
    return width - 2 <= len(cells) <= width + 2


def _says(cells: list[str]) -> int:
    """How many cells of a row are names: a header has the most, a group row fewer."""
    return sum(not is_nothing(cell) and not is_time(cell) for cell in cells)


def _is_units(cells: list[str]) -> bool:
    said = [cell for cell in cells if not is_nothing(cell)]
    return bool(said) and sum(unit_of(cell) is not None for cell in said) > UNITS_SHARE * len(said)


def _is_group(cells: list[str], names: list[str]) -> bool:
    """A row whose names stand over several columns: it leaves cells open, or repeats itself."""
    said = [cell for cell in cells if not is_nothing(cell)]
    return bool(said) and len(cells) >= len(names) - 2 and (len(said) < len(cells) or len(set(said)) < len(said))


def _joined(name: str, below: str) -> str:
    """A name with what stands below it."""
    return name if is_nothing(below) or below == name else f"{name} {below}".strip()


def _under(groups: list[str], names: list[str]) -> list[str]:
    """Names with the name of the group that they stand under, which reaches to the next one."""
    found, group = [], ""
    for i, name in enumerate(names):
        own = groups[i] if i < len(groups) else ""
        group = group if not own else "" if is_nothing(own) else own
        found.append(f"{group} {name}".strip() if group and not name.lower().startswith(group.lower()) else name)
    return found


def _uncommented(line: str, delimiter: str) -> str:
    """A header behind a mark of comment, without it; a mark that is a name of its own stays."""
    found = _COMMENT.match(line)
    return line if found is None or line[found.end() :].startswith(delimiter) else line[found.end() :]
