"""Commands about runs: verdict, compare and calibrate, of run files and their builds."""

import argparse
import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

from krill.cli.documents import build_from, json_from
from krill.document.reading import write_text
from krill.errors import KrillError
from krill.records import to_json

if TYPE_CHECKING:
    from krill.prediction.answer.result import Band, FigureDifference, PlaceDifference
    from krill.runs.judging import Judged
    from krill.runs.ran import Ran


def add_commands(command: Any) -> None:
    """``command(name, run, text)`` adds a parser."""
    judged = command("verdict", _verdict, "hold a run against what its build predicts")
    judged.add_argument("build", help="build document that ran")
    judged.add_argument("file", metavar="run", help="run file")
    judged.add_argument("--window", help="id of the load where the run has several (the first where left out)")
    judged.add_argument("--log", type=Path, help="the run's log (looked for beside the run where left out)")
    judged.add_argument("--evening-of", type=Path, help="another run file of the same evening, in the same room")
    judged.add_argument("--json", action="store_true", help="the complete verdict as JSON")
    held = command("compare", _compare, "hold the second of two runs, or of two builds, against the first")
    held.add_argument("file", metavar="first", help="run file, or build document")
    held.add_argument("second", help="run file, or build document")
    held.add_argument("--build", action="append", default=[], help="build that ran; given twice, one for each run")
    held.add_argument("--window", action="append", default=[], help="load of each run; the first where left out")
    held.add_argument("--equal-sound", action="store_true", help="of two runs: at equal sound in place of equal speeds")
    held.add_argument("--workload", help="of two builds: the workload to compare in (the first where left out)")
    held.add_argument("--json", action="store_true", help="the complete comparison as JSON")
    learnt = command("calibrate", _calibrate, "learn from runs what a build's figures are")
    learnt.add_argument("file", metavar="build", help="build document that ran")
    learnt.add_argument("runs", nargs="+", help="run files")
    learnt.add_argument("--free", action="append", default=[], help="address of what is asked for: plate/factor ...")
    learnt.add_argument("--out", type=Path, help="write the calibrated build to this file")
    learnt.add_argument("--json", action="store_true", help="the complete answer as JSON")


def _is_run(path: str) -> bool:
    from krill.runs.run_document import FORMAT

    raw = json_from(path, "a run or a build document")
    return isinstance(raw, dict) and raw.get("format") == FORMAT


def _verdict(options: argparse.Namespace) -> None:
    from krill.runs.files import ran_from_file
    from krill.runs.judging import judge
    from krill.runs.ran import of_one_evening

    build = build_from(options.build)
    ran = ran_from_file(Path(options.file), build, options.window, options.log)
    if options.evening_of:
        ran = of_one_evening(ran, ran_from_file(options.evening_of, build))
    judged = judge(ran)
    print(json.dumps(_as_json(judged), indent=1) if options.json else _table(judged))


def _as_json(judged: "Judged") -> dict[str, Any]:
    found = to_json(judged.verdict)
    held = [{**to_json(item), "says": item.says} for item in judged.held_back]
    return {
        "run": judged.ran.name,
        **found,
        "quantities": to_json(judged.quantities),
        "held_back": held,
        "excluded": judged.ran.excluded,
    }


def _table(judged: "Judged") -> str:
    found, room = judged.verdict, judged.verdict.room
    doubt = f" ± {room.half_k:.1f}, taken from the readings" if room.half_k else ""
    lines = [found.sentence, f"room {room.air_c:.1f}{doubt} °C"]
    for place in found.places:
        band = f"{place.predicted_low:.0f} to {place.predicted_high:.0f}"
        lines.append(
            f"  {place.name:28s}predicted {place.predicted_c:6.1f} ({band})  measured {place.measured_c:6.1f} °C  "
            f"{place.conclusion}"
        )
    for item in judged.quantities:
        predicted = "" if item.predicted is None else f"predicted {item.predicted:.4g}, "
        measured = item.word if item.measured is None else f"{item.measured:.4g} {item.unit}"
        lines.append(f"  {item.name:28s}{predicted}measured {measured}  {item.conclusion}")
    lines += [f"  {held.says}" for held in judged.held_back]
    return "\n".join([*lines, *(f"  {line}" for line in judged.ran.excluded)])


