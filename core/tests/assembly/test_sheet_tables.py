"""Parts, leads, sums and tables of a sheet."""

import csv
import io

import pytest
from housed import ENDS, housed, lead
from machines import sure
from strategies import raw_recipe

from krill.assembly.sheet import build_sheet
from krill.assembly.tables import leads_csv, parts_csv
from krill.document.reading import read_object
from krill.prediction.predict import predict
from krill.records import to_json


def sheet_of(change=None, **more):
    raw = raw_recipe() | more
    for part in raw["parts"]:
        part.update((change or {}).get(part["id"], {}))
    return build_sheet(read_object(raw))


def rows_of(sheet):
    return {row.id: row for row in sheet.parts}


def test_every_part_that_somebody_buys_is_listed_once_with_its_step():
    sheet = sheet_of()
    ids = [row.id for row in sheet.parts]
    assert len(ids) == len(set(ids))
    assert {"pump", "plate-processor", "fan-a1", "paste-processor"} <= set(ids)
    assert not {"grille", "circuit-board", "link-socket"} & set(ids)
    steps = {step.id for step in sheet.order.steps}
    assert all(row.step in steps for row in sheet.parts)
    order = [step.id for step in sheet.order.steps]
    assert [order.index(row.step) for row in sheet.parts] == sorted(order.index(row.step) for row in sheet.parts)


def test_unknown_prices_and_masses_are_counted_and_never_guessed():
    plain = sheet_of()
    assert (plain.sums.money, plain.sums.prices_unknown) == (0, len(plain.parts))
    priced = sheet_of({"pump": {"price": 78}, "fan-a1": {"price": sure(14.5)}})
    assert (priced.sums.money, priced.sums.prices_unknown) == (92.5, len(plain.parts) - 2)
    known = [row.mass_g for row in plain.parts if row.mass_g is not None]
    assert plain.sums.mass_g == pytest.approx(sum(known))
    assert plain.sums.masses_unknown == len(plain.parts) - len(known)
    heavier = sheet_of({"pump": {"mass_g": sure(5000)}})
    assert rows_of(heavier)["pump"].mass_g == 5000


def test_what_is_in_hand_ordered_and_still_to_buy_is_counted():
    sheet = sheet_of(
        {
            "pump": {"stock": "in_hand"},
            "tube": {"stock": "ordered", "due_on": "2027-01-03"},
            "fan-a1": {"stock": "to_buy"},
        }
    )
    sums = sheet.sums
    assert (sums.in_hand, sums.ordered, sums.to_buy, sums.untold) == (1, 1, 1, len(sheet.parts) - 3)
    assert rows_of(sheet)["tube"].due_on == "2027-01-03"


def test_assumed_figures_are_named_and_stated_ones_are_not():
    assert "power" in rows_of(sheet_of())["pump"].assumed
    assert "power" not in rows_of(sheet_of({"pump": {"power_w": sure(12)}}))["pump"].assumed


def test_a_splitter_is_on_the_list_and_a_plug_of_the_board_is_not():
    feeds = [
        {"id": "plug", "kind": "header"},
        {
            "id": "hub",
            "name": "Hub",
            "kind": "hub",
            "class": "hub_drive",
            "fed_by": "supply",
            "stock": "to_buy",
            "price": 9,
        },
    ]
    row = rows_of(sheet_of({"fan-a1": {"feed": "hub"}}, feeds=feeds))
    assert "plug" not in row
    assert (row["hub"].of_class, row["hub"].price, row["hub"].stock) == (
        "four-way splitter with its own feed",
        9,
        "to_buy",
    )
    assert row["hub"].step == "radiator-a"


def test_a_list_of_parts_is_read_back_as_it_was():
    sheet = sheet_of({"pump": {"name": '=HYPERLINK("x"), two', "price": 78, "note": "second hand\nworks"}})
    [header, *rows] = list(csv.reader(io.StringIO(parts_csv(sheet.parts))))
    assert header[:3] == ["part", "class", "kind"]
    assert len(rows) == len(sheet.parts)
    pump = next(row for row in rows if row[2] == "pump")
    assert pump[0] == '\'=HYPERLINK("x"), two'
    assert (pump[5], pump[10]) == ("78", "second hand\nworks")
    assert next(row for row in rows if row[0] == "Memory")[5] == ""


def led(points=None, **more):
    return housed(*ENDS, leads=[lead(points or [[5, 150, 100], [395, 150, 100]], **{"class": "main_round"} | more)])


def test_leads_say_how_long_to_order_and_whether_they_reach():
    [row] = build_sheet(led()).leads
    assert (row.from_name, row.to_name, row.via) == ("first", "last", 0)
    assert row.order_mm is not None
    assert row.order_mm > 390
    assert (row.stated_mm, row.reaches, row.bend, row.stiff_n) == (None, True, "before", 12)
    [short] = build_sheet(led(length_mm=300)).leads
    assert (short.stated_mm, short.reaches) == (300, False)
    [typed] = build_sheet(housed(*ENDS, leads=[lead(length_mm=420, **{"class": "fan"})])).leads
    assert (typed.order_mm, typed.stated_mm, typed.reaches, typed.bend) == (None, 420, None, "in place")


