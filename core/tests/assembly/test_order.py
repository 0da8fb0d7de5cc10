"""Orders that work, against networkx and brute force."""

import itertools
import random

import networkx
import pytest

from krill.assembly.order import changes_of, ordered
from krill.assembly.rules import Rule, Task, without_contradictions
from krill.assembly.undoing import Unit, undoing
from krill.errors import KrillError


def tasks(*names, tools=None, sides=None):
    return [Task(name, (tools or {}).get(name, ""), (sides or {}).get(name, "")) for name in names]


def rules(*pairs):
    return [Rule(first, then) for first, then in pairs]


def names(found):
    return [task.id for task in found]


def random_set(seed, most=12):
    draw = random.Random(seed)
    count = draw.randint(2, most)
    made = [
        Task(f"t{n}", draw.choice(["", "ph1", "ph2", "t6"]), draw.choice(["", "top", "left"]), draw.randint(1, 40))
        for n in range(count)
    ]
    kinds = ["usual", "usual", "blocks", "told", "needed"]
    pairs = {tuple(draw.sample(range(count), 2)) for _ in range(draw.randint(0, 2 * count))}
    return made, [Rule(f"t{a}", f"t{b}", f"{a} first", draw.choice(kinds)) for a, b in sorted(pairs)]


def keeps(order, kept):
    place = {task.id: at for at, task in enumerate(order)}
    return all(place[rule.first] < place[rule.then] for rule in kept)


@pytest.mark.parametrize("seed", range(200))
def test_two_hundred_random_sets_have_orders_and_circles_named_exactly(seed):
    made, wanted = random_set(seed)
    kept, contradictions = without_contradictions(made, wanted)
    graph = networkx.DiGraph([(rule.first, rule.then) for rule in wanted])
    assert bool(contradictions) != networkx.is_directed_acyclic_graph(graph)
    assert keeps(ordered(made, kept), kept)
    assert {rule.first + rule.then for rule in wanted} - {rule.first + rule.then for rule in kept} == {
        one.drop.first + one.drop.then for one in contradictions
    }
    for one in contradictions:
        assert one.drop in one.rules
        assert all(a.then == b.first for a, b in itertools.pairwise([*one.rules, one.rules[0]]))
        assert all(rule in wanted for rule in one.rules)
        again = networkx.DiGraph([(rule.first, rule.then) for rule in [*kept, one.drop]])
        assert not networkx.is_directed_acyclic_graph(again), "nothing is dropped that could stay"


@pytest.mark.parametrize("seed", range(40))
def test_the_first_circle_named_is_the_shortest_of_all(seed):
    made, wanted = random_set(seed + 1000, most=7)
    graph = networkx.DiGraph([(rule.first, rule.then) for rule in wanted])
    circles = [len(circle) for circle in networkx.simple_cycles(graph)]
    _, contradictions = without_contradictions(made, wanted)
    if circles and contradictions:
        assert min(len(one.rules) for one in contradictions) == min(circles)
    else:
        assert (circles, contradictions) == ([], [])


@pytest.mark.parametrize("seed", range(60))
def test_no_order_changes_tool_or_side_less_often(seed):
    """Brute force over every order of up to six tasks."""
    made, wanted = random_set(seed, most=6)
    kept, _ = without_contradictions(made, wanted)
    least = min(
        (changes_of(order), [made.index(task) for task in order])
        for order in itertools.permutations(made)
        if keeps(order, kept)
    )
    found = ordered(made, kept)
    assert (changes_of(found), [made.index(task) for task in found]) == least


def test_without_tools_the_proposal_stands_as_far_as_rules_let_it():
    assert names(ordered(tasks("a", "b", "c", "d"), rules(("d", "b")))) == ["a", "c", "d", "b"]
    assert names(ordered(tasks("a", "b", "c"), [])) == ["a", "b", "c"]


