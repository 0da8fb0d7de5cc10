"""Logs as people have them, with what is true of each: languages, clocks, units, quotes, groups, dead sensors, crossed at random.

Written apart from the reader: it shares no word list, no unit table and no law with it.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from independent.log_words import (
    CLOCK_NAMES,
    CLOCKS,
    LOCAL_RPM,
    LOCKED,
    MARKS,
    MONTHS,
    PARTS,
    QUANTITIES,
    SPELLED,
    STANDS,
    SUMMARIES,
)
from independent.logged_machine import Machine, MadeColumn


@dataclass
class MadeLog:
    """The bytes of a file and what is true of it."""

    data: bytes
    traits: dict[str, object]
    interval_s: float
    rows: int
    lines: int
    clock_told: bool
    columns: list[MadeColumn]
    loads: list[tuple[float, float]]

    @property
    def length_s(self) -> float:
        return self.interval_s * (self.rows - 1)


def any_log(seed: int) -> MadeLog:
    """A log by its seed."""
    rng = np.random.default_rng([seed, 20261128])
    return _Maker(rng).made()


class _Maker:
    def __init__(self, rng: np.random.Generator) -> None:
        self.rng = rng
        one = rng.choice
        self.language = str(one(["en", "en", "de", "fr", "es", "pl"]))
        self.clock = str(one(CLOCKS))
        self.stands = one(np.array(STANDS, dtype=object))
        self.delimiter = str(one([",", ",", ";", ";", "\t", "|", "blanks"]))
        self.decimal = "," if self.language != "en" and rng.random() < 0.6 else "."
        self.thousands = str(one(["", "", "", "'", " ", "." if self.decimal == "," else ","]))
        self.quote_all = bool(rng.random() < 0.15)
        self.degrees = str(one(["°C"] * 8 + ["°F", "°F", "K"]))
        if self.stands is None:
            self.degrees = "°C"
        self.grouped = bool(rng.random() < 0.15) and self.stands != "underscore"
        self.hash_header = bool(rng.random() < 0.12)
        self.preamble = bool(rng.random() < 0.3)
        self.summary = bool(rng.random() < 0.2)
        self.footer = bool(rng.random() < 0.15)
        self.repeated_header = bool(rng.random() < 0.1)
        self.growing = bool(rng.random() < 0.1) and not self.grouped and self.delimiter != "blanks"
        self.broken_name = bool(rng.random() < 0.08) and self.delimiter != "blanks" and self.stands != "underscore"
        self.doubtful = bool(rng.random() < 0.12)
        self.holes = bool(rng.random() < 0.2) and self.delimiter != "blanks"
        self.marks = bool(rng.random() < 0.15)
        self.newest_first = bool(rng.random() < 0.06) and self.clock not in (
            "none",
            "hour",
            "hour am pm",
            "hour no seconds",
        )
        self.sep_line = bool(rng.random() < 0.08) and self.delimiter in (",", ";")
        self.trailing = bool(rng.random() < 0.08) and self.delimiter in (",", ";")
        self.watts = bool(rng.random() < 0.75)
        self.busy = bool(rng.random() < 0.5)
        self.cores = int(one([0, 0, 0, 4])) if self.language == "en" else 0
        self.several = bool(rng.random() < 0.3)
        self.interval_s = float(one([0.5, 1, 2, 5, 10, 30, 60]))
        self.encoding = str(one(["utf-8", "utf-8", "utf-8-sig", "utf-16", "legacy"]))
        if "no seconds" in self.clock:
            self.interval_s = float(one([5, 10, 30, 60]))

    def made(self) -> MadeLog:
        machine = Machine(self.rng, self.interval_s, self.several)
        time_s, columns = machine.time_s, machine.columns(self.watts, self.busy, self.cores)
        for column in columns:
            self._named(column)
        head, rows, tail = self._table(time_s, columns)
        if self.newest_first and not self.growing:
            rows.reverse()
        if self.trailing:
            head, rows = [line + self.delimiter for line in head], [line + self.delimiter for line in rows]
        lines = [*([f"sep={self.delimiter}"] if self.sep_line else []), *head, *rows, *tail]
        text = "\n".join(lines) + "\n"
        traits = {k: v for k, v in vars(self).items() if k != "rng"}
        return MadeLog(
            self._encoded(text),
            traits,
            self.interval_s,
            len(time_s),
            text.count("\n"),
            self.clock != "none",
            columns,
            machine.loads,
        )

    def _named(self, column: MadeColumn) -> None:
        column.spelled, column.factor, column.offset = self._unit(column)
        if column.factor < 1:
            column.digits = 3
        if column.name:
            if self.stands is None or self.rng.random() < 0.5:
                column.name += f" {QUANTITIES[self.language]['temperature'][0]}"
        elif column.kind == "voltage":
            column.name = (
                "Voltage 12 rail" if self.stands is None else str(self.rng.choice(["+12V", "Rail 12", "VBAT"]))
            )
        else:
            column.name = self._spoken(column)

    def _unit(self, column: MadeColumn) -> tuple[str, float, float]:
        """The spelling of a column's unit, with factor and offset."""
        unit = self.degrees if column.unit == "°C" else column.unit
        options = SPELLED[unit]
        text, factor, offset = options[self.rng.integers(len(options))]
        if unit == "rpm" and self.language in LOCAL_RPM and self.rng.random() < 0.5:
            text = LOCAL_RPM[self.language]
        if text == "℃" and self.encoding == "legacy":
            text = "°C"
        if self.stands is None or (self.stands == "underscore" and unit == "W"):
            text, factor, offset = options[0]
        if column.dead:
            return text, 1.0, 0.0  # a dead sensor stands at its figure, whatever the unit
        return text, factor, offset

    def _spoken(self, column: MadeColumn) -> str:
        rng, language = self.rng, self.language
        part = str(rng.choice(PARTS[language][column.part]))
        quantity = str(rng.choice(QUANTITIES[language][column.kind]))
        spoken = self.stands is None or rng.random() < 0.6 or self.stands == "underscore"
        joint = str(rng.choice([" ", " ", "_", ": ", " - "])) if self.stands != "underscore" else "_"
        first, second = (part, quantity) if language in ("en", "de") else (quantity, part)
        name = f"{first}{joint}{second}" if spoken else part
        if self.stands != "underscore":
            return name
        return name.lower().replace(" ", "_").replace("#", "").replace("-", "_").replace(".", "")

    def _header_cell(self, column: MadeColumn, name: str) -> str:
        unit = column.spelled
        return {
            "brackets": f"{name} [{unit}]",
            "parentheses": f"{name} ({unit})",
            "blank": f"{name} {unit}",
            "comma": f"{name}, {unit}",
            "slash": f"{name} / {unit}",
            "in": f"{name} in {unit}",
            "underscore": f"{name}_{unit.lower().replace('°', '').replace('º', '').replace(' ', '')}",
        }.get(self.stands or "", name)

    def _table(self, time_s, columns):
        """Lines of the head, of the rows, and behind them."""
        clock_names, clock_cells = self._clock_columns(time_s)
        first = len(clock_names)
        late = self._late(columns, len(time_s))
        names = [*clock_names, *(self._header_cell(c, c.name) for c in columns)]
        cells = [*clock_cells, *([self._written(c, v) for v in c.values] for c in columns)]
        units = [*self._clock_units(first), *(c.spelled for c in columns)]
        if self.marks:
            names.append(LOCKED[self.language])
            units.append("")
            yes, no = MARKS[self.language]
            cells.append([yes if self.rng.random() < 0.3 else no for _ in time_s])
        self._blemish(cells, names, first)
        groups = self._groups(first, columns, names, len(names)) if self.grouped else []
        heads = [*([groups] if groups else []), names, *([self._or_open(units)] if self.stands == "row" else [])]
        widths = []
        if self.delimiter == "blanks":
            longest = [max(column, key=len) for column in cells]
            widths = [max(len(row[i]) for row in [*heads, longest]) + 2 for i in range(len(names))]
        upto = first + late if late else len(names)
        head = [self._line(row[:upto], widths) for row in heads]
        if self.hash_header:
            head[len(groups) > 0] = "# " + head[len(groups) > 0]
        rows = []
        for i in range(len(time_s)):
            if late and i == columns[late].from_row:
                upto = len(names)
                rows.append(self._line(names, widths))
            if self.repeated_header and i == len(time_s) // 2:
                rows.append(self._line(names[:upto], widths))
            rows.append(self._line([column[i] for column in cells[:upto]], widths))
        return [*self._preamble(), *head], rows, self._tail(columns, first, len(names), widths)

    def _late(self, columns, rows: int) -> int:
        """The column that a second header adds, 0 for none."""
        if not self.growing or self.marks or self.stands == "row" or len(columns) < 5 or columns[-1].dead:
            return 0
        columns[-1].from_row = rows // 3
        return len(columns) - 1

    def _clock_units(self, count: int) -> list[str]:
        unit = {"seconds": "s", "minutes": "min", "hours": "h", "ms": "ms"}.get(self.clock)
        return [""] * count if unit is None or self.stands != "row" else [*[""] * (count - 1), unit]

    def _or_open(self, units: list[str]) -> list[str]:
        return [unit or ("-" if self.delimiter == "blanks" else "") for unit in units]

    def _blemish(self, cells, names, first) -> None:
        """Marks of doubt, holes, and a line break in a name."""
        rng, rows = self.rng, len(cells[0])
        if self.doubtful:
            for row in rng.integers(0, rows, 6):
                text = cells[first][row]
                cells[first][row] = str(rng.choice([f"~{text}", f"{text}?"]))
        if self.holes:
            for row in rng.integers(0, rows, 10):
                cells[first + 1][row] = str(rng.choice(["", "N/A", "-", "n/a"]))
        if self.broken_name:
            names[first] = names[first].replace(" ", "\n", 1)

    def _preamble(self) -> list[str]:
        if not self.preamble:
            return []
        return [str(self.rng.choice(["Log of an evening", "recorder 2.1", "measured by hand"])), ""][
            : self.rng.integers(1, 3)
        ]

    def _groups(self, first, columns, names, width) -> list[str]:
        """Parts above, quantities below: the names of the second row then repeat."""
        groups, last = [""] * width, None
        for i, column in enumerate(columns, first):
            part, quantity = column.name, ""
            if column.part in PARTS[self.language] and not column.dead:
                part = PARTS[self.language][column.part][0]
                word = {"voltage": "Voltage"}.get(column.kind) or QUANTITIES[self.language][column.kind][0]
                quantity = word
                names[i] = self._header_cell(column, quantity)
            if self.delimiter == "blanks" or part != last:
                groups[i] = part if quantity else "-" if self.delimiter == "blanks" else ""
            last = part if quantity else None
            if not quantity and self.delimiter != "blanks":
                groups[i] = "Other"
                last = "Other"
        if self.delimiter == "blanks":
            groups = [g or "-" for g in groups]
        return groups

    def _tail(self, columns, first, width, widths) -> list[str]:
        lines = []
        if self.summary and self.delimiter != "blanks":
            for word, of in zip(SUMMARIES[self.language], (np.min, np.max, np.mean), strict=True):
                cells = [word, *([""] * (first - 1)), *(self._written(c, float(of(c.values))) for c in columns)]
                lines.append(self._line((cells + [""] * width)[:width], widths))
        if self.footer:
            lines += ["", str(self.rng.choice(["end of log", "Samples: 512", "-- stopped --"]))]
        return lines

    def _line(self, cells, widths) -> str:
        if self.delimiter == "blanks":
            return "".join(cell.ljust(w) for cell, w in zip(cells, widths, strict=False)).rstrip()
        d = self.delimiter
        return d.join(f'"{c}"' if self.quote_all or d in c or "\n" in c else c for c in cells)

    def _written(self, column: MadeColumn, value: float) -> str:
        figure = value * column.factor + column.offset
        text = f"{figure:,.{column.digits}f}"
        whole, _, rest = text.partition(".")
        thousands = self.thousands if column.kind in ("speed", "clock") or column.factor == 1000 else ""
        if self.delimiter == "blanks" and thousands == " ":
            thousands = ""
        whole = whole.replace(",", thousands)
        text = whole + (self.decimal + rest if rest else "")
        if self.stands == "cell":
            return (
                f"{text} {column.spelled}" if self.delimiter != "blanks" else f"{text}{column.spelled.replace(' ', '')}"
            )
        return text

    def _clock_columns(self, time_s):
        rng, form = self.rng, self.clock
        name = str(rng.choice(CLOCK_NAMES[self.language]))
        start = datetime(2026, int(rng.integers(1, 13)), int(rng.integers(13, 28)), int(rng.integers(0, 24)), 41, 7)
        stamps = [start + timedelta(seconds=float(t)) for t in time_s]
        if form == "none":
            return [], []
        if form == "numbered":
            return ["No", name], [
                [str(i) for i in range(len(stamps))],
                [s.strftime("%Y-%m-%d %H:%M:%S.%f")[:-5] for s in stamps],
            ]
        if form == "date and hour":
            names = {
                "en": ("Date", "Time"),
                "de": ("Datum", "Uhrzeit"),
                "fr": ("Date", "Heure"),
                "es": ("Fecha", "Hora"),
                "pl": ("Data", "Godzina"),
            }
            day = "%d.%m.%Y" if self.language in ("de", "pl") else "%Y-%m-%d"
            return list(names[self.language]), [
                [s.strftime(day) for s in stamps],
                [s.strftime("%H:%M:%S.%f")[:-5] for s in stamps],
            ]
        if form == "month name":
            months = MONTHS[self.language]
            return [name], [
                [f"{s.day} {months[s.month - 1]} {s.year} {s:%H:%M:%S}.{s.microsecond // 100000}" for s in stamps]
            ]
        forms = {
            "iso": lambda s: s.isoformat(timespec="milliseconds"),
            "day first": lambda s: s.strftime("%d.%m.%Y %H:%M:%S.%f")[:-5],
            "month first am pm": lambda s: s.strftime("%m/%d/%Y %I:%M:%S %p"),
            "two-figure year": lambda s: s.strftime("%d.%m.%y %H:%M:%S.%f")[:-5],
            "comma ms": lambda s: s.strftime("%Y-%m-%d %H:%M:%S,%f")[:-3],
            "no seconds": lambda s: s.strftime("%d.%m.%Y %H:%M"),
            "hour": lambda s: s.strftime("%H:%M:%S.%f")[:-5],
            "hour am pm": lambda s: s.strftime("%I:%M:%S %p"),
            "hour no seconds": lambda s: s.strftime("%H:%M"),
        }
        if form in forms:
            return [name], [[forms[form](s) for s in stamps]]
        spelled = {
            "seconds": ("s", 1.0, 1),
            "minutes": ("min", 60.0, 4),
            "hours": ("h", 3600.0, 6),
            "ms": ("ms", 1e-3, 0),
        }
        if form in spelled:
            unit, scale, digits = spelled[form]
            name = {"row": name}.get(self.stands or "", f"{name} [{unit}]")
            return [name], [[f"{t / scale:.{digits}f}".replace(".", self.decimal) for t in time_s]]
        epoch = start.timestamp()
        if form == "epoch":
            return [name], [[f"{epoch + t:.1f}".replace(".", self.decimal) for t in time_s]]
        return [name], [[f"{1000 * (epoch + t):.0f}" for t in time_s]]

    def _encoded(self, text: str) -> bytes:
        if self.encoding != "legacy":
            return text.encode(self.encoding)
        code = "cp1250" if self.language == "pl" else "cp1252"
        return text.encode(code, errors="replace")
