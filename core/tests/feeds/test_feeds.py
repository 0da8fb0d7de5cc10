"""What plugs, wires and supplies bear, on both sides of each limit."""

import pytest
from machines import box, fan, machine, opening, path, source, sure

from krill.catalogue.feeds import contact_amperes, feed_classes, wires
from krill.components.figure_table import FigureTable
from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.feeds.feeding import feeding
from krill.feeds.loads import feed_loads, unfed
from krill.feeds.supply_loads import supply_loads
from krill.prediction.predict import predict

PUMP = {"id": "pump", "kind": "pump", "shutoff_kpa": sure(20), "free_flow_l_min": sure(10), "power_w": sure(12)}
BODY = [{"id": "supply-body", "temperature_kind": "case"}]
SUPPLY = {"id": "supply", "kind": "supply", "rating_w": sure(500), "efficiency": sure(0.9), "places": BODY}
SUPPLY_WAY = {"id": "supply-way", "place": "supply-body", "hops": [{"id": "to-box", "kind": "air", "zone": "box"}]}


def build(parts=(), feeds=(), watts=100.0, burst=None, own=None, supply=None, brief=None, chip_class=None, **chip):
    own_source, route = source("chip", "box")
    own_source |= chip
    if chip_class:
        own_source["places"][0]["class"] = chip_class
    raw = machine(
        [fan("wall-fan"), opening("o"), *([SUPPLY | (supply or {})] if supply is not False else []), *parts],
        [box("box", 5)],
        [path("p", "out", "out", "wall-fan", "o")],
        sources=[(own_source, route)],
        watts={"chip": watts},
        feeds=list(feeds),
    )
    if supply is not False:
        raw["routes"].append(SUPPLY_WAY)
    if burst:
        raw["workloads"][0]["burst"] = {"chip": {"power_w": burst, "hold_s": 10}}
    if brief:
        raw["brief"] = brief
    return read_object(raw | (own or {}))


def loads(made):
    workload = made.workloads[0]
    return {load.feed: load for load in feed_loads(made, FigureTable(made), workload)}


def fans(amperes, count=1, **more):
    return [fan(f"f{n}", current_a=sure(amperes), feed="h", **more) for n in range(count)]


HEADER = {"id": "h", "name": "Plug", "kind": "header"}


@pytest.mark.parametrize(
    ("count", "amperes", "says"),
    [(1, 0.4, "ok"), (2, 0.33, "ok"), (2, 0.34, "start over"), (2, 0.4, "start over"), (2, 0.41, "over")],
)
def test_a_fan_plug_bears_labels_to_four_fifths_and_starts_to_its_rating(count, amperes, says):
    """1 A: labels to 0.8 A, starts (1.5 times the label) to 1 A (common practice)."""
    load = loads(build(fans(amperes, count), [HEADER | {"limit_a": sure(1.0)}]))["h"]
    assert load.label_a == pytest.approx(count * amperes)
    assert load.start_a == pytest.approx(1.5 * count * amperes)
    assert load.running_a == pytest.approx(0.6 * count * amperes)
    assert load.running_w == pytest.approx(12 * 0.6 * count * amperes)
    assert load.labels_allowed_a == pytest.approx(0.8)
    assert load.left_a == pytest.approx(0.8 - count * amperes)
    assert load.says == says


def test_three_fans_on_one_plug_are_mended_by_a_splitter_with_its_own_feed():
    over = loads(build(fans(0.3, 3), [HEADER]))["h"]
    assert (over.says, over.way_out) == ("over", "one four-way splitter with its own feed")
    assert over.because == "0.90 A on the labels, 0.80 A are allowed"
    hub = {"id": "h", "kind": "hub", "fed_by": "supply"}
    mended = loads(build(fans(0.3, 3), [hub]))["h"]
    assert (mended.says, mended.way_out) == ("ok by class figure", None)
    assert (mended.allowed_a, mended.labels_allowed_a) == (4.5, pytest.approx(3.6))
    measured = loads(build(fans(0.3, 3), [hub | {"limit_a": sure(4.5)}]))["h"]
    assert measured.says == "ok"


def test_a_blower_starts_with_twice_its_label_and_a_pump_with_more_than_it_runs():
    made = build([fan("b", current_a=sure(0.2), feed="h", **{"class": "fan_blower_75x30"})], [HEADER])
    assert loads(made)["h"].start_a == pytest.approx(0.4)
    made = build([PUMP | {"feed": "h"}], [HEADER | {"class": "pump_plug"}])
    load = loads(made)["h"]
    assert (load.label_a, load.start_a, load.allowed_a) == (pytest.approx(1.0), pytest.approx(1.8), 2.0)
    assert load.says == "ok by class figure"


