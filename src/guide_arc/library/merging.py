"""Two windows change the same thing: what only one of them changed is joined; where both did,
neither wins in silence."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, Final, Generic, TypeVar

from guide_arc.core.model.marks import Line, Mark, Marks
from guide_arc.core.model.settings import EyeAnswer, Settings
from guide_arc.library.records import Decision, SetNotes

T = TypeVar("T")
_BETWEEN: Final = "\n— also, from another window: —\n"


@dataclass(frozen=True)
class Merged(Generic[T]):
    """What is kept now. clashes : what both changed, each with both versions, as a sentence"""

    value: T
    clashes: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        return " ".join(self.clashes)


def merged_notes(base: SetNotes, mine: SetNotes, theirs: SetNotes) -> Merged[SetNotes]:
    """A set's document that was `base`, is `theirs` in the library by now, and was made `mine`
    here.

    Both notes are kept, one under the other. Pain that either reported is kept. If two decisions
    about one finding, two corrections of a set's reps, or two answers about where it was felt
    conflict, the library's own is kept, and both are reported."""
    clashes: list[str] = []
    note = _joined_note(base.note, mine.note, theirs.note)
    if note not in (mine.note, theirs.note):
        clashes.append("Another window also changed the note. Both versions are saved.")
    decisions = _merged_decisions(base, mine, theirs, clashes)
    settings = _merged_settings(base.settings, mine.settings, theirs.settings, clashes)
    state = theirs.state if mine.state == base.state else mine.state
    pain = theirs.pain if mine.pain == base.pain else mine.pain
    return Merged(SetNotes(decisions, note, state, pain, settings), tuple(clashes))


def _joined_note(base: str, mine: str, theirs: str) -> str:
    if mine in (base, theirs) or (mine and mine in theirs):
        return theirs
    if theirs == base or theirs in mine:
        return mine
    if not mine or not theirs:
        return mine or theirs
    return f"{theirs}{_BETWEEN}{mine}"


def _merged_decisions(
    base: SetNotes, mine: SetNotes, theirs: SetNotes, clashes: list[str]
) -> dict[str, Decision]:
    out: dict[str, Decision] = {}
    for key in dict.fromkeys((*theirs.decisions, *mine.decisions)):
        was, here, there = (notes.decisions.get(key) for notes in (base, mine, theirs))
        if _choice(here) == _choice(was) or _choice(here) == _choice(there):
            chosen = there
        elif _choice(there) == _choice(was):
            chosen = here
        else:
            chosen = there
            clashes.append(
                f"Another window decided about {key.partition('/')[0].replace('-', ' ')} too: "
                f"{_told(there)} stays, yours was {_told(here)}."
            )
        if chosen is not None:
            out[key] = chosen
    return out


def _choice(decision: Decision | None) -> tuple[str, str | None] | None:
    return None if decision is None else (decision.choice, decision.words)


def _told(decision: Decision | None) -> str:
    if decision is None:
        return "undecided"
    return f"“{decision.words}”" if decision.words else decision.choice


def _merged_settings(
    base: Settings, mine: Settings, theirs: Settings, clashes: list[str]
) -> Settings:
    names = {
        "corrections": "the corrections by hand",
        "loose_last": "how many last reps may be loose",
        "felt": "where it was felt",
    }
    out = merged_fields(base, replace(mine, eye=base.eye), replace(theirs, eye=base.eye), names)
    clashes += out.clashes
    return replace(out.value, eye=_merged_eye(base, mine, theirs, clashes))


def _merged_eye(
    base: Settings, mine: Settings, theirs: Settings, clashes: list[str]
) -> tuple[EyeAnswer, ...]:
    """What the coach saw, finding by finding."""
    out = []
    for key in dict.fromkeys(a.finding for a in (*theirs.eye, *mine.eye)):
        was, here, there = (s.seen_by_eye(key) for s in (base, mine, theirs))
        chosen = there
        if _saw(here) not in (_saw(was), _saw(there)):
            if _saw(there) == _saw(was):
                chosen = here
            else:
                clashes.append(
                    "Another window said what was seen of"
                    f" {key.partition('/')[0].replace('-', ' ')} too: {_saw(there) or 'nothing'}"
                    f" stays, yours was {_saw(here) or 'nothing'}."
                )
        if chosen is not None:
            out.append(chosen)
    return tuple(out)


def _saw(answer: EyeAnswer | None) -> str:
    return "" if answer is None else answer.saw


# The units of a clip's marks that are merged: a point on a frame, a line of a kind, the person, the
# side that is seen.
_Part = tuple[str, int]


def merged_marks(base: Marks, mine: Marks, theirs: Marks) -> Merged[Marks]:
    """A clip's marks that two windows made, point by point and line by line; where both marked the
    same, what is in the library stays, and is reported."""
    was, here, there = (_parts(marks) for marks in (base, mine, theirs))
    out, clashes = dict(there), []
    for part in dict.fromkeys((*here, *was)):
        new = here.get(part)
        if new in (was.get(part), there.get(part)):
            continue
        if there.get(part) != was.get(part):
            clashes.append(_part_words(part))
        elif new is None:
            out.pop(part, None)
        else:
            out[part] = new
    told = f"Another window changed {', '.join(clashes)} too; theirs stays." if clashes else ""
    return Merged(_of_parts(out), (told,) if told else ())


def _parts(marks: Marks) -> dict[_Part, Any]:
    out: dict[_Part, Any] = {(n, m.frame): m for n, own in marks.points.items() for m in own}
    out.update({(line.kind, -1): line for line in marks.lines})
    out["person", -1] = marks.person
    out["view", -1] = marks.view
    return out


def _of_parts(parts: Mapping[_Part, Any]) -> Marks:
    out = Marks(parts["view", -1], person=parts.get(("person", -1)))
    for (name, _frame), part in parts.items():
        if isinstance(part, Mark):
            out = out.with_mark(name, part)
        elif isinstance(part, Line):
            out = out.with_line(part)
    return out


def _part_words(part: _Part) -> str:
    name, frame = part
    if frame >= 0:
        return f"the {name.replace('_', ' ')} on frame {frame + 1}"
    return {"person": "who is meant", "view": "the side that the camera sees"}.get(
        name, f"the {name} line"
    )


def merged_fields(base: T, mine: T, theirs: T, names: Mapping[str, str]) -> Merged[T]:
    """Merge any frozen dataclass field by field. names : words for the fields in which a conflict
    is reported"""
    changes: dict[str, Any] = {}
    clashes: list[str] = []
    for one in fields(base):  # type: ignore[arg-type]
        was, here, there = (getattr(value, one.name) for value in (base, mine, theirs))
        if here in (was, there):
            continue
        if there == was:
            changes[one.name] = here
            continue
        what = names.get(one.name, one.name.replace("_", " "))
        clashes.append(
            f"Another window changed {what} too: {_shown(there)} stays, yours was {_shown(here)}."
        )
    return Merged(replace(theirs, **changes), tuple(clashes))  # type: ignore[type-var]


def _shown(value: Any) -> str:
    if isinstance(value, str | int | float):
        return str(value) or "nothing"
    if isinstance(value, tuple) and all(isinstance(v, str | int | float) for v in value):
        return ", ".join(map(str, value)) or "nothing"
    return f"{len(value)} of them" if isinstance(value, tuple) else "the other"
