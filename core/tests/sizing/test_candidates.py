"""Studies: each candidate equals a fresh prediction of its document, demands, prices, failures, neighbours."""

import json

import numpy as np
import pytest
from asking import asked, axis
from strategies import raw_recipe, recipe

from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.networks.states import Case
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.solving import try_cases
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.sizing import candidates
from krill.sizing.band_shares import half_shares, halves
from krill.sizing.by_row import margins
from krill.sizing.candidates import Study
from krill.sizing.measures import known_prices, measures_of
from krill.sizing.neighbours import candidate_detail
from krill.sizing.outcome import columns_as_json, columns_of_json, outcome

MIXED = [
    axis("radiator-a/sections", 2, 3, 4),
    axis("radiator-a/thickness_mm", 28, 45),
    axis("fans/class", "fan_120x15", "fan_120x25"),
    axis("paste-processor/class", "paste_ordinary_lid", "paste_good_lid"),
    axis("movers/fans", 0.4, 0.8),
    axis("movers/pump", 0.5, 1.0),
    axis("both/watts/graphics", 180, 220),
]
DEMANDS = {
    "margins": [
        {"workload": "both", "at_least_k": 12},
        {"workload": "graphics-only", "place": "graphics-chip", "at_least_k": 20},
    ],
    "sounds": [{"workload": "both", "at_most_dba": 36}],
    "height_mm": 60,
}


def solved(study):
    return outcome(study, [study.solve(chunk) for chunk in study.chunks()])


@pytest.fixture(scope="module")
def mixed():
    study = Study(recipe(), asked(MIXED, demands=DEMANDS, room_c=28))
    return study, solved(study)


def fresh(document, room_c):
    """Least margins and levels of a candidate's document, predicted alone."""
    found = {w.workload: w for w in predict(document, samples=0, room_c=room_c).workloads}
    every = min(p.margin_k for p in found["both"].places if p.margin_k is not None)
    chip = next(p.margin_k for p in found["graphics-only"].places if p.address == "graphics-chip")
    return min(every - 12, chip - 20), found["both"].sound.total_dba


def test_every_candidate_equals_a_fresh_prediction_of_its_document(mixed):
    """Structures, classes, duties and watts alike: 0.05 K, 0.05 dB, and the height to the millimetre."""
    study, result = mixed
    assert result.size == result.solved == 192
    for number in np.random.default_rng(3).choice(192, 14, replace=False):
        document = study.document(int(number))
        spare, level = fresh(document, 28)
        assert result.columns["spare_k"][number] == pytest.approx(spare, abs=0.05), study.options_of(int(number))
        assert result.columns["level_dba"][number] == pytest.approx(level, abs=0.05)
        assert result.columns["height_mm"][number] == pytest.approx(measures_of(document).height_mm, abs=1e-6)


def drawn_spare(study, number, samples):
    """What a candidate leaves beyond every margin demanded at the low ends of its own document's bands."""
    found = predict(study.document(int(number)), list(study.names), samples=samples, room_c=28).workloads
    places = {workload.workload: workload.places for workload in found}
    return min(
        place.margin_band_k.low - float(demand.at_least_k)
        for demand in study.question.demands.margins
        for place in places[demand.workload]
        if place.margin_band_k and demand.place in (None, place.address)
    )


def test_a_candidates_band_is_that_of_draws_of_its_document(mixed):
    """Linearised once a structure: within 30 % of what 400 draws of the document itself give."""
    study, result = mixed
    for number in np.random.default_rng(5).choice(192, 6, replace=False):
        spare, half = result.columns["spare_k"][number], result.columns["half_k"][number]
        assert half / (spare - drawn_spare(study, number, 400)) == pytest.approx(1, abs=0.3), number


def test_surely_means_with_the_whole_band(mixed):
    result = mixed[1]
    lower = np.array(result.columns["spare_k"]) - np.array(result.columns["half_k"])
    assert set(result.surely) == {n for n in result.meets if lower[n] >= 0}
    assert 0 <= len(result.surely) < len(result.meets)
    assert f"{len(result.surely) or 'none'} of them with the whole 90 % band" in result.sentence
    loose = Study(recipe(), asked(MIXED[:1], demands={"margins": [{"workload": "idle", "at_least_k": 0}]}, room_c=20))
    sure = solved(loose)
    assert sure.surely == sure.meets
    assert sure.sentence.endswith("Whatever is not known of them, they meet it.")


