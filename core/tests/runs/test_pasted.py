"""Lines as people paste them."""

import pytest
from strategies import recipe

from krill.runs.pasted import read_pasted

CORE = "processor-core/temperature"


def one(line):
    found = read_pasted(line, recipe())
    assert found.refused == []
    (reading,) = found.readings
    return reading


@pytest.mark.parametrize(
    ("line", "role", "value"),
    [
        ("Processor 78 °C", CORE, 78),
        ("processor: 78", CORE, 78),
        ("graphics = 71,5 C", "graphics-chip/temperature", 71.5),
        ("Graphics memory 88", "graphics-memory/temperature", 88),
        ("drive 151 °F", "drive-place/temperature", pytest.approx(66.1111)),
        ("room 24.5", "room/air", 24.5),
        ("coolant 44 c", "loop-a/coolant_hot", 44),
        ("processor package power 131 W", "processor/power", 131),
        ("Fan A1 1100 rpm", "fan-a1/speed", 1100),
        ("Fan A1 45 %", "fan-a1/duty", 45),
        ("Loop A 120 l/h", "loop-a/flow", 2),
        ("41 dB(A)", "sound/level", 41),
        ("91 fps", "job/frames_mean", 91),
        ("41 jobs/h", "job/jobs_per_hour", 41),
        ("processor clock 4.6 GHz", "processor/clock", 4600),
        ("wall 412 W", "wall/wall_power", 412),
    ],
)
def test_what_a_line_says(line, role, value):
    reading = one(line)
    assert (reading.role, reading.value) == (role, value)
    assert (reading.kind, reading.load_on) == ("now", True)


@pytest.mark.parametrize(
    ("line", "kind"), [("processor 78 max", "highest"), ("processor mean 70", "mean"), ("peak processor 80", "highest")]
)
def test_kinds(line, kind):
    assert one(line).kind == kind


def test_minutes_hold_for_the_lines_below():
    found = read_pasted("processor 60\n20 min\nprocessor 70\ngraphics 61\n45 min processor 75\ngraphics 66", recipe())
    assert [r.minute for r in found.readings] == [60, 20, 20, 45, 45]


def test_before_the_load_and_after_it():
    idle, after = one("idle processor 34"), one("processor 60 15 s after")
    assert (idle.minute, idle.load_on, idle.is_before) == (0, False, True)
    assert (after.load_on, after.after_s, after.value) == (False, 15, 60)


@pytest.mark.parametrize(
    ("line", "why"),
    [
        ("hello", "holds no figure"),
        ("processor 999 °C", "outside -50 to 200"),
        ("wardrobe 40", "nothing of this build"),
        ("processor 40 m/s", "nothing of this build"),
    ],
)
def test_what_says_nothing_is_refused_with_its_line(line, why):
    found = read_pasted(f"processor 70\n\n{line}", recipe())
    assert len(found.readings) == 1
    assert found.refused[0].startswith("line 3: ")
    assert why in found.refused[0]
