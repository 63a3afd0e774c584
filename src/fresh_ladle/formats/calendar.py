"""A day of work as iCalendar: an event for each step, in UTC, so that no calendar moves it."""

from __future__ import annotations

from datetime import UTC, datetime

from icalendar import Calendar, Event

from fresh_ladle.core.service.day import Service, names_of_cooks
from fresh_ladle.core.service.schedule import Schedule


def calendar_of(service: Service, name: str, number: int) -> bytes:
    """The steps and the meal of service `number` as iCalendar; only the meal where there is no
    order of work."""
    calendar = Calendar()
    calendar.add("prodid", "-//Fresh Ladle//Service//EN")
    calendar.add("version", "2.0")
    cooks = names_of_cooks(service.ask.kitchen.cooks)
    if isinstance(service.order, Schedule):
        for placed in service.order.placed:
            start, end = (service.clock.moment(minute) for minute in (placed.start, placed.end))
            words = f"{placed.task.text} (cook {cooks[placed.cook]})"
            calendar.add_component(
                _event(f"{number}-{placed.task.id}", words, start, end, placed.task.dish)
            )
    eaten = service.ask.eaten
    calendar.add_component(_event(f"{number}-eaten", f"{name}: eaten", eaten, eaten, ""))
    return bytes(calendar.to_ical())


def _event(uid: str, summary: str, start: datetime, end: datetime, description: str) -> Event:
    event = Event()
    event.add("uid", f"{uid}@fresh-ladle")
    event.add("dtstamp", start.astimezone(UTC))
    event.add("dtstart", start.astimezone(UTC))
    event.add("dtend", end.astimezone(UTC))
    event.add("summary", summary)
    if description:
        event.add("description", description)
    return event
