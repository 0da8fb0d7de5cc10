"""Laws that hold for any machine: every recipe and every saved document, in its hardest workload."""

import copy
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from krill.document.build import Build
from krill.document.parts import Fan, Pump
from krill.document.reading import read_object, read_text, write_object
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict
from krill.prediction.questions.comparison import compare
from krill.prediction.questions.stopped import stopped
from krill.recipes.book import RECIPES

SAVED = Path(__file__).parents[1] / "saved_documents"
NAMES = [*RECIPES, *sorted(path.stem for path in SAVED.glob("*.json"))]


def load(name: str) -> Build:
    if name in RECIPES:
        return RECIPES[name].make(*RECIPES[name].starts, 25.0, name)
    return read_text((SAVED / f"{name}.json").read_text())


def hardest(build: Build) -> str:
    return build.brief.worst_workloads[0] if build.brief.worst_workloads else build.workloads[-1].id


@pytest.fixture(params=NAMES)
def build(request) -> Build:
    return load(request.param)


def central(build: Build, **asked: Any) -> dict[str, float]:
    places = predict(build, [hardest(build)], samples=0, **asked).workloads[0].places
    return {place.address: place.temperature_c for place in places}


def changed(build: Build, change) -> Build:
    raw = copy.deepcopy(write_object(build))
    change(raw)
    return read_object(raw)


def follows_a_curve(build: Build) -> bool:
    told = next(w for w in build.workloads if w.id == hardest(build)).movers
    return any(command.curve for command in told.values())


def test_drops_of_every_place_add_up_to_its_temperature_over_the_room(build):
    for place in predict(build, [hardest(build)], samples=0).workloads[0].places:
        assert sum(hop.drop_k for hop in place.hops) == pytest.approx(place.over_room_k, abs=1e-6)
        assert sum(hop.share for hop in place.hops) == pytest.approx(1.0, abs=1e-6)


def test_energy_and_mass_close(build):
    solved = solve_cases(build, cases_of(build, [hardest(build)], None))
    watts = solved.solution.power[0].copy()
    watts[solved.network.pattern.given] = 0.0
    assert solved.solution.balance_w.max() <= 1e-6 * watts.sum()
    for flow, found in (
        (solved.structure.coolant, solved.solution.coolant),
        (solved.structure.air, solved.solution.air),
    ):
        if flow is None or found is None:
            continue
        scale = max(np.abs(found.mass_flow).max(), 1e-9)
        assert np.abs(found.mass_flow @ flow.graph.incidence.T).max() <= 1e-8 * scale


def test_the_order_in_which_parts_stand_in_the_file_does_not_matter(build):
    def shuffle(raw):
        rng = np.random.default_rng(11)
        # of the routes of one place the first is its named way, and zones and rooms are asked for in their order
        for key in ("parts", "loops", "air_paths", "workloads"):
            if key in raw:
                raw[key] = [raw[key][i] for i in rng.permutation(len(raw[key]))]

    asked = hardest(build)
    other = changed(build, shuffle)
    after = {p.address: p.temperature_c for p in predict(other, [asked], samples=0).workloads[0].places}
    assert after == pytest.approx(central(build), abs=2e-3)


def renamed(value: Any, names: dict[str, str], key: str = "") -> Any:
    """A document with other ids: wherever one stands as a value, a key or the head of an address."""
    if isinstance(value, dict):
        keyed = key in ("movers", "watts", "prices", "burst")
        return {(_id(k, names) if keyed else k): renamed(v, names, k) for k, v in value.items()}
    if isinstance(value, list):
        return [renamed(item, names, key) for item in value]
    plain = (
        "kind",
        "class",
        "closed_faces",
        "name",
        "from",
        "fluid",
        "face",
        "format",
        "notes",
        "ref",
        "temperature_kind",
        "material",
        "finish",
    )
    return _id(value, names) if isinstance(value, str) and key not in plain else value


def _id(text: str, names: dict[str, str]) -> str:
    head, slash, rest = text.partition("/")
    return names.get(head, head) + slash + rest


def test_what_parts_are_called_does_not_matter(build):
    """Other ids for all parts, the same machine: no figure hangs on a name."""
    names = {part.id: f"x-{number}" for number, part in enumerate(build.parts)}
    other = read_object(renamed(copy.deepcopy(write_object(build)), names))
    after = {p.address: p.temperature_c for p in predict(other, [hardest(build)], samples=0).workloads[0].places}
    assert after == pytest.approx(central(build), abs=2e-3)


def test_a_warmer_room_warms_every_part_by_about_as_much(build):
    room = float(cases_of(build, [hardest(build)], None)[0].room_c)
    before, after = central(build, room_c=room), central(build, room_c=room + 4)
    for place, kelvins in before.items():
        assert -0.5 if follows_a_curve(build) else 2.5 < after[place] - kelvins < 5.0, place


def test_more_watts_warm_their_source_and_cool_nothing(build):
    if follows_a_curve(build):
        build = changed(
            build, lambda raw: [w["movers"].update({m: {"duty": 0.8} for m in w["movers"]}) for w in raw["workloads"]]
        )
    workload, before = hardest(build), central(build)
    for source in next(w for w in build.workloads if w.id == workload).watts:

        def hotter(raw, source=source):
            watts = next(w for w in raw["workloads"] if w["id"] == workload)["watts"]
            now = watts[source]["value"] if isinstance(watts[source], dict) else watts[source]
            watts[source] = 1.2 * now + 2

        after = central(changed(build, hotter))
        own = [place.id for part in build.parts if part.id == source for place in part.places]
        for place, kelvins in before.items():
            assert after[place] > kelvins + (0.02 if place in own else -0.05), (source, place)


def test_thin_air_cools_less(build):
    high = central(changed(build, lambda raw: [room.update(altitude_m=2500) for room in raw["rooms"]]))
    low = central(build)
    if not follows_a_curve(build):
        assert all(high[place] > low[place] for place in low)


def test_bands_hold_the_central_value_and_are_drawn_alike_each_time(build):
    workload = [hardest(build)]
    first, again = (predict(build, workload, samples=150, seed=3).workloads[0].places for _ in range(2))
    for one, other in zip(first, again, strict=True):
        assert one.band_c == other.band_c
        assert one.band_c.low < one.temperature_c < one.band_c.high
        if one.margin_k is not None:
            assert one.margin_band_k.low == pytest.approx(one.limit_c - one.band_c.high, abs=1e-9)


def test_a_build_beside_itself_differs_in_nothing(build):
    """Common draws cancel: the band of the difference has no width at all."""
    found = compare(build, build, hardest(build), samples=60)
    for place in found.places:
        assert place.difference_k == pytest.approx(0.0, abs=1e-9)
        assert place.band_k.high - place.band_k.low == pytest.approx(0.0, abs=1e-9)


def test_each_stopped_mover_is_that_mover_told_to_be_off(build):
    workload = hardest(build)
    movers = [part.id for part in build.parts if isinstance(part, Fan | Pump)]
    found = {case.address: case for case in stopped(build, workload).cases}
    for mover in movers[:3]:

        def off(raw, mover=mover):
            next(w for w in raw["workloads"] if w["id"] == workload).setdefault("movers", {})[mover] = {"off": True}

        alone = central(changed(build, off))
        for place in found[mover].places:
            assert place.temperature_c == pytest.approx(alone[place.address], abs=0.05), (mover, place.address)
