"""Hours of a kitchen as minutes on one line, and back: through midnight and changes of the clock.

Every moment is an aware datetime; minutes are counted in UTC, so that an hour stays an hour when
the clock moves."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from fresh_ladle.core.recipes.recipe import RecipeError
from fresh_ladle.core.service.schedule import Hours

AHEAD = timedelta(hours=36)
"""How long before eating work may begin at the usual: what soaks overnight is put in the evening
before."""
LONG_CHAIN, MOST_AHEAD = timedelta(hours=24), timedelta(days=21)
"""Where one thing after the other takes longer than the first, work begins as many days before, at
most the second."""
YEARS = range(2000, 2101)
OPENS, CLOSES = time(6, 0), time(20, 0)
"""When a kitchen works, where it has not said otherwise."""


@dataclass(frozen=True, slots=True)
class Clock:
    """The line of minutes of one service: 0 is `origin`."""

    origin: datetime
    zone: ZoneInfo

    def minute(self, moment: datetime) -> int:
        return round((moment - self.origin).total_seconds() / 60)

    def moment(self, minute: int) -> datetime:
        """The moment in the time of the place."""
        return (self.origin + timedelta(minutes=minute)).astimezone(self.zone)


def zone_named(name: str) -> ZoneInfo:
    """Raises RecipeError for a zone nobody knows."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError):
        raise RecipeError(
            f"{name!r} is no time zone: one is named as in the list of the system, or UTC"
        ) from None


def moment_of(typed: str, zone: ZoneInfo) -> datetime:
    """A moment that was typed, in the time of the place. Raises RecipeError for what is none, or
    does not exist there because the clock jumps over it."""
    try:
        found = datetime.fromisoformat(typed.strip())
    except ValueError:
        raise RecipeError(f"{typed!r} is no date and time: write it as 2027-03-04T12:00") from None
    if found.year not in YEARS:
        raise RecipeError(f"{found.year} is no year of a meal: write the date as 2027-03-04T12:00")
    if found.tzinfo is not None:
        return found.astimezone(zone)
    there = found.replace(tzinfo=zone)
    if there.astimezone(UTC).astimezone(zone).replace(tzinfo=None) != found:
        raise RecipeError(
            f"{found:%H:%M} does not exist on {found:%d %B %Y}: the clock is put forward then"
        )
    return there


def ahead_for(minutes: int) -> timedelta:
    """How long before eating work may begin that takes so long, one thing after the other."""
    chain = timedelta(minutes=minutes)
    return AHEAD if chain <= LONG_CHAIN else min(MOST_AHEAD, AHEAD + timedelta(days=chain.days))


def hours_until(
    eaten: datetime,
    now: datetime,
    opens: time = OPENS,
    closes: time = CLOSES,
    ahead: timedelta = AHEAD,
) -> tuple[Hours, Clock]:
    """The hours in which hands may work before a meal, from `ahead` of it on. Raises RecipeError
    for a meal in the past, or hours that are none."""
    if eaten <= now:
        raise RecipeError(f"{eaten:%d %B %Y, %H:%M} is over: a service lies ahead")
    if opens >= closes:
        raise RecipeError(f"a kitchen that opens at {opens:%H:%M} closes later than {closes:%H:%M}")
    zone = eaten.tzinfo
    assert isinstance(zone, ZoneInfo)
    clock = Clock((eaten - ahead).astimezone(UTC), zone)
    meal, stretches = clock.minute(eaten), []
    day = (eaten - ahead).astimezone(zone).date()
    while day <= eaten.date():
        start = clock.minute(_at(day, opens, zone))
        # On the day itself somebody is there until it is eaten, however late that is.
        end = max(clock.minute(_at(day, closes, zone)), meal if day == eaten.date() else 0)
        stretches.append((max(0, min(start, _early(meal, start))), min(end, meal)))
        day += timedelta(days=1)
    kept = tuple((a, b) for a, b in stretches if b > a)
    return Hours(meal, kept, max(0, clock.minute(now))), clock


def _early(meal: int, opens: int) -> int:
    """The beginning of the day of the meal: six hours before a meal that is eaten before the
    kitchen usually opens."""
    return opens if opens < meal else meal - 360


def _at(day: date, hour: time, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, hour, zone)
