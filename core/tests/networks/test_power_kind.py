"""Which watts a source is told: of the whole board, or of its chip alone."""

import pytest
from strategies import raw_recipe

from krill.document.reading import read_object
from krill.prediction.predict import predict


def asked(power_kind, watts):
    raw = raw_recipe()
    next(part for part in raw["parts"] if part["id"] == "graphics")["power_kind"] = power_kind
    next(w for w in raw["workloads"] if w["id"] == "both")["watts"]["graphics"] = watts
    result = predict(read_object(raw), ["both"], samples=0).workloads[0]
    return {place.address: place for place in result.places}


def test_watts_of_the_chip_alone_are_the_share_of_its_board():
    """0.73 of a board's watts are its chip's (class figure): 146 W in the chip are 200 W of the board."""
    chip, board = asked("chip", 146.0), asked("board", 200.0)
    assert chip["graphics-chip"].watts == pytest.approx(146.0, abs=0.1)
    for place in ("graphics-chip", "graphics-memory", "graphics-regulators"):
        assert chip[place].temperature_c == pytest.approx(board[place].temperature_c, abs=0.01)


def test_one_place_takes_all_whatever_its_watts_are_called():
    raw = raw_recipe()
    first = predict(read_object(raw), ["both"], samples=0).workloads[0].places[0]
    raw["parts"][0]["power_kind"] = "chip"
    assert predict(read_object(raw), ["both"], samples=0).workloads[0].places[0].temperature_c == first.temperature_c
