"""What the place Standards shows, as one frozen value: which standards, and which one is chosen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

from guide_arc.core.mechanics.fibres import FIBRES
from guide_arc.core.model.standard import Standard
from guide_arc.standards.catalogue import Catalogue
from guide_arc.standards.differences import Difference, differences
from guide_arc.standards.loader import shipped, with_usual_words

REGIONS: Final[tuple[tuple[str, str], ...]] = (
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
PULLS: Final[tuple[tuple[str, str], ...]] = (
    ("free-weight", "free weight"),
    ("cable", "cable"),
    ("machine", "machine"),
    ("body-weight", "body weight"),
    ("assisted", "assisted"),
    ("band", "band"),
    ("chain", "chains"),
    ("anchored-bar", "anchored bar"),
)


@dataclass(frozen=True, eq=False)
class StandardsDocument:
    """catalogue : what there is; words, pull, only_own : what is searched for
    chosen : a standard's id; school : one of its schools, None for the preferred one
    """

    catalogue: Catalogue
    words: str = ""
    pull: str | None = None
    only_own: bool = False
    chosen: str | None = None
    school: str | None = None

    # What is shown

    @cached_property
    def shown(self) -> list[str]:
        """The ids that match, by region."""
        order = {region: i for i, (region, _words) in enumerate(REGIONS)}
        found = [id for id in self.catalogue.ids() if self._matches(id)]
        return sorted(found, key=lambda id: order.get(self.catalogue.standard(id).region, 99))

    def _matches(self, id: str) -> bool:
        plan = self.catalogue.standard(id)
        if self.pull is not None and plan.pull != self.pull:
            return False
        if self.only_own and not self.catalogue.is_own(id):
            return False
        text = searchable(plan) + (" own mine" if self.catalogue.is_own(id) else "")
        return all(word in text for word in self.words.lower().split())

    @cached_property
    def plan(self) -> Standard | None:
        """The chosen standard as the chosen school has it."""
        if self.chosen is None or self.chosen not in self.catalogue:
            return None
        schools = [s.id for s in self.catalogue.standard(self.chosen).schools]
        return self.catalogue.standard(self.chosen, self.school if self.school in schools else None)

    @property
    def is_own(self) -> bool:
        return self.chosen is not None and self.catalogue.is_own(self.chosen)

    @property
    def mark(self) -> str:
        """What is shown next to the name of a standard that is the coach's own."""
        if not self.is_own or self.chosen is None:
            return ""
        return "yours, over the shipped one" if self.catalogue.overrides(self.chosen) else "yours"

    @property
    def changes(self) -> list[Difference]:
        """What the coach's own file changes in the shipped one."""
        if self.chosen is None or not self.catalogue.overrides(self.chosen):
            return []
        own = self.catalogue.raw(self.chosen)
        return differences(with_usual_words(shipped()[self.chosen]), with_usual_words(own))

    # Another one

    def with_catalogue(self, catalogue: Catalogue) -> StandardsDocument:
        doc = replace(self, catalogue=catalogue)
        return doc if doc.chosen in catalogue else doc._choosing_first()

    def searching(self, words: str) -> StandardsDocument:
        return self if words == self.words else replace(self, words=words)._choosing_shown()

    def of_pull(self, pull: str | None) -> StandardsDocument:
        return self if pull == self.pull else replace(self, pull=pull)._choosing_shown()

    def of_own(self, only: bool) -> StandardsDocument:
        return self if only == self.only_own else replace(self, only_own=only)._choosing_shown()

    def _choosing_shown(self) -> StandardsDocument:
        """One that is shown is chosen, where any is."""
        return self if self.chosen in self.shown or not self.shown else self._choosing_first()

    def _choosing_first(self) -> StandardsDocument:
        return replace(self, chosen=self.shown[0] if self.shown else None, school=None)

    def choosing(self, id: str) -> StandardsDocument:
        if id == self.chosen or id not in self.catalogue:
            return self
        return replace(self, chosen=id, school=None)

    def of_school(self, school: str) -> StandardsDocument:
        return self if school == self.school else replace(self, school=school)

    def stepped(self, by: int) -> StandardsDocument:
        ids = self.shown
        if not ids:
            return self
        at = ids.index(self.chosen) if self.chosen in ids else 0
        return self.choosing(ids[max(0, min(len(ids) - 1, at + by))])


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
