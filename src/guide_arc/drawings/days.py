"""Days as a coach reads them. Loads next to nothing, so that the queue is there at once."""

from __future__ import annotations

from datetime import date, datetime


def day_words(recorded: str) -> str:
    """`3 Feb 2031` from an ISO date; the text itself if it is none."""
    try:
        when = datetime.fromisoformat(recorded)
    except ValueError:
        return recorded
    return f"{when.day} {when:%b %Y}"


def moment_words(recorded: str) -> str:
    """`3 Feb 2031, 18:30`, which distinguishes sets of one day; the day alone where no time is
    known."""
    day = day_words(recorded)
    return f"{day}, {recorded[11:16]}" if len(recorded) >= 16 and day != recorded else day


def short_day(day: date) -> str:
    """`3 Feb`."""
    return f"{day.day} {day:%b}"
