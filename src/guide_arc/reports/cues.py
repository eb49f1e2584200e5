"""The cues of a set: which findings are said, in whose words, and at which moments."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from guide_arc.core.model.finding import Finding
from guide_arc.core.model.review import Review
from guide_arc.core.review.rank import MOST_CUES, proposed_cues
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.formats.cues_vtt import Subtitle
from guide_arc.library.records import SetNotes

# A cue is read from a moment before its fault shows.
_BEFORE_S = 0.6


@dataclass(frozen=True)
class SaidCue:
    """A finding that becomes a cue. moments : the times at which it shows most, worst first,
    seconds of the set"""

    finding: Finding
    words: str
    moments: tuple[float, ...]


def chosen_cues(review: Review, notes: SetNotes) -> list[Finding]:
    """What the coach kept, at most three; before anything is decided, what the program proposes."""
    if not notes.decisions:
        return list(proposed_cues(review.findings))
    kept = [f for f in review.findings if (d := notes.decisions.get(f.key)) and d.choice != "drop"]
    return kept[:MOST_CUES]


def said_cues(measured: ShownSet, notes: SetNotes) -> tuple[SaidCue, ...]:
    """The cues of a set, each in the coach's words where they reworded it."""
    out = []
    for finding in chosen_cues(measured.review, notes):
        decision = notes.decisions.get(finding.key)
        words = (decision.words if decision else None) or finding.cue
        out.append(SaidCue(finding, words, _moments(finding)))
    return tuple(out)


def _moments(finding: Finding) -> tuple[float, ...]:
    shown = [j for j in finding.per_rep if j.verdict == finding.verdict]
    moments = [j.at_s for j in sorted(shown, key=lambda j: -abs(j.value))]
    if not moments and finding.at_s is not None:
        moments = [finding.at_s]
    return tuple(moments)


def subtitles(cues: Iterable[SaidCue], measured: ShownSet, slowdown: float = 1.0) -> list[Subtitle]:
    """Each cue under every rep that it is about, in the clip's own time."""
    out = []
    for cue in cues:
        for at_s in cue.moments:
            rep = measured.review.rep_at(at_s)
            end_s = rep.end_s if rep is not None else at_s + 2.0
            out.append(Subtitle(slowdown * max(at_s - _BEFORE_S, 0.0), slowdown * end_s, cue.words))
    return out
