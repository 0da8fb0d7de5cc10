"""The prediction of a build: one batched solve, then temperatures, margins, drops, flows, sound and notices."""

import hashlib
import json

from krill import CORE_VERSION
from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.reading import digest
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.prediction.answer.bodies import body_results, pipe_results
from krill.prediction.answer.circuits import air_elements, loop_results, path_results, zone_results
from krill.prediction.answer.held import beside_at, joints_at, warmth_of
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.places import place_results
from krill.prediction.answer.result import NodeResult, NoState, PlaceResult, Prediction, WorkloadResult
from krill.prediction.answer.rules import rules_of_thumb
from krill.prediction.answer.shared import terraces, watts_put_in
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.sound import sound_result
from krill.prediction.notices.every import notices_of, notices_without_state

CERTIFIES = "An estimate from class-typical and stated figures. It certifies nothing."
DEFAULT_SAMPLES = 400


def predict(
    build: Build,
    workloads: list[str] | None = None,
    room_c: float | None = None,
    samples: int = DEFAULT_SAMPLES,
    seed: int = 1,
    overrides: dict[str, float] | None = None,
) -> Prediction:
    """Every workload (or the named ones) in the build's first room, or at ``room_c``.

    ``samples`` draws make the 90 % bands (0: central values only); ``overrides`` set figures by address, SI.
    DocumentRefused names a workload that is not there.
    """
    cases = cases_of(build, workloads, room_c)
    solved = solve_cases(build, cases, samples, seed, overrides)
    sha256 = digest(build)
    return Prediction(
        id=_result_id(sha256, cases, samples, seed, overrides),
        core_version=CORE_VERSION,
        document_sha256=sha256,
        seed=seed,
        samples=samples,
        drawn_figures=len(solved.table.uncertain()),
        certifies=CERTIFIES,
        workloads=[_workload(solved, index) for index in range(len(cases))],
    )


def cases_of(build: Build, workloads: list[str] | None, room_c: float | None, *, throttles: bool = True) -> list[Case]:
    """Cases of the named workloads, each once, or of all; ``throttles`` off asks for all watts whatever the limits."""
    by_id = {workload.id: workload for workload in build.workloads}
    if not by_id:
        raise DocumentRefused([Problem("workloads", "the build has no workload", "at least one")])
    chosen: list[Workload] = []
    for name in dict.fromkeys(by_id if workloads is None else workloads):
        if name not in by_id:
            raise DocumentRefused([Problem(f"workloads/{name}", "there is no such workload", ", ".join(by_id))])
        chosen.append(by_id[name])
    room = build.rooms[0]
    air_c = detail(room.air_c).value
    asked_c = float(air_c if room_c is None else room_c)
    return [Case(w, asked_c, float(room.altitude_m), throttles=throttles) for w in chosen]


def _result_id(sha256: str, cases: list[Case], samples: int, seed: int, overrides: dict[str, float] | None) -> str:
    asked = [sha256, [(c.workload.id, c.room_c) for c in cases], CORE_VERSION, samples, seed, overrides or {}]
    return hashlib.sha256(json.dumps(asked, sort_keys=True).encode()).hexdigest()[:24]


def _workload(solved: Solved, index: int) -> WorkloadResult:
    none = no_state(solved, solved.central(index))
    return _with_state(solved, index) if none is None else _without_state(solved, index, none)


def _without_state(solved: Solved, index: int, none: NoState) -> WorkloadResult:
    case, sound = solved.cases[index], sound_result(solved, index)
    return WorkloadResult(
        workload=case.workload.id,
        name=case.workload.name or case.workload.id,
        room_c=case.room_c,
        power_w=float(watts_put_in(solved)[solved.central(index)]),
        balance_w=float(solved.solution.balance_w.max()),
        no_state=none,
        tightest=None,
        places=[],
        terraces=[],
        loops=[],
        air=[],
        paths=[],
        zones=[],
        bodies=[],
        pipes=[],
        joints=[],
        beside=[],
        sound=sound,
        rules=rules_of_thumb(solved, index, [], []),
        notices=notices_without_state(
            solved, index, none, loop_results(solved, index), air_elements(solved, index), sound
        ),
        nodes=[],
    )


def _with_state(solved: Solved, index: int) -> WorkloadResult:
    case, row = solved.cases[index], solved.central(index)
    places = place_results(solved, index)
    with_margin = [place for place in places if place.margin_k is not None]
    tightest = min(with_margin, key=_lower_margin, default=None)
    sound = sound_result(solved, index)
    loops, shared = loop_results(solved, index), terraces(solved, index)
    air, zones = air_elements(solved, index), zone_results(solved, index)
    bodies, pipes = body_results(solved, index), pipe_results(solved, index)
    warmth = warmth_of(places, zones, bodies)
    joints, beside = joints_at(solved.build, warmth), beside_at(solved.build, warmth)
    nodes: list[NodeResult] = [
        NodeResult(address=name, temperature_c=float(T))
        for name, T in zip(solved.structure.node_names, solved.solution.temperature[row], strict=True)
    ]
    return WorkloadResult(
        workload=case.workload.id,
        name=case.workload.name or case.workload.id,
        room_c=case.room_c,
        power_w=float(watts_put_in(solved)[solved.central(index)]),
        balance_w=float(solved.solution.balance_w.max()),
        no_state=None,
        tightest=tightest.address if tightest else None,
        places=places,
        terraces=shared,
        loops=loops,
        air=air,
        paths=path_results(solved, index),
        zones=zones,
        bodies=bodies,
        pipes=pipes,
        joints=joints,
        beside=beside,
        sound=sound,
        rules=rules_of_thumb(solved, index, loops, shared),
        notices=notices_of(solved, index, places, loops, air, zones, sound, bodies, pipes, joints, beside),
        nodes=nodes,
    )


def _lower_margin(place: PlaceResult) -> float:
    lower = place.margin_band_k.low if place.margin_band_k is not None else place.margin_k
    return float("inf") if lower is None else lower
