"""Steps, gates, threads and rules of whole builds."""

import itertools
import json
from pathlib import Path
from types import SimpleNamespace

import pytest
from housed import box, housed
from strategies import raw_recipe

from krill.assembly.cautions import step_cautions
from krill.assembly.hiding import hidden_things
from krill.assembly.proposed_rules import _gates, _sheets, proposed_rules
from krill.assembly.steps import Parts, proposed_steps
from krill.assembly.suspects import suspects_of
from krill.assembly.work_order import work_order
from krill.document.parts import Source
from krill.document.reading import read_object, read_text, write_object
from krill.errors import DocumentRefused
from krill.recipes.book import RECIPES

SAVED = Path(__file__).parents[1] / "saved_documents"
LOOPED = [key for key, recipe in RECIPES.items() if recipe.make(*recipe.starts, 24, "made").loops]


def made(key):
    recipe = RECIPES[key]
    return recipe.make(*recipe.starts, 24, "made")


def looped(**more):
    return read_object(raw_recipe() | more)


def places(order):
    return {step.id: at for at, step in enumerate(order.steps)}


def step_of(order, step_id):
    return next(step for step in order.steps if step.id == step_id)


def kinds(order, kind):
    return [step for step in order.steps if step.kind == kind]


@pytest.mark.parametrize("key", RECIPES)
def test_every_part_of_every_start_goes_in_once(key):
    build = made(key)
    order = work_order(build)
    items = [item for step in order.steps for item in step.items]
    assert len(items) == len(set(items))
    assert {part.id for part in build.parts} <= set(items)
    assert order.steps[-1].id == "close-panels"
    assert order.conflicts == []


@pytest.mark.parametrize("key", RECIPES)
def test_every_proposed_rule_of_every_start_is_kept(key):
    build = made(key)
    order = work_order(build)
    at = places(order)
    parts = Parts(build)
    for rule in proposed_rules(parts, proposed_steps(build), []):
        assert at[rule.first] < at[rule.then], rule
    for step in order.steps:
        for why in step.because:
            assert at[why.step] < at[step.id]


@pytest.mark.parametrize("key", RECIPES)
def test_a_gate_is_looked_at_before_what_it_sees_is_hidden(key):
    order = work_order(made(key))
    at = places(order)
    for thread in order.threads:
        assert at[thread.step] < at[thread.hidden_by]
        for gate in (step for step in order.steps if step.gate and thread.thing in step.sees):
            assert at[gate.id] < at[thread.hidden_by]
            assert gate.before is not None
            assert at[gate.before] <= at[thread.hidden_by]


@pytest.mark.parametrize("name", [file.stem for file in SAVED.glob("*.json")])
def test_documents_of_old_get_an_order_as_well(name):
    build = read_text((SAVED / f"{name}.json").read_text())
    assert len(work_order(build).steps) > 3


def test_a_build_with_nothing_in_it_has_only_its_panels():
    outside = {"id": "outside", "kind": "outside", "room": "room"}
    rooms = [{"id": "room", "air_c": 22}]
    raw = {"format": "krill-build", "version": 1, "name": "empty", "rooms": rooms, "zones": [outside]}
    order = work_order(read_object(raw))
    assert [step.id for step in order.steps] == ["close-panels"]
    assert order.threads == []


def test_everything_is_tested_on_the_bench_first():
    order = work_order(looped())
    at = places(order)
    for step in order.steps:
        if step.kind in ("supply", "board", "radiator", "fan", "pump", "card"):
            assert at["gate-bench-start"] < at[step.id]
    assert step_of(order, "gate-bench-start").minutes == 45


def test_paste_goes_on_last_before_the_plate():
    build = looped()
    order = work_order(build)
    plate = next(step for step in order.steps if "paste-processor" in step.items)
    assert plate.kind == "processor_plate"
    assert places(order)["processor"] < places(order)[plate.id]
    assert "last" in plate.note


