"""Heron's sheet as the demo shows it: half ticked, a gate that failed, the loop being cleaned on the table meanwhile."""

from datetime import timedelta
from typing import Final

from django.contrib.auth.models import User
from django.utils import timezone

from builds.models import Build
from krill.assembly.sheet import build_sheet
from krill.document.reading import read_text
from sheets.actions import NewMark, add_marks

#: what a step took of what was planned, over and over
_TOOK: Final = (1.15, 0.9, 1.3, 1.0, 1.2)
_FAILED: Final = "gate-memory-found"
#: since when the loop is being cleaned, and the fill steps before that
_CLEANING: Final = timedelta(hours=6, minutes=40)
_BEFORE_CLEANING: Final = ("seals", "off", "closed", "paper", "rinse")


def half_built(user: User, build: Build) -> None:
    """Tick every step up to the gate that all memory is found at, which fails; the fill plan has begun beside."""
    now = timezone.now()
    sheet = build_sheet(read_text(build.text))
    steps = sheet.order.steps
    upto = next((at for at, step in enumerate(steps) if step.id == _FAILED), len(steps) // 2)
    at = now - timedelta(days=1, hours=4)
    marks = []
    for index, step in enumerate(steps[:upto]):
        minutes = round(step.minutes * _TOOK[index % len(_TOOK)])
        at += timedelta(minutes=minutes)
        marks.append(NewMark(f"demo-{step.id}"[:40], step.id, "done", at, minutes=float(minutes)))
    if upto < len(steps):
        word = "one stick of two found"
        marks.append(NewMark("demo-memory-failed", _FAILED, "failed", at + timedelta(minutes=9), word))
    for plan in sheet.fills:
        started = now - _CLEANING
        for key in _BEFORE_CLEANING:
            marks.append(NewMark(f"demo-{plan.loop}-{key}"[:40], f"{plan.loop}/{key}", "done", started))
        told = "joined on the table, to be cleaned while the second stick is looked for"
        marks.append(NewMark(f"demo-{plan.loop}-table"[:40], plan.loop, "remark", started, told))
        about, word = f"{plan.loop}/clean", "Cleaning agent in, pump on"
        marks.append(NewMark(f"demo-{plan.loop}-clean"[:40], about, "timer", started, word, 24 * 60.0))
    for caution in ("cutting", "mains", "cells"):
        marks.append(NewMark(f"demo-read-{caution}", caution, "read", now - timedelta(days=1, hours=5)))
    add_marks(user, build.pk, now, marks)
