"""Every answer that is kept frozen: each machine put to every question, and each stored log to its verdict."""

from collections.abc import Callable, Iterator
from dataclasses import asdict, is_dataclass
from pathlib import Path
from typing import Any

import numpy as np

from krill.assembly.sheet import build_sheet
from krill.components.figure_table import FigureTable
from krill.document.addresses import all_ids
from krill.document.build import Build
from krill.document.figures import Figure, detail
from krill.document.parts import Fan, Radiator
from krill.document.reading import read_object, read_text, write_object
from krill.document.solids import Sink
from krill.errors import KrillError
from krill.feeds.feeding import feeding
from krill.logs.log import read_log
from krill.prediction.predict import predict
from krill.prediction.questions.comparison import compare
from krill.prediction.questions.fan_operation import fan_operation
from krill.prediction.questions.loop_curves import loop_curves
from krill.prediction.questions.sink_curve import sink_curve
from krill.prediction.questions.stopped import stopped
from krill.recipes.book import RECIPES
from krill.records import to_json
from krill.runs.analysis import OfBuild, analyse, roles_of
from krill.runs.as_run import commanded_build
from krill.runs.measured import measured_from_log
from krill.runs.verdict import verdict
from krill.sizing.candidates import Study
from krill.sizing.fan_curve import fan_curve
from krill.sizing.holds import watts_it_holds
from krill.sizing.map_of import map_of
from krill.sizing.measure_first import measure_first
from krill.sizing.neighbours import candidate_detail
from krill.sizing.next_changes import next_changes
from krill.sizing.outcome import outcome
from krill.sizing.question import read_question
from krill.sizing.quieter import speed_for_level
from krill.sizing.side_by_side import side_by_side
from krill.sizing.solve_for import solve_for

HERE = Path(__file__).parent
SAVED = HERE.parent / "saved_documents"
ROOM_C = 26.0
#: of recipes that are made of the same pieces one or two are enough
FROZEN_RECIPES = (
    "water_loop",
    "outside_radiator",
    "fanless_housing",
    "thin_box",
    "ducted_sink",
    "two_cards",
    "small_fanless",
)
#: workload of each stored log, of the machine that its name begins with
LOGS = {
    "heron-both": "both",
    "heron-as-stated": "both",
    "limpet-full": "full",
    "sandpiper-imaging": "imaging",
}

Json = dict[str, Any]
Answers = Iterator[tuple[str, Callable[[], Any]]]


def machine_names() -> list[str]:
    return [*FROZEN_RECIPES, *sorted(path.stem for path in SAVED.glob("*.json"))]


def machine(name: str) -> Build:
    if name in RECIPES:
        recipe = RECIPES[name]
        return recipe.make(*recipe.starts, ROOM_C, name)
    return read_text((SAVED / f"{name}.json").read_text())


def frozen_answers(name: str) -> Json:
    """Every frozen figure of a machine or of a stored log, by the path that it stands at."""
    found: Json = {}
    for question, ask in answers_of_log(name) if name in LOGS else answers_of_machine(machine(name)):
        try:
            answer = ask()
        except KrillError as refused:
            answer = {"refused": str(refused)}
        flatten(question, plain(answer), found)
    return found


def answers_of_machine(build: Build) -> Answers:
    """(question, how it is asked) of everything that a build can be asked."""
    workload = build.brief.worst_workloads[0] if build.brief.worst_workloads else build.workloads[-1].id
    fans = [part.id for part in build.parts if isinstance(part, Fan)]
    watts = f"{workload}/watts/{next(iter(_watts(build, workload)))}"
    table = FigureTable(build)
    yield "ids", lambda: [f"{kind} {item}" for item, kind in all_ids(build)]
    yield (
        "figures",
        lambda: {
            f.address: [f.value, f.tolerance.minus, f.tolerance.plus, f.origin, f.draw_key]
            for f in table.figures.values()
        },
    )
    yield "prediction", lambda: predict(build)
    yield "sheet", lambda: build_sheet(build)
    yield "feeds", lambda: feeding(build, build.workloads[-1].id)
    yield "stopped", lambda: stopped(build, workload)
    for loop in build.loops:
        yield f"curves of {loop.id}", lambda loop=loop.id: loop_curves(build, loop, workload)
    for fan in fans[:2]:
        yield f"operation of {fan}", lambda fan=fan: fan_operation(build, fan, workload)
    for sink in [part.id for part in build.parts if isinstance(part, Sink)]:
        yield f"curve of {sink}", lambda sink=sink: sink_curve(build, sink, workload)
    yield "next changes", lambda: next_changes(build, workload)
    yield "holds", lambda: watts_it_holds(build)
    yield "measure first", lambda: measure_first(build, workload)
    yield "quieter", lambda: speed_for_level(build, workload, 30.0)
    yield "fan curve", lambda: fan_curve(build, workload, next(iter(build.place_owners())), "fans")
    yield from _solved_for(build, workload, watts, fans)
    yield from _studies(build, workload, watts, fans)
    harder = _harder(build, workload)
    yield (
        "beside",
        lambda: _without("result", side_by_side([("as built", build), ("harder", harder)], workload, samples=20)),
    )
    yield "harder", lambda: compare(build, harder, workload)


def _without(key: str, record: Any) -> Any:
    """An answer less whole predictions in it, which are frozen once, as what they are."""
    return _pruned(key, to_json(record))


def _pruned(key: str, answer: Any) -> Any:
    if isinstance(answer, list):
        return [_pruned(key, item) for item in answer]
    if isinstance(answer, dict):
        return {name: _pruned(key, item) for name, item in answer.items() if name != key}
    return answer


