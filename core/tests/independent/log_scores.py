"""How much of a made log was read rightly: points by subject, each an own count of hits and of chances."""

from collections import Counter
from dataclasses import dataclass, field

import numpy as np
from independent.any_logs import MadeLog

from krill.errors import ClockUnknown
from krill.logs.channels import Channel, channels_of
from krill.logs.log import Log, read_log
from krill.runs.analysis import analyse, roles_of, signals_of
from krill.runs.windows import load_windows

#: address of a part in the machine of two chips, by its beginning
ADDRESSES = {"coolant": "loop-a", "room": "room", "box": "box", "wall": "wall"}
SUBJECTS = (
    "length", "rows", "lines", "columns", "units", "kinds", "parts", "parts of the build", "dead", "no false room", "windows",
    "no false window",
)  # fmt: skip


@dataclass
class Score:
    """Hits and chances by subject; ``held`` and ``false settled`` count temperatures of windows that were found."""

    hits: Counter = field(default_factory=Counter)
    of: Counter = field(default_factory=Counter)
    wrong: list[str] = field(default_factory=list)

    def say(self, subject: str, right: bool, what: str = "") -> None:
        self.hits[subject] += bool(right)
        self.of[subject] += 1
        if not right:
            self.wrong.append(f"{subject}: {what}")

    def share(self, subject: str) -> float:
        return self.hits[subject] / self.of[subject] if self.of[subject] else 1.0

    @property
    def points(self) -> float:
        """Mean share over the subjects that there was a chance for; what a log is worth."""
        return float(np.mean([self.share(subject) for subject in SUBJECTS if self.of[subject]]))

    def add(self, other: "Score") -> None:
        self.hits += other.hits
        self.of += other.of
        self.wrong += other.wrong


def score(made: MadeLog, build, settling: bool = False) -> Score:
    """One log read, with and without its build."""
    found = Score()
    try:
        log = read_log(made.data)
        found.say("length", made.clock_told, "a clock was made up")
    except ClockUnknown:
        found.say("length", not made.clock_told, f"clock not found: {made.traits['clock']}")
        log = read_log(made.data, made.interval_s)
    length = float(log.time_s[-1])
    found.say(
        "length",
        abs(length - made.length_s) <= max(0.01 * made.length_s, 1.0),
        f"{length:.0f} for {made.length_s:.0f} s",
    )
    found.say("rows", len(log.time_s) == made.rows, f"{len(log.time_s)} for {made.rows}")
    report = log.report
    summed = report.kept + report.repaired + report.skipped + report.header
    found.say("lines", report.lines == summed == made.lines and report.kept + report.repaired == made.rows, f"{report}")
    _columns(found, made, log, build)
    _windows(found, made, log, build, settling)
    return found


def _columns(found: Score, made: MadeLog, log: Log, build) -> None:
    channels = [c for c in channels_of(log) if c.quantity not in ("row number", "state", "limit state")]
    right = len(channels) == len(made.columns)
    found.say("columns", right, f"{[c.name for c in channels]} for {[c.name for c in made.columns]}")
    if not right:
        return
    suggested = {s.channel: s for s in roles_of(log, build)}
    for channel, true in zip(channels, made.columns, strict=True):
        what = f"{channel} of {true.name} {true.spelled} {true.part}"
        true.read_as = channel.name
        if true.dead:
            found.say("dead", channel.dead, what)
            continue
        found.say("units", channel.unit == true.unit and _same(log, channel, true), what)
        found.say("kinds", channel.quantity == true.kind, what)
        if true.part:
            found.say("parts", channel.part == {"core": "processor"}.get(true.part, true.part), what)
            role = suggested[channel.name].role
            address = role.split("/")[0]
            own = ADDRESSES.get(true.part, {"core": "processor"}.get(true.part, true.part))
            right = address.startswith(own) or (true.part == "core" and role == "ignore")
            found.say("parts of the build", right, f"{role} for {what}")
        if true.part != "room":
            found.say("no false room", channel.part != "room" and suggested[channel.name].role != "room/air", what)


def _same(log: Log, channel: Channel, true) -> bool:
    """Whether the figures are the ones that were written, in the unit that they are kept in."""
    values = log.column(channel.name)[true.from_row :]
    if len(values) != len(true.values) - true.from_row:
        return False
    known = np.isfinite(values)
    return bool(
        known.mean() > 0.8
        and np.allclose(
            values[known],
            true.values[true.from_row :][known],
            rtol=1e-6,
            atol=0.501 * 10.0**-true.digits / true.factor + 1e-9,
        )
    )


def _windows(found: Score, made: MadeLog, log: Log, build, settling: bool) -> None:
    for of_build in (None, build):
        roles = [s.role for s in roles_of(log, of_build)]
        windows = load_windows(log.time_s, signals_of(log, roles))
        for start, end in made.loads:
            slack = max(30.0, 0.02 * (end - start), made.interval_s)
            near = [
                w
                for w in windows
                if abs(w.start_s - start) <= slack and abs(w.end_s - min(end, log.time_s[-1])) <= slack
            ]
            text = f"{[(round(w.start_s), round(w.end_s), w.by) for w in windows]} for {start:.0f} to {end:.0f}"
            found.say("windows", bool(near), text)
        found.say("no false window", len(windows) <= len(made.loads), f"{len(windows)} for {len(made.loads)}")
        if of_build is None and settling and len(windows) == len(made.loads):
            for index, window in enumerate(windows):
                _settled(found, made, analyse(log, roles, (window.first, window.last)), index)


def _settled(found: Score, made: MadeLog, load, index: int) -> None:
    """Intervals hold the true settled value; "settled" is false where that is more than 1 K from what was told."""
    told = {c.name: c.settled for c in load.channels if c.settled is not None}
    for true in (c for c in made.columns if c.settled and c.read_as in told):
        channel, value = told[true.read_as], true.settled[index]
        what = f"{channel.value:.2f}, {channel.low:.2f} to {channel.high:.2f} for {value:.2f}: {true.part}"
        found.say("held", channel.low <= value <= channel.high, what)
        if channel.settled:
            found.say("truly settled", abs(channel.value - value) <= 1.0, what)
