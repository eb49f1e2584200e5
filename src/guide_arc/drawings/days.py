"""Days as a coach reads them. Loads next to nothing, so that the queue is there at once."""

from __future__ import annotations

from datetime import date, datetime


def day_words(recorded: str) -> str:
    """`3 Feb 2031` from an ISO date; the text itself where it is none."""
    try:
        when = datetime.fromisoformat(recorded)
    except ValueError:
        return recorded
    return f"{when.day} {when:%b %Y}"


def short_day(day: date) -> str:
    """`3 Feb`."""
    return f"{day.day} {day:%b}"
