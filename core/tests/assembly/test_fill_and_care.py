"""Fill volumes, fill steps and what is due, against sums, closed forms and both sides of thresholds."""

from math import hypot, log, pi

import pytest
from machines import sure
from strategies import raw_recipe

from krill.assembly.care import care_dues, coolant_key, water_lost_g_month
from krill.assembly.fill import fill_plans
from krill.assembly.sheet import build_sheet
from krill.assembly.warmth import Warmth, predicted_warmth
from krill.components.coolant_volumes import grown_share, part_volumes
from krill.components.figure_table import FigureTable
from krill.document.reading import read_object, write_object
from krill.fit.fit import checks_of
from krill.prediction.predict import predict
from krill.recipes.air_box import air_box
from krill.recipes.loop_and_card import closed_loop


def looped(change=None, **more):
    raw = raw_recipe() | more
    for part in raw["parts"]:
        part.update((change or {}).get(part["id"], {}))
    return read_object(raw)


def plan_of(build):
    [plan] = fill_plans(build, FigureTable(build), checks_of(build).heights)
    return plan


def dues_of(build, **warm):
    return {due.id: due for due in care_dues(build, FigureTable(build), Warmth(warm))}


def loop_of(build, **coolant):
    raw = raw_recipe()
    raw["loops"][0]["coolant"] = coolant
    return read_object(raw)


def test_the_volume_is_the_sum_of_its_parts_class_volumes():
    """Radiator 360 x 30: three sections of 43 ml and tanks of 35; tube by its bore; the rest by class (value from memory)."""
    build = looped(
        {
            "radiator-a": {"section_mm": 120, "sections": 3, "thickness_mm": 28},
            "tube": {"length_m": sure(2.0), "bore_mm": sure(10.0)},
            "reservoir": {"volume_ml": sure(200), "fill_share": sure(0.5)},
            "fittings": {"count": 10},
            "elbows": {"count": 4},
        }
    )
    plan = plan_of(build)
    ml = {part.part: part.ml for part in plan.parts}
    assert ml["radiator-a"] == 3 * 43 + 35
    assert ml["tube"] == pytest.approx(pi / 4 * 10**2 * 2.0)
    assert (ml["plate-processor"], ml["plate-graphics"]) == (20, 45)
    assert (ml["fittings"], ml["elbows"], ml["pump"], ml["reservoir"]) == (10, 10, 45, 100)
    assert plan.volume_ml == pytest.approx(sum(ml.values()))
    assert plan.half_ml == pytest.approx(hypot(*(part.half_ml for part in plan.parts)))
    assert plan.buy_ml == pytest.approx(1.25 * plan.volume_ml)
    assert plan.rinse_ml == pytest.approx(2 * plan.volume_ml)


@pytest.mark.parametrize(
    ("section", "thickness", "sections", "ml"),
    [(120, 60, 1, 103 + 35), (140, 28, 2, 2 * 59 + 45), (140, 45, 1, 106 + 45), (200, 45, 1, 216 + 60)],
)
def test_radiators_hold_what_their_class_holds(section, thickness, sections, ml):
    build = looped({"radiator-a": {"section_mm": section, "thickness_mm": thickness, "sections": sections}})
    loop = build.loops[0]
    found = {part.part: part for part in part_volumes(build, loop, FigureTable(build))}
    assert found["radiator-a"].ml == ml


def test_parts_live_by_what_the_hardest_workload_makes_of_them():
    """Air that fans breathe, coolant of pump and loop, air round the supply; each as the forecast has it."""
    build = looped(brief={"worst_workloads": ["both"]})
    warmth, found = predicted_warmth(build), predict(build, ["both"], samples=0).workloads[0]
    low, high = found.loops[0].lowest_c, found.loops[0].highest_c
    assert low <= warmth.at_c["loop-a"] <= high
    assert low - 1e-6 <= warmth.at_c["pump"] <= high + 1e-6
    box = next(zone for zone in found.terraces if zone.kind == "air")
    assert warmth.at_c["supply"] == pytest.approx(box.temperature_c)
    fans = {part.id for part in build.parts if part.kind == "fan"}
    assert fans <= warmth.at_c.keys()
    assert all(23.9 < warmth.at_c[fan] < box.temperature_c + 25 for fan in fans)
    due = {due.id: due for due in build_sheet(build).care}["fan-a1/life"]
    at_class = dues_of(build)["fan-a1/life"]
    assert due.days == pytest.approx(at_class.days * 2 ** ((40 - warmth.at_c["fan-a1"]) / 12))


def test_what_cannot_be_solved_lives_by_its_class():
    assert predicted_warmth(looped(workloads=[], brief={})) == Warmth()


