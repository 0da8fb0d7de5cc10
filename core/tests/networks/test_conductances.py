"""Rooms of the conductances: each model's W/K against the component it stands for, and against what flows may change."""

import numpy as np
import pytest
from machines import box, fan, machine, opening, path, source
from strategies import raw_recipe, recipe

from krill.components import coolant_parts, solid_parts
from krill.components.figure_table import FigureTable, Values
from krill.components.radiator import core_of, inlet_conductance, with_coolant
from krill.components.radiator_table import AIR_HEAT_CAPACITY, REFERENCE_AIR, section_face
from krill.document.reading import read_object
from krill.networks.layers import DIRECT_AIR_K_W, face_before
from krill.networks.pattern import RESIDUAL_CONDUCTANCE
from krill.networks.structure import structure_of
from krill.networks.zone_air import ZoneAir
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of


@pytest.fixture(scope="module")
def solved():
    build = recipe()
    return solve_cases(build, cases_of(build, ["both"], None), samples=3)


def column(solved, kind, place):
    """W/K (batch,) of a layer of a place's route, as solved."""
    index = next(
        i
        for i, (route, layer) in enumerate(solved.network.pattern.layers)
        if layer.kind == kind and route.place.id == place
    )
    return solved.solution.conductance.layers[:, index]


def route_of(solved, place):
    return next(route for route in solved.structure.all_routes if route.place.id == place)


class TestLayers:
    def test_what_no_flow_changes_is_its_component(self, solved):
        values, place = solved.network.values, route_of(solved, "processor-core").place
        assert column(solved, "chip", place.id) == pytest.approx(
            np.broadcast_to(1.0 / solid_parts.chip_resistance(place, values), 4)
        )
        cores = solved.network.states.cores
        assert column(solved, "hot_core", place.id) == pytest.approx(
            np.broadcast_to(1.0 / solid_parts.hot_core_resistance(place, values, cores), 4)
        )

    def test_an_interface_lies_on_the_face_beneath_it(self, solved):
        values, route = solved.network.values, route_of(solved, "processor-core")
        layer = next(layer for layer in route.layers if layer.kind == "interface")
        face = face_before(route, layer, values)
        part = solved.build.part(layer.hop.part)
        assert column(solved, "interface", "processor-core") == pytest.approx(
            np.broadcast_to(1.0 / solid_parts.interface_resistance(part, values, face), 4)
        )

    def test_a_lid_spreads_by_what_lies_above_it(self, solved):
        """Paste and plate in series are what the lid sees; with more above it, the lid itself conducts no worse."""
        values, route = solved.network.values, route_of(solved, "processor-core")
        plate = next(i for i, hop in enumerate(solved.network.pattern.plates) if hop.route is route)
        above = 1.0 / solved.solution.conductance.plates[:, plate] + 1.0 / column(solved, "interface", "processor-core")
        lid = 1.0 / solid_parts.lid_resistance(route.place, values, above)
        assert column(solved, "lid", "processor-core") == pytest.approx(lid, rel=1e-12)

    def test_a_route_straight_to_air_has_what_it_states(self):
        build = read_object(
            machine([], [box("in", 2.0)], [], sources=[source("part", "in")], watts={"part": 10}, movers={})
        )
        found = solve_cases(build, cases_of(build, ["full"], None))
        assert column(found, "air", "part-place")[0] == pytest.approx(1.0 / 0.5)
        assert pytest.approx(20.0) == 1.0 / DIRECT_AIR_K_W

    def test_a_package_in_moving_air_follows_it_only_where_nobody_stated_it(self):
        raw = raw_recipe()
        still = solve_cases(read_object(raw), cases_of(read_object(raw), ["both"], None))
        place = next(place for part in raw["parts"] for place in part.get("places", []) if place["id"] == "drive-place")
        place["package_k_w"] = 10
        build = read_object(raw)
        stated = solve_cases(build, cases_of(build, ["both"], None))
        assert column(stated, "package", "drive-place")[0] == pytest.approx(0.1)
        assert column(still, "package", "drive-place")[0] > 0.1  # air moves past it


class TestPlates:
    def test_the_law_runs_through_the_figures_at_1_and_4_litres(self):
        values = Values(FigureTable(recipe()), 1, {})
        part = recipe().part("plate-processor")
        at_1, exponent = coolant_parts.plate_law(part, values)
        litre = 1e-3 / 60
        R = coolant_parts.plate_resistance(at_1, exponent, np.array([litre, 4 * litre]))
        assert R[0] == pytest.approx(float(values("plate-processor/resistance_1_k_w")))
        assert R[1] == pytest.approx(
            min(
                float(values("plate-processor/resistance_4_k_w", R[0] * 0.75)),
                float(values("plate-processor/resistance_1_k_w")),
            )
        )

    def test_a_plate_at_rest_still_carries_something(self):
        R = coolant_parts.plate_resistance(np.array(0.06), np.array(-0.2), np.array([0.0, -1e-9]))
        assert np.isfinite(R).all()
        assert R[0] == pytest.approx(0.06 * 0.01**-0.2)

    def test_flow_turned_round_cools_alike(self):
        forward, backward = (
            coolant_parts.plate_resistance(np.array(0.06), np.array(-0.2), np.array(sign * 3e-5)) for sign in (1, -1)
        )
        assert forward == backward


