"""Cues as WebVTT subtitles, to play next to a clip."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

_LEAST_S: Final = 1.2


@dataclass(frozen=True)
class Subtitle:
    """What is said from one time to another, seconds of the clip as it is shown."""

    start_s: float
    end_s: float
    words: str


def vtt_text(subtitles: Iterable[Subtitle]) -> str:
    """Subtitles in the order of their times; each stays long enough to be read."""
    out = ["WEBVTT", ""]
    for i, said in enumerate(sorted(subtitles, key=lambda s: s.start_s), 1):
        end_s = max(said.end_s, said.start_s + _LEAST_S)
        # In WebVTT & and < start markup, and an empty line ends the cue.
        words = said.words.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
        lines = [line for line in words.splitlines() if line.strip()]
        out += [str(i), f"{_clock(said.start_s)} --> {_clock(end_s)}", *lines, ""]
    return "\n".join(out)


def _clock(at_s: float) -> str:
    whole = round(max(at_s, 0.0) * 1000)
    hours, minutes, seconds = whole // 3_600_000, whole // 60_000 % 60, whole // 1000 % 60
    return f"{hours:02d}:{minutes:02d}:{seconds:02d}.{whole % 1000:03d}"