@pytest.mark.parametrize(("kind", "bend"), [("front_port_small", "in place"), ("front_port", "before"), (None, "")])
def test_stiff_leads_are_bent_before_they_go_in(kind, bend):
    """More than 4 N to hold a right angle (common practice)."""
    [row] = build_sheet(led(**{"class": kind})).leads
    assert row.bend == bend


def test_leads_are_read_back_as_they_were():
    sheet = build_sheet(led(length_mm=300, socket="row 2, left"))
    [header, row] = list(csv.reader(io.StringIO(leads_csv(sheet.leads))))
    told = dict(zip(header, row, strict=True))
    assert (told["from"], told["to"], told["stated_mm"], told["reaches"]) == ("first", "last", "300", "no")
    assert told["socket"] == "row 2, left"


def test_a_loop_says_what_joins_it_and_which_port_is_which():
    [joints] = sheet_of({"fittings": {"count": 10}, "elbows": {"count": 4}}).joints
    assert (joints.fittings, joints.elbows, joints.coupling_pairs) == (14, 4, 0)
    assert joints.ports[-1].endswith("into Pump")
    assert len(joints.ports) == len(set(joints.ports))
    assert joints.pieces == []


def test_pieces_of_a_tube_are_cut_as_long_as_they_are_laid():
    laid = [[0, 0, 0], [200, 0, 0]]
    ends = {"from_part": "pump", "to_part": "radiator-a"}
    leads = [
        {"id": "up", "tube": "tube", "name": "Tube up", "points_mm": laid, **ends},
        {"id": "down", "tube": "tube", "name": "Tube down", **ends},
        {"id": "feed", "class": "fan", **ends},
    ]
    [joints] = sheet_of({}, leads=leads).joints
    assert [(piece.name, piece.cut_mm) for piece in joints.pieces] == [("Tube up", 210), ("Tube down", None)]


def test_before_it_travels_heavy_parts_are_named():
    tower = {"id": "tower", "kind": "cooler", "name": "Tower", "class": "cooler_tower_140"}
    heavy = housed(tower, at={"tower": [100, 100, 100]})
    assert [one.part for one in build_sheet(heavy).travel.heavy] == ["tower"]
    assert any("couplings" in line for line in build_sheet(heavy).travel.before)


def test_a_sheet_is_plain_json_and_changes_no_prediction():
    raw = raw_recipe()
    before = predict(read_object(raw), samples=0).workloads[0].places
    raw["steps"] = [{"id": "paint", "name": "Paint"}]
    raw["parts"][0]["stock"] = "ordered"
    assert predict(read_object(raw), samples=0).workloads[0].places == before
    sheet = to_json(build_sheet(read_object(raw)))
    assert {"order", "parts", "leads", "fills", "care", "cautions", "travel"} <= set(sheet)


def test_what_could_be_bought_instead_stands_beside():
    ready = [{"id": "ready-box", "name": "Ready box", "price": 900, "work_hours": 1.5, "note": "louder"}]
    [one] = to_json(sheet_of(ready_made=ready))["ready_made"]
    assert one == {
        "id": "ready-box",
        "name": "Ready box",
        "price": 900.0,
        "mass_g": None,
        "work_hours": 1.5,
        "note": "louder",
    }


class TestSockets:
    """Which plug of the supply reaches: of the kind that the lead ends in, by the length that the way asks."""

    def rows(self, plug="processor_8", feeds=None):
        told = feeds or [(0.3, "processor_8"), (0.65, "processor_8"), (0.45, "processor_8"), (0.9, "main_24")]
        fed = [
            {"id": f"plug-{n}", "kind": "plug", "class": of_class, "fed_by": "supply"}
            | ({} if length is None else {"length_m": length})
            for n, (length, of_class) in enumerate(told)
        ]
        own = lead(from_part="supply", ends={"plug": plug}, length_mm=400)
        return build_sheet(housed(*ENDS, leads=[own], feeds=fed)).leads[0].sockets

    def test_those_of_its_kind_that_reach_come_first_the_shortest_of_them_first(self):
        found = self.rows()
        assert [(one.feed, one.spare_mm) for one in found] == [
            ("plug-2", pytest.approx(50)),
            ("plug-1", pytest.approx(250)),
            ("plug-0", pytest.approx(-100)),
        ]

    def test_one_that_is_just_long_enough_reaches(self):
        [one] = self.rows(feeds=[(0.4, "processor_8")])
        assert one.spare_mm == pytest.approx(0)

    def test_without_a_kind_every_plug_of_the_supply_counts_and_without_a_length_none(self):
        assert len(self.rows(plug=None)) == 4
        assert self.rows(feeds=[(None, "processor_8")]) == []
