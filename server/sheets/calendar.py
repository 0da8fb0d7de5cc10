"""What is due as a calendar: timers that run, parts expected, what is looked after again."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from builds.models import Build
from krill.assembly.care import CareDue
from krill.assembly.sheet import BuildSheet
from sheets.models import Mark
from sheets.queries import standing, timers

#: a due is reminded of so long before
REMINDED = timedelta(days=7)


def calendar_of(build: Build, sheet: BuildSheet, marks: Sequence[Mark], today: date) -> bytes:
    """An iCalendar file (RFC 5545). Dues count from when each was last looked after, else from when the machine was
    closed, else from today."""
    calendar = Calendar()
    calendar.add("prodid", "-//Krill//build sheet//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", build.name)
    names = {step.id: step.name for step in sheet.order.steps} | {
        step.id: step.name for plan in sheet.fills for step in plan.steps
    }
    for timer in timers(marks):
        event = _event(build, f"timer-{timer.about}", f"{build.name}: {names.get(timer.about, timer.about)} is over")
        event.add("dtstart", timer.rings.astimezone(UTC))
        event.add("dtend", (timer.rings + timedelta(minutes=5)).astimezone(UTC))
        event.add_component(_alarm(event["summary"], timedelta(0)))
        calendar.add_component(event)
    for row in sheet.parts:
        if row.due_on is not None and row.stock == "ordered":
            event = _event(build, f"part-{row.id}", f"{build.name}: {row.name} expected")
            event.add("dtstart", date.fromisoformat(row.due_on))
            calendar.add_component(event)
    for due in sheet.care:
        event = _event(
            build, f"due-{due.id}", " ".join([f"{build.name}:", due.what, *([due.name] if due.name else [])])
        )
        event.add("dtstart", due_on(due, marks, today))
        event.add("description", _spread(due))
        event.add_component(_alarm(event["summary"], -REMINDED))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def due_on(due: CareDue, marks: Sequence[Mark], today: date) -> date:
    """The day that something is due: as told, else its days after it was last done, or after the machine was closed."""
    cared = [mark.at.date() for mark in marks if mark.kind == "cared" and mark.about == due.id]
    if due.next_on is not None and not cared:
        return date.fromisoformat(due.next_on)
    last = standing(marks).get("close-panels")
    closed = [last.at.date()] if last is not None and last.kind == "done" else []
    since = max(cared or closed or [today])
    return since + timedelta(days=round(due.days))


def _spread(due: CareDue) -> str:
    if due.told:
        return "as you said"
    words = f"nine in ten between {due.early_days:.0f} and {due.late_days:.0f} days"
    return f"{words}; {due.note}" if due.note else words


def _event(build: Build, uid: str, summary: str) -> Event:
    event = Event()
    event.add("uid", f"{uid}@{build.pk}")
    event.add("dtstamp", datetime.now(UTC))
    event.add("summary", summary)
    return event


def _alarm(summary: str, before: timedelta) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", summary)
    alarm.add("trigger", before)
    return alarm