def test_a_closed_loop_is_filled_then_moved_then_watched():
    at = places(work_order(looped()))
    wet = ["gate-loop-closed", "loop-a", "gate-pump-moves", "gate-leak-watch", "gate-last-start", "close-panels"]
    assert [at[step] for step in wet] == sorted(at[step] for step in wet)
    watch = step_of(work_order(looped()), "gate-leak-watch")
    assert (watch.watch_h, watch.looks_h) == (24, [0.17, 1, 4, 24])


def test_nothing_wet_is_asked_of_a_build_without_a_loop():
    dry = [key for key in RECIPES if key not in LOOPED]
    assert dry
    for key in dry:
        assert not {"gate-loop-closed", "gate-pump-moves", "gate-leak-watch"} & set(places(work_order(made(key))))


def test_a_metal_shell_with_mains_in_it_is_earthed_before_it_starts():
    steel = looped(housing={"material": "steel, painted"})
    at = places(work_order(steel))
    assert at["supply"] < at["gate-earth"] < at["gate-last-start"]
    assert "gate-earth" not in places(work_order(looped(housing={"material": "oak"})))


def test_an_insulator_is_in_and_seen_before_first_power():
    sheet = {"id": "sheet", "first": "regulators", "second": "bottom"}
    at = places(work_order(looped(insulators=[sheet])))
    assert at["sheet"] < at["regulators"]
    assert at["sheet"] < at["gate-insulated"] < min(at["gate-memory-found"], at["gate-last-start"])


LEADS = [
    {"id": "main", "class": "main_round", "from_part": "supply", "to_part": "regulators"},
    {"id": "front", "class": "front_port", "from_part": "regulators", "to_part": "regulators"},
    {"id": "fan-lead", "class": "fan", "from_part": "fan-a1", "to_part": "regulators"},
]


def test_leads_go_in_where_their_sockets_can_be_reached():
    order = work_order(looped(leads=LEADS))
    at = places(order)
    assert at["leads-of-supply"] < at["supply"]
    assert step_of(order, "leads-of-supply").items == ["main"]
    assert at["regulators"] < at["front"] < at["memory"]
    with_fan = next(step for step in order.steps if "fan-lead" in step.items)
    assert "fan-a1" in with_fan.items


@pytest.mark.parametrize(
    ("lead", "hidden"),
    [
        ({"class": "feed_8", "from_part": "supply", "to_part": "regulators", "name": "Feed"}, True),
        ({"class": "feed_8_flat", "from_part": "regulators", "to_part": "supply"}, True),
        ({"class": "main_round", "from_part": "supply", "to_part": "regulators"}, False),
        ({"class": "feed_8", "from_part": "supply", "to_part": "graphics"}, False),
    ],
)
def test_the_processors_feed_goes_in_before_the_cooler_hides_its_socket(lead, hidden):
    raw = write_object(made("tower_box"))
    build = read_object(raw | {"leads": [{"id": "feed", **lead}]})
    assert places(work_order(build))["leads-of-supply"] < places(work_order(build))["supply"]
    found = {(one.step, one.thing): one for one in hidden_things(Parts(build), proposed_steps(build))}
    one = found.get(("cooler-processor", "leads-of-supply"))
    assert (one is not None) is hidden
    if one is not None:
        assert one.name == lead.get("name", "processor plug")
        assert one.why == "the cooler stands over its socket"


def in_the_way(**outline):
    tank = {"size_mm": [60, 60, 60], "position_mm": [100, 100, 50], **outline}
    return housed(
        inside=[300, 300, 300],
        outlines={"pump": tank, "reservoir": {"size_mm": [60, 60, 60], "position_mm": [100, 100, 200]}},
    )


@pytest.mark.parametrize("told", ["goes_in_from", "reached_from"])
def test_what_stands_in_the_way_in_goes_in_afterwards(told):
    order = work_order(in_the_way(**{told: "top"}))
    at = places(order)
    assert at["pump"] < at["reservoir"]
    thread = next(thread for thread in order.threads if thread.thing == "pump")
    assert (thread.hidden_by, thread.why) == ("reservoir", "Reservoir stands in its way in from the top")
    why = next(why for why in step_of(order, "reservoir").because if why.step == "pump")
    assert why.of == "blocks"


