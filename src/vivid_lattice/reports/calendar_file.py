"""The next inspection and the checks until then as a calendar: iCalendar, RFC 5545."""

from __future__ import annotations

from datetime import UTC, date, datetime
from uuid import NAMESPACE_URL, uuid5

from icalendar import Calendar, Event

from vivid_lattice.core.testing.routine_checks import day_of, routine_checks
from vivid_lattice.reports.report_data import ReportData


def job_calendar(data: ReportData) -> bytes:
    """An event a check, on its day and again as often as it is due; and the next inspection where its day is stated."""
    calendar = Calendar()
    calendar.add("prodid", "-//Vivid Lattice//Routine checks//EN")
    calendar.add("version", "2.0")
    made = _moment(data.made_at)
    for check in routine_checks(data.network, made.date()):
        event = _event(data, check.of, check.text, check.first, made)
        event.add("rrule", {"freq": "monthly", "interval": check.every_months})
        event.add("description", f"{data.say('documents.calendar.note')} {check.source.publication}")
        calendar.add_component(event)
    due = day_of(data.job.testing.next_inspection)
    if due is not None:
        event = _event(data, "inspection", data.say("documents.calendar.inspection"), due, made)
        event.add("description", data.say("documents.calendar.inspection_note"))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _event(data: ReportData, what: str, text: str, day: date, made: datetime) -> Event:
    """An event of a whole day. Its id is the same each time, so that importing again does not double it."""
    event, job = Event(), data.job.job
    event.add("uid", f"{uuid5(NAMESPACE_URL, f'vivid-lattice:{job.title}:{job.site}:{what}')}@vivid-lattice")
    event.add("dtstamp", made)
    event.add("dtstart", day)
    event.add("summary", f"{job.title}: {text}")
    if job.site:
        event.add("location", job.site)
    return event


def _moment(made_at: str) -> datetime:
    """When the file was made; a day alone is its midnight."""
    found = datetime.fromisoformat(made_at)
    return found if found.tzinfo is not None else found.replace(tzinfo=UTC)
