"""Speed beside references measured in the same run (pytest-benchmark; bars in docs/method/speed.md)."""

import io
from pathlib import Path

import numpy as np
import pandapipes
import pandas
import pytest
from in_time.library import by_library

from krill.components.edges import Medium, MoverEdges, PipeEdges, PowerEdges, curve_from_parabola
from krill.document.reading import read_text
from krill.in_time.legs import Bursts, Leg
from krill.in_time.march import Marched
from krill.in_time.run import case_before, march
from krill.logs.clock import Clock
from krill.logs.log import Log, ReadReport, read_log
from krill.networks.flow import FlowGraph, FlowNetwork
from krill.networks.states import Case
from krill.prediction.answer.solving import network_of, solve_cases
from krill.prediction.predict import cases_of, predict
from krill.runs.analysis import analyse
from krill.sizing.candidates import Study
from krill.sizing.map_of import map_of
from krill.sizing.next_changes import next_changes
from krill.sizing.outcome import outcome
from krill.sizing.question import read_question

SAVED = Path(__file__).parents[1] / "tests/saved_documents"
HERON = (SAVED / "issue-2-heron.json").read_text()
LIMPET = (SAVED / "issue-4-limpet.json").read_text()
NINE_FANS = (SAVED / "issue-3-nine-fans.json").read_text()
ROWS, CHANNELS = 1_000_000, 12


@pytest.mark.benchmark(group="one prediction of the demo, document parsed (bar 5 ms)")
def test_one_prediction(benchmark):
    build = read_text(HERON)
    benchmark(lambda: predict(build, ["both"], samples=0))


@pytest.mark.benchmark(group="one keystroke: parse and predict (bar 150 ms to redraw)")
def test_keystroke_on_the_server(benchmark):
    benchmark(lambda: predict(read_text(HERON), ["both"], samples=0))


@pytest.mark.benchmark(group="three chambers, two loops, nine fans: one prediction (bar 60 ms)")
def test_one_prediction_of_nine_fans(benchmark):
    build = read_text(NINE_FANS)
    benchmark(lambda: predict(build, ["full"], samples=0))


@pytest.mark.benchmark(group="fanless box of six bodies, heat pipes: one prediction (no bar)")
def test_one_prediction_of_a_fanless_box(benchmark):
    build = read_text(LIMPET)
    benchmark(lambda: predict(build, ["full"], samples=0))


@pytest.mark.benchmark(group="next changes of a fanless box (bar of issue 5: 300 ms)")
def test_next_changes_of_a_fanless_box(benchmark):
    build = read_text(LIMPET)
    benchmark.pedantic(lambda: next_changes(build, "full"), rounds=5)


@pytest.mark.benchmark(group="next changes of the demo, figures and duties at once (bar of issue 5: 300 ms)")
def test_quick_next_changes(benchmark):
    build = read_text(HERON)
    benchmark.pedantic(lambda: next_changes(build, "both", quick=True), rounds=5)


@pytest.mark.benchmark(group="next changes of the demo, changes of kind too (no bar)")
def test_whole_next_changes(benchmark):
    build = read_text(HERON)
    benchmark.pedantic(lambda: next_changes(build, "both"), rounds=5)


def study(*axes):
    """Every combination of the axes on the demo in its worst workload."""
    vary = [{"address": address, "options": [{"value": value} for value in values]} for address, values in axes]
    asked = {"vary": vary, "demands": {"margins": [{"workload": "both", "at_least_k": 6}]}}
    return Study(read_text(HERON), read_question(asked))


DUTIES = [round(0.3 + 0.7 * step / 99, 4) for step in range(100)]


@pytest.mark.benchmark(group="10 000 candidates (bar 4 s for one structure)")
class TestCandidates:
    def test_of_one_structure(self, benchmark):
        asked = study(("movers/fans", DUTIES), ("movers/pumps", DUTIES))
        benchmark.pedantic(lambda: outcome(asked, [asked.solve(chunk) for chunk in asked.chunks()]), rounds=1)

    def test_of_a_hundred_structures(self, benchmark):
        asked = study(
            ("radiator-bottom/sections", [1, 2, 3, 4, 5]),
            ("radiator-bottom/thickness_mm", [28, 38, 45, 60]),
            ("radiator-rear/sections", [1, 2, 3, 4, 5]),
            ("movers/fans", DUTIES[::5]),
            ("movers/pumps", DUTIES[::20]),
        )
        benchmark.pedantic(lambda: outcome(asked, [asked.solve(chunk) for chunk in asked.chunks()]), rounds=1)


