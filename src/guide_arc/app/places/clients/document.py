"""What the clients' place shows, as one frozen value: who there is, the chosen client's page, and
what is chosen on it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import TYPE_CHECKING, Final

from guide_arc.core.model.client import Cleared, Client
from guide_arc.core.planning.cues import Followed, other_words
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.drawings.course_sheet import CourseColumn, Grain, columns_of

if TYPE_CHECKING:
    from guide_arc.library.client_sheet import ClientSheet
    from guide_arc.library.clients import ClientSummary

_GRAINS: Final[tuple[Grain, ...]] = ("sets", "weeks", "months")


@dataclass(frozen=True, eq=False)
class ClientsDocument:
    """every : all clients; loaded : whether they are read; words : what is searched for
    chosen : a client's name; standard : the exercise of theirs that is shown; sheet : their page
    grain : what a column represents; column : the chosen one; marked : a set to compare with
    cue : the chosen one of the cues that were given
    """

    every: tuple[ClientSummary, ...] = ()
    loaded: bool = False
    words: str = ""
    chosen: str | None = None
    standard: str | None = None
    sheet: ClientSheet | None = None
    grain: Grain = "sets"
    column: int | None = None
    marked: int | None = None
    cue: int | None = None

    # The list

    @property
    def rows(self) -> tuple[ClientSummary, ...]:
        """The clients whose name has every word that is searched for."""
        words = self.words.lower().split()
        return tuple(c for c in self.every if all(w in c.name.lower() for w in words))

    def with_clients(self, found: tuple[ClientSummary, ...]) -> ClientsDocument:
        doc = replace(self, every=found, loaded=True)
        if doc.chosen in [c.name for c in found]:
            return doc
        return replace(doc, chosen=doc.rows[0].name if doc.rows else None, standard=None)

    def searching(self, words: str) -> ClientsDocument:
        """Other words to search for; the first match is chosen if the chosen client does not
        match."""
        doc = replace(self, words=words)
        names = [c.name for c in doc.rows]
        return doc.choosing(names[0]) if names and doc.chosen not in names else doc

    def choosing(self, name: str | None, standard: str | None = None) -> ClientsDocument:
        return replace(self, chosen=name, standard=standard, column=None, cue=None, marked=None)

    def shows(self, name: str, standard: str | None) -> bool:
        """Whether that client's page, or that exercise of theirs, is what is shown."""
        return name == self.chosen and standard in (None, self.standard) and self.sheet is not None

    def stepped_client(self, by: int) -> str | None:
        names = [c.name for c in self.rows]
        if not names:
            return None
        at = names.index(self.chosen) if self.chosen in names else 0
        return names[min(max(at + by, 0), len(names) - 1)]

    def stepped_exercise(self, by: int) -> str | None:
        """The exercise that many farther on, round and round."""
        if self.sheet is None or not self.sheet.exercises:
            return None
        ids = [id for id, _, _ in self.sheet.exercises]
        at = ids.index(self.standard) if self.standard in ids else 0
        return ids[(at + by) % len(ids)]

    # The page

    @property
    def columns(self) -> tuple[CourseColumn, ...]:
        return columns_of(self.sheet.course, self.grain) if self.sheet else ()

    @property
    def chosen_set(self) -> KeptSet | None:
        columns = self.columns
        if self.column is None or not 0 <= self.column < len(columns):
            return None
        return columns[self.column].of

    @property
    def chosen_cue(self) -> Followed | None:
        if self.sheet is None or self.cue is None or self.cue >= len(self.sheet.cues):
            return None
        return self.sheet.cues[self.cue]

    def with_sheet(self, sheet: ClientSheet | None) -> ClientsDocument:
        """Another page, or the same one read again: then what was chosen on it stays chosen."""
        if sheet is None:
            return replace(self, sheet=None)
        standard = sheet.plan.id if sheet.plan else None
        same = (
            self.sheet is not None
            and self.sheet.client.name == sheet.client.name
            and self.standard == standard
        )
        doc = replace(self, sheet=sheet, standard=standard)
        count = len(doc.columns)
        if not same or doc.column is None or doc.column >= count:
            doc = replace(doc, column=count - 1 if count else None)
        if doc.cue is not None and doc.cue >= len(sheet.cues):
            doc = replace(doc, cue=None)
        return doc

    def choosing_column(self, index: int) -> ClientsDocument:
        return replace(self, column=index) if 0 <= index < len(self.columns) else self

    def stepped_column(self, by: int) -> ClientsDocument:
        if self.column is None:
            return self
        return self.choosing_column(min(max(self.column + by, 0), len(self.columns) - 1))

    def next_grain(self) -> ClientsDocument:
        """Sets, weeks, months, and round again; the selection is kept if it still exists."""
        before = self.chosen_set
        doc = replace(self, grain=_GRAINS[(_GRAINS.index(self.grain) + 1) % len(_GRAINS)])
        if before is None or not doc.columns:
            return doc
        near = [abs((c.of.on - before.on).days) for c in doc.columns]
        return replace(doc, column=len(near) - 1 - near[::-1].index(min(near)))

    def choosing_cue(self, index: int) -> ClientsDocument:
        there = self.sheet is not None and 0 <= index < len(self.sheet.cues)
        return replace(self, cue=index) if there else self

    def next_cue(self) -> ClientsDocument:
        if self.sheet is None or not self.sheet.cues:
            return self
        return replace(self, cue=0 if self.cue is None else (self.cue + 1) % len(self.sheet.cues))

    # Words

    def other_words(self) -> tuple[str, ...]:
        """Other ways to say the chosen cue to this client."""
        cue = self.chosen_cue
        if cue is None or self.sheet is None or self.sheet.plan is None:
            return ()
        check = check_of(cue)
        rule = self.sheet.plan.check(check)
        own = [rule.cue, *rule.other_cues] if rule else []
        if rule:
            own += [
                w
                for way in rule.ways
                for w in (way.cue, *way.other_cues)
                if w and way.title == cue.title
            ]
        return tuple(w for w in other_words(own, self.sheet.cues, check) if w != cue.said.words)

    @property
    def own_words(self) -> dict[str, str]:
        """The words that replace a check's cue for this client."""
        return dict(self.sheet.own_words) if self.sheet else {}


def check_of(cue: Followed) -> str:
    """The name of the check that a cue is about."""
    return cue.said.key.split("/")[0]


def tired_toggled(client: Client, day: date) -> Client:
    """The client slept poorly or is sore all over on that day; again takes it back."""
    return replace(client, tired=tuple(sorted({*client.tired} ^ {day})))


def cleared_by_clinician(client: Client, place: str | None, day: date) -> Client:
    """A clinician cleared a place, or everything: it counts as sore no longer."""
    before = day - timedelta(days=1)
    sore = tuple(
        replace(s, until=max(s.since, before))
        if s.until is None and (place is None or s.place == place)
        else s
        for s in client.sore
    )
    return replace(client, sore=sore, cleared=(*client.cleared, Cleared(place, day)))