def test_a_dirty_filter_costs_the_kelvins_of_a_loaded_one():
    raw = write_object(air_box(95, 200, 30, 24))
    mesh = {"id": "mesh", "kind": "filter", "class": "filter_fine", "area_cm2": 100}
    raw["parts"].append(mesh)
    raw["air_paths"][0]["elements"].insert(0, "mesh")
    clean = read_object(raw)
    costs, place = predicted_warmth(clean).dirt_k[mesh["id"]]
    mesh["loaded"] = True
    dirty = read_object(raw)
    before, after = (predict(one, samples=0).workloads[-1].places for one in (clean, dirty))
    rises = {b.name: a.temperature_c - b.temperature_c for a, b in zip(after, before, strict=True)}
    assert costs == pytest.approx(max(rises.values()), abs=2e-3)
    assert costs > 0.1
    assert rises[place] == max(rises.values())
    note = {due.id: due for due in build_sheet(clean).care}[f"{mesh['id']}/filter"].note
    assert note == f"loaded it costs three times its drop: {costs:.1f} K on {place}"
    assert predicted_warmth(dirty).dirt_k == {}


def test_a_stated_volume_wins_over_its_class():
    found = {part.part: part for part in plan_of(looped({"plate-graphics": {"volume_ml": sure(30)}})).parts}
    assert (found["plate-graphics"].ml, found["plate-graphics"].origin) == (30, "measured")
    assert found["plate-processor"].origin == "class"


@pytest.mark.parametrize(
    ("mixture", "code"),
    [
        ({"fluid": "water"}, "Water"),
        ({"fluid": "propylene_glycol", "mass_share": 0.3}, "INCOMP::MPG[0.3]"),
        ({"fluid": "ethylene_glycol", "mass_share": 0.2}, "INCOMP::MEG[0.2]"),
    ],
)
def test_warm_coolant_grows_by_its_density(mixture, code):
    """From 20 to 60 °C, against the property library."""
    from CoolProp.CoolProp import PropsSI

    cold, hot = (PropsSI("D", "T", t + 273.15, "P", 101325, code) for t in (20, 60))
    plan = plan_of(loop_of(None, **mixture))
    assert plan.expands_ml == pytest.approx((cold / hot - 1) * plan.volume_ml, rel=2e-3)


def test_the_loop_holds_one_volume_wherever_it_is_told():
    """The fill plan and the forecast name the same litres, growth and room for it."""
    build = looped({"reservoir": {"volume_ml": None, "fill_share": None}})
    plan, found = plan_of(build), predict(build, samples=0).workloads[0].loops[0]
    assert found.fill_l == pytest.approx(plan.volume_ml / 1000, rel=1e-9)
    assert found.air_room_ml == pytest.approx(plan.air_ml, rel=1e-9) == pytest.approx(180 * 0.15)
    assert found.expansion_ml == pytest.approx(
        found.fill_l * 1000 * grown_share(build.loops[0].coolant, found.highest_c)
    )


@pytest.mark.parametrize(("full", "well"), [(0.80, True), (0.95, False)])
def test_a_twentieth_of_air_is_left(full, well):
    plan = plan_of(looped({"reservoir": {"volume_ml": sure(200), "fill_share": sure(full)}}))
    assert plan.air_ml == pytest.approx(200 * (1 - full))
    assert plan.cushion_well is well
    assert (plan.air_ml >= 0.05 * plan.volume_ml) is well


def on_couplings():
    raw = raw_recipe()
    raw["parts"] = [part for part in raw["parts"] if part["id"] != "reservoir"]
    raw["parts"] += [{"id": f"coupling-{n}", "kind": "coupling", "class": "coupling_large"} for n in (1, 2)]
    elements = [item for item in raw["loops"][0]["elements"] if item != "reservoir"]
    raw["loops"][0]["elements"] = [*elements, "coupling-1", "coupling-2"]
    return read_object(raw)


def test_two_couplings_stand_in_for_a_reservoir():
    plan = plan_of(on_couplings())
    assert plan.by_couplings
    assert (plan.air_ml, plan.cushion_well) == (None, None)
    assert next(step for step in plan.steps if step.id == "loop-a/fill").name == "Fill through two couplings"
    assert not plan_of(looped()).by_couplings
    [joints] = build_sheet(on_couplings()).joints
    assert (joints.coupling_pairs, joints.coupling_odd) == (2, False)


