"""Rows of the accuracy page in time: P1 (both powers), P2, P3 without cooling, P14; nothing of them is tuned."""

from typing import Any

import numpy as np
from accuracy_fanless import lying_sink, mean_core, still_case
from accuracy_rows import Inside, Json, Row, yes_no

from krill.document.reading import read_object
from krill.in_time.crossing import first_at_least
from krill.in_time.forecast import forecast_in_time
from krill.in_time.result import InTime, TimeCurve
from krill.in_time.run import Asked

SAMPLES = 200


def in_time(raw: Json, workload: str, minutes: float, before: str) -> InTime:
    return forecast_in_time(read_object(raw), Asked(workload, minutes, before, samples=SAMPLES))


def curve(told: InTime, address: str) -> TimeCurve:
    return next(one for one in told.curves if one.address == address)


def when(told: InTime, address: str, level_c: float) -> tuple[float | None, str]:
    """(minutes to a level, in words with the ends of its band): the warm end meets it first."""
    found = curve(told, address)
    loaded = np.array(told.minutes) >= 0
    ways = [np.array(values or [])[loaded] for values in (found.c, found.high_c, found.low_c)]
    met = first_at_least(np.array(told.minutes)[loaded], np.stack(ways, axis=1), level_c)
    centre, first, last = (None if np.isnan(minutes) else float(minutes) for minutes in met)
    end = told.minutes[-1]
    words = [f"not in {end:.0f}" if minutes is None else f"{minutes:.0f}" for minutes in (centre, first, last)]
    return centre, f"{words[0]} ({words[1]} to {words[2]}) min"


def p1_in_time() -> list[Row]:
    """Lying extrusion on six pipes, raw, flanks covered: both powers, from idle and from the settled lower power."""
    why = "a home-made clamp may cost 0.2 K/W more, the start may have been warm, the pitch is a class figure"
    raw = lying_sink("raw", "covered")
    half_hour = in_time(mean_core(raw), "w45", 30, "w12")
    found = curve(half_hour, "chip-place")
    at_30, low, high = found.c[-1], (found.low_c or [0.0])[-1], (found.high_c or [0.0])[-1]
    inside = "yes" if 82 <= at_30 <= 102 else "bands only" if low <= 102 and high >= 82 else "no"
    rows = [
        Row(
            "P1",
            "45 W for 30 min from 12 W, mean core; raw, flanks covered",
            f"{at_30:.0f} ({low:.0f} to {high:.0f}) °C",
            "92 ± 10 °C after 30 min",
            Inside(inside),
            why,
        )
    ]
    for before, words in (("w12", "from 12 W"), ("w45", "from 45 W settled")):
        centre, text = when(in_time(raw, "w60", 120, before), "chip-place", 100.0 - 0.05)
        rows.append(
            Row(
                "P1",
                f"60 W {words}, raw, flanks covered: time to 100 °C",
                text,
                "under 10 min",
                yes_no(centre is not None and centre < 10),
                why,
            )
        )
    return rows


def throttling(raw: Json, limit_c: float) -> Json:
    chip = raw["parts"][0]["places"][0]
    chip["limits"], chip["throttles"] = [{"kind": "throttle", "at_c": limit_c}], True
    return raw


def p2_in_time() -> list[Row]:
    """Single-board computer without a fan from a light game to full load: when its limit of 80 °C is met."""
    raw = throttling(still_case({"light": (2.6, 4.0), "full": (5.0, 6.5)}), 80.0)
    told = in_time(raw, "full", 120, "light")
    centre, text = when(told, "chip-place", 80.0 - 0.05)
    return [
        Row(
            "P2",
            "no fan, full load after a light game: time to 80 °C",
            text,
            "80 °C and throttling",
            yes_no(centre is not None),
            "W/K of the box and the board's own path are class guesses",
        )
    ]


def p3_in_time() -> list[Row]:
    """The same board with its old limit of 60 °C: for how much of two hours it is held back."""
    told = in_time(throttling(still_case({"idle": (0.8, 2.0), "full": (5.0, 6.5)}), 60.0), "full", 120, "idle")
    share = told.held_back[0].share_of_time if told.held_back else 0.0
    return [
        Row(
            "P3",
            "no cooling, limit 60 °C: share of two hours that it is held back",
            f"{100 * share:.0f} %",
            "60 °C and throttled most of the time",
            yes_no(share > 0.5),
            "",
        )
    ]


def p14_in_time(raw: Any) -> list[Row]:
    """Card of 150 W in a closed flat box from idle: when 83 °C is met."""
    told = in_time(raw, "both", 90, "idle")
    centre, text = when(told, "graphics-chip", 83.0 - 0.05)
    return [
        Row(
            "P14",
            "the same box from idle: time until the graphics chip is at 83 °C",
            text,
            "83 °C and throttling, in a test of 60 to 90 min",
            yes_no(centre is not None),
            "the rim between card and cut-out decides what it draws in again: 10 mm ± 40 % is assumed",
        )
    ]
