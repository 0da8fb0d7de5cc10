"""Which cause is named: faults of every kind in simulated machines whose other figures are off by their tolerances too."""

from collections import defaultdict
from dataclasses import dataclass

import numpy as np
import pytest
from strategies import recipe

from krill.document.figures import detail
from krill.networks.states import Case
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.solving import solve_cases
from krill.recipes.book import RECIPES
from krill.runs.as_run import value_of
from krill.runs.causes import ROOM
from krill.runs.suspects import CauseEffects, Suspicion
from krill.runs.verdict import Measured, left_open

BUILDS = {
    "loop": recipe,
    "duct": lambda: RECIPES["ducted_sink"].make(30, 12, 4, 22.0, "duct"),
    "fanless": lambda: RECIPES["fanless_housing"].make(20, 4, 4, 22.0, "fanless"),
    "thin box": lambda: RECIPES["thin_box"].make(45, 40, 10, 22.0, "thin"),
}
#: strength of a fault by kind, twice the kind's tolerance and more
STRENGTHS = {
    "place": 0.8,
    "interface": 1.0,
    "spreader": 4.0,
    "plate": 0.6,
    "radiator": 0.5,
    "cooler": 0.5,
    "sink": 0.8,
    "panel": 1.5,
    "bond": 8.0,
    "heat_pipe": 4.0,
    "fan": 0.6,
    "pump": 1.5,
    "opening": 3.0,
    "duct": 6.0,
    "watts": 0.3,
    "recirculation": 0.2,
    "room": 5.0,
}
SEEN_K = 3.0  # a fault that moves no reading by this much is nobody's to find
NOISE_K = 0.3
#: share of the stated doubts left in a machine whose figures somebody measured
MEASURED = 0.15


def kind_of(build, cause):
    owner = cause.address.split("/")[0]
    if cause.address == ROOM:
        return "room"
    if "/watts/" in cause.address:
        return "watts"
    if owner in build.place_owners():
        return "place"
    if any(owner == bond.id for bond in build.bonds):
        return "bond"
    if any(owner == item.id for item in build.recirculations):
        return "recirculation"
    return build.part(owner).kind


@dataclass
class Bench:
    """Machines of one build with every temperature read, and what their causes would do."""

    build: object
    case: Case
    doubt: float
    roles: list[str]
    effects: CauseEffects
    central: np.ndarray
    covariance: np.ndarray
    table: object

    @classmethod
    def of(cls, build, doubt=MEASURED):
        load = max(build.workloads, key=lambda item: sum(float(detail(f).value) for f in item.watts.values()))
        case = Case(load, 22.0)
        table = solve_cases(build, [case], 1).table
        solved = solve_cases(build, [case], 300, 1, None, doubted(table, 1, 300, doubt))
        roles = [f"{place.id}/temperature" for place, _ in build.place_owners().values()]
        roles += [f"{loop.id}/coolant_{end}" for loop in build.loops for end in ("hot", "cold")]
        roles += [f"{zone.id}/air" for zone in build.zones if zone.kind == "box"]
        values = read(solved, roles)
        known = [Measured(role, 0.0, QUANTILE_90 * NOISE_K) for role in roles]
        effects = CauseEffects.of(solved, case, roles, None)
        return cls(build, case, doubt, roles, effects, values[0], left_open(known, values[1:]), table)

    def runs(self, faults):
        """Readings (run, role) of machines, each with its cause at its strength (None: none)."""
        draws = doubted(self.table, 99, len(faults), self.doubt)
        for row, fault in enumerate(faults):
            for move in fault[0].moves if fault else ():
                sound = draws.setdefault(move.address, np.full(len(faults), self.table.figures[move.address].value))
                sound[row] = move.at(sound[row], fault[1])
        solved = solve_cases(self.build, [self.case], len(faults), 1, None, draws)
        truth = read(solved, self.roles)[1:]
        warm = [fault[1] if fault and fault[0].address == ROOM else 0.0 for fault in faults]
        return truth + np.array(warm)[:, None]

    def asked(self, readings) -> Suspicion:
        return self.effects.suspicion(readings - self.central, self.covariance)


