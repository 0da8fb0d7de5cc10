"""Lines of a text, those of a cell with a line break in quotes joined, and how a delimiter parts a line into cells."""

import csv
import re
from typing import Final

BLANKS: Final = "blanks"
BLANK: Final = "blank"
_WIDE_BLANK: Final = re.compile(r"(?:\s{2,}|\t)\s*")


def lines_of(text: str) -> list[str]:
    """Physical lines, without the empty piece behind the last end of line; only real ends of line part them."""
    if "\r" in text:
        text = text.replace("\r\n", "\n").replace("\r", "\n")
    lines = text.split("\n")
    if lines and not lines[-1]:
        lines.pop()
    return lines


def joined(lines: list[str]) -> tuple[list[str], list[int]]:
    """Lines, and how many physical ones each is made of: a quote that is open joins the next line."""
    if not any('"' in line for line in lines):
        return lines, [1] * len(lines)
    found: list[str] = []
    sizes: list[int] = []
    held: list[str] = []
    is_open = False
    for line in lines:
        held.append(line)
        is_open ^= line.count('"') % 2 == 1
        if not is_open:
            found.append("\n".join(held))
            sizes.append(len(held))
            held = []
        elif len(held) > MOST_JOINED:  # a quote that nobody closed is a sign like any other
            found += held
            sizes += [1] * len(held)
            held, is_open = [], False
    return found + held, sizes + [1] * len(held)


#: lines that one quoted cell may run over
MOST_JOINED: Final = 8


def cells_of(line: str, delimiter: str) -> list[str]:
    """The cells of a line, bare of quotes and outer blanks; a line break within one is a blank."""
    if delimiter == BLANKS:
        return [cell.strip(' "') for cell in _WIDE_BLANK.split(line.strip())] if line.strip() else [""]
    if delimiter == BLANK:
        return line.split() or [""]
    if '"' in line:
        try:
            parts = next(csv.reader([line.replace("\n", " ")], delimiter=delimiter, skipinitialspace=True))
        except csv.Error:
            parts = line.split(delimiter)
        return [cell.strip() for cell in parts]
    return [cell.strip() for cell in line.split(delimiter)]