@pytest.mark.benchmark(group="map of 21 x 21 crossings (no bar)")
def test_map(benchmark):
    build = read_text(HERON)
    vary = [
        {"address": address, "options": [{"value": value} for value in DUTIES[::5]]}
        for address in ("movers/fans", "movers/pumps")
    ]
    benchmark.pedantic(lambda: map_of(build, read_question({"vary": vary})), rounds=3)


@pytest.mark.benchmark(group="10 000 solves of one structure and workload (bar 4 s)")
def test_ten_thousand_solves(benchmark):
    build = read_text(HERON)
    cases = [Case(next(w for w in build.workloads if w.id == "both"), 24.0)]
    benchmark.pedantic(lambda: solve_cases(build, cases, 9_999), rounds=2)


@pytest.mark.benchmark(group="1 000 samples of one workload (bar 0.4 s)")
class TestSamples:
    def test_krill(self, benchmark):
        build = read_text(HERON)
        cases = [Case(next(w for w in build.workloads if w.id == "both"), 24.0)]
        benchmark.pedantic(lambda: solve_cases(build, cases, 1000), rounds=5)

    def test_reference_bare_lapack_same_matrices_and_iterations(self, benchmark):
        build = read_text(HERON)
        solved = solve_cases(build, [Case(next(w for w in build.workloads if w.id == "both"), 24.0)], 1000)
        heat = np.ascontiguousarray(solved.network.pattern.network.dense(solved.solution.matrix))
        assert solved.structure.coolant is not None
        assert solved.structure.air is not None
        sizes = [s.graph.nodes - len(s.graph.fixed) for s in (solved.structure.coolant, solved.structure.air)]
        flows = [np.broadcast_to(np.eye(n) * 2 + 0.1, (1001, n, n)).copy() for n in sizes]

        def bare():
            for _ in range(solved.solution.rounds):
                np.linalg.solve(heat, np.ones((*heat.shape[:2], 1)))
                for matrix in flows:
                    for _ in range(3):
                        np.linalg.solve(matrix, np.ones((*matrix.shape[:2], 1)))

        benchmark.pedantic(bare, rounds=5)


@pytest.mark.benchmark(group="read a log of 1 000 000 rows x 12 channels (bar 3 x pandas)")
class TestLog:
    @pytest.fixture(scope="class")
    def data(self):
        rng = np.random.default_rng(1)
        frame = pandas.DataFrame(np.round(50 + rng.normal(size=(ROWS, CHANNELS)), 2))
        frame.columns = [f"Sensor {i} [C]" for i in range(CHANNELS)]
        frame.insert(0, "Time [s]", 1_700_000_000 + np.arange(ROWS))
        return frame.to_csv(index=False).encode()

    def test_krill(self, benchmark, data, monkeypatch):
        monkeypatch.setattr("krill.logs.limits.MAX_BYTES", 10**9)
        benchmark.pedantic(lambda: read_log(data), rounds=2)

    def test_reference_pandas(self, benchmark, data):
        benchmark.pedantic(lambda: pandas.read_csv(io.BytesIO(data)), rounds=2)


@pytest.mark.benchmark(group="analyse that log (bar 1.5 s)")
def test_analysis(benchmark, monkeypatch):
    rng = np.random.default_rng(1)
    rise = 70 - 30 * np.exp(-np.arange(ROWS) / 1e5)
    rise += rng.normal(0, 0.2, ROWS)
    names, columns = [f"c{i}" for i in range(CHANNELS)], np.repeat(rise[:, None], CHANNELS, 1)
    wide = Log(names, ["C"] * CHANNELS, Clock(np.arange(ROWS, dtype=float), None), columns, ReadReport())
    benchmark.pedantic(lambda: analyse(wide, [f"p{i}/temperature" for i in range(CHANNELS)]), rounds=2)


