"""The command ``krill`` (or python -m krill): schema, classes, check, predict, forecast, study, analyse, verdict, compare,
recipe, practice, bench, log.

Exit status: 0 done, 1 the file was refused or did not settle (one line a problem on standard error), 2 wrong call.
"""

import argparse
import json
import sys
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

from krill.catalogue.class_schema import schema_with_classes
from krill.cli import live, runs
from krill.cli.documents import build_from, json_from
from krill.cli.figures import ROOM, whole_within, within
from krill.document.build import Build
from krill.document.quantities import MAX_WATTS
from krill.document.reading import write_text
from krill.errors import DocumentRefused, KrillError
from krill.records import to_json

# what a command alone needs is imported when it runs: statistics, data frames and solvers take a second to load
if TYPE_CHECKING:
    from krill.prediction.answer.result import Prediction

#: bands of more draws tell nothing more
MAX_SAMPLES = 20_000
#: draws and minutes of a forecast in time
MAX_IN_TIME, MOST_MINUTES = 1000, 60 * 48


def main(arguments: list[str] | None = None) -> int:
    """Run one command; returns the exit status."""
    asked = sys.argv[1:] if arguments is None else arguments
    try:
        if asked[:1] == [live.LOG]:
            live.log(asked[1:])
            return 0
        options = _parser().parse_args(asked)
        options.run(options)
    except DocumentRefused as refused:
        for problem in refused.problems:
            print(f"krill: {options.file}: {problem.sentence()}", file=sys.stderr)
        return 1
    except (KrillError, OSError) as error:
        print(f"krill: {error}", file=sys.stderr)
        return 1
    return 0


def command() -> None:
    """What the installed command ``krill`` runs."""
    sys.exit(main())


class _OneLine(argparse.ArgumentParser):
    """A wrong call is told in one line, as everything else that is wrong."""

    def error(self, message: str) -> NoReturn:
        self.exit(2, f"{self.prog}: {message}\n")