def test_what_hangs_on_a_splitter_hangs_on_its_plug_as_well():
    splitter = {"id": "s", "kind": "splitter", "fed_by": "h"}
    made = build([fan("a", current_a=sure(0.2), feed="s"), fan("b", current_a=sure(0.3), feed="h")], [HEADER, splitter])
    found = loads(made)
    assert found["s"].label_a == pytest.approx(0.2)
    assert found["h"].label_a == pytest.approx(0.5)
    assert found["h"].consumers == ["b", "a"]


@pytest.mark.parametrize(
    ("kind", "of_class", "sources", "split"),
    [
        ("plug", "graphics_8", 2, True),
        ("plug", "graphics_8", 1, False),
        ("plug", "main_24", 2, False),
        ("hub", "hub_drive", 2, False),
    ],
)
def test_one_lead_for_two_sources_is_told_but_of_the_board(kind, of_class, sources, split):
    lead = {"id": "lead", "kind": kind, "class": of_class, "fed_by": "supply"}
    second, way = source("second", "box")
    routes = [source("chip", "box")[1], SUPPLY_WAY, way]
    hangs = {"feed": "lead"} if sources > 1 else {}
    found = loads(build([second | hangs], [lead], feed="lead", own={"routes": routes}))
    assert found["lead"].split is split


@pytest.mark.parametrize(("watts", "says"), [(224, "ok by class figure"), (226, "over")])
def test_a_lead_that_ends_in_two_plugs_carries_less_than_two_leads(watts, says):
    """225 W on AWG 18, not twice 150 (value from memory)."""
    lead = {"id": "lead", "kind": "plug", "class": "graphics_split", "fed_by": "supply"}
    ends = [{"id": f"end-{n}", "kind": "plug", "class": "graphics_8", "fed_by": "lead"} for n in (1, 2)]
    found = loads(build(feeds=[lead, *ends], watts=watts, feed="end-1", also_fed=["end-2"]))
    assert found["lead"].says == says
    assert found["lead"].running_w == pytest.approx(watts)
    assert found["end-1"].running_w == found["end-2"].running_w == pytest.approx(watts / 2)


@pytest.mark.parametrize(("watts", "says"), [(225, "ok by class figure"), (226, "over")])
def test_a_card_draws_from_slot_and_plug_by_their_ratings(watts, says):
    """75 W from the slot and 150 W from eight contacts carry 225 W."""
    feeds = [
        {"id": "slot", "kind": "slot", "class": "slot_full"},
        {"id": "plug", "kind": "plug", "class": "graphics_8"},
    ]
    found = loads(build(feeds=feeds, watts=watts, feed="slot", also_fed=["plug"]))
    assert found["slot"].running_w == pytest.approx(watts / 3)
    assert found["plug"].running_w == pytest.approx(2 * watts / 3)
    assert {load.says for load in found.values()} == {says}


def test_a_burst_counts_for_what_a_plug_bears():
    feed = [{"id": "plug", "kind": "plug", "class": "processor_4"}]
    held = loads(build(feeds=feed, watts=100, feed="plug"))["plug"]
    burst = loads(build(feeds=feed, watts=100, burst=150, feed="plug"))["plug"]
    assert (held.says, burst.says) == ("ok by class figure", "over")
    assert (burst.running_w, burst.burst_w) == (100, 150)
    assert burst.label_a == pytest.approx(150 / 12)


@pytest.mark.parametrize(
    ("gauge", "contacts", "amperes"),
    [(16, 2, 9), (18, 6, 8), (18, 8, 7), (18, 24, 6), (20, 10, 5), (22, 4, 4), (24, 2, 4), (26, 2, None)],
)
def test_contacts_bear_what_the_published_table_says(gauge, contacts, amperes):
    """A per contact for 30 K rise, all loaded (plug family's data sheet, value from memory)."""
    assert contact_amperes(gauge, contacts) == amperes


@pytest.mark.parametrize(
    ("gauge", "mm2"), [(16, 1.31), (18, 0.82), (20, 0.52), (22, 0.33), (24, 0.20), (26, 0.13), (28, 0.08)]
)
def test_wires_have_the_section_of_their_gauge(gauge, mm2):
    """0.127 x 92^((36 - n)/39) mm (ASTM B258), and copper of 1.72e-8 ohm m."""
    diameter = 0.127 * 92 ** ((36 - gauge) / 39)
    assert wires()[gauge].mm2 == mm2 == pytest.approx(3.14159 / 4 * diameter**2, abs=0.006)
    assert wires()[gauge].ohm_m == pytest.approx(1.724e-8 / (mm2 * 1e-6), rel=0.04)
    assert wires()[gauge].bundle_a < wires()[gauge].single_a


