"""A circuit board as a node: its spreading against an annular fin, its film in still and moving air, what goes into it."""

import numpy as np
import pytest
from ht import Nu_horizontal_plate_laminar_Baehr
from machines import box, fan, machine, opening, path, sure
from scipy.special import iv, kv

from krill.catalogue.classes import classes
from krill.components.flat_faces import face_film
from krill.document.reading import read_object, write_object
from krill.materials.fluids import air
from krill.networks.bodies import respread
from krill.prediction.predict import predict
from krill.prediction.questions.stopped import stopped
from krill.recipes.book import RECIPES
from krill.recipes.common import split_of_rest


def board_machine(watts, spot_mm2, *, factor=1.0, duty=None, side_mm=170.0):
    """A spot on a board in a box whose walls carry all, with a fan through the box where asked for."""
    place = {"id": "spot", "temperature_kind": "case", "contact_area_mm2": sure(spot_mm2), "limits": []}
    chip = {"id": "chip", "kind": "source", "places": [place]}
    board = {"id": "panel", "kind": "panel", "name": "Board", "material": "circuit_board", "factor": sure(factor)}
    board |= {"width_mm": sure(side_mm), "height_mm": sure(side_mm), "thickness_mm": sure(1.57)}
    board |= {"outside": "box", "inside": "box", "conductivity_w_mk": sure(38.2), "emissivity": sure(0.9)}
    paths = [path("in", "out", "box", "f", "a"), path("out-again", "box", "out", "b")] if duty else []
    movers = [fan("f", 40, 200), opening("a", 200), opening("b", 200)] if duty else []
    return machine(
        [board, *movers],
        [box("box", 1e4)],
        paths,
        sources=[(chip, {"id": "route", "place": "spot", "hops": [{"id": "onto", "kind": "body", "part": "panel"}]})],
        watts={"chip": watts},
        movers={"f": {"duty": duty}} if duty else {},
    )


def solved(raw):
    [result] = predict(read_object(raw), samples=0).workloads
    return result, result.bodies[0]


@pytest.mark.parametrize(("spot_mm", "watts"), [(42.0, 6.0), (20.0, 4.0)])
def test_spreading_in_a_board_is_that_of_an_annular_fin(spot_mm, watts):
    """Gardner 1945 (Bessel functions) on discs of equal areas, at the films that the answer shows; within 7 %.

    A fin is warm at its inner rim; under even flux the mean of the spot stands Q / (8 pi k t) over it.
    """
    result, board = solved(board_machine(watts, spot_mm**2))
    rise = result.places[0].temperature_c - 25.0
    films = sum(way.watts for way in board.ways) / (board.temperature_c - 25.0) / 0.17**2  # both faces, W/m2K
    k_t, r0, r1 = 38.2 * 1.57e-3, spot_mm / 1000 / np.sqrt(np.pi), 0.17 / np.sqrt(np.pi)
    m = np.sqrt(films / k_t)
    top = kv(1, m * r0) * iv(1, m * r1) - iv(1, m * r0) * kv(1, m * r1)
    bottom = iv(0, m * r0) * kv(1, m * r1) + kv(0, m * r0) * iv(1, m * r1)
    G = 2 * np.pi * r0 * k_t * m * top / bottom + films * np.pi * r0**2
    assert rise == pytest.approx(watts / G + watts / (8 * np.pi * k_t), rel=0.07)


def test_a_small_square_board_has_its_class_figure():
    """7 % of the band: 4.6 ± 1.5 K/W from a socket of 42 × 42 with a tray behind, in still air (value from memory)."""
    result, _ = solved(board_machine(6.0, 42.0**2, factor=0.76))
    assert (result.places[0].temperature_c - 25.0) / 6.0 == pytest.approx(4.6, abs=1.5)


def test_moving_air_joins_still_air_by_cubes_on_a_board():
    """Forced: ht's laminar plate along 170 mm at the box's mean velocity; still: the upright plate of the same board."""
    result, board = solved(board_machine(8.0, 5000.0, duty=0.6))
    zone = next(z for z in result.zones if z.address == "box")
    way = board.ways[0]
    state = air((board.temperature_c + way.air_c) / 2)
    Re = 1.177 * zone.velocity_m_s * 0.17 / float(state.viscosity)
    forced = Nu_horizontal_plate_laminar_Baehr(Re, float(state.prandtl)) * float(state.conductivity) / 0.17
    face, around = np.asarray(board.temperature_c), np.asarray(way.air_c)
    still = float(face_film("vertical", np.asarray(0.17), np.asarray(0.0425), face, around, np.asarray(101325.0)))
    assert way.film_w_m2k == pytest.approx(np.cbrt(still**3 + forced**3), rel=0.02)
    assert way.film_w_m2k > still