def test_a_chunk_of_an_older_core_has_no_bands():
    study = Study(recipe(), asked(MIXED[:1], demands=DEMANDS, room_c=28))
    raw = columns_as_json(study.solve(study.chunks()[0]))
    del raw["figures"]["half_k"]
    assert np.isnan(columns_of_json(raw).figures["half_k"]).all()


def test_a_figure_that_a_class_gave_is_a_stated_one_in_every_candidate():
    """A package that its class cools by the moving air of its zone has what is stated once somebody varies it."""
    build = RECIPES["outside_radiator"].make(125, 220, 30, 24, "outside")
    both = build.workloads[-1].id
    question = asked(
        [axis("drive-place/package_k_w", 8, 12), axis("movers/fans", 0.5, 0.9)],
        demands={"margins": [{"workload": both, "place": "drive-place", "at_least_k": 3}]},
    )
    study = Study(build, question)
    margins = solved(study).columns["margin_k"]
    for number, margin in enumerate(margins):
        places = predict(study.document(number), [both], samples=0).workloads[0].places
        alone = next(place.margin_k for place in places if place.address == "drive-place")
        assert margin == pytest.approx(alone, abs=0.05)


def test_the_order_of_the_chunks_does_not_matter(mixed):
    """A structure is made from what it has in common with the one before: in any order, or alone, it is the same."""
    study, result = mixed
    chunks = study.chunks()
    shuffled = [chunks[index] for index in np.random.default_rng(5).permutation(len(chunks))]
    assert outcome(study, [study.solve(chunk) for chunk in shuffled]).columns == result.columns
    alone = Study(study.build, study.question).solve(chunks[-1])
    together = [result.columns["spare_k"][number] for number in alone.numbers]
    assert alone.figures["spare_k"] == pytest.approx(together, abs=5e-4)  # the result is rounded to 0.001


def test_demands_are_met_by_who_is_listed_and_by_nobody_else(mixed):
    _, result = mixed
    columns = result.columns
    for number in range(result.size):
        meets = (
            columns["spare_k"][number] >= 0 and columns["spare_db"][number] >= 0 and columns["height_mm"][number] <= 60
        )
        assert meets == (number in result.meets)
    assert result.meets
    assert set(result.undominated) <= set(result.meets)
    assert f"{len(result.meets)} of 192" in result.sentence


def test_only_structures_are_solved_one_by_one(mixed):
    """Sections, thickness and fan class make 12 structures; paste, duties and watts are rows of their batches."""
    study, _ = mixed
    chunks = study.chunks()
    assert len(chunks) == 12
    assert sorted(np.concatenate([chunk.numbers for chunk in chunks]).tolist()) == list(range(192))


def test_large_structures_are_parted_so_that_progress_can_be_told(monkeypatch):
    monkeypatch.setattr(candidates, "MAX_ROWS", 5)
    study = Study(recipe(), asked([axis("movers/fans", *np.linspace(0.3, 1, 12).round(3).tolist())]))
    assert [len(chunk.numbers) for chunk in study.chunks()] == [4, 4, 4]
    assert solved(study).solved == 12


def test_nothing_meets_says_which_demand_stands_in_the_way_and_what_comes_closest():
    study = Study(
        recipe(),
        asked(
            [axis("movers/fans", 0.4, 0.7, 1.0)],
            demands={
                "margins": [{"workload": "both", "at_least_k": 60}],
                "sounds": [{"workload": "both", "at_most_dba": 60}],
            },
        ),
    )
    result = solved(study)
    assert result.meets == result.undominated == []
    assert result.closest == 2
    assert "None of 3" in result.sentence
    assert "margin" in result.sentence


