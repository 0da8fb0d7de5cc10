"""Every class of source on every class of thing that it may stand on: the shelf's own parts always solve together."""

import pytest

from krill.catalogue.classes import classes
from krill.document.reading import read_object
from krill.prediction.predict import predict

PLACES = sorted(key for key, known in classes().items() if known.kind == "place")
ROOM_C = 24.0


def air(path_id, *elements):
    return {"id": path_id, "from_zone": "outside", "to_zone": "outside", "elements": list(elements)}


def on_cooler(end):
    parts = [{"id": "end", "kind": "cooler", "class": end}, {"id": "fan", "kind": "fan", "class": "fan_92x14"}]
    return parts, [{"id": "last", "kind": "stream", "part": "end"}], {"air_paths": [air("air", "fan", "end")]}


def on_plate(end):
    parts = [
        {"id": "end", "kind": "plate", "class": end},
        {"id": "pump", "kind": "pump", "class": "pump_strong"},
        {"id": "radiator", "kind": "radiator", "section_mm": 120, "sections": 1, "thickness_mm": 28},
        {"id": "fan", "kind": "fan", "class": "fan_120x25"},
    ]
    loop = {"id": "loop", "coolant": {"fluid": "water"}, "elements": ["pump", "end", "radiator"]}
    more = {"loops": [loop], "air_paths": [air("air", "fan", "radiator")]}
    return parts, [{"id": "last", "kind": "plate", "part": "end"}], more


def on_sink(end):
    return (
        [{"id": "end", "kind": "sink", "class": end, "outside": "outside"}],
        [{"id": "last", "kind": "body", "part": "end"}],
        {},
    )


def on_block(end):
    parts, hops, more = on_sink("sink_extrusion_150_40")
    return (
        [{"id": "block", "kind": "spreader", "class": end}, *parts],
        [{"id": "over", "kind": "spreader", "part": "block"}, *hops],
        more,
    )


STANDS_ON = {"cooler": on_cooler, "plate": on_plate, "sink": on_sink, "spreader": on_block}
ENDS = sorted(key for key, known in classes().items() if known.kind in STANDS_ON)


def machine(place, end):
    parts, hops, more = STANDS_ON[classes()[end].kind](end)
    source = {"id": "source", "kind": "source", "places": [{"id": "spot", "class": place, "temperature_kind": "case"}]}
    paste = {"id": "paste", "kind": "interface", "class": "paste_ordinary_chip"}
    document = {
        "format": "krill-build",
        "version": 1,
        "name": "together",
        "rooms": [{"id": "room", "air_c": ROOM_C}],
        "zones": [{"id": "outside", "kind": "outside", "room": "room"}],
        "parts": [source, paste, *parts],
        "routes": [
            {"id": "way", "place": "spot", "hops": [{"id": "first", "kind": "interface", "part": "paste"}, *hops]}
        ],
        "workloads": [{"id": "full", "watts": {"source": 4}}],
    }
    return read_object(document | more)


@pytest.mark.slow
@pytest.mark.parametrize("end", ENDS)
def test_every_class_of_source_solves_on(end):
    for place in PLACES:
        found = predict(machine(place, end), samples=0).workloads[0].places[0]
        assert ROOM_C < found.temperature_c < 300.0, place