def test_one_tool_is_used_up_before_the_next_is_taken():
    made = tasks("a", "b", "c", "d", tools={"a": "ph2", "b": "t6", "c": "ph2", "d": "t6"})
    assert names(ordered(made, [])) == ["a", "c", "b", "d"]
    assert changes_of(made) == 3
    assert names(ordered(made, rules(("b", "c")))) == ["b", "d", "a", "c"]


def test_what_needs_no_tool_changes_none():
    assert changes_of(tasks("a", "b", "c", tools={"a": "ph2", "c": "ph2"})) == 0
    assert changes_of(tasks("a", "b", tools={"a": "x"}, sides={"a": "top", "b": "left"})) == 1


def test_forty_tasks_are_ordered_with_no_more_changes_than_as_proposed():
    draw = random.Random(5)
    made = [Task(f"t{n}", draw.choice(["ph1", "ph2", "t6", ""]), draw.choice(["top", "left", ""])) for n in range(40)]
    kept = [Rule(f"t{a}", f"t{b}") for a, b in (sorted(draw.sample(range(40), 2)) for _ in range(30))]
    found = ordered(made, kept)
    assert keeps(found, kept)
    assert sorted(names(found)) == sorted(names(made))
    assert changes_of(found) < changes_of(made) / 2


def test_contradicting_rules_have_no_order():
    with pytest.raises(KrillError, match="contradict"):
        ordered(tasks("a", "b"), rules(("a", "b"), ("b", "a")))


def test_the_weakest_rule_of_a_circle_is_dropped():
    made = tasks("a", "b", "c")
    circle = [Rule("a", "b", of="needed"), Rule("b", "c", of="told"), Rule("c", "a", of="blocks")]
    kept, found = without_contradictions(made, circle)
    assert [one.drop.of for one in found] == ["blocks"]
    assert [rule.of for rule in kept] == ["needed", "told"]
    _, found = without_contradictions(made, [circle[0], Rule("b", "c", of="usual"), Rule("c", "a", of="usual")])
    assert found[0].drop.first == "c"


def test_a_rule_of_a_task_with_itself_says_nothing():
    assert without_contradictions(tasks("a"), [Rule("a", "a")]) == ([], [])


ORDER = [Task("memory", minutes=5), Task("radiator", minutes=28), Task("tubes", minutes=60), Task("lid", minutes=10)]
HIDES = {"radiator": {"memory"}, "tubes": {"radiator"}, "lid": {"tubes", "memory"}}


def test_what_hides_comes_out_last_in_first():
    assert undoing(ORDER, HIDES, "memory").steps == ["lid", "tubes", "radiator"]
    assert undoing(ORDER, HIDES, "memory").minutes == 2 * (28 + 60 + 10)
    assert undoing(ORDER, HIDES, "lid").steps == []
    assert undoing(ORDER, HIDES, "tubes").steps == ["lid"]


def test_what_went_in_before_hides_nothing_that_came_later():
    assert undoing(ORDER, {"memory": {"lid"}}, "lid").steps == []


def test_a_loop_comes_out_whole_where_that_is_quicker():
    loop = Unit(frozenset({"radiator", "tubes"}), minutes=50, apart_minutes=120)
    found = undoing(ORDER, HIDES, "memory", [loop])
    assert (found.steps, found.minutes, found.whole) == (["lid", "tubes", "radiator"], 20 + 50, True)
    slow = Unit(frozenset({"radiator", "tubes"}), minutes=500, apart_minutes=120)
    assert undoing(ORDER, HIDES, "memory", [slow]).minutes == 2 * 98 + 120
    assert not undoing(ORDER, HIDES, "memory", [slow]).whole


def test_the_step_itself_does_not_come_out_with_its_loop():
    loop = Unit(frozenset({"radiator", "tubes"}), minutes=50, apart_minutes=0)
    assert undoing(ORDER, HIDES, "radiator", [loop]).steps == ["lid", "tubes"]