class TestRadiators:
    def test_each_is_its_core_at_the_flows_on_both_sides(self, solved):
        solution, pattern = solved.solution, solved.network.pattern
        for index, link in enumerate(pattern.radiators):
            part = link.part
            velocity = np.abs(solution.air.mass_flow[:, link.air_edge]) / REFERENCE_AIR
            velocity = velocity / (part.sections * section_face(float(part.section_mm)))
            [liquid] = solved.coolants.values()
            flow = np.abs(solution.coolant.mass_flow[:, link.coolant_edge]) / liquid.density
            UA = part.sections * with_coolant(part, core_of(part).conductance_at(velocity), flow, liquid)
            water = np.maximum(np.abs(solution.streams[0][:, link.coolant_edge]), RESIDUAL_CONDUCTANCE["coolant"])
            air = np.abs(solution.air.mass_flow[:, link.air_edge]) * AIR_HEAT_CAPACITY
            factor = np.broadcast_to(solved.network.values(f"{part.id}/factor", 1.0), (4,))
            assert solution.conductance.radiators[:, index] == pytest.approx(
                inlet_conductance(UA, factor, air, water), rel=2e-3
            )

    def test_none_carries_more_than_its_smaller_stream(self, solved):
        G = solved.solution.conductance.radiators
        for index, link in enumerate(solved.network.pattern.radiators):
            air = np.abs(solved.solution.air.mass_flow[:, link.air_edge]) * AIR_HEAT_CAPACITY
            water = np.abs(solved.solution.streams[0][:, link.coolant_edge])
            assert (G[:, index] <= np.minimum(air, water)).all()


class TestZoneAir:
    RAW = machine(
        [fan("fan"), opening("slot")],
        [box("in")],
        [path("through", "out", "in", "slot"), path("back", "in", "out", "fan")],
        movers={"fan": {"duty": 1}},
    )

    def zone_air(self, raw):
        build = read_object(raw)
        table = FigureTable(build)
        structure = structure_of(build, table)
        return structure, ZoneAir(structure, Values(table, 1, {}))

    def test_what_passes_over_its_section(self):
        structure, air = self.zone_air(self.RAW)
        volume = np.full((1, structure.air.graph.edges), 0.02)
        assert air.velocity("in", volume) == pytest.approx([0.02 / 0.02])

    def test_a_section_that_nobody_states_is_a_mean_of_the_housing_or_unknown(self):
        raw = read_object(self.RAW).model_dump(by_alias=True)
        zones = [{k: v for k, v in zone.items() if k != "cross_section_cm2"} for zone in self.RAW["zones"]]
        structure, air = self.zone_air({**self.RAW, "zones": zones})
        volume = np.full((1, structure.air.graph.edges), 0.02)
        assert air.velocity("in", volume) is None
        assert raw["housing"]["inner_size_mm"] is None
        structure, air = self.zone_air({**self.RAW, "zones": zones, "housing": {"inner_size_mm": [200, 200, 200]}})
        assert air.velocity("in", volume) == pytest.approx([0.02 / 0.04])

    def test_a_box_that_states_its_section_takes_nothing_from_one_that_does_not(self):
        """Else a pocket beside a card would make the air of the whole box count as faster."""
        unstated = [{k: v for k, v in zone.items() if k != "cross_section_cm2"} for zone in self.RAW["zones"]]
        housing = {"inner_size_mm": [200, 200, 200]}

        def speed(*more):
            structure, air = self.zone_air({**self.RAW, "zones": [*unstated, *more], "housing": housing})
            return float(air.velocity("in", np.full((1, structure.air.graph.edges), 0.02))[0])

        assert speed(box("pocket")) == pytest.approx(speed()) == pytest.approx(0.02 / 0.04)
        shared = {k: v for k, v in box("pocket").items() if k != "cross_section_cm2"}
        assert speed(shared) == pytest.approx(0.02 / 0.004 ** (2 / 3))

    def test_a_zone_that_is_no_box_has_no_velocity(self):
        structure, air = self.zone_air(self.RAW)
        assert air.velocity("out", np.zeros((1, structure.air.graph.edges))) is None


def test_every_sample_has_conductances_of_its_own(solved):
    """Row 0 is the central one; a drawn figure moves its own layer and leaves others alone."""
    build = recipe()
    draws = {"paste-processor/resistance_mm2k_w": np.array([1e-5, 2e-5])}
    found = solve_cases(build, cases_of(build, ["both"], None), samples=2, draws=draws)
    G = column(found, "interface", "processor-core")
    assert G[1] == pytest.approx(2 * G[2])
    other = column(found, "interface", "graphics-chip")
    assert other[1] == pytest.approx(other[2])