def _parser() -> argparse.ArgumentParser:
    parser = _OneLine(prog="krill", description="Heat and flow of small housings.")
    parser.set_defaults(file="")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Any, text: str) -> argparse.ArgumentParser:
        added: argparse.ArgumentParser = commands.add_parser(name, help=text, description=text)
        added.set_defaults(run=run)
        return added

    published = command("schema", _schema, "print the JSON Schema of build documents")
    published.add_argument("--run", dest="of_runs", action="store_true", help="of run files instead")
    known = command("classes", _classes, "list the classes of parts, one a line")
    known.add_argument("kind", nargs="?", help="of this kind alone: fan, pump, plate, place ...")
    check = command("check", _check, "say whether a build document is sound")
    check.add_argument("file")
    forecast = command("predict", _predict, "predict temperatures, margins and flows of a build")
    forecast.add_argument("file")
    forecast.add_argument("--workload", help="id of a workload (all where left out)")
    forecast.add_argument("--room", type=ROOM, help="room temperature, degrees C")
    forecast.add_argument(
        "--samples", type=whole_within(0, MAX_SAMPLES), default=400, help="draws behind the bands, 0 for none"
    )
    forecast.add_argument("--json", action="store_true", help="the complete prediction as JSON")
    timed = command("forecast", _forecast, "follow a load in time: when limits are met, how long a test must last")
    timed.add_argument("file")
    timed.add_argument("--workload", help="id of a workload (the hardest where left out)")
    timed.add_argument("--minutes", type=within(0.1, MOST_MINUTES, "min"), default=90.0, help="how long the load is on")
    timed.add_argument("--before", default="idle", help="what had settled before: idle, cold, or the id of a workload")
    timed.add_argument("--room", type=ROOM, help="room temperature, degrees C")
    timed.add_argument("--drift", type=within(-20, 20, "K/h"), default=0.0, help="how the room drifts, K/h")
    timed.add_argument(
        "--cycle",
        nargs=2,
        type=within(0.1, 1440, "min"),
        metavar=("ON", "OFF"),
        help="on and off in turn, minutes each",
    )
    timed.add_argument("--closed-room", action="store_true", help="the machine warms a closed room of 12 to 18 m2")
    timed.add_argument(
        "--samples", type=whole_within(0, MAX_IN_TIME), default=100, help="draws behind the bands, 0 for none"
    )
    timed.add_argument("--json", action="store_true", help="every curve as JSON")
    sized = command("study", _study, "solve every combination of what may vary and hold it against what is demanded")
    sized.add_argument("file")
    sized.add_argument("question", help="JSON file of what varies and what is demanded")
    sized.add_argument("--json", action="store_true", help="figures of every candidate as JSON")
    log = command("analyse", _analyse, "find the load window and settled temperatures of a log")
    log.add_argument("file")
    log.add_argument("--build", help="build document whose parts the channels belong to")
    log.add_argument("--workload", help="id of the workload that ran: the build's own time constants are then used")
    log.add_argument(
        "--interval", type=within(1e-3, 3600, "s"), help="seconds between rows of a log without a time column"
    )
    log.add_argument("--json", action="store_true", help="the complete analysis as JSON")
    recipe = command("recipe", _recipe, "print a build from three watt figures and a room temperature")
    for name in ("processor", "graphics", "rest"):
        recipe.add_argument(name, type=within(0, MAX_WATTS, "W"))
    recipe.add_argument("room", type=ROOM)
    practice = command("practice", _practice, "print a practice log of a build from the simulated bench")
    practice.add_argument("file")
    practice.add_argument("--workload", required=True)
    practice.add_argument("--room", type=ROOM, default=24.0)
    practice.add_argument("--seed", type=whole_within(0, 2**31), default=1)
    practice.add_argument("--minutes", type=within(1, 24 * 60, "min"), default=60.0, help="how long the load is on")
    practice.add_argument(
        "--exact", action="store_true", help="as the document says: no hidden deviations, a steady room"
    )
    runs.add_commands(command)
    live.add_commands(command)
    return parser


def _schema(options: argparse.Namespace) -> None:
    from krill.runs.run_document import run_schema

    print(json.dumps(run_schema() if options.of_runs else schema_with_classes(), indent=2))


def _classes(options: argparse.Namespace) -> None:
    from krill.catalogue.classes import classes

    kinds = sorted({known.kind for known in classes().values()})
    if options.kind is not None and options.kind not in kinds:
        raise KrillError(f"no class is of kind '{options.kind}'; kinds: {', '.join(kinds)}")
    for key, known in classes().items():
        if options.kind in (None, known.kind):
            print(f"{known.kind:12s}{key:28s}{known.name}")


def _check(options: argparse.Namespace) -> None:
    from krill.catalogue.known_classes import must_know_classes

    build = build_from(options.file)
    must_know_classes(build)
    print(f"{options.file}: sound; {len(build.parts)} parts, {len(build.workloads)} workloads")


def _predict(options: argparse.Namespace) -> None:
    from krill.prediction.predict import predict

    workloads = [options.workload] if options.workload else None
    prediction = predict(build_from(options.file), workloads, options.room, options.samples)
    print(json.dumps(to_json(prediction), indent=1) if options.json else _table(prediction))


def _table(prediction: "Prediction") -> str:
    lines = [prediction.certifies]
    for workload in prediction.workloads:
        sound = workload.sound
        lines.append(
            f"\n{workload.name}: room {workload.room_c:.1f} °C, {workload.power_w:.0f} W, "
            f"{sound.total_dba:.1f} dBA at {sound.at_m:g} m"
        )
        for place in workload.places:
            band = place.band_c
            spread = f" ({band.low:.0f} to {band.high:.0f})" if band else ""
            margin = "" if place.margin_k is None else f"  margin {place.margin_k:+.1f} K"
            lines.append(f"  {place.name:24s}{place.temperature_c:7.1f} °C{spread:14s}{margin}  {place.status}")
        lines += [f"  {notice.level}: {notice.text}" for notice in workload.notices]
    return "\n".join(lines)


