"""What a coach added to a set, as the JSON of a bundle, and back; nothing of it is taken without a
look."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from pydantic import TypeAdapter, ValidationError

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.plain_text import visible
from guide_arc.core.model.settings import Correction, EyeAnswer, Settings
from guide_arc.library.plain_values import NAME, NOTE, WORDS, moment_of, text_of
from guide_arc.library.records import Decision, SetNotes

_CORRECTIONS: Final = TypeAdapter(tuple[Correction, ...])
_MOST: Final = 500
_CHOICES: Final = ("keep", "drop", "reword")


def added(notes: SetNotes) -> dict[str, Any]:
    """A coach's document of a set, as plain data."""
    settings = notes.settings
    return {
        "note": notes.note,
        "state": notes.state,
        "pain": notes.pain,
        "felt": list(settings.felt),
        "loose_last": settings.loose_last,
        "corrections": _CORRECTIONS.dump_python(settings.corrections, exclude_none=True),
        "eye": {a.finding: {"saw": a.saw, "by": a.by, "at": a.at} for a in settings.eye},
        "decisions": {
            key: {"choice": d.choice, "words": d.words, "by": d.decided_by, "at": d.decided_at}
            for key, d in notes.decisions.items()
        },
    }


def notes_in(meta: Mapping[str, Any]) -> SetNotes:
    """A coach's document from what a file says; what it does not say is as in a new set.

    Raises BadInput, naming the field, for what no set can have.
    """
    return SetNotes(
        _decisions(meta.get("decisions")),
        text_of(_text(meta, "note"), "its note", NOTE),
        "done" if meta.get("state") == "done" else "waiting",
        meta.get("pain") is True,
        Settings(
            _corrections(meta.get("corrections")),
            _count(meta.get("loose_last")),
            _felt(meta.get("felt")),
            _eye(meta.get("eye")),
        ),
    )


def _decisions(found: Any) -> dict[str, Decision]:
    if found is None:
        return {}
    if not isinstance(found, dict) or len(found) > _MOST:
        raise BadInput("its decisions are not a table of findings")
    out = {}
    for key, said in found.items():
        choice = said.get("choice") if isinstance(said, dict) else None
        if choice not in _CHOICES:
            raise BadInput(
                f"its decision about {visible(str(key))[:60]!r} is {str(choice)[:20]!r}; it must be"
                " keep, drop or reword"
            )
        words = said.get("words")
        if words is not None and not isinstance(words, str):
            raise BadInput(f"its words for {visible(str(key))[:60]!r} are no text")
        out[visible(key)[:80]] = Decision(
            choice,
            None if words is None else text_of(words, "a cue", WORDS),
            visible(_text(said, "by"))[:NAME],
            moment_of(_text(said, "at")) or "",
        )
    return out


def _eye(found: Any) -> tuple[EyeAnswer, ...]:
    if found is None:
        return ()
    if not isinstance(found, dict) or len(found) > _MOST:
        raise BadInput("what was seen by eye is not a table of findings")
    out = []
    for key, said in found.items():
        saw = said.get("saw") if isinstance(said, dict) else None
        if saw not in ("held", "broke"):
            raise BadInput(
                f"what was seen of {visible(str(key))[:60]!r} is {str(saw)[:20]!r}; it must be held"
                " or broke"
            )
        by, at = visible(_text(said, "by"))[:NAME], moment_of(_text(said, "at")) or ""
        out.append(EyeAnswer(visible(key)[:70], saw, by, at))
    return tuple(out)


def _corrections(found: Any) -> tuple[Correction, ...]:
    try:
        made = _CORRECTIONS.validate_python(found or (), strict=False)
    except (ValidationError, ValueError, RecursionError):
        raise BadInput("its corrections by hand can't be read") from None
    if len(made) > _MOST or any(not _in_a_set(c) for c in made):
        raise BadInput("its corrections by hand name moments that no set has")
    return made


def _in_a_set(correction: Correction) -> bool:
    times = (correction.at_s, correction.to_s)
    return all(t is None or -1.0 <= t <= 100_000.0 for t in times)  # a NaN is neither


def _count(found: Any) -> int:
    if found is None:
        return 0
    if isinstance(found, bool) or not isinstance(found, int) or not 0 <= found <= _MOST:
        raise BadInput(f"its number of loose last reps is {str(found)[:20]}")
    return found


def _felt(found: Any) -> tuple[str, ...]:
    if found is None:
        return ()
    if not isinstance(found, list) or len(found) > 40 or any(not isinstance(v, str) for v in found):
        raise BadInput("where it was felt is no list of places")
    return tuple(visible(v)[:NAME] for v in found)


def _text(found: Mapping[str, Any], key: str) -> str:
    value = found.get(key)
    if value is None:
        return ""
    if not isinstance(value, str):
        raise BadInput(f"its {key} is no text")
    return value