def test_the_steps_stand_in_the_order_that_hurts_nobody():
    plan = plan_of(looped())
    ids = [step.id.split("/")[1] for step in plan.steps]
    assert ids == [
        "seals", "off", "closed", "paper", "rinse", "clean", "drain", "fill", "bleed", "leak", "top-up", "waste",
    ]  # fmt: skip
    watched = {step.id.split("/")[1]: (step.watch_h, step.looks_h) for step in plan.steps if step.watch_h}
    assert watched == {"clean": (24, [0.17, 1, 4, 24]), "bleed": (2, []), "leak": (24, [0.17, 1, 4, 24])}
    filling = next(step for step in plan.steps if step.id == "loop-a/fill")
    assert filling.minutes == pytest.approx(15 * plan.volume_ml / 1000)
    assert any("dry for more than 3 s" in stop for stop in plan.stops)


def test_each_step_takes_its_minutes():
    """Common practice: an hour of flushing shared between two steps, twice twenty minutes of draining, the rest by hand."""

    def minutes(build):
        return {step.id.split("/")[1]: step.minutes for step in plan_of(build).steps}

    by_hand = {"seals": 10, "off": 2, "closed": 3, "paper": 5, "rinse": 25, "leak": 5, "top-up": 5, "waste": 5}
    told = minutes(looped())
    assert {key: told[key] for key in by_hand} == by_hand
    assert (told["clean"], told["drain"], told["bleed"]) == (30, 40, 20)
    assert minutes(on_couplings())["fill"] == 25
    tiny = looped({"reservoir": {"volume_ml": sure(5), "fill_share": sure(0.5)}, "tube": {"length_m": sure(0.1)}})
    assert plan_of(tiny).volume_ml < 1000 / 3
    assert minutes(tiny)["fill"] == 5


@pytest.mark.parametrize(("couplings", "reservoir", "by"), [(2, False, True), (1, False, False), (2, True, False)])
def test_only_two_couplings_and_no_reservoir_are_filled_through(couplings, reservoir, by):
    raw = on_couplings().model_dump(mode="json", by_alias=True)
    if couplings == 1:
        raw["loops"][0]["elements"].remove("coupling-2")
        raw["parts"] = [part for part in raw["parts"] if part["id"] != "coupling-2"]
    if reservoir:
        raw["parts"].append(next(part for part in raw_recipe()["parts"] if part["id"] == "reservoir"))
        raw["loops"][0]["elements"].append("reservoir")
    assert plan_of(read_object(raw)).by_couplings is by


@pytest.mark.parametrize(
    ("fluid", "share", "words"),
    [
        ("water", 0.0, "distilled water with inhibitor and biocide"),
        ("propylene_glycol", 0.0, "distilled water with inhibitor and biocide"),
        ("propylene_glycol", 0.3, "distilled water with 30 % propylene glycol by mass"),
    ],
)
def test_a_coolant_is_told_in_words(fluid, share, words):
    assert plan_of(loop_of(looped(), fluid=fluid, mass_share=share)).coolant == words


def test_air_is_tilted_out_of_the_radiators_first():
    build = looped({"radiator-a": {"face": "left"}})
    assert plan_of(build).tilts[0] == "right"
    assert set(plan_of(build).tilts) == {"front", "left", "back", "right"}


def test_mixed_metals_are_told_with_the_inhibitor():
    assert plan_of(looped()).inhibitor.startswith("an inhibitor for copper")
    mixed = plan_of(looped({"radiator-a": {"metal": "aluminium"}}))
    assert mixed.metals == ["aluminium", "copper"]
    assert "better one metal" in mixed.inhibitor
    glycol = plan_of(loop_of(None, fluid="propylene_glycol", mass_share=0.25))
    assert glycol.inhibitor == "the mixture's own inhibitor, at the share that its maker names"


def test_pockets_of_air_come_from_heights():
    raw = raw_recipe()
    for part in raw["parts"]:
        at = {"reservoir": 60, "radiator-a": 150, "plate-processor": 120}.get(part["id"])
        part["outline"] = {"size_mm": [40, 40, 40], "position_mm": [100, 100, at]} if at else None
    raw["housing"] |= {"inner_size_mm": [300, 300, 300]}
    assert plan_of(read_object(raw)).pockets == ["radiator-a", "plate-processor"]


@pytest.mark.parametrize(
    ("coolant", "key", "days"),
    [
        ({"fluid": "water"}, "coolant_water", 9 * 30.4375),
        ({"fluid": "propylene_glycol", "mass_share": 0.249}, "coolant_clear", 24 * 30.4375),
        ({"fluid": "propylene_glycol", "mass_share": 0.25}, "coolant_glycol", 36 * 30.4375),
        ({"fluid": "propylene_glycol", "mass_share": 0}, "coolant_water", 9 * 30.4375),
    ],
)
def test_coolant_is_due_by_what_it_is(coolant, key, days):
    build = loop_of(None, **coolant)
    assert coolant_key(build.loops[0]) == key
    assert dues_of(build)["loop-a/coolant"].days == pytest.approx(days)