def test_a_candidate_takes_its_prices_along():
    """What one piece of an option costs stands on each part it buys: the known prices add up to the candidate's price."""
    raw = raw_recipe()
    for part in raw["parts"]:
        if part["id"] == "radiator-a" or part["kind"] in ("fan", "pump"):
            part["price"] = 10
    axes = [
        axis("radiator-a/sections", 2, 3, 4, prices=(55, 80, 100)),
        axis("fans/class", "fan_120x15", "fan_120x25", prices=(12, 18)),
        axis("paste-processor/class", "paste_ordinary_lid", "paste_good_lid", prices=(4, 9)),
        axis("movers/fans", 0.4, 0.8),
    ]
    study = Study(read_object(raw), asked(axes))
    result = solved(study)
    for number in range(result.size):
        total = result.columns["price"][number]
        assert sum(known_prices(study.document(number)).values()) == pytest.approx(total), number


def test_price_is_the_users_figure_and_else_unknown():
    raw = raw_recipe()
    for part in raw["parts"]:
        if part["id"] in ("radiator-a", "fan-a1", "fan-a2", "fan-a3"):
            part["price"] = {"radiator-a": 60}.get(part["id"], 10)
    raw["prices"] = {"radiator-a/sections=4": 120}
    study = Study(read_object(raw), asked([axis("radiator-a/sections", 2, 3, 4), axis("movers/fans", 0.5, 0.7)]))
    assert solved(study).columns["price"] == [None, None, 90, 90, 160, 160]
    stated = asked(
        [axis("radiator-a/sections", 2, 3, 4, prices=(55, 80, 100))], demands={"price": 110}, criteria=["price"]
    )
    result = solved(Study(read_object(raw), stated))
    assert result.columns["price"] == [75, 110, 140]
    assert result.meets == [0, 1]
    assert result.undominated == [0]


def test_a_whole_part_of_the_shelf_and_the_way_the_housing_stands_may_vary():
    other = {"kind": "pump", "name": "Weak pump", "class": "pump_small"}
    study = Study(
        recipe(),
        asked(
            [
                axis("pump/part", {"kind": "pump", "class": "pump_strong", "name": "Pump"}, other),
                axis("housing/gravity", [0, 0, -1], [0, -1, 0]),
            ]
        ),
    )
    result = solved(study)
    assert result.solved == 4
    for row in range(4):  # each candidate is what a prediction of its document says
        [alone] = predict(study.document(row), ["both"], samples=0).workloads
        least = min(p.margin_k for p in alone.places if p.margin_k is not None)
        assert result.columns["margin_k"][row] == pytest.approx(least, abs=2e-3)
    document = study.document(3)
    assert document.part("pump").class_ == "pump_small"
    assert document.housing.gravity == (0, -1, 0)


def test_a_candidate_that_cannot_be_is_told_apart_and_the_others_stand():
    study = Study(recipe(), asked([axis("fans/class", "fan_120x25", "fan_of_dreams")]))
    result = solved(study)
    assert result.solved == 1
    assert list(result.failures) == ["1"]
    assert "fan_of_dreams" in result.failures["1"]
    assert result.columns["margin_k"][1] is None


def test_columns_survive_as_json(mixed):
    study, result = mixed
    stored = [json.loads(json.dumps(columns_as_json(study.solve(chunk)))) for chunk in study.chunks()]
    assert outcome(study, [columns_of_json(raw) for raw in stored]) == result


@pytest.mark.parametrize(
    ("vary", "where"),
    [
        ([axis("radiator-z/sections", 1, 2)], "radiator-z/sections"),
        ([axis("movers/nobody", 0.5)], "movers/nobody"),
        ([axis("movers/fans", 1.5)], "movers/fans"),
        ([axis("tube/length_m", "long")], "tube/length_m"),
        ([axis("movers/fans", 0.5), axis("movers/fans", 0.6)], "movers/fans"),
        ([axis("movers/fans", *[0.5] * 150), axis("movers/pump", *[0.5] * 150)], "vary"),
        ([{"address": "no address", "options": []}], "vary/0/address"),
    ],
)
def test_what_cannot_vary_is_refused_with_its_address(vary, where):
    with pytest.raises(DocumentRefused) as refused:
        Study(recipe(), asked(vary))
    assert refused.value.problems[0].where == where


def test_a_demand_on_what_is_not_there_is_refused():
    for demand in ({"workload": "dream", "at_least_k": 3}, {"workload": "both", "place": "nobody", "at_least_k": 3}):
        with pytest.raises(DocumentRefused):
            Study(recipe(), asked([axis("movers/fans", 0.5)], demands={"margins": [demand]}))


