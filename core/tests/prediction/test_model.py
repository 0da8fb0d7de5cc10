"""Prepared once, asked often: the same text meets the same model, another one its own; numbers alone share the network."""

from strategies import raw_recipe, recipe

from krill.document.reading import digest, read_object
from krill.prediction.answer.model import MAX_KEPT, Model
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict


def changed(**figures):
    raw = raw_recipe()
    next(part for part in raw["parts"] if part["id"] == "tube").update(figures)
    return read_object(raw)


def test_the_same_text_meets_the_same_model():
    assert Model.of(recipe()) is Model.of(recipe())
    assert Model.of(changed(length_m=2.5)) is not Model.of(changed(length_m=2.6))


def test_a_number_that_moves_makes_no_network_anew_and_another_part_does():
    one, two = Model.of(changed(length_m=2.5)), Model.of(changed(length_m=2.6))
    assert one.pattern.network is two.pattern.network
    raw = raw_recipe()
    raw["loops"][0]["elements"].remove("elbows")
    assert Model.of(read_object(raw)).pattern.network is not one.pattern.network


def test_a_kept_model_answers_as_a_fresh_one():
    """Asked between two other documents, and after the store has been filled many times over."""
    first = predict(changed(length_m=2.5), ["both"], samples=20)
    for metres in range(MAX_KEPT + 3):
        Model.of(changed(length_m=3 + metres))
    assert predict(changed(length_m=2.5), ["both"], samples=20) == first
    assert predict(changed(length_m=9.5), ["both"], samples=0) != first


def test_a_copy_of_a_document_forgets_what_was_worked_out_of_the_old_one():
    build = recipe()
    build.part("pump")
    other = build.model_copy(update={"parts": [part for part in build.parts if part.id != "elbows"], "loops": []})
    assert digest(other) != digest(build)
    assert "elbows" not in {part.id for part in other.parts}
    assert other.owner("elbows") is None
    assert build.owner("elbows") is not None


def test_an_override_of_a_figure_that_nobody_states_changes_the_graph_where_it_must():
    build = recipe()
    (case,) = cases_of(build, ["both"], None)
    plain = solve_cases(build, [case])
    with_package = solve_cases(build, [case], overrides={"processor-core/package_k_w": 0.05})
    assert "processor-core/package" not in plain.structure.node_names
    assert "processor-core/package" in with_package.structure.node_names
