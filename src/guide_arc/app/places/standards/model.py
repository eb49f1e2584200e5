"""The standards: which are shown, which is chosen, and what the coach changes in it.

Every change is kept at once in the coach's own file of that id; undo brings the text before it
back.
"""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from guide_arc.app.contract.history import Step
from guide_arc.app.contract.signal import Signal
from guide_arc.app.services.destinations import ToStandards
from guide_arc.core.mechanics.fibres import FIBRES
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard
from guide_arc.library.own_standards import OwnStandards
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.differences import Difference, differences
from guide_arc.standards.loader import change, shipped, with_usual_words
from guide_arc.standards.schools import Preference, with_preference, without_preference
from guide_arc.standards.writing import as_toml, id_of

Value = float | str | list[float]

REGIONS: tuple[tuple[str, str], ...] = (
    ("chest-upper", "Upper chest"),
    ("chest-lower", "Lower and whole chest"),
    ("front-shoulder", "Front shoulder"),
    ("side-shoulder", "Side shoulder"),
    ("rear-shoulder", "Rear shoulder"),
    ("traps", "Traps"),
    ("back", "Back"),
    ("elbow-flexors", "Elbow flexors"),
    ("triceps", "Triceps"),
    ("trunk", "Trunk"),
)
PULLS: tuple[tuple[str, str], ...] = (
    ("free-weight", "free weight"),
    ("cable", "cable"),
    ("machine", "machine"),
    ("body-weight", "body weight"),
    ("assisted", "assisted"),
    ("band", "band"),
    ("chain", "chains"),
    ("anchored-bar", "anchored bar"),
)


@dataclass(frozen=True)
class _Edit:
    """words : what was done; before, after : the own file's text by id, None without one"""

    words: str
    id: str
    before: str | None
    after: str | None