def test_from_another_side_nothing_is_in_the_way():
    order = work_order(in_the_way(goes_in_from="left"))
    assert "reservoir" not in {thread.hidden_by for thread in order.threads}


@pytest.mark.parametrize(("x", "blocks"), [(157, True), (159.5, False), (161, False)])
def test_a_box_beside_the_way_in_blocks_nothing(x, blocks):
    """The pump reaches to 130, the other box from x - 30; one millimetre is nobody's way."""
    build = housed(
        inside=[300, 300, 300],
        outlines={
            "pump": {"size_mm": [60, 60, 60], "position_mm": [100, 100, 50], "goes_in_from": "top"},
            "reservoir": {"size_mm": [60, 60, 60], "position_mm": [x, 100, 200]},
        },
    )
    hidden = {thread.hidden_by for thread in work_order(build).threads if thread.thing == "pump"}
    assert ("reservoir" in hidden) is blocks


def test_two_parts_in_each_others_way_are_named_with_what_to_drop():
    build = housed(
        inside=[300, 300, 300],
        outlines={
            "pump": {"size_mm": [60, 60, 60], "position_mm": [100, 100, 50], "goes_in_from": "top"},
            "reservoir": {"size_mm": [60, 60, 60], "position_mm": [100, 100, 200], "goes_in_from": "bottom"},
        },
    )
    order = work_order(build)
    [conflict] = order.conflicts
    assert {conflict.first, conflict.then} == {"pump", "reservoir"}
    assert conflict.says.startswith("These cannot all hold.")
    assert "Dropped:" in conflict.says
    assert conflict.of == "blocks"


def test_what_the_designer_says_wins_over_what_is_usual():
    usual = places(work_order(looped()))
    assert usual["radiator-a"] < usual["supply"]
    told = work_order(looped(assembly=[{"first": "supply", "then": "radiator-a", "why": "the radiator covers it"}]))
    assert places(told)["supply"] < places(told)["radiator-a"]
    [conflict] = told.conflicts
    assert (conflict.first, conflict.then, conflict.of) == ("radiator-a", "supply", "usual")
    because = {why.step: why for why in step_of(told, "radiator-a").because}
    assert (because["supply"].why, because["supply"].of) == ("the radiator covers it", "told")


def test_an_order_that_was_dropped_is_not_proposed_again():
    dropped = [{"first": "radiator-a", "then": "supply", "holds": False}]
    order = work_order(looped(assembly=[*dropped, {"first": "supply", "then": "radiator-a"}]))
    assert order.conflicts == []
    assert "radiator-a" not in {why.step for why in step_of(order, "supply").because}


def test_steps_are_worded_timed_left_out_and_added():
    steps = [
        {"id": "a", "at": "pump", "name": "Pump on its foam", "minutes": 33, "tool": "hands"},
        {"id": "b", "at": "firmware", "left_out": True},
        {"id": "paint", "name": "Paint the lid", "minutes": 120},
        {"id": "look", "name": "Lid is dry", "gate": True, "sees": ["paint"]},
    ]
    order = work_order(looped(steps=steps, assembly=[{"first": "paint", "then": "close-panels"}]))
    pump = step_of(order, "pump")
    assert (pump.name, pump.minutes, pump.tool) == ("Pump on its foam", 33, "hands")
    assert "firmware" not in places(order)
    at = places(order)
    assert at["paint"] < at["look"] < at["close-panels"]
    assert order.minutes == sum(step.minutes for step in order.steps)


def test_gates_have_no_number_and_steps_count_up():
    order = work_order(looped())
    assert [step.number for step in order.steps if not step.gate] == list(
        range(1, sum(not step.gate for step in order.steps) + 1)
    )
    assert all(step.number is None for step in order.steps if step.gate)


