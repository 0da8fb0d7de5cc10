"""Limits of a log, both sides of each, and files that are small on the way in and large inside: refused before the work."""

import gzip
import tracemalloc

import pytest

from krill.errors import LogRefused
from krill.logs import limits
from krill.logs.log import read_log

ROWS = 60


def table(columns, rows=ROWS, cell="5"):
    header = ",".join(["Time [s]", *(f"c{i} [W]" for i in range(columns - 1))])
    return "\n".join([header, *(f"{row}," + ",".join([cell] * (columns - 1)) for row in range(rows))]).encode()


def objects(columns, rows=ROWS):
    cells = ", ".join(f'"c{i} [W]": 5' for i in range(columns - 1))
    return "\n".join(f'{{"Time [s]": {row}, {cells}}}' for row in range(rows)).encode()


@pytest.mark.parametrize("written", [table, objects])
def test_512_columns_are_read_and_513_are_refused(written):
    assert len(read_log(written(512)).names) == 511
    with pytest.raises(LogRefused, match="the log has 513 columns; up to 512 are read"):
        read_log(written(513))


@pytest.mark.parametrize("written", [table, objects])
def test_cells_are_counted_before_they_are_made(written, monkeypatch):
    monkeypatch.setattr(limits, "MAX_CELLS", ROWS * 4)
    assert read_log(written(4)).values.shape == (ROWS, 3)
    with pytest.raises(LogRefused, match="61 rows of 4 columns, 244 cells; up to 240 are read"):
        read_log(written(4, ROWS + 1))


@pytest.mark.parametrize("end", ["\n", "\r\n", "\r"])
def test_lines_are_counted_before_they_are_parted(end, monkeypatch):
    monkeypatch.setattr(limits, "MAX_LINES", ROWS)
    assert len(read_log(table(3).replace(b"\n", end.encode())).time_s) == ROWS
    with pytest.raises(LogRefused, match=f"the file has {ROWS + 1} lines; up to {ROWS} are read"):
        read_log(table(3, ROWS + 1).replace(b"\n", end.encode()))


def test_what_it_unpacks_to_is_bounded(monkeypatch):
    monkeypatch.setattr(limits, "MAX_UNPACKED", len(table(3)))
    assert len(read_log(gzip.compress(table(3))).time_s) == ROWS
    with pytest.raises(LogRefused, match="unpacks to more than"):
        read_log(gzip.compress(table(3) + b"\n"))


@pytest.mark.parametrize(("signs", "skipped"), [(limits.MAX_CELL, 0), (limits.MAX_CELL + 1, 1)])
def test_a_line_with_a_longer_cell_is_skipped(signs, skipped):
    lines = table(3).split(b"\n")
    lines[30] = b"29," + b"x" * signs + b",5"
    report = read_log(b"\n".join(lines)).report
    assert report.skipped == skipped
    assert any("a cell of more than 4096 signs" in reason for reason in report.reasons) is bool(skipped)
    assert report.kept + report.repaired + report.skipped + report.header == report.lines


def test_a_longer_line_is_skipped():
    lines = table(3).split(b"\n")
    lines[30] = b"29, " + b"x " * (limits.MAX_LINE // 2)
    report = read_log(b"\n".join(lines)).report
    assert report.skipped == 1
    assert report.lines == ROWS + 1


BOMBS = {
    "300 000 names": (
        lambda: (",".join(f"n{i}" for i in range(300_000)) + "\n1,2,3" * 2000).encode(),
        "300 000 columns",
    ),
    "100 000 columns": (lambda: b"\n".join([b",".join([b"1"] * 100_000)] * 3), "100 000 columns"),
    "390 MB in gzip": (lambda: gzip.compress(b"t,a,b\n" + b"0,1,2\n" * 65_000_000, 1), "more than 200 MB"),
    "blank lines in gzip": (lambda: gzip.compress(b"\n" * 20_000_000, 1), "20 000 000 lines"),
    "8 000 keys": (lambda: b"\n".join(b'{"k%d": 1, "l%d": 2}' % (i, i) for i in range(4000)), "514 columns"),
    "commas": (lambda: b"," * 5_000_000, "5 000 001 columns"),
    "one cell": (lambda: b"a" * 5_000_000, "a cell of more than 4096 signs"),
}


@pytest.mark.parametrize("name", BOMBS)
def test_a_bomb_is_refused_with_its_limit_and_costs_little(name):
    made, said = BOMBS[name]
    data = made()
    tracemalloc.start()
    try:
        with pytest.raises(LogRefused, match=said):
            read_log(data)
        assert tracemalloc.get_traced_memory()[1] < 450 * limits.MB
    finally:
        tracemalloc.stop()


class TestBlocks:
    """A long log is read in blocks; where they begin and end shows nowhere."""

    @pytest.fixture(autouse=True)
    def _small(self, monkeypatch):
        monkeypatch.setattr("krill.logs.rows.BLOCK", 7)
        monkeypatch.setattr("krill.logs.log.BLOCK", 7)

    @staticmethod
    def odd():
        """Rows with a second header, gaps, a short and a long line, a repeated header, a summary at both ends."""
        lines = table(3).decode().split("\n")
        lines[1:1] = ["min,1,2", "max,9,9"]
        lines[10] = "7,5"
        lines[20] = "17,5,5,5"
        lines[25] = ""
        lines[30] = lines[0]
        lines[40] = lines[0] + ",c2 [W]"
        lines[41:] = [f"{line},8" for line in lines[41:]]
        return "\n".join([*lines, "average,5,5,8"]).encode()

    @pytest.mark.parametrize("data", [table(3), table(3, 3), objects(4), b'{"a [W]": 1}\n' + objects(3)])
    def test_plain_rows(self, data, monkeypatch):
        self.same(data, monkeypatch)

    def test_rows_that_are_mended_and_skipped(self, monkeypatch):
        found = self.same(self.odd(), monkeypatch)
        assert found.report.skipped == 5
        assert found.names == ["c0", "c1", "c2"]
        assert found.values.shape == (57, 3)  # three of sixty were written over

    @staticmethod
    def same(data, monkeypatch):
        told = read_log(data)
        monkeypatch.setattr("krill.logs.rows.BLOCK", 50_000)
        monkeypatch.setattr("krill.logs.log.BLOCK", 50_000)
        whole = read_log(data)
        assert told.names == whole.names
        assert told.report == whole.report
        assert told.values.tobytes() == whole.values.tobytes()
        assert told.time_s.tobytes() == whole.time_s.tobytes()
        assert told.report.kept + told.report.repaired + told.report.skipped + told.report.header == told.report.lines
        return told