def test_more_air_through_the_box_only_cools_its_board():
    found = [solved(board_machine(8.0, 5000.0, duty=duty))[1].temperature_c for duty in (0.25, 0.5, 0.75, 1.0)]
    assert np.all(np.diff(found) < 0)


@pytest.mark.parametrize("name", ["water_loop", "outside_radiator", "thin_box"])
@pytest.mark.parametrize("rest_w", [2.0, 30.0, 60.0])
def test_no_part_of_the_rest_takes_more_than_its_class(name, rest_w):
    """12 W stood in a memory of 5 W before, and led every answer."""
    split = split_of_rest(120.0, rest_w)
    assert sum(split.values()) == pytest.approx(rest_w)
    assert split["memory"] <= 5.0
    assert split["drive"] <= 5.0
    assert split["regulators"] <= 0.08 * 120.0
    assert min(split.values()) >= 0
    build = RECIPES[name].make(120, 150, rest_w, 24.0, "box")
    told = write_object(build)["workloads"][-1]["watts"]
    assert {key: told[key]["value"] for key in split} == pytest.approx({k: round(v, 2) for k, v in split.items()})


def test_heat_has_two_ways_and_both_are_counted():
    """Through the cooler and through the socket into the board: with the fan off near half of it (common: 45 to 55 %)."""
    build = RECIPES["thin_box"].make(65, 75, 18, 24.0, "box")
    [result] = predict(build, ["both"], samples=0).workloads
    processor = next(p for p in result.places if p.address == "processor-core")
    aside = sum(way.watts for way in processor.side_ways)
    assert processor.hops[0].watts + aside == pytest.approx(processor.watts, rel=1e-6)
    assert 0.02 < aside / processor.watts < 0.12  # low cooler at full speed: 8 to 12 % (value from memory), 85 % here
    raw = write_object(build)
    raw["routes"] = [
        r for r in raw["routes"] if not (r["place"] == "processor-core" and r["hops"][0].get("part") == "link-socket")
    ]
    assert len(raw["routes"]) == len(build.routes) - 1
    assert without_fan(build) < without_fan(read_object(raw)) - 25  # its still air alone, against both ways


def without_fan(build):
    """The processor with its fan stopped, C."""
    cases = {case.address: case for case in stopped(build, "both").cases}
    return next(p for p in cases["fan-processor"].places if p.address == "processor-core").temperature_c


def test_memory_with_its_own_way_into_the_board_is_not_counted_twice():
    """Its film alone beside the slot: together near the class figure to still case air, 6.9 ± 1.7 K/W a pair."""
    film, whole = classes()["memory_pair_film"], classes()["memory_pair"]
    link = classes()["link_memory_pair"].figures["resistance_k_w"][0]
    assert film.extra["still_k_w"] > whole.extra["still_k_w"]
    together = 1 / (1 / film.extra["still_k_w"] + 1 / (link + 9.0))  # into a cold board, some 9 K/W from a slot's end
    assert together == pytest.approx(whole.extra["still_k_w"], abs=1.7)


def test_faces_that_spread_less_warm_their_neighbours_less_and_one_that_spreads_more_only_itself():
    """By hand: a quarter of its own is half of what it does to others; four times its own leaves the others as they are."""
    R = np.array([[[2.0, 1.0], [1.0, 2.0]]])
    found = respread(R, np.array([[0.25, 4.0]]))
    assert found[0] == pytest.approx(np.array([[0.5, 0.5], [0.5, 8.0]]))
    assert respread(R, np.ones((1, 2)))[0] == pytest.approx(R[0])


def test_no_ratios_of_faces_let_heat_run_backwards():
    rng = np.random.default_rng(3)
    for _ in range(200):
        half = rng.uniform(0.0, 1.0, (4, 4))
        R = (half @ half.T + 0.01 * np.eye(4))[None]
        found = respread(R, rng.uniform(0.05, 5.0, (1, 4)))
        assert np.linalg.eigvalsh(found[0]).min() > 0.0
