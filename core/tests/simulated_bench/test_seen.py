"""What of a fault would be seen: on builds of several sizes, against a machine that is solved anew."""

import numpy as np
import pytest
from strategies import changed_recipe, recipe
from watching.benches import heron

from krill.document.reading import read_object
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of
from krill.recipes.fanless_housing import fanless_housing
from krill.simulated_bench.faults import Fault, faults_of
from krill.simulated_bench.machines import CLOGGING, LivePlan, _Machines
from krill.simulated_bench.seen import APART_K, FREE, SEEN_K, clogged_to, far_apart


def clogged(build, filter_id, free):
    """The build with so much of a filter's area left, as a document of its own."""
    raw = build.model_dump(mode="json", by_alias=True)
    part = next(part for part in raw["parts"] if part["id"] == filter_id)
    area = part["area_cm2"]
    part["area_cm2"] = area["value"] * free if isinstance(area, dict) else area * free
    return read_object(raw)


def warmest(build, workload):
    """Coolant and box air, °C, of one document."""
    solved = solve_cases(build, cases_of(build, [workload], None))
    nodes = [solved.structure.zone_nodes[zone.id] for zone in build.zones if zone.kind == "box"]
    nodes += [node for loop in build.loops for node in solved.structure.coolant.nodes_of(loop.id)]
    return solved.solution.temperature[0, nodes]


def wide(build, area=4000.0):
    """The build with a filter so wide that a little dust does nothing."""
    raw = build.model_dump(mode="json", by_alias=True)
    next(part for part in raw["parts"] if part["id"] == "filter-bottom")["area_cm2"] = area
    return read_object(raw)


class TestClogs:
    @pytest.mark.parametrize("area", [None, 1500.0, 4000.0])
    def test_it_clogs_until_two_kelvins_are_seen_and_no_further(self, area):
        build = heron() if area is None else wide(heron(), area)
        free = clogged_to(build, "both", "filter-bottom")
        clean = warmest(build, "both")
        rises = {
            share: float((warmest(clogged(build, "filter-bottom", share), "both") - clean).max()) for share in FREE
        }
        assert rises[free] >= SEEN_K
        assert all(rise < SEEN_K for share, rise in rises.items() if share > free)

    def test_a_wider_filter_has_to_clog_further(self):
        ends = [clogged_to(wide(heron(), area), "both", "filter-bottom") for area in (150.0, 1500.0, 4000.0)]
        assert ends == sorted(ends, reverse=True)
        assert ends[0] > ends[-1]

    def test_one_that_nobody_would_see_is_not_offered(self):
        build = wide(heron(), 1e6)
        assert clogged_to(build, "both", "filter-bottom") is None
        assert "filter-bottom" not in faults_of(build, "both").get("filter-clogs", [])
        assert faults_of(heron(), "both")["filter-clogs"][0] == "filter-bottom"

    @pytest.mark.parametrize(("area", "last"), [(None, 0.32), (1e6, FREE[-1])])
    def test_the_bench_clogs_it_step_by_step_as_far_as_that(self, area, last):
        build = heron() if area is None else wide(heron(), area)
        plan = LivePlan("both", 24.0, faults=(Fault("filter-clogs", 5.0, "filter-bottom"),))
        assert _Machines(build, plan, 1, 1)._clogs == (*CLOGGING, last)


class TestApart:
    def test_pairs_are_as_far_apart_as_is_forecast_the_farthest_first(self):
        pairs = far_apart(heron(), "both")
        solved = solve_cases(heron(), cases_of(heron(), ["both"], None))
        gaps = [
            abs(np.subtract(*(solved.solution.temperature[0, solved.structure.node_of[place]] for place in pair)))
            for pair in pairs
        ]
        assert gaps == sorted(gaps, reverse=True)
        assert min(gaps) >= APART_K
        assert faults_of(heron(), "both")["sensors-swapped"] == [",".join(f"{place}/temperature" for place in pairs[0])]

    def test_sensors_that_read_alike_are_not_offered(self):
        def cold(raw):
            for load in raw["workloads"]:
                load["watts"] = {source: 0.1 for source in load["watts"]}
                load.pop("burst", None)

        assert far_apart(changed_recipe(cold), "both") == []
        assert "sensors-swapped" not in faults_of(changed_recipe(cold), "both")
        assert far_apart(recipe(), "both")

    def test_one_source_has_nobody_to_change_places_with(self):
        build = fanless_housing(35, 5, 10, 24)
        sources = [part for part in build.parts if part.kind == "source"]
        assert len(far_apart(build, build.workloads[-1].id)) <= len(sources) * (len(sources) - 1) / 2