class StandardsModel:
    """own : where the coach's own standards are kept; did : hears of each step of undo"""

    changed: Signal[()] = Signal()
    chosen_changed: Signal[()] = Signal()
    edited: Signal[str] = Signal()
    refused: Signal[str] = Signal()

    def __init__(self, own: OwnStandards, did: Callable[[Step], None]) -> None:
        self.own, self._did = own, did
        self.words = ""
        self.pull: str | None = None
        self.only_own = False
        self.chosen: str | None = None
        self.school: str | None = None
        ids = self.shown()
        if ids:
            self.chosen = ids[0]

    @property
    def catalogue(self) -> Catalogue:
        return self.own.catalogue()

    # What is shown

    def shown(self) -> list[str]:
        """The ids that match, by region."""
        catalogue = self.catalogue
        order = {region: i for i, (region, _words) in enumerate(REGIONS)}
        found = [id for id in catalogue.ids() if self._matches(catalogue, id)]
        return sorted(found, key=lambda id: order.get(catalogue.standard(id).region, 99))

    def _matches(self, catalogue: Catalogue, id: str) -> bool:
        plan = catalogue.standard(id)
        if self.pull is not None and plan.pull != self.pull:
            return False
        if self.only_own and not catalogue.is_own(id):
            return False
        text = searchable(plan) + (" own mine" if catalogue.is_own(id) else "")
        return all(word in text for word in self.words.lower().split())

    def search(self, words: str) -> None:
        if words != self.words:
            self.words = words
            self._refilter()

    def show_pull(self, pull: str | None) -> None:
        if pull != self.pull:
            self.pull = pull
            self._refilter()

    def show_only_own(self, only: bool) -> None:
        if only != self.only_own:
            self.only_own = only
            self._refilter()

    def _refilter(self) -> None:
        ids = self.shown()
        if self.chosen not in ids and ids:
            self.chosen, self.school = ids[0], None
            self.chosen_changed.emit()
        self.changed.emit()

    def choose(self, id: str) -> None:
        if id != self.chosen and id in self.catalogue:
            self.chosen, self.school = id, None
            self.chosen_changed.emit()

    def show_school(self, school: str) -> None:
        if school != self.school:
            self.school = school
            self.chosen_changed.emit()

    def step(self, by: int) -> None:
        ids = self.shown()
        if not ids:
            return
        at = ids.index(self.chosen) if self.chosen in ids else 0
        self.choose(ids[max(0, min(len(ids) - 1, at + by))])

    @property
    def plan(self) -> Standard | None:
        if self.chosen is None or self.chosen not in self.catalogue:
            return None
        schools = [s.id for s in self.catalogue.standard(self.chosen).schools]
        return self.catalogue.standard(self.chosen, self.school if self.school in schools else None)

    @property
    def is_own(self) -> bool:
        return self.chosen is not None and self.catalogue.is_own(self.chosen)

    @property
    def mark(self) -> str:
        """What stands beside the name of a standard that is the coach's own."""
        if not self.is_own or self.chosen is None:
            return ""
        return "yours, over the shipped one" if self.catalogue.overrides(self.chosen) else "yours"

    def changes(self) -> list[Difference]:
        """What the coach's own file changes in the shipped one."""
        if self.chosen is None or not self.catalogue.overrides(self.chosen):
            return []
        own = self.catalogue.raw(self.chosen)
        return differences(with_usual_words(shipped()[self.chosen]), with_usual_words(own))

    # Changing

    def set_value(self, key: str, value: Value, words: str) -> bool:
        """Set one key of the chosen standard, or of the chosen school where that changes it."""
        return self.set_values({key: value}, words)

    def set_values(self, values: Mapping[str, Value], words: str) -> bool:
        """Several keys in one step; False, and a sentence, where that is no standard."""
        if self.chosen is None:
            return False
        raw = with_usual_words(copy.deepcopy(self.catalogue.raw(self.chosen)))
        place = self._school_of(raw)
        try:
            for key, value in values.items():
                if place is not None and key in place.get("set", {}):
                    place["set"][key] = value
                elif place is not None and (check := _added(place, key)) is not None:
                    check[key.rsplit(".", maxsplit=1)[-1]] = value
                else:
                    change(raw, key, value, f"{self.chosen}.toml")
        except BadInput as error:
            self.refused.emit(str(error))
            return False
        return self._keep(self.chosen, raw, words)

    def _school_of(self, raw: dict[str, Any]) -> dict[str, Any] | None:
        """The chosen school's part of a raw file; None for the strict one, which is the file
        itself."""
        if self.school is None or self.school == raw["school"][0]["id"]:
            return None
        return next((s for s in raw["school"] if s["id"] == self.school), None)

    def _keep(self, id: str, raw: dict[str, Any], words: str) -> bool:
        return self._write(_Edit(words, id, self.own.texts().get(id), as_toml(raw)))

    def _write(self, edit: _Edit) -> bool:
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
        has made of it meanwhile stays, as is said then. Raises BadInput where it can't be
        written."""
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
        if id in self.catalogue:
            self.chosen = id
        elif self.chosen not in self.catalogue:
            ids = self.shown()
            self.chosen, self.school = (ids[0] if ids else None), None
        self.changed.emit()
        self.edited.emit(id)

    def copy_as_own(self, name: str) -> str | None:
        """A copy under a name of its own; its id, or None where the name won't do."""
        if self.chosen is None:
            return None
        raw = copy.deepcopy(self.catalogue.raw(self.chosen))
        id = id_of(name, self.catalogue)
        raw.update(id=id, name=name.strip())
        return id if self._keep(id, raw, f"Copy as {name.strip()}") else None

    def rename(self, name: str) -> bool:
        return self.set_value("name", name.strip(), f"Rename to {name.strip()}")

    def revert(self) -> bool:
        """Take the coach's own file away: the shipped standard stands again, or the copy is
        gone."""
        if self.chosen is None or not self.is_own:
            return False
        words = (
            "Back to the shipped standard" if self.catalogue.overrides(self.chosen) else "Take out"
        )
        return self._write(_Edit(words, self.chosen, self.own.texts().get(self.chosen), None))

    def take_in(self, text: str, id: str) -> bool:
        """Keep a file that was read or made, as the coach's own."""
        return self._write(_Edit("Import", id, self.own.texts().get(id), text))

    def text(self) -> str:
        """The chosen standard's file, to be written somewhere."""
        assert self.chosen is not None
        own = self.own.texts().get(self.chosen)
        return own if own is not None else as_toml(self.catalogue.raw(self.chosen))

    # Preferred schools

    def preferences(self) -> tuple[Preference, ...]:
        """Those that touch the chosen standard."""
        plan = self.plan
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


def _added(school: dict[str, Any], key: str) -> dict[str, Any] | None:
    """The check that a school adds and a key is about."""
    parts = key.split(".")
    if parts[0] != "check":
        return None
    return next((c for c in school.get("add", []) if c["name"] == parts[1]), None)


def searchable(plan: Standard) -> str:
    """All words that a standard can be found by."""
    parts = (
        plan.id,
        plan.name,
        dict(REGIONS).get(plan.region, plan.region),
        plan.muscle,
        plan.pull,
        plan.held,
        plan.base,
        plan.setup,
        FIBRES[plan.line].words,
        *(s.name for s in plan.schools),
        *("lying" for lean in plan.trunk_lean_deg[:1] if lean < -60),
        *("one arm" for a in (plan.arms,) if a == "one"),
        *("bench incline" for b in (plan.bench_deg,) if b is not None),
    )
    return " ".join(parts).replace("-", " ").lower() + " " + plan.id