def test_the_next_larger_one_says_why_it_is_not_worth_it(mixed):
    study, result = mixed
    number = result.undominated[0]
    detail = candidate_detail(study, result, number)
    assert len(detail.labels) == len(MIXED)
    assert {w.workload for w in detail.workloads} == {"both", "graphics-only"}
    assert "over the room lie in" in detail.why
    chosen = study.options_of(number)
    speeds = {index for index, item in enumerate(MIXED) if item["address"].startswith("movers/")}
    for neighbour in detail.neighbours:
        other = study.options_of(neighbour.number)
        axis_of = [item["address"] for item in MIXED].index(neighbour.address)
        changed = {index for index, (a, b) in enumerate(zip(chosen, other, strict=True)) if a != b}
        assert axis_of in changed
        assert changed - {axis_of} <= (set() if axis_of in speeds else speeds)
        won = result.columns["margin_k"][neighbour.number] - result.columns["margin_k"][number]
        assert neighbour.margin_k == pytest.approx(won, abs=0.002)
        assert neighbour.meets == (neighbour.number in result.meets)
        assert neighbour.worth_it == (neighbour.meets and won >= 1.0)
        if not neighbour.meets:
            assert "misses the demand" in neighbour.says


def test_another_size_is_judged_at_equal_sound():
    """One more section at the same duty is louder: its speeds are chosen anew, and no louder one is cooler."""
    vary = [axis("radiator-a/sections", 2, 3, 4), axis("movers/fans", *np.linspace(0.3, 1, 15).round(2).tolist())]
    study = Study(recipe(), asked(vary, demands={"margins": [{"workload": "both", "at_least_k": 3}]}))
    result = solved(study)
    levels, margins = result.columns["level_dba"], result.columns["margin_k"]
    detail = candidate_detail(study, result, 15 + 8)
    more = next(n for n in detail.neighbours if n.label == "4")
    assert levels[more.number] <= levels[23] + 0.15
    assert more.at
    quieter = [n for n in range(30, 45) if levels[n] <= levels[23] + 0.15]
    assert margins[more.number] == max(margins[n] for n in quieter)


def test_a_taken_candidate_is_the_document_with_its_edits(mixed):
    """Taking one over means making its edits on the draft: the same document."""
    study, result = mixed
    number = result.undominated[-1]
    document = study.document(number)
    told = next(w for w in document.workloads if w.id == "both").movers
    options = [study.question.vary[i].options[o].value for i, o in enumerate(study.options_of(number))]
    fans = [part.id for part in document.parts if part.kind == "fan"]
    assert document.part("radiator-a").sections == options[0] == len(fans)
    assert all(told[fan].duty == options[4] for fan in fans)
    assert read_object(write_object(document)) == document


def test_an_option_of_another_kind_fails_in_words():
    study = Study(recipe(), asked([axis("paste-processor/class", "paste_ordinary_lid", "plate_processor_good")]))
    result = solved(study)
    assert "paste-processor/class: class 'plate_processor_good' is one of kind plate" in result.failures["1"]


@pytest.mark.parametrize("workload", ["idle", "both"])
def test_shares_give_the_bands_of_the_draws_they_are_taken_from(workload):
    """Of every place with a limit, in a case of few kelvins and in one of many."""
    build = recipe()
    case = Case(next(w for w in build.workloads if w.id == workload), 24.0)
    shares = half_shares(build, [case])
    solved = try_cases(build, [case], 80)
    half = halves(solved, shares)[0]
    for place, one in zip(margins(solved)[0], half, strict=True):
        _, high = band_90(place_samples(solved, 0, place))
        central = solved.solution.temperature[0, solved.structure.node_of[place]]
        assert one == pytest.approx(high - central, rel=1e-9)


def test_the_candidate_in_view_is_judged_by_draws_of_its_own(mixed):
    study, result = mixed
    number = result.undominated[0]
    by_draws = drawn_spare(study, number, 200)
    assert candidate_detail(study, result, number).drawn_low_k == pytest.approx(by_draws)
    linearised = result.columns["spare_k"][number] - result.columns["half_k"][number]
    assert by_draws == pytest.approx(linearised, abs=0.3 * result.columns["half_k"][number])