def tubed(material="soft_clear", outside=16, bore=10):
    raw = raw_recipe()
    for part in raw["parts"]:
        if part["id"] == "tube":
            part |= {"length_m": sure(1.0), "bore_mm": sure(bore)}
    ends = {"from_part": "pump", "to_part": "reservoir", "tube": "tube"}
    raw["leads"] = [{"id": "run", "material": material, "outside_mm": outside, **ends}]
    return read_object(raw)


@pytest.mark.parametrize(
    ("material", "outside", "bore", "grams"),
    [
        ("silicone", 16, 10, 45),
        ("silicone", 13, 10, 81),
        ("silicone", 10, 5.5, 35),
        ("polyurethane", 16, 10, 3.1),
        ("soft_clear", 16, 10, 2.3),
        ("rubber", 16, 10, 1.1),
        ("rubber", 13, 10, 2.0),
    ],
)
def test_tubes_let_through_what_the_table_says(material, outside, bore, grams):
    """A month and metre at 40 °C (steady diffusion in a cylinder, Crank 1956; value from memory): the rounding apart."""
    build = tubed(material, outside, bore)
    assert water_lost_g_month(build, build.part("tube"), 40.0, 24.0) == pytest.approx(grams, rel=0.05)


def test_water_through_a_tube_follows_the_closed_form():
    build = tubed("rubber")
    found = water_lost_g_month(build, build.part("tube"), 50.0, 20.0)
    pressure = 611.2 * (
        2.718281828459045 ** (17.62 * 50 / (243.12 + 50)) - 0.5 * 2.718281828459045 ** (17.62 * 20 / 263.12)
    )
    expected = 900 * 3.35e-16 * 2 * pi / log(1.6) * pressure * 18.015 * 86_400 * 30.4375
    assert found == pytest.approx(expected)
    assert water_lost_g_month(build, build.part("tube"), 5.0, 30.0) == 0.0


def test_a_tube_that_nobody_measured_outside_has_a_wall_of_three_millimetres_and_twice_the_length_lets_twice_through():
    known, bare, long = tubed("rubber", 16), tubed("rubber", None), tubed("rubber", 16)
    lost = [water_lost_g_month(build, build.part("tube"), 40.0, 24.0) for build in (known, bare)]
    assert lost[1] == pytest.approx(lost[0])
    tube = long.part("tube")
    twice = tube.model_copy(update={"length_m": 2.0})
    assert water_lost_g_month(long, twice, 40.0, 24.0) == pytest.approx(2 * lost[0])


def test_the_level_says_what_its_tubes_let_through():
    due = dues_of(tubed("silicone"))["loop-a/level"]
    assert "44.9 g a month" in due.note
    assert due.days == pytest.approx(30.4375)
    assert dues_of(tubed("rubber"))["tube/tube"].days > dues_of(tubed())["tube/tube"].days


@pytest.mark.parametrize(("hours", "days"), [(8, 50_000 / 8), (24, 50_000 / 24), (None, 50_000 / 8)])
def test_fans_are_due_by_hours_run(hours, days):
    due = dues_of(looped(brief={"hours_per_day": hours} if hours else {}))["fan-a1/life"]
    assert (due.days, due.by_hours) == (pytest.approx(days), pytest.approx(50_000))
    assert due.early_days < due.days < due.late_days


def test_a_bearing_lives_half_as_long_twelve_kelvins_warmer():
    cool, warm = dues_of(looped()), dues_of(looped(), **{"fan-a1": 52.0})
    assert warm["fan-a1/life"].days == pytest.approx(cool["fan-a1/life"].days / 2)
    assert warm["fan-a2/life"].days == pytest.approx(cool["fan-a2/life"].days)
    hot = dues_of(looped(), supply=50.0)
    assert hot["supply/life"].days == pytest.approx(cool["supply/life"].days / 2)


def filtered(face, gravity=(0, 0, -1), hours=8):
    raw = raw_recipe()
    raw["parts"].append({"id": "mesh", "kind": "filter", "class": "filter_fine", "face": face, "area_cm2": 100})
    raw["housing"] |= {"gravity": list(gravity)}
    raw["brief"] |= {"hours_per_day": hours}
    return dues_of(read_object(raw))["mesh/filter"]


