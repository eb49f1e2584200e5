"""The document of the place Standards, and what the coach changes in a standard. Without Qt.

Every change is kept at once in the coach's own file of that id; undo brings the text before it
back.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.signal import Signal
from guide_arc.app.places.standards.document import StandardsDocument
from guide_arc.app.places.standards.edits import (
    Asked,
    StandardEdit,
    Value,
    copied,
    reverted,
    values_set,
)
from guide_arc.app.services.destinations import ToStandards
from guide_arc.core.model.errors import BadInput
from guide_arc.library.own_standards import OwnStandards
from guide_arc.standards.schools import Preference, with_preference, without_preference


class StandardsModel:
    """own : where the coach's own standards are kept; did : called with each step of undo
    changed : other standards are to be shown; chosen_changed : another one, or another school
    edited : a standard's file is another; refused : why a change was not made
    """

    changed: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()
    edited: Signal[str] = Signal()
    refused: Signal[str] = Signal()

    def __init__(self, own: OwnStandards, did: Callable[[Step], None]) -> None:
        self.own, self._did = own, did
        self._doc = StandardsDocument(own.catalogue()).stepped(0)

    @property
    def doc(self) -> StandardsDocument:
        """What is shown, of the standards as their files are now."""
        catalogue = self.own.catalogue()
        if catalogue is not self._doc.catalogue:
            self._doc = self._doc.with_catalogue(catalogue)
        return self._doc

    def show(self, doc: StandardsDocument) -> None:
        before, self._doc = self._doc, doc
        if (doc.chosen, doc.school) != (before.chosen, before.school):
            self.chosen_changed.emit()
        if (doc.words, doc.pull, doc.only_own) != (before.words, before.pull, before.only_own):
            self.changed.emit()

    # Changing

    def edit(self, asked: Asked) -> bool:
        """Keep what was changed; False, and maybe a sentence, if it can't be edited."""
        if isinstance(asked, str):
            self.refused.emit(asked)
        return isinstance(asked, StandardEdit) and self._write(asked)

    def set_value(self, key: str, value: Value, words: str) -> bool:
        return self.set_values({key: value}, words)

    def set_values(self, values: Mapping[str, Value], words: str) -> bool:
        """Several keys in one step; False, and a sentence, where that is no standard."""
        return self.edit(values_set(self.doc, self.own.texts(), values, words))

    def copy_as_own(self, name: str) -> str | None:
        """A copy under a new name; its id, or None if the name won't do."""
        asked = copied(self.doc, self.own.texts(), name)
        return asked.id if self.edit(asked) and isinstance(asked, StandardEdit) else None

    def rename(self, name: str) -> bool:
        return self.set_value("name", name.strip(), f"Rename to {name.strip()}")

    def revert(self) -> bool:
        """Take the coach's own file away."""
        return self.edit(reverted(self.doc, self.own.texts()))

    def take_in(self, text: str, id: str) -> bool:
        """Keep a file that was read or made, as the coach's own."""
        return self.edit(StandardEdit("Import", id, self.own.texts().get(id), text))

    def _write(self, edit: StandardEdit) -> bool:
        if edit.before == edit.after:
            return True
        try:
            self._put(edit.id, edit.after)
        except BadInput as error:
            self.refused.emit(str(error))
            return False
        self._did(
            Step(
                edit.words,
                ToStandards(edit.id),
                lambda: self._swap(edit.id, edit.after, edit.before),
                lambda: self._swap(edit.id, edit.before, edit.after),
            )
        )
        self._news(edit.id)
        return True

    def _swap(self, id: str, here: str | None, text: str | None) -> str | None:
        """The own file of an id as it was, or as it was again. What another window or a text editor
        has made of it meanwhile stays, as is said then. Raises BadInput if it can't be written."""
        stands = self.own.texts().get(id) == here
        if stands:
            self._put(id, text)
        self._news(id)
        return (
            None
            if stands
            else f"The standard {id} was changed elsewhere since and is left as it is."
        )

    def _put(self, id: str, text: str | None) -> None:
        if text is None:
            self.own.remove(id)
        else:
            self.own.save(id, text)

    def _news(self, id: str) -> None:
        """A standard's file is another: it is shown if it still exists."""
        if id in self.doc.catalogue:
            self._doc = replace(self.doc, chosen=id)
        self.changed.emit()
        self.edited.emit(id)

    # Preferred schools

    def preferences(self) -> tuple[Preference, ...]:
        """Those that touch the chosen standard."""
        plan = self.doc.plan
        if plan is None:
            return ()
        known = {s.id for s in plan.schools}
        return tuple(
            p for p in self.own.preferences() if p.school in known and p.standard in (None, plan.id)
        )

    def prefer(self, preference: Preference) -> None:
        self.own.change_preferences(lambda known: with_preference(known, preference))
        self.chosen_changed.emit()

    def forget_preference(self, preference: Preference) -> None:
        self.own.change_preferences(lambda known: without_preference(known, preference))
        self.chosen_changed.emit()