def test_reaching_the_memory_again_names_what_comes_out():
    slot = {"id": "slot", "gap_mm": 60, "stack": ["radiator-a"], "ends_at": "Memory"}
    order = work_order(looped(slots=[slot]))
    thread = next(thread for thread in order.threads if thread.thing == "memory")
    assert thread.hidden_by == "radiator-a"
    assert thread.undo.whole
    assert thread.undo.steps[0] == "close-panels"
    assert "radiator-a" in thread.undo.steps
    assert thread.undo.minutes == 2 * step_of(order, "close-panels").minutes + 40
    assert order.exchange_minutes("memory") == thread.undo.minutes + 2 * step_of(order, "memory").minutes


def test_an_exchange_takes_a_part_out_and_another_in():
    order = work_order(looped())
    paste = step_of(order, "plate-processor")
    assert "paste-processor" in paste.items
    undo = next((thread.undo.minutes for thread in order.threads if thread.thing == "plate-processor"), 0)
    assert (
        order.exchange_minutes("paste-processor")
        == order.exchange_minutes("plate-processor")
        == undo + 2 * paste.minutes
    )
    assert order.exchange_minutes("flux") is None


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"assembly": [{"first": "pump", "then": "nothing"}]}, "assembly/0/then"),
        ({"assembly": [{"first": "pump", "then": "pump"}]}, "assembly"),
        ({"assembly": [{"first": "pump", "then": "tube"}, {"first": "tube", "then": "pump"}]}, "assembly"),
        ({"steps": [{"id": "s", "at": "nothing"}]}, "s/at"),
        ({"steps": [{"id": "s"}]}, "s/name"),
        ({"steps": [{"id": "s", "at": "pump"}, {"id": "t", "at": "pump"}]}, "t/at"),
        ({"steps": [{"id": "s", "name": "look", "gate": True, "sees": ["nothing"]}]}, "s/sees"),
        ({"dues": [{"id": "d", "what": "look", "part": "nothing"}]}, "d/part"),
        ({"dues": [{"id": "d", "what": "look", "next_on": "2027-02-30"}]}, "d/next_on"),
        ({"feeds": [{"id": "f", "fed_by": "nothing"}]}, "f/fed_by"),
        ({"feeds": [{"id": "f", "fed_by": "g"}, {"id": "g", "fed_by": "f"}]}, "f/fed_by"),
        ({"feeds": [{"id": "f", "due_on": "2026-11-31"}]}, "f/due_on"),
    ],
)
def test_what_ends_nowhere_is_refused_with_its_address(change, where):
    with pytest.raises(DocumentRefused) as refused:
        looped(**change)
    assert where in [problem.where for problem in refused.value.problems]


def test_a_machine_that_is_not_there_is_refused_and_was_not_by_older_ones():
    raw = raw_recipe()
    raw["parts"][0]["machine"] = "desk"
    raw["assembly"] = [{"first": "pump", "then": "gone"}]
    raw["dues"] = [{"id": "due", "what": "look", "part": "gone"}]
    with pytest.raises(DocumentRefused) as refused:
        read_object(raw)
    addresses = {problem.where for problem in refused.value.problems}
    assert {f"{raw['parts'][0]['id']}/machine", "assembly/0/then", "due/part"} <= addresses
    mended = read_object(raw | {"written_by": "krill 0.1.0"})
    assert [machine.id for machine in mended.machines] == ["desk"]
    assert mended.assembly == []
    assert [due.part for due in mended.dues] == [None]


def test_a_circle_of_ones_own_rules_is_named_in_the_order_of_the_work():
    rules = [{"first": a, "then": b} for a, b in itertools.pairwise(["pump", "tube", "supply", "pump"])]
    with pytest.raises(DocumentRefused, match="before") as refused:
        looped(assembly=rules)
    [problem] = refused.value.problems
    named = problem.what.removeprefix("comes before itself: ").split(" before ")
    assert named[0] == named[-1]
    assert {(a, b) for a, b in itertools.pairwise(named)} == {(r["first"], r["then"]) for r in rules}


@pytest.mark.parametrize("key", RECIPES)
def test_cautions_stand_at_steps_that_are_there_and_only_where_they_apply(key):
    build = made(key)
    order = work_order(build)
    at = places(order)
    found = {one.id: one for one in step_cautions(build, order.steps, 5000)}
    assert all(step in at for one in found.values() for step in one.steps)
    assert len({one.text for one in found.values()}) == len(found)
    assert ("fill" in found) is any(not loop.sealed for loop in build.loops)
    assert "lifting" not in found
    assert "liquid-metal" not in found
    assert ("lifting" in {one.id for one in step_cautions(build, order.steps, 12_001)}) is True