def test_filters_load_faster_over_the_floor_and_with_hours():
    assert filtered("front").days == 90
    assert filtered("bottom").days == 45
    assert filtered("bottom", (0, 0, 1)).days == 90
    assert filtered("front", hours=16).days == 45
    assert filtered("front").by_hours == filtered("front", hours=16).by_hours == 720


def test_layers_are_due_by_their_class():
    raw = raw_recipe()
    for part in raw["parts"]:
        part["class"] = {"paste-processor": "paste_good_lid", "pads-memory": "liquid_metal_chip"}.get(
            part["id"], part.get("class")
        )
    due = dues_of(read_object(raw | {"brief": {"hours_per_day": 10}}))
    paste = due["paste-processor/layer"]
    assert (paste.early_days, paste.late_days) == (3000 / 10 * 2, 3000 / 10 * 7)
    assert paste.days == pytest.approx((paste.early_days * paste.late_days) ** 0.5)
    assert paste.what == "Renew the paste"
    assert paste.by_hours == pytest.approx(paste.days * 10)
    nameless = dues_of(looped({"fan-a1": {"name": ""}}))["fan-a1/life"]
    assert (nameless.name, dues_of(looped())["fan-a1/life"].name) == ("fan-a1", "Fan A1")
    assert due["pads-regulators/layer"].what == "Renew the pad"
    assert due["pads-memory/layer"].days == pytest.approx(6 * 30.4375)


def test_what_the_designer_looks_after_stands_among_them():
    dues = [
        {"id": "hinge", "what": "Look at the hinge", "every_days": 30, "next_on": "2027-01-02"},
        {"id": "drive-health", "what": "Read its health", "every_hours": 400, "part": "drive"},
    ]
    found = dues_of(looped(dues=dues, brief={"hours_per_day": 4}))
    assert (found["hinge"].days, found["hinge"].next_on, found["hinge"].told) == (30, "2027-01-02", True)
    assert (found["drive-health"].days, found["drive-health"].name) == (100, "Drive")


def test_upkeep_is_what_all_of_it_takes_in_a_year():
    sheet = build_sheet(looped())
    assert sheet.upkeep_hours_a_year == pytest.approx(sum(due.minutes / 60 * 365.25 / due.days for due in sheet.care))
    assert [due.days for due in sheet.care] == sorted(due.days for due in sheet.care)


class TestSealedLoops:
    """A loop that was bought filled goes in as one piece, and is changed as one."""

    @pytest.fixture
    def bought(self):
        return closed_loop(125, 220, 30, 24)

    @pytest.fixture
    def own(self, bought):
        raw = write_object(bought)
        raw["loops"][0].pop("sealed")
        return read_object(raw)

    def test_nobody_fills_cuts_or_watches_it(self, bought, own):
        sheet, other = build_sheet(bought), build_sheet(own)
        assert sheet.fills == []
        assert sheet.joints == []
        kinds = {step.kind for step in sheet.order.steps}
        assert not kinds & {"fill", "tubes", "pump"}
        gates = {step.id for step in sheet.order.steps if step.gate}
        assert not gates & {"gate-loop-closed", "gate-leak-watch"}
        assert {"fill", "tubes", "pump"} <= {step.kind for step in other.order.steps}
        assert len(other.fills) == 1

    def test_pump_and_hoses_go_in_with_the_plate(self, bought):
        steps = build_sheet(bought).order.steps
        [plate] = [step for step in steps if "plate-processor" in step.items]
        assert {"pump", "hose", "hose-back"} <= set(plate.items)
        assert sum("pump" in step.items for step in steps) == 1

    def test_its_pump_is_seen_to_work_after_it_is_in(self, bought):
        steps = [step.id for step in build_sheet(bought).order.steps]
        plate = next(s.id for s in build_sheet(bought).order.steps if "pump" in s.items)
        assert steps.index(plate) < steps.index("gate-pump-moves") < steps.index("close-panels")

    def test_it_is_due_as_a_whole(self, bought, own):
        due, other = ({one.id: one for one in build_sheet(build).care} for build in (bought, own))
        assert "loop-a/whole" in due
        assert due["loop-a/whole"].days == pytest.approx(78 * 30.44, rel=0.01)
        assert not {"loop-a/coolant", "loop-a/seals", "loop-a/level", "hose/tube"} & set(due)
        assert {"loop-a/coolant", "loop-a/seals", "loop-a/level"} <= set(other)
        assert "loop-a/whole" not in other

    def test_temperatures_are_the_same(self, bought, own):
        at = [predict(build, ["both"], samples=0).workloads[0].places for build in (bought, own)]
        assert [p.temperature_c for p in at[0]] == pytest.approx([p.temperature_c for p in at[1]], abs=1e-9)
