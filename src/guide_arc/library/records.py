"""What the library gives out: frozen values without a database behind them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Final, Literal

from guide_arc.core.model.settings import ENTRY, PLAIN, Correction, Settings
from guide_arc.library.queue_rows import State

Choice = Literal["keep", "drop", "reword", "held", "broke"]
# The kind of the saved part of a reviewed set: when, and how long it was open.
REVIEWED: Final = "reviewed"
# The kinds of a page that was made for a client and can be answered, and of an answer to it. Both
# are about a set's number.
PAGE: Final = "page"
ANSWER: Final = "answer"
# The kind of what could not be used and waits for the coach to look.
QUARANTINE: Final = "set-aside"


@dataclass(frozen=True)
class Decision:
    """What a coach decided about one finding, or saw of it. `words` is the cue in their own
    words."""

    choice: Choice
    words: str | None = None
    decided_by: str = ""
    decided_at: str = ""


@dataclass(frozen=True)
class SetNotes:
    """All that a coach adds to a set: one document, so that undo is the document before.

    decisions : by finding key (check/side)
    settings : corrections by hand, loose last reps, felt places: what a review rests on
    """

    decisions: Mapping[str, Decision] = field(default_factory=dict)
    note: str = ""
    state: State = "waiting"
    pain: bool = False
    settings: Settings = PLAIN

    def __post_init__(self) -> None:
        object.__setattr__(self, "decisions", MappingProxyType(dict(self.decisions)))


def notes_text(notes: SetNotes) -> str:
    """All that a coach added to a set, as text to be kept elsewhere."""
    lines = [f"note: {notes.note}"] if notes.note else []
    lines += [
        f"{key}: {d.choice}{f' “{d.words}”' if d.words else ''}"
        for key, d in notes.decisions.items()
    ]
    settings = notes.settings
    lines += [f"felt: {', '.join(settings.felt)}"] if settings.felt else []
    lines += [
        "the entry is right" if a.finding == ENTRY else f"{a.finding}: seen to have {a.saw}"
        for a in settings.eye
    ]
    lines += [f"loose last reps: {settings.loose_last}"] if settings.loose_last else []
    lines += [f"corrected by hand: {c}" for c in settings.corrections]
    lines += ["pain"] if notes.pain else []
    return "\n".join([*lines, f"state: {notes.state}"])


@dataclass(frozen=True)
class SetRecord:
    """One recorded set with its client, and its track, its clip, or both.

    frames, duration_s : of the track, or of the clip as long as there is no track
    capture_hz : the rate it was filmed at, for a clip that is shown slower than it was filmed
    tracked_by : what found the landmarks of a clip; empty for a track that came as a file
    mirrored : its phone filmed as in a mirror; search : see `searches.py`
    """

    id: int
    client: str
    standard: str
    school: str
    tempo: str | None
    load_kg: float | None
    recorded: str
    source_name: str
    track_hash: str | None
    frames: int
    duration_s: float
    view: str
    notes: SetNotes
    clip_hash: str | None = None
    capture_hz: float | None = None
    tracked_by: str = ""
    mirrored: bool = False
    search: str = ""

    @property
    def waits_for_landmarks(self) -> bool:
        """Whether it came as a clip in which nothing was found yet."""
        return self.track_hash is None


@dataclass(frozen=True)
class EarlierSet:
    """Another set of the same client and standard, to compare with."""

    id: int
    recorded: str
    load_kg: float | None
    school: str


@dataclass(frozen=True)
class SetPart:
    """One exercise of a recording that holds several: its standard, school, start and end."""

    standard: str
    school: str
    bounds: Correction