def _compare(options: argparse.Namespace) -> None:
    kinds = [_is_run(options.file), _is_run(options.second)]
    if all(kinds):
        _compare_runs(options)
    elif any(kinds):
        raise KrillError("two runs, or two builds: a run is held against a build by the command verdict")
    else:
        _compare_builds(options)


def _compare_runs(options: argparse.Namespace) -> None:
    from krill.runs.compare import compare
    from krill.runs.judging import side_of

    if not options.build:
        raise KrillError("name the build that ran by --build, twice where the runs are of two builds")
    first, second = [_ran(options, number) for number in (0, 1)]
    found = compare(side_of(first), side_of(second), equal="sound" if options.equal_sound else "speeds")
    if options.json:
        print(json.dumps(to_json(found), indent=1))
        return
    lines, at = [found.sentence], "sound" if options.equal_sound else "speeds"
    for part in found.parts:
        lines.append(
            f"  {part.name:28s}{part.equal_k:+6.1f} ± {part.equal_half_k:.1f} K at equal watts and {at} "
            f"({part.measured_k:+.1f} as measured, {part.predicted_k:+.1f} by the model)  {part.conclusion}"
        )
    print("\n".join([*lines, *(f"  differs: {change.what}" for change in found.changes)]))


def _ran(options: argparse.Namespace, number: int) -> "Ran":
    from krill.runs.files import ran_from_file

    path = (options.file, options.second)[number]
    window = options.window[number] if number < len(options.window) else None
    return ran_from_file(Path(path), build_from(options.build[min(number, len(options.build) - 1)]), window)


def _calibrate(options: argparse.Namespace) -> None:
    from krill.runs.calibrate import calibrate
    from krill.runs.files import ran_from_file

    build = build_from(options.file)
    found = calibrate([ran_from_file(Path(path), build) for path in options.runs], options.free)
    if options.out:
        calibrated = build.model_copy(update={"calibration": found.calibration})
        options.out.write_text(write_text(calibrated), encoding="utf-8")
    if options.json:
        print(json.dumps({**to_json(found), "calibration": found.calibration.model_dump(mode="json")}, indent=1))
        return
    lines = [found.sentence]
    for unknown in found.unknowns:
        mark = "*" if unknown.chosen else " "
        assumed = f"{unknown.assumed_low:.2f} to {unknown.assumed_high:.2f}"
        learnt = f"x {unknown.factor:.2f} ({unknown.low:.2f} to {unknown.high:.2f})"
        lines.append(f" {mark}{unknown.name:44s}{learnt:26s} assumed {assumed}  {unknown.says}".rstrip())
    lines += [f"  {r.run}: {r.name:28s}off by {r.before_k:+.1f} K before, {r.after_k:+.1f} K" for r in found.residuals]
    print("\n".join(lines))


def _compare_builds(options: argparse.Namespace) -> None:
    from krill.prediction.questions.comparison import compare
    from krill.sizing.measures import measures_of

    first, second = build_from(options.file), build_from(options.second)
    found = compare(first, second, options.workload or first.workloads[0].id)
    heights = [measures_of(build).height_mm for build in (first, second)]
    if options.json:
        print(json.dumps({**to_json(found), "height_mm": heights}, indent=1))
        return
    lines = [found.sentence]
    for item in [*map(_place_line, found.places), *map(_figure_line, found.others)]:
        lines.append(f"  {item}")
    if None not in heights:
        lines.append(f"  {'height':28s}{heights[0]:8.0f} to {heights[1]:8.0f} mm")
    print("\n".join(lines))


def _place_line(place: "PlaceDifference") -> str:
    if place.first_c is None or place.second_c is None:
        return f"{place.name:28s}{place.says}"
    return _line(place.name, place.first_c, place.second_c, "°C", place.band_k)


def _figure_line(item: "FigureDifference") -> str:
    return _line(item.name, item.first, item.second, item.unit, item.band)


def _line(name: str, first: float, second: float, unit: str, band: "Band | None") -> str:
    known = "" if band is None else f" ({band.low:+.1f} to {band.high:+.1f})"
    return f"{name:28s}{first:8.1f} to {second:8.1f} {unit:4s}{second - first:+6.1f}{known}"
