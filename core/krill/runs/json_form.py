"""Analyses and verdicts as plain JSON values."""

from dataclasses import asdict
from typing import Any

from krill.runs.analysis import LogAnalysis
from krill.runs.reading import ReadReport
from krill.runs.verdict import Verdict


def report_json(report: ReadReport) -> dict[str, Any]:
    """Counts of kept, repaired and skipped lines with the reason of each."""
    return asdict(report) | {"reasons": dict(report.reasons)}


def analysis_json(analysis: LogAnalysis) -> dict[str, Any]:
    """Window, channels with their settled values, and the sentence of each."""
    channels = []
    for channel in analysis.channels:
        row = asdict(channel)
        row["sentence"] = channel.settled.sentence() if channel.settled else ""
        channels.append(row)
    return {
        "window": asdict(analysis.window),
        "channels": channels,
        "room_start_c": analysis.room_start_c,
        "room_end_c": analysis.room_end_c,
    }


def verdict_json(verdict: Verdict) -> dict[str, Any]:
    return asdict(verdict)
