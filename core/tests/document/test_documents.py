"""Build documents: lossless round trip, exact refusals, schema, saved files of landed versions."""

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st
from strategies import raw_recipe, recipe

from krill.catalogue.class_schema import schema_with_classes
from krill.catalogue.known_classes import must_know_classes
from krill.document.reading import digest, read_object, read_text, schema, write_object, write_text
from krill.errors import DocumentRefused

SAVED = Path(__file__).parents[1] / "saved_documents"


def refusal(raw) -> list[tuple[str, str, str]]:
    with pytest.raises(DocumentRefused) as caught:
        read_object(raw)
    return [(p.where, p.what, p.allowed) for p in caught.value.problems]


def test_round_trip_is_lossless_and_bare_stays_bare():
    raw = raw_recipe()
    raw["rooms"][0]["air_c"] = 24
    raw["parts"][0]["mass_g"] = {"value": 310, "plus_minus": {"minus": 10, "plus": 30}, "from": "measured"}
    build = read_object(raw)
    assert write_object(build) == raw
    assert json.loads(write_text(build)) == raw
    assert read_text(write_text(build)) == build
    assert write_object(build)["rooms"][0]["air_c"] == 24
    assert isinstance(write_object(build)["rooms"][0]["air_c"], int)
    assert digest(build) == digest(read_text(write_text(build)))


@given(st.floats(10, 400), st.floats(10, 600), st.floats(1, 100), st.floats(5, 45))
def test_every_recipe_is_sound_and_round_trips(processor, graphics, rest, room):
    build = recipe(processor, graphics, rest, room)
    assert read_text(write_text(build)) == build


@pytest.mark.slow
def test_the_published_schema_takes_what_the_reader_takes():
    jsonschema.Draft202012Validator.check_schema(schema())
    jsonschema.validate(raw_recipe(), schema())
    broken = raw_recipe()
    broken["colour"] = "red"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(broken, schema())


def test_the_published_schema_lists_the_classes_of_each_kind():
    """So that an editor offers them; a class of another kind is refused by it, as ``check`` refuses it."""
    published = schema_with_classes()
    jsonschema.validate(raw_recipe(), published)
    wrong = raw_recipe()
    next(part for part in wrong["parts"] if part["kind"] == "fan")["class"] = "pump_strong"
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(wrong, published)
    fans = published["$defs"]["Fan"]["properties"]["class"]["anyOf"][0]["enum"]
    assert {"fan_120x25", "fan_92x14"} <= set(fans)
    assert not any(name.startswith("pump") for name in fans)


@pytest.mark.parametrize(
    ("rule", "where", "allowed"),
    [
        ("range", "room/air_c", "-40 to 70"),
        ("class", "blower/class", "nearest: "),
        ("reference", "air-duct/to_zone", "box, outside"),
    ],
)
def test_a_saved_file_of_each_refused_kind_is_named(rule, where, allowed):
    text = (SAVED.parent / "refused_documents" / f"{rule}.json").read_text()
    with pytest.raises(DocumentRefused) as refused:
        must_know_classes(read_text(text))
    assert any(where in p.where and allowed in p.allowed for p in refused.value.problems)


def change(path: str, value):
    """Set a value at id/field of the recipe (or key/key where the first is a section)."""
    raw = raw_recipe()
    head, *rest = path.split("/")
    target = raw
    for section in ("parts", "rooms", "zones", "loops", "air_paths", "routes", "workloads"):
        for item in raw[section]:
            for candidate in [item, *item.get("places", []), *item.get("hops", [])]:
                if candidate["id"] == head:
                    target = candidate
    if target is raw:
        rest = [head, *rest]
    for step in rest[:-1]:
        target = target[step]
    target[rest[-1]] = value
    return raw


@pytest.mark.parametrize(
    ("path", "value", "where", "what", "allowed"),
    [
        ("colour", "red", "colour", "unknown key", "the keys of the published schema"),
        ("version", 2, "version", "version 2, written by krill 0.2.0, is newer than this Krill", "up to version 1"),
        ("format", "x", "format", "'x'", '"krill-build"'),
        (
            "pump/power_watts",
            3,
            "pump/power_watts",
            "unknown key",
            "the keys of the published schema; the nearest: power_w",
        ),
        ("both/watts/processor", -5, "both/watts/processor", "-5", "0 to 100000 W: more is a slip of the unit"),
        ("tube/bore_mm", 0, "tube/bore_mm", "0", "more than 0"),
        ("grille/free_area_share", 1.4, "grille/free_area_share", "1.4", "a share from 0 to 1"),
        (
            "loop-a/elements",
            ["tube", "reservoir"],
            "loop-a/elements",
            "the loop has no pump",
            "at least one pump among its elements",
        ),
        (
            "route-memory-place/hops",
            [{"id": "nowhere", "kind": "interface", "part": "paste-graphics"}],
            "nowhere",
            "the route ends nowhere",
            "a plate, a stream, an air hop or a body at its end",
        ),
        ("elbows/id", "tube", "tube", "two elements have this id: a part and a part", "an id of its own for each"),
        (
            "fan-a1/curve",
            [[0, 20], [20, 12], [40, 15], [60, 9], [70, 11], [90, 0]],
            "fan-a1/curve",
            "the curve rises 2 times",
            "a falling curve, at most one rise (a stall dip)",
        ),
        (
            "fan-a1/curve",
            [[0, 20], [30, 12], [20, 5]],
            "fan-a1/curve",
            "the flows do not rise from point to point",
            "flows from 0 upwards",
        ),
        (
            "both/watts/supply",
            20,
            "both/watts/supply",
            "'supply' is not a source",
            "sources; a supply's loss is computed",
        ),
        (
            "both/movers/pump",
            {"duty": 0.5, "off": True},
            "both/movers/pump",
            "2 commands",
            "one of duty, speed_rpm, curve, off",
        ),
        ("box/air_c", 30, "box/kind", "the air of a box is solved", "kind outside for a given temperature"),
        ("plate-graphics/id", "other", "loop-a/elements", "there is no part 'plate-graphics'", None),
    ],
)
def test_exact_refusals(path, value, where, what, allowed):
    found = refusal(change(path, value))
    assert found[0][:2] == (where, what)
    assert allowed is None or found[0][2] == allowed


def test_a_key_from_a_newer_krill_is_said_so():
    raw = {**raw_recipe(), "written_by": "krill 9.1.0", "rotor": 1}
    assert refusal(raw)[0] == (
        "rotor",
        "unknown key, from a newer Krill (krill 9.1.0)",
        "the keys of the published schema",
    )


@pytest.mark.parametrize("text", ["", "[1]", "{", '{"format": "krill-build", "version": 1, "name": NaN}'])
def test_what_is_no_document_is_refused(text):
    with pytest.raises(DocumentRefused):
        read_text(text)


@pytest.mark.parametrize("path", sorted(SAVED.glob("*.json")), ids=lambda p: p.name)
def test_saved_documents_of_landed_versions_still_read(path):
    build = read_text(path.read_text())
    assert write_object(build) == json.loads(path.read_text())