@pytest.mark.parametrize(
    ("gauge", "amperes", "by"),
    [(18, 3 * 7, "its contacts"), (22, 3 * 4, "its contacts"), (26, 3 * 2, "its wires, AWG 26")],
)
def test_the_weakest_of_plug_contacts_and_wire_counts(gauge, amperes, by):
    """Eight contacts for a card: three hot ones of 7 A, of 4 A on AWG 22; a wire of AWG 26 bears 2 A in a bundle."""
    feed = {"id": "plug", "kind": "plug", "class": "graphics_8", "gauge_awg": gauge, "limit_w": sure(400)}
    load = loads(build(feeds=[feed], watts=260, feed="plug"))["plug"]
    assert (load.allowed_a, load.by, load.says) == (pytest.approx(amperes), by, "over")


def test_a_lead_drops_what_its_resistance_says():
    """0.6 m of AWG 18 at 7 A a contact: 0.18 V, 1.2 W a pair (2 L I R)."""
    feed = {"id": "plug", "kind": "plug", "class": "processor_8", "gauge_awg": 18, "length_m": 0.6}
    load = loads(build(feeds=[feed], watts=12 * 28, feed="plug"))["plug"]
    assert load.drop_v == pytest.approx(2 * 0.6 * 7 * 0.0209)
    assert load.lost_w == pytest.approx(4 * 1.23, rel=0.01)


def test_a_plug_that_must_not_stay_empty_is_told_of():
    empty = loads(build(feeds=[HEADER | {"wanted": True}]))["h"]
    assert (empty.says, empty.consumers) == ("empty", [])
    assert loads(build(feeds=[HEADER]))["h"].says == "ok by class figure"
    assert loads(build(fans(0.1), [HEADER | {"wanted": True}]))["h"].says == "ok by class figure"


def test_who_names_no_feed_is_listed_where_there_are_feeds():
    assert unfed(build([fan("loose")])) == []
    made = build([*fans(0.1), fan("loose")], [HEADER])
    assert set(unfed(made)) == {"chip", "wall-fan", "loose"}


def test_a_part_on_another_machines_supply_is_named():
    machines = {"machines": [{"id": "a"}, {"id": "b"}]}
    feed = {"id": "h", "kind": "header", "fed_by": "supply"}
    made = build(fans(0.1, machine="b"), [feed], own=machines, supply={"machine": "a"})
    assert loads(made)["h"].foreign == ["f0"]
    same = build(fans(0.1, machine="a"), [feed], own=machines, supply={"machine": "a"})
    assert loads(same)["h"].foreign == []


def test_one_plug_for_two_sources_is_told_of():
    second, route = source("second", "box")
    feed = {"id": "plug", "kind": "plug", "class": "graphics_16"}
    raw = machine(
        [fan("wall-fan"), opening("o")],
        [box("box", 5)],
        [path("p", "out", "out", "wall-fan", "o")],
        sources=[
            (source("chip", "box")[0] | {"feed": "plug"}, source("chip", "box")[1]),
            (second | {"feed": "plug"}, route),
        ],
        watts={"chip": 50, "second": 50},
        feeds=[feed],
    )
    assert loads(read_object(raw))["plug"].split
    assert not loads(build(feeds=[feed], feed="plug"))["plug"].split
    assert not loads(build(feeds=[feed | {"kind": "slot"}], feed="plug"))["plug"].split


def supply_of(made, **inlet):
    [load] = supply_loads(made, FigureTable(made), made.workloads[0], inlet)
    return load


@pytest.mark.parametrize(
    ("watts", "burst", "holds", "says"),
    [
        (400, None, True, ""),
        (401, None, True, "over four fifths of what it is good for: little headroom"),
        (500, None, True, "over four fifths of what it is good for: little headroom"),
        (501, None, False, "501 W asked, good for 500 W"),
        (300, 550, True, ""),
        (300, 551, False, "a burst of 551 W, it holds 550 W for ten seconds"),
    ],
)
def test_a_supply_against_its_rating_and_its_bursts(watts, burst, holds, says):
    load = supply_of(build(watts=watts, burst=burst))
    assert (load.holds, load.says) == (holds, says)
    assert load.sustained_w == watts
    assert load.share == pytest.approx(watts / 500)