def _forecast(options: argparse.Namespace) -> None:
    from krill.in_time.forecast import forecast_in_time
    from krill.in_time.room import CLOSED_ROOM, STEADY_ROOM
    from krill.in_time.run import Asked, Cycle
    from krill.in_time.words import minutes_of
    from krill.prediction.answer.workload_states import worst_workload
    from krill.prediction.predict import cases_of

    build = build_from(options.file)
    cases_of(build, [options.workload] if options.workload else None, options.room)
    room = replace(CLOSED_ROOM if options.closed_room else STEADY_ROOM, drift_k_h=options.drift)
    asked = Asked(
        options.workload or worst_workload(build),
        options.minutes,
        options.before,
        options.room,
        options.samples,
        room=room,
        cycle=Cycle(*options.cycle) if options.cycle else None,
    )
    found = forecast_in_time(build, asked)
    if options.json:
        print(json.dumps(to_json(found), indent=1))
        return
    print(f"{found.certifies}\n{found.name}, {options.minutes:g} min over {found.before}: {found.sentence}")
    for curve in found.curves:
        met = "" if curve.limit_min is None else f"  meets {curve.limit_c:g} °C after {minutes_of(curve.limit_min)}"
        print(f"  {curve.name:24s}{curve.c[-1]:7.1f} °C, settles at {curve.settles_c:.1f}{met}")
    for held in found.held_back:
        print(f"  {held.name} is held back for {100 * held.share_of_time:.0f} % of the time, loses {held.lost_w:.0f} W")
    for swing in found.hunting:
        print(
            f"  {swing.name} swings from {100 * swing.low:.0f} to {100 * swing.high:.0f} % every {swing.period_s:.0f} s"
        )


def _study(options: argparse.Namespace) -> None:
    from krill.sizing.candidates import Study
    from krill.sizing.neighbours import label_of
    from krill.sizing.outcome import outcome
    from krill.sizing.question import read_question

    study = Study(build_from(options.file), read_question(json_from(options.question, "a question"))).check_free()
    result = outcome(study, [study.solve(chunk) for chunk in study.chunks()])
    if options.json:
        print(json.dumps(to_json(result), indent=1))
        return
    print(f"{result.certifies}\n{result.sentence}")
    for number in result.undominated:
        labels = [label_of(study, axis, option) for axis, option in enumerate(study.options_of(number))]
        figures = {name: column[number] for name, column in result.columns.items() if column[number] is not None}
        print(f"  {', '.join(labels)}: " + ", ".join(f"{name} {value:g}" for name, value in figures.items()))


def _analyse(options: argparse.Namespace) -> None:
    from krill.logs.log import read_log
    from krill.runs.whole_log import whole_log

    log = read_log(Path(options.file).read_bytes(), options.interval)
    build = build_from(options.build) if options.build else None
    workload = _workload_of(build, options.workload) if build and options.workload else None
    whole = whole_log(log, build, workload)
    print(json.dumps(to_json(whole), indent=1, allow_nan=False) if options.json else whole.told())


def _recipe(options: argparse.Namespace) -> None:
    from krill.recipes.water_loop import water_loop

    print(write_text(water_loop(options.processor, options.graphics, options.rest, options.room)), end="")


def _practice(options: argparse.Namespace) -> None:
    from krill.simulated_bench.bench import BenchPlan, run_bench

    build = build_from(options.file)
    plan = BenchPlan(_workload_of(build, options.workload), options.room, options.minutes, seed=options.seed)
    print(run_bench(build, plan.exactly() if options.exact else plan).csv(), end="")


def _workload_of(build: "Build", asked: str) -> str:
    known = [workload.id for workload in build.workloads]
    if asked not in known:
        raise KrillError(f"there is no workload '{asked}'; known: {', '.join(known)}")
    return asked