def doubted(table, seed, count, share):
    return {
        address: table.figures[address].value + share * (drawn - table.figures[address].value)
        for address, drawn in table.draws(seed, count).items()
    }


def read(solved, roles):
    """(row, role) at every row of a solution."""
    return np.stack([value_of(solved, role) for role in roles], 1)


@pytest.fixture(scope="module", params=list(BUILDS))
def bench(request):
    return Bench.of(BUILDS[request.param]())


def test_the_cause_is_named_alone_or_among_three_and_no_innocent_alone(bench):
    """20 seeds of every kind of fault that this build can have, all other figures off by what is not known of them."""
    rng = np.random.default_rng(7)
    by_kind = defaultdict(list)
    for cause in bench.effects.causes:
        by_kind[kind_of(bench.build, cause)].append(cause)
    faults = [
        (causes[rng.integers(len(causes))], STRENGTHS[kind]) for kind, causes in by_kind.items() for _ in range(20)
    ]
    seen = named = innocent = 0
    for fault, truth in zip(faults, bench.runs(faults), strict=True):
        if np.max(np.abs(truth - bench.central)) < SEEN_K:
            continue
        suspects = bench.asked(truth + rng.normal(0, NOISE_K, truth.shape)).suspects
        found = [s.address for s in suspects if s.sure]
        seen += 1
        named += fault[0].address in found
        innocent += len(found) == 1 and fault[0].address not in found
        assert len(found) <= 3
    assert seen >= 60
    assert named >= 0.9 * seen
    assert innocent <= 0.03 * seen


@pytest.mark.parametrize("doubt", [MEASURED, 1.0])
def test_400_faultless_machines_name_nobody(doubt):
    """Figures off by their tolerances, as measured and as a class leaves them."""
    rng, named = np.random.default_rng(3), 0
    for make in BUILDS.values():
        bench = Bench.of(make(), doubt)
        noisy = [truth + rng.normal(0, NOISE_K, truth.shape) for truth in bench.runs([None] * 100)]
        named += sum(any(s.sure for s in bench.asked(readings).suspects) for readings in noisy)
    assert named <= 0.03 * 400


def test_every_kind_of_cause_is_looked_at():
    kinds = set()
    for make in BUILDS.values():
        bench = Bench.of(make())
        kinds |= {kind_of(bench.build, cause) for cause in bench.effects.causes}
    assert kinds == set(STRENGTHS)


def test_all_parts_of_a_loop_warmer_alike_is_what_they_share():
    """Seven kelvins on the processor and the graphics, nobody read the coolant: no plate and no paste is accused."""
    bench = Bench.of(recipe())
    roles = ["processor-core/temperature", "graphics-chip/temperature"]
    rows = [bench.roles.index(role) for role in roles]
    of_loop = bench.effects.of_roles[:, rows]
    effects = CauseEffects(bench.effects.causes, of_loop, bench.effects.others)
    found = effects.suspicion(np.full(2, 7.0), bench.covariance[np.ix_(rows, rows)])
    assert found.suspects
    assert {s.address.split("/")[0] for s in found.suspects} <= {
        "radiator-a",
        "fan-a1",
        "pump",
        "room",
        "vents",
        "grille",
    }


def test_weak_fans_are_fans_and_not_a_radiator_alone():
    bench = Bench.of(recipe())
    fans = next(cause for cause in bench.effects.causes if cause.address == "fan-a1/flow_factor")
    found = bench.asked(bench.runs([(fans, 0.6)])[0])
    named = {s.address: s for s in found.suspects}
    assert "fan-a1/flow_factor" in named
    assert named["fan-a1/flow_factor"].says.startswith("a flow ")
    assert 0.4 < named["fan-a1/flow_factor"].change < 0.9


def test_two_causes_that_readings_cannot_part_name_the_reading_that_would():
    """Paste and chip under one another in one row: only a reading between them parts them, and there is none to take."""
    bench = Bench.of(BUILDS["duct"]())
    package = next(cause for cause in bench.effects.causes if cause.address == "second-place/package_k_w")
    found = bench.asked(bench.runs([(package, 0.8)])[0])
    assert len(found.suspects) > 1
    assert found.parted_by is None
    loop = Bench.of(recipe())
    rows = [loop.roles.index("processor-core/temperature"), loop.roles.index("graphics-chip/temperature")]
    blind = CauseEffects(loop.effects.causes, loop.effects.of_roles[:, rows], loop.effects.others)
    found = blind.suspicion(np.array([7.0, 7.0]), loop.covariance[np.ix_(rows, rows)])
    assert found.parted_by is None or found.parted_by.name.startswith("the ")