@pytest.mark.parametrize(("watts", "holds"), [(416, True), (417, False)])
def test_a_cards_spikes_count_half_as_much_again(watts, holds):
    """1.5 times its watts for milliseconds, against 1.25 times the rating."""
    load = supply_of(build(watts=watts, chip_class="graphics_chip_220"))
    assert load.peak_w == pytest.approx(1.5 * watts)
    assert load.holds is holds


@pytest.mark.parametrize(("inlet", "good"), [(None, 500), (40, 500), (50, 500 * (1 - 0.015 * 10)), (200, 0)])
def test_a_warm_supply_is_good_for_less(inlet, good):
    load = supply_of(build(watts=100), **({"supply": inlet} if inlet is not None else {}))
    assert load.good_for_w == pytest.approx(good)
    flat = supply_of(build(watts=100, supply={"built_as": "flat"}), supply=50)
    assert flat.good_for_w == pytest.approx(500 * (1 - 0.017 * 10))


def test_a_year_of_energy_by_hours_and_price():
    load = supply_of(build(watts=250, brief={"hours_per_day": 10, "energy_price": 0.3}))
    assert load.loss_w == pytest.approx(250 * (1 / 0.9 - 1))
    assert load.efficiency == pytest.approx(0.9)
    assert load.kwh_a_year == pytest.approx(250 / 0.9 * 10 * 365.25 / 1000)
    assert load.cost_a_year == pytest.approx(0.3 * load.kwh_a_year)
    unknown = supply_of(build(watts=250))
    assert (unknown.kwh_a_year, unknown.cost_a_year) == (None, None)


def test_what_a_supply_carries_is_what_the_prediction_says_it_loses():
    made = build(watts=250)
    load = supply_of(made)
    heat = sum(place.watts for place in predict(made, samples=0).workloads[0].places if place.address == "supply-body")
    assert load.loss_w == pytest.approx(heat, rel=1e-6)


def test_no_rating_is_no_verdict():
    load = supply_of(build(watts=100, supply={"rating_w": None}))
    assert (load.holds, load.share, load.says) == (None, None, "no rating stated")


def test_a_workload_that_is_not_there_is_named():
    with pytest.raises(DocumentRefused, match="workload"):
        feeding(build(), "gone")


def test_every_class_bears_no_less_by_its_contacts_than_it_is_made_for():
    """But old drive feeds, whose contacts are planned at their worst."""
    for key, known in feed_classes().items():
        if known.contacts is not None and known.contact_a is not None:
            assert known.contacts * known.contact_a >= 0.99 * known.amperes, key
    assert feed_classes()["drive_flat"].amperes == pytest.approx(54 / 12)


def test_notices_name_the_way_out():
    texts = {n.text for n in predict(build(fans(0.3, 3), [HEADER]), samples=0).workloads[0].notices}
    assert (
        "Plug would carry too much for 3 parts: 0.90 A on the labels, 0.80 A are allowed (common practice): "
        "one four-way splitter with its own feed."
    ) in texts
    noted = {n.text: n.level for n in predict(build(fans(0.35, 2), [HEADER]), samples=0).workloads[0].notices}
    starting = next(text for text in noted if "starts too much at once" in text)
    assert noted[starting] == "note"


@pytest.mark.parametrize(
    ("burst", "chip_class", "level"), [(551, None, "warning"), (450, "graphics_chip_220", "note"), (450, None, None)]
)
def test_bursts_over_a_supply_are_warned_of_and_spikes_noted(burst, chip_class, level):
    made = build(watts=300, burst=burst, chip_class=chip_class)
    said = [n.level for n in predict(made, samples=0).workloads[0].notices if n.text.endswith("(common practice).")]
    assert said == ([level] if level else [])


def test_a_feed_of_no_class_is_of_twelve_volts():
    feed = {"id": "h", "kind": "other", "limit_w": sure(6)}
    load = loads(build(fans(0.5), [feed]))["h"]
    assert (load.volts, load.allowed_a, load.says) == (12, pytest.approx(0.5), "start over")
    assert loads(build(fans(0.51), [feed]))["h"].says == "over"


def test_one_class_figure_among_measured_ones_is_a_class_figure():
    limit = HEADER | {"limit_a": sure(1.0)}
    guessed = {"id": "g", "kind": "fan", "class": "fan_120x25", "feed": "h"}
    assert loads(build(fans(0.1, 2), [limit]))["h"].says == "ok"
    assert loads(build([*fans(0.1), guessed], [limit]))["h"].says == "ok by class figure"
    assert loads(build([guessed, *fans(0.1)], [limit]))["h"].says == "ok by class figure"
