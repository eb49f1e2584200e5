"""All forms of a landmark track, as their files declare them."""

from __future__ import annotations

from functools import cache

from guide_arc.core.model.declared import declared
from guide_arc.core.model.errors import BadInput, did_you_mean
from guide_arc.formats.format import Format


@cache
def formats() -> tuple[Format, ...]:
    """In the order in which they are listed."""
    return tuple(sorted(declared("guide_arc.formats", "FORMAT"), key=lambda f: (f.order, f.id)))


def suffixes() -> tuple[str, ...]:
    """The endings of the files that can be read."""
    every = (s for f in formats() if f.read is not None for s in f.suffixes)
    return tuple(dict.fromkeys(every))


def format_of_text(text: str, suffix: str) -> Format:
    """The form of a text: one that claims it, else one of its file's ending, else CSV."""
    readable = [f for f in formats() if f.read is not None and not f.binary][::-1]
    claimed = next((f for f in readable if f.claims(text)), None)
    named = [f for f in readable if suffix in f.suffixes]
    return claimed or (named[-1] if named else format_named("csv"))


def format_to_write(suffix: str) -> Format | None:
    """The usual form of an ending."""
    return next((f for f in formats() if f.write is not None and suffix in f.suffixes), None)


def format_named(id: str) -> Format:
    """Raises BadInput for an id that no form has."""
    found = next((f for f in formats() if f.id == id), None)
    if found is None:
        ids = [f.id for f in formats()]
        raise BadInput(
            f"there is no form {id!r}{did_you_mean(id, ids)}; there are {', '.join(ids)}"
        )
    return found
