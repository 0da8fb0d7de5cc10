"""Every mistake about feeds, order, fill and care that Krill must catch, one test each."""

from machines import sure
from strategies import raw_recipe

from krill.assembly.sheet import build_sheet
from krill.assembly.work_order import work_order
from krill.document.reading import read_object
from krill.prediction.predict import predict
from krill.prediction.questions.stopped import stopped


def changed(change=None, **more):
    raw = raw_recipe() | more
    for part in raw["parts"]:
        part.update((change or {}).get(part["id"], {}))
    return read_object(raw)


def texts(build, workload=0):
    return [notice.text for notice in predict(build, samples=0).workloads[workload].notices]


def places(order):
    return {step.id: at for at, step in enumerate(order.steps)}


def cautions(build):
    return {caution.id: caution for caution in build_sheet(build).cautions}


def test_a_header_over_its_limit_is_a_hard_warning_with_the_figure():
    fans = {f"fan-a{n}": {"feed": "h", "current_a": sure(0.4)} for n in (1, 2, 3)}
    build = changed(fans, feeds=[{"id": "h", "name": "Header", "kind": "header"}])
    found = [n for n in predict(build, samples=0).workloads[0].notices if n.address == "h"]
    assert [n.level for n in found] == ["warning"]
    assert "1.20 A on the labels, 0.80 A are allowed" in found[0].text


def test_a_slot_over_its_limit_is_a_hard_warning_with_the_figure():
    feeds = [{"id": "slot", "name": "Slot", "kind": "slot", "class": "slot_full"}]
    build = changed({"graphics": {"feed": "slot"}}, feeds=feeds)
    found = [text for n in range(len(build.workloads)) for text in texts(build, n)]
    assert any("Slot would carry too much" in text and "6.25 A are allowed" in text for text in found)


def test_a_riser_on_a_drive_plug_is_not_seventy_five_watts():
    feeds = [{"id": "riser", "name": "Riser", "kind": "adapter", "class": "riser_drive"}]
    build = changed({"memory": {"feed": "riser"}}, feeds=feeds)
    raw = raw_recipe()
    raw["workloads"][0]["watts"]["memory"] = 55
    raw["feeds"] = feeds
    for part in raw["parts"]:
        if part["id"] == "memory":
            part["feed"] = "riser"
    assert any("Riser would carry too much" in text for text in texts(read_object(raw)))
    assert not any("Riser would carry too much" in text for text in texts(build))


def test_a_supply_over_its_limit_is_a_hard_warning_with_the_figure():
    build = changed({"supply": {"rating_w": sure(100)}})
    found = [text for n in range(len(build.workloads)) for text in texts(build, n)]
    assert any("asked of a supply rated 100 W" in text for text in found)


def test_a_pump_fed_by_something_that_can_be_off_is_in_the_table_of_what_stops():
    feeds = [{"id": "wall", "name": "Station", "kind": "mains"}, {"id": "s", "kind": "splitter", "fed_by": "wall"}]
    build = changed({"pump": {"feed": "s"}}, feeds=feeds)
    cases = {case.address: case.stopped for case in stopped(build, build.workloads[0].id).cases}
    assert cases["wall"] == ["pump"]
    assert cases["s"] == ["pump"]


def test_a_faulty_board_is_found_before_it_is_built_in():
    at = places(work_order(changed()))
    assert at["gate-bench-start"] < min(at["regulators"], at["supply"], at["radiator-a"])


def test_leads_of_a_supply_are_not_forgotten_until_it_is_screwed_in():
    lead = {"id": "main", "class": "main_round", "from_part": "supply", "to_part": "regulators"}
    at = places(work_order(changed(leads=[lead])))
    assert at["leads-of-supply"] < at["supply"]


def test_parts_are_not_taken_out_again_for_what_they_block():
    below = {"size_mm": [50, 50, 50], "position_mm": [60, 60, 40], "goes_in_from": "top"}
    above = {"size_mm": [50, 50, 50], "position_mm": [60, 60, 120]}
    build = changed({"pump": {"outline": below}, "supply": {"outline": above}})
    assert places(work_order(build))["pump"] < places(work_order(build))["supply"]


def test_memory_that_is_lost_under_a_plate_is_found_before_it_is_hidden():
    order = work_order(changed())
    at = places(order)
    assert at["plate-processor"] < at["gate-memory-found"] < at["close-panels"]


def test_metal_that_touches_metal_is_ticked_before_first_power():
    build = changed(insulators=[{"id": "sheet", "first": "regulators", "second": "back"}])
    at = places(work_order(build))
    assert at["sheet"] < at["gate-insulated"] < at["gate-last-start"]


def test_a_pump_against_a_closed_end_is_a_gate_and_a_caution():
    build = changed()
    at = places(work_order(build))
    assert at["gate-loop-closed"] < at["loop-a"]
    assert "closed end" in cautions(build)["pump"].text
    assert cautions(build)["pump"].steps[0] == "gate-loop-closed"


def test_electronics_are_off_while_it_is_filled_and_watched():
    build = changed()
    at = places(work_order(build))
    assert at["gate-leak-watch"] < at["gate-last-start"]
    assert cautions(build)["fill"].steps == ["loop-a", "gate-leak-watch"]


def test_mixed_metals_and_liquid_metal_are_cautions():
    build = changed({"radiator-a": {"metal": "aluminium"}, "paste-processor": {"class": "liquid_metal_lid"}})
    assert {"mixed-metals", "liquid-metal"} <= set(cautions(build))


def test_a_loop_without_room_to_grow_is_told_of():
    full = build_sheet(changed({"reservoir": {"volume_ml": sure(100), "fill_share": sure(1.0)}})).fills[0]
    assert full.cushion_well is False


def test_a_coolant_that_is_long_due_has_a_day():
    dues = {due.id: due for due in build_sheet(changed()).care}
    assert 0 < dues["loop-a/coolant"].early_days < dues["loop-a/coolant"].days < dues["loop-a/coolant"].late_days


def test_the_start_comes_before_the_last_panel():
    order = [step.id for step in work_order(changed()).steps]
    assert order[-2:] == ["gate-last-start", "close-panels"]
