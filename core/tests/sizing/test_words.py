"""Sentences of sizing: what is worth a word and what is not, from both sides."""

import pytest
from strategies import recipe

from krill.prediction.predict import predict
from krill.sizing.result import NextChange, SideEffect
from krill.sizing.words import ranked_sentence


@pytest.fixture(scope="module")
def place():
    return predict(recipe(), ["both"], samples=0).workloads[0].places[0]


def change(label, won_k, **others):
    effects = [SideEffect(address=name, name=name.capitalize(), won_k=won) for name, won in others.items()]
    told = {
        "about": "a",
        "louder_db": 0.0,
        "costs": [],
        "breaks": [],
        "buys": False,
        "price": None,
        "price_key": "",
        "hours": 0.0,
        "alone": False,
    }
    return NextChange(label=label, won_k=won_k, others=effects, edits=[], **told)


def test_a_step_is_worth_a_word_from_half_a_kelvin(place):
    assert ranked_sentence([change("Fins", 0.5)], place) == f"Fins wins 0.5 K on {place.name}."
    none = ranked_sentence([change("Fins", 0.49)], place)
    assert none.startswith(f"No step here wins 0.5 K on {place.name}: ")
    assert none.endswith(f"K over the room lie in '{max(place.hops, key=lambda hop: hop.drop_k).name}'.")


def test_others_are_named_from_half_a_kelvin_either_way(place):
    quiet = ranked_sentence([change("Fins", 2.0, memory=0.49, drive=-0.49)], place)
    assert quiet == f"Fins wins 2.0 K on {place.name}."
    loud = ranked_sentence([change("Fins", 2.0, memory=0.5, radio=0.7, drive=-0.5)], place)
    assert loud == f"Fins wins 2.0 K on {place.name} and 0.7 K on Radio (1 more alike), but costs Drive 0.5 K."


def test_two_more_steps_and_the_first_that_is_not_worth_it_follow(place):
    steps = [
        change(name, won) for name, won in (("A", 4.0), ("B", 3.0), ("C", 2.0), ("D", 1.0), ("E", 0.4), ("F", 0.1))
    ]
    said = ranked_sentence([*steps, change("G", -1.0)], place)
    assert said == f"A wins 4.0 K on {place.name}; B 3.0 K; C 2.0 K. E: no real gain (0.4 K)."
    assert "no real gain" not in ranked_sentence([steps[0], change("G", -0.1)], place)
