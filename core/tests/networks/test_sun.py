"""Sun on outside bodies: heat like any other, of which no supply knows."""

import numpy as np
import pytest

from krill.document.reading import read_object, write_object
from krill.in_time.run import Asked, run_in_time
from krill.prediction.answer.shared import watts_put_in
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of
from krill.recipes.fanless_housing import fanless_housing

SUN = 400.0


def housing(sun=None):
    raw = write_object(fanless_housing(35, 5, 5, 24))
    for one in raw["parts"]:
        if sun is not None and one["kind"] in ("panel", "sink"):
            one["sun_w_m2"] = sun
    return read_object(raw)


def solved_of(build, workload="full"):
    return solve_cases(build, cases_of(build, [workload], 24.0))


def bodies(build):
    return [part for part in build.parts if part.kind in ("panel", "sink")]


def plain(figure):
    return float(getattr(figure, "value", figure))


def test_what_the_sun_gives_is_area_times_what_is_taken_up_and_leaves_by_the_outside():
    build = housing(SUN)
    solved, dark = solved_of(build), solved_of(housing())
    wanted = sum(
        SUN * plain(p.width_mm) * plain(p.height_mm if p.kind == "panel" else p.length_mm) / 1e6 for p in bodies(build)
    )
    given = solved.network.pattern.given
    inside = np.setdiff1d(np.arange(solved.structure.nodes), given)
    in_sun, in_shade = (float(one.solution.power[0, inside].sum()) for one in (solved, dark))
    assert in_sun - in_shade == pytest.approx(wanted)
    # no supply, no wall meter knows of it
    assert watts_put_in(solved)[0] == pytest.approx(watts_put_in(dark)[0])
    assert np.abs(solved.solution.balance_w).max() < 1e-3 * wanted


def test_every_part_is_warmer_in_the_sun_and_more_so_the_more_of_it():
    found = [solved_of(housing(sun)) for sun in (None, 200.0, 400.0)]
    for place in found[0].build.place_owners():
        node = found[0].structure.node_of[place]
        shade, half, full = (one.solution.temperature[0, node] for one in found)
        assert shade + 1.0 < half
        assert half + 1.0 < full


def test_a_machine_that_is_off_stands_above_its_room_in_the_sun():
    build = housing(SUN)
    ran = run_in_time(build, Asked("full", 60 * 10, before="cold", room_c=24.0))
    cold = ran.before.solution.temperature[0]
    walls = [ran.network.structure.body_nodes[part.id] for part in bodies(build)]
    assert (cold[walls] > 26.0).all()


def test_a_body_that_turns_to_no_outside_sees_no_sun():
    build = housing()
    raw = write_object(build)
    panel = next(p for p in raw["parts"] if p["kind"] == "panel")
    panel["sun_w_m2"] = SUN
    assert panel["id"] in solved_of(read_object(raw)).network.states.sun_watts()
    panel["outside"] = "box"
    found = solved_of(read_object(raw))
    assert found.network.states.sun_watts() == {}