def test_liquid_metal_and_mixed_metals_are_cautioned_of():
    raw = raw_recipe()
    for part in raw["parts"]:
        if part["id"] == "paste-processor":
            part["class"] = "liquid_metal_lid"
        if part["kind"] == "radiator":
            part["metal"] = "aluminium"
    build = read_object(raw)
    found = {one.id for one in step_cautions(build, work_order(build).steps, 0)}
    assert {"liquid-metal", "mixed-metals"} <= found
    plain = looped()
    assert not {"liquid-metal", "mixed-metals"} & {one.id for one in step_cautions(plain, work_order(plain).steps, 0)}


def test_suspects_by_what_was_touched_last_and_how_likely_it_is():
    steps = work_order(looped()).steps
    plain = suspects_of(steps, [])
    assert [one.id for one in plain][:2] == ["power_switch", "feed_loose"]
    assert sum(one.likely for one in plain) == pytest.approx(100)
    touched = suspects_of(steps, ["memory"])
    assert touched[0].id == "memory_seat"
    assert touched[0].because == "touched lately: Memory"
    earlier = {one.id: one.likely for one in suspects_of(steps, ["supply", "memory"])}
    assert earlier["memory_seat"] < touched[0].likely
    cleared = suspects_of(steps, ["memory"], {"memory_seat": "no change"})
    assert cleared[-1].id == "memory_seat"
    assert cleared[-1].likely == 0


def test_how_much_more_the_step_touched_last_counts():
    """Four times its class's likelihood, and seven tenths of what that adds for each step touched since."""
    steps = work_order(looped()).steps

    def against_loose_plugs(*touched):
        found = {one.id: one.likely for one in suspects_of(steps, touched)}
        return found["pressed"] / found["feed_loose"]

    assert against_loose_plugs() == pytest.approx(8 / 20)
    assert against_loose_plugs("plate-processor") == pytest.approx(8 * 4 / 20)
    assert against_loose_plugs("memory", "plate-processor") == pytest.approx(8 * (1 + 3 * 0.7) / 20)
    latest_of_two = against_loose_plugs("plate-processor", "drive", "prepare-plate-processor")
    assert latest_of_two == pytest.approx(8 * 4 / 20)


def test_what_is_not_in_the_build_is_not_suspected():
    steps = work_order(made(next(key for key in RECIPES if key not in LOOPED))).steps
    assert "wet" not in {one.id for one in suspects_of(steps, [])}
    assert "wet" in {one.id for one in suspects_of(work_order(looped()).steps, [])}


def test_an_order_survives_its_document():
    build = looped(
        steps=[{"id": "paint", "name": "Paint"}], assembly=[{"first": "pump", "then": "paint", "holds": False}]
    )
    again = read_object(json.loads(json.dumps(write_object(build))))
    assert write_object(again) == write_object(build)
    assert [step.id for step in work_order(again).steps] == [step.id for step in work_order(build).steps]


def test_sources_without_a_class_go_in_as_what_they_are():
    raw = raw_recipe()
    for part in raw["parts"]:
        for place in part.get("places", []):
            place.pop("class", None)
    raw["parts"] = [part for part in raw["parts"] if part["kind"] != "supply"]
    raw["routes"] = [route for route in raw["routes"] if not route["place"].startswith("supply")]
    build = read_object(raw)
    sources = [part.id for part in build.parts if isinstance(part, Source)]
    assert {step.kind for step in work_order(build).steps if step.id in sources} == {"source"}


def test_a_box_of_its_own_goes_in_before_the_panels():
    order = work_order(housed(box("tank", [50, 50, 50], [100, 100, 100])))
    assert places(order)["tank"] < places(order)["close-panels"]


