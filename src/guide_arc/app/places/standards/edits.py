"""Changes to a standard: the text of the coach's own file before and after each. Words say why a
change can't be made."""

from __future__ import annotations

import copy
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from guide_arc.app.places.standards.document import StandardsDocument
from guide_arc.core.model.errors import BadInput
from guide_arc.standards.loader import change, with_usual_words
from guide_arc.standards.writing import as_toml, id_of

Value = float | str | list[float]
# The coach's own files by id.
Texts = Mapping[str, str]


@dataclass(frozen=True)
class StandardEdit:
    """words : what was done; before, after : the own file's text by id, None without one"""

    words: str
    id: str
    before: str | None
    after: str | None


Asked = StandardEdit | str | None


def values_set(
    doc: StandardsDocument, texts: Texts, values: Mapping[str, Value], words: str
) -> Asked:
    """Keys of the chosen standard, or of the chosen school where that changes them."""
    if doc.chosen is None:
        return None
    raw = with_usual_words(copy.deepcopy(doc.catalogue.raw(doc.chosen)))
    school = _school_of(doc, raw)
    try:
        for key, value in values.items():
            if school is not None and key in school.get("set", {}):
                school["set"][key] = value
            elif school is not None and (check := _added(school, key)) is not None:
                check[key.rsplit(".", maxsplit=1)[-1]] = value
            else:
                change(raw, key, value, f"{doc.chosen}.toml")
    except BadInput as error:
        return str(error)
    return StandardEdit(words, doc.chosen, texts.get(doc.chosen), as_toml(raw))


def _school_of(doc: StandardsDocument, raw: dict[str, Any]) -> dict[str, Any] | None:
    """The chosen school's part of a raw file; None for the strict one, which is the file itself."""
    if doc.school is None or doc.school == raw["school"][0]["id"]:
        return None
    return next((s for s in raw["school"] if s["id"] == doc.school), None)


def _added(school: dict[str, Any], key: str) -> dict[str, Any] | None:
    """The check that a school adds and a key is about."""
    parts = key.split(".")
    if parts[0] != "check":
        return None
    return next((c for c in school.get("add", []) if c["name"] == parts[1]), None)


def copied(doc: StandardsDocument, texts: Texts, name: str) -> Asked:
    """A copy of the chosen standard under a new name."""
    if doc.chosen is None:
        return None
    raw = copy.deepcopy(doc.catalogue.raw(doc.chosen))
    id = id_of(name, doc.catalogue)
    raw.update(id=id, name=name.strip())
    return StandardEdit(f"Copy as {name.strip()}", id, texts.get(id), as_toml(raw))


def reverted(doc: StandardsDocument, texts: Texts) -> Asked:
    """The coach's own file away: the shipped standard applies again, or the copy is gone."""
    if doc.chosen is None or not doc.is_own:
        return None
    over = doc.catalogue.overrides(doc.chosen)
    words = "Back to the shipped standard" if over else "Take out"
    return StandardEdit(words, doc.chosen, texts.get(doc.chosen), None)


def text_of(doc: StandardsDocument, texts: Texts) -> str:
    """The chosen standard's file, to be written somewhere. Raises LookupError without one."""
    if doc.chosen is None:
        raise LookupError("no standard is chosen")
    own = texts.get(doc.chosen)
    return own if own is not None else as_toml(doc.catalogue.raw(doc.chosen))