SPREADS = {
    "place": {0.3, 0.4},
    "interface": {0.4},
    "spreader": {2.0},
    "plate": {0.4},
    "radiator": {0.4},
    "cooler": {0.4},
    "sink": {0.4},
    "panel": {0.4},
    "bond": {0.4},
    "heat_pipe": {2.0},
    "fan": {0.4},
    "pump": {0.4},
    "opening": {2.0},
    "duct": {2.0},
    "watts": {0.2},
    "recirculation": {0.2},
    "room": {2.0},
}
ONLY_WORSE = {"heat_pipe", "fan", "pump", "opening", "duct", "recirculation"}


@pytest.fixture(scope="module")
def causes():
    return [
        (kind_of(b.build, cause), cause)
        for b in (Bench.of(make()) for make in BUILDS.values())
        for cause in b.effects.causes
    ]


def test_how_far_each_kind_may_be_off_and_on_which_side(causes):
    """Shares of a resistance, a flow, watts; kelvins of a room (estimates)."""
    for kind, cause in causes:
        assert cause.spread in SPREADS[kind], cause
        assert cause.one_sided is (kind in ONLY_WORSE), cause


def test_a_cause_moves_its_figures_together(causes):
    """Half as strong again: a fan or pump gives two thirds of its flow and 4/9 of its pressure, a passage has 1.5 x its
    loss on two thirds of its area, pipes 1.5 x at both ends; what is computed with a factor has two thirds of it."""
    expected = {
        "fan": {"flow_factor": 2 / 3, "pressure_factor": 4 / 9},
        "pump": {"flow_factor": 2 / 3, "pressure_factor": 4 / 9},
        "opening": {"loss": 1.5, "free_area_share": 2 / 3},
        "heat_pipe": {"evaporator_k_w": 1.5, "condenser_k_w": 1.5},
        "radiator": {"factor": 2 / 3},
        "sink": {"factor": 2 / 3},
        "plate": {"factor": 1.5},
    }
    for kind, cause in causes:
        for move in cause.moves:
            field = move.address.split("/")[1]
            if kind in expected:
                assert move.at(1.0, 0.5) == pytest.approx(expected[kind][field]), move
            if kind == "recirculation":
                assert move.at(0.2, 0.1) == pytest.approx(0.3)


def test_watts_that_a_meter_read_are_hardly_suspected():
    build = recipe()
    case = Case(next(w for w in build.workloads if w.id == "both"), 22.0)
    solved = solve_cases(build, [case], 50)
    known = {"both/watts/processor": 125.0}
    effects = CauseEffects.of(solved, case, ["processor-core/temperature"], known)
    spreads = {cause.address: cause.spread for cause in effects.causes}
    assert spreads["both/watts/processor"] == 0.05
    assert spreads["both/watts/graphics"] == 0.2


def test_the_reading_that_would_part_a_pump_from_a_radiator_is_named():
    """Two chips of one loop warmer alike and nobody read its coolant: what flows, or what it is at, would tell."""
    bench = Bench.of(recipe())
    rows = [bench.roles.index("processor-core/temperature"), bench.roles.index("graphics-chip/temperature")]
    case, table = bench.case, bench.table
    solved = solve_cases(bench.build, [case], 50, 1, None, doubted(table, 1, 50, MEASURED))
    roles = [bench.roles[row] for row in rows]
    effects = CauseEffects.of(solved, case, roles, None)
    found = effects.suspicion(np.full(2, 9.0), bench.covariance[np.ix_(rows, rows)])
    assert len(found.suspects) > 1
    assert found.parted_by is not None
    assert found.parted_by.name.startswith(("the flow of ", "the temperature of ", "the air through "))
    assert not any(name in found.parted_by.name for name in ("of Processor", "of Graphics"))