@pytest.mark.parametrize(
    ("there", "asked"),
    [
        (("gate-insulated", "gate-memory-found"), {("gate-insulated", "gate-memory-found")}),
        (("gate-insulated", "gate-last-start"), {("gate-insulated", "gate-last-start")}),
        (("gate-memory-found",), set()),
        (("gate-insulated",), set()),
        (("gate-pump-moves", "gate-leak-watch"), {("gate-pump-moves", "gate-leak-watch")}),
        (("gate-pump-moves",), set()),
        (("gate-loop-closed", "fill-a"), {("gate-loop-closed", "fill-a")}),
        (("fill-a", "gate-leak-watch"), {("fill-a", "gate-leak-watch")}),
        (("gate-bench-start", "board"), {("gate-bench-start", "board")}),
    ],
)
def test_gates_ask_for_each_other_where_both_are_there(there, asked):
    kinds = {"fill-a": "fill", "board": "board"}
    steps = [
        SimpleNamespace(id=step, kind=kinds.get(step, "gate"), gate=step.startswith("gate"), sees=[]) for step in there
    ]
    assert {(rule.first, rule.then) for rule in _gates(steps)} == asked


def without_names(build):
    raw = write_object(build)
    for thing in (*raw["parts"], *raw.get("loops", [])):
        thing["name"] = ""
    return read_object(raw)


@pytest.mark.parametrize("key", RECIPES)
def test_what_has_no_name_is_told_by_its_id_or_its_kind(key):
    build = without_names(made(key))
    for step in proposed_steps(build):
        assert step.name.strip(" :") == step.name != ""
        assert "None" not in step.name
    told = {step.name for step in proposed_steps(build)}
    for loop in (loop for loop in build.loops if not loop.sealed):
        assert {f"Fill {loop.id}, pump alone powered", f"{loop.id}: tubes cut and seated"} <= told


def padded(**drive):
    """The recipe with a pad under its drive, pressed by a sheet; what else of the drive is said."""
    raw = raw_recipe()
    raw["parts"].append({"id": "pad-drive", "name": "Pad", "class": "pad_1mm_chip", "kind": "interface"})
    next(part for part in raw["parts"] if part["id"] == "drive").update(drive)
    route = next(route for route in raw["routes"] if route["place"] == "drive-place")
    route["hops"].insert(0, {"id": "drive-pad", "kind": "interface", "part": "pad-drive"})
    return read_object(raw)


def test_a_label_comes_off_what_a_pad_lies_on_before_it_goes_in():
    """A label under a pad is a layer of its own (common practice)."""
    order = work_order(padded())
    at = places(order)
    [label] = kinds(order, "labels_off")
    assert label.name == "Label off: Drive"
    assert at[label.id] < at[kinds(order, "drive")[0].id]
    assert kinds(order, "drive")[0].items == ["drive", "pad-drive"]
    assert [step.name for step in proposed_steps(padded(name="")) if step.kind == "labels_off"] == ["Label off: drive"]
    assert kinds(work_order(read_object(raw_recipe())), "labels_off") == []


def test_what_sits_on_the_board_needs_no_step_of_its_own_name():
    named = {step.id: step.name for step in proposed_steps(read_object(raw_recipe()))}
    assert [name for name in named.values() if "Regulators" in name or "Board chips" in name] == []


def test_a_sheet_between_two_parts_is_in_before_the_second_of_them():
    steps = [
        SimpleNamespace(id=name, items=(name,), kind="part", gate=False, sees=[]) for name in ("sheet", "one", "two")
    ]

    def asked(first, second, there=("sheet", "one", "two")):
        sheet = SimpleNamespace(id="sheet", first=first, second=second)
        parts = SimpleNamespace(build=SimpleNamespace(insulators=[sheet]))
        return [(rule.first, rule.then) for rule in _sheets(parts, [one for one in steps if one.id in there])]

    assert asked("one", "back") == asked("back", "one") == [("sheet", "one")]
    assert asked("one", "two") == asked("two", "one") == [("sheet", "two")]
    assert asked("front", "back") == asked("one", "two", there=("one", "two")) == asked("one", "back", ("sheet",)) == []