@pytest.mark.benchmark(group="coolant loop H15, one loop of a batch of 1 000 against pandapipes (bar 100 x)")
class TestLoop:
    def test_krill_whole_batch_of_1000(self, benchmark):
        n = 1000
        graph = FlowGraph(np.array([0, 1, 2, 3]), np.array([1, 2, 3, 0]), 4, np.array([0]), tuple("abcd"))
        ones = np.ones((n, 1))
        resist = np.linspace(2e12, 4e12, n)[:, None]
        groups = [
            MoverEdges(np.array([0]), curve_from_parabola(3e4, 1.6e-4), ones, ones, ones, 995 * ones, 0 * ones),
            PipeEdges(np.array([1]), 3 * ones, 0.01 * ones, 1.5e-6 * ones, 6 * ones),
            PowerEdges(
                np.array([2, 3]),
                np.zeros((n, 2)),
                np.hstack([resist, 8e11 * ones]),
                np.full((n, 2), 2.0),
                np.full((n, 2), 995.0),
                np.full((n, 2), 8e-4),
            ),
        ]
        medium = Medium(np.full((n, 4), 995.0), np.full((n, 4), 8e-4))
        network = FlowNetwork(graph, [group.columns for group in groups])
        benchmark(lambda: network.solve(groups, medium, 0.05))

    def test_reference_pandapipes_one_loop(self, benchmark):
        net = pandapipes.create_empty_network(fluid="water")
        a, b, c = (pandapipes.create_junction(net, pn_bar=1.0, tfluid_k=303.15) for _ in range(3))
        pandapipes.create_ext_grid(net, junction=a, p_bar=1.0, t_k=303.15)
        for start, end, metres, bore in ((a, b, 3.0, 0.010), (b, c, 1.0, 0.008)):
            pandapipes.create_pipe_from_parameters(
                net, start, end, length_km=metres / 1000, diameter_m=bore, k_mm=0.0015, loss_coefficient=6
            )
        pandapipes.create_sink(net, c, mdot_kg_per_s=0.068)
        benchmark.pedantic(lambda: pandapipes.pipeflow(net, friction_model="colebrook"), rounds=5)


TWO_HOURS_S = 7200.0
SECONDS = np.arange(0.0, TWO_HOURS_S + 1.0)


def _stress_test(samples):
    """A stress test of two hours on the demo from idle: network, capacities and the state it begins at."""
    build = read_text(HERON)
    case = cases_of(build, ["both"], None)[0]
    before = solve_cases(build, [case_before(build, case, "idle")], samples)
    return network_of(build, [case], samples), Leg((case,), TWO_HOURS_S / 60), before


def _marched(samples):
    network, leg, before = _stress_test(samples)
    start = Marched(before.solution.temperature.copy(), None, before.network.states)
    return march(network, [leg], start).at(SECONDS, list(range(network.structure.nodes)))


@pytest.mark.benchmark(group="two hours of a stress test of the demo, 1 s output (bar 0.25 s and 5 times the library)")
def test_two_hours_by_the_march(benchmark):
    benchmark.pedantic(lambda: _marched(0), rounds=5)


@pytest.mark.benchmark(group="two hours of a stress test of the demo, 1 s output (bar 0.25 s and 5 times the library)")
def test_two_hours_by_a_library_on_the_same_right_hand_side(benchmark):
    """scipy's BDF at the tolerances at which it is off by as much as the march, 0.02 K."""
    network, leg, before = _stress_test(0)
    bursts = Bursts(network.states, leg, before.network.states)
    shares = lambda t: {source: share[0] for source, share in bursts.shares(t).items()}  # noqa: E731
    benchmark.pedantic(
        lambda: by_library(
            network,
            before.solution.temperature,
            TWO_HOURS_S,
            SECONDS,
            "BDF",
            shares,
            bursts.kinks(),
            rtol=3e-4,
            atol=3e-3,
        ),
        rounds=3,
    )


@pytest.mark.benchmark(group="400 draws of two hours of a stress test (bar 6 s)")
def test_two_hours_of_400_draws(benchmark):
    benchmark.pedantic(lambda: _marched(400), rounds=2)