def _harder(build: Build, workload: str) -> Build:
    """The build with a fifth more watts of every source."""
    raw = write_object(build)
    told = next(item for item in raw["workloads"] if item["id"] == workload)["watts"]
    told |= {source: round(1.2 * float(detail(figure).value), 6) for source, figure in _watts(build, workload).items()}
    return read_object(raw)


def _watts(build: Build, workload: str) -> dict[str, Figure]:
    return next(item.watts for item in build.workloads if item.id == workload)


def _solved_for(build: Build, workload: str, watts: str, fans: list[str]) -> Answers:
    place = next(iter(build.place_owners()))
    room = f"{build.rooms[0].id}/air_c"
    yield "hottest room", lambda: solve_for(build, room, "margin", place, 3.0, workload)
    yield "watts for 8 K", lambda: solve_for(build, watts, "margin", place, 8.0, workload)
    if fans:
        yield "speed for 30 dBA", lambda: solve_for(build, "movers/fans", "level", "", 30.0, workload)
    for radiator in [part.id for part in build.parts if isinstance(part, Radiator)][:1]:
        yield (
            "sections for 6 K",
            lambda radiator=radiator: solve_for(build, f"{radiator}/sections", "margin", place, 6.0, workload),
        )


def _studies(build: Build, workload: str, watts: str, fans: list[str]) -> Answers:
    last = list(build.workloads[-1].watts)[-1]
    first_axis = (
        {"address": "movers/fans", "options": _options(0.5, 0.75, 1.0)}
        if fans
        else {"address": f"{build.rooms[0].id}/air_c", "options": _options(15, 20, 25)}
    )
    second_axis = {"address": watts, "options": _options(20, 40, 60)}
    yield "map", lambda: map_of(build, read_question({"vary": [first_axis, second_axis]}))
    vary: list[Json] = [first_axis, {"address": f"{workload}/watts/{last}", "options": _options(2, 5)}]
    for radiator in [part.id for part in build.parts if isinstance(part, Radiator)][:1]:
        vary.append({"address": f"{radiator}/thickness_mm", "options": _options(28, 45)})
        vary.append({"address": f"{radiator}/sections", "options": _options(2, 3)})
    for sink in [part.id for part in build.parts if isinstance(part, Sink)][:1]:
        vary.append({"address": f"{sink}/fin_height_mm", "options": _options(20, 35)})
    demands = {
        "margins": [{"workload": workload, "at_least_k": 3}],
        "sounds": [{"workload": workload, "at_most_dba": 38}],
    }
    asked: Json = {"vary": vary, "demands": demands}

    def study() -> Json:
        made = Study(build, read_question(asked))
        result = outcome(made, [made.solve(chunk) for chunk in made.chunks()])
        chosen = (result.undominated or [0])[0]
        return {"result": result, "detail": _without("workloads", candidate_detail(made, result, chosen))}

    yield "study", study


def _options(*values: float) -> list[Json]:
    return [{"value": value} for value in values]


def answers_of_log(name: str) -> Answers:
    """A stored log through the whole road: lines, roles, window, settled values, verdict."""
    saved = {"heron": "issue-2-heron", "limpet": "issue-4-limpet", "sandpiper": "issue-3-sandpiper"}
    build = read_text((SAVED / f"{saved[name.split('-')[0]]}.json").read_text())
    workload = LOGS[name]
    log = read_log((HERE / "logs" / f"{name}.csv").read_bytes())
    roles = [suggestion.role for suggestion in roles_of(log, build)]
    found = analyse(log, roles, ran=OfBuild(build, workload))
    yield "lines", lambda: to_json(log.report)
    yield "roles", lambda: dict(zip(log.names, roles, strict=True))
    yield "analysis", lambda: to_json(found)

    def judged() -> Json:
        run = measured_from_log(found, workload)
        room = ((found.room_start_c or 0.0) + (found.room_end_c or 0.0)) / 2
        return to_json(verdict(commanded_build(build, workload, run.commands), workload, room, run.values, run.watts))

    yield "verdict", judged


#: hashes that name the core's version, and what is left of a balance that closes: noise of the machine
UNFROZEN = {"id", "core_version", "balance_w"}
NAMED_BY = ("address", "workload", "name", "label", "role", "source", "text")
DIGITS = 7


def plain(value: Any) -> Any:
    """An answer as plain JSON values."""
    if is_dataclass(value) and not isinstance(value, type):
        return plain(asdict(value))
    if isinstance(value, dict):
        return {str(key): plain(item) for key, item in value.items()}
    if isinstance(value, list | tuple | np.ndarray):
        return [plain(item) for item in value]
    if isinstance(value, bool | str | int | None):
        return value
    return float(f"{float(value):.{DIGITS}g}") if np.isfinite(value) else str(float(value))


def flatten(path: str, value: Any, found: Json) -> None:
    """One line a figure: objects of a list by what names them, lists of numbers as they are."""
    if isinstance(value, dict) and value:
        for key, item in value.items():
            if key not in UNFROZEN:
                flatten(f"{path} > {key}", item, found)
    elif isinstance(value, list) and any(isinstance(item, dict) for item in value):
        names = _names(value)
        found[f"{path} > order"] = names
        for name, item in zip(names, value, strict=True):
            flatten(f"{path} > {name}", item, found)
    else:
        found[path] = value


def _names(items: list[Any]) -> list[str]:
    """What tells the objects of a list apart: the first key that names each of them otherwise, else their places."""
    for key in NAMED_BY:
        names = [item.get(key) for item in items if isinstance(item, dict)]
        if len(set(names)) == len(items) and all(isinstance(name, str) and name for name in names):
            return [str(name) for name in names]
    return [str(number) for number in range(len(items))]
