"""A client's plan in the library, with all that it rests on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any, Final, NamedTuple

from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.balance import Balance, balance_of
from guide_arc.core.planning.plan import (
    DosedLine,
    Knowledge,
    Override,
    Plan,
    PlannedSession,
    dosed_in,
    length_of,
    missed,
    proposed_session,
    to_drop,
    weeks_ahead,
)
from guide_arc.core.planning.timeline import (
    RegionTurn,
    Slot,
    advice,
    around_sore,
    regions_of,
    slots_of,
)
from guide_arc.formats.plan_json import (
    override_document,
    override_from,
    plan_document,
    plan_from,
)
from guide_arc.library.clients import Clients
from guide_arc.library.merging import Merged
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.setups import setups_in_words
from guide_arc.library.store import Library
from guide_arc.library.training_logs import logged_sets, with_logged
from guide_arc.standards.schemes import schemes_with

REGIONS: Final = (
    "front-shoulder",
    "side-shoulder",
    "rear-shoulder",
    "chest-upper",
    "chest-lower",
    "back",
    "traps",
    "elbow-flexors",
    "triceps",
    "trunk",
)
KIND: Final = "plan"
_PREFERENCE: Final = "preference"


@dataclass(frozen=True, eq=False)
class PlanSheet:
    """One session of a client's plan as it is shown.

    kept : whether the session is in the plan, or is only proposed
    days : every session's day with whether it was done, the proposed one among them
    weeks : the Mondays ahead, and whether each is an easier week
    """

    known: Knowledge
    plan: Plan
    session: PlannedSession
    kept: bool
    lines: tuple[DosedLine, ...]
    slots: tuple[Slot, ...]
    length_s: float
    turns: tuple[RegionTurn, ...]
    balance: Balance
    advice: tuple[str, ...]
    dropped: tuple[str, ...]
    days: tuple[tuple[date, bool], ...]
    weeks: tuple[tuple[date, bool], ...]
    missed: tuple[PlannedSession, ...]

    @property
    def done(self) -> bool:
        """Whether the session's day has sets already: what was done takes the place of what was
        planned."""
        return any(s.on == self.session.on for s in self.known.sets)


def knowledge(library: Library, client: str, today: date | None = None) -> Knowledge:
    """What a client's plan rests on."""
    clients, catalogue = Clients(library), OwnStandards(library).catalogue()
    ids = set(catalogue.ids())
    filmed = [s for s in clients.sets(client) if s.standard in ids]
    schools: dict[str, str] = {s.standard: s.school for s in filmed}
    logged = [s for s in logged_sets(clients, client) if s.standard in ids]
    sets = with_logged(filmed, logged, schools)
    standards: dict[str, Standard] = {}
    for id in catalogue.ids():
        plan = catalogue.standard(id)
        wanted = schools.get(id)
        known = [s.id for s in plan.schools]
        standards[id] = catalogue.standard(id, wanted) if wanted in known else plan
    now = today or date.today()
    last = max((s.on for s in sets), default=now)
    # A library with later days than the clock uses its own latest day.
    own = clients.equipped(clients.client(client))
    schemes = schemes_with(library.folder / "schemes.toml")
    return Knowledge(
        client=own,
        standards=standards,
        schemes=schemes,
        sets=sets,
        today=max(now, last),
        tired=own.tired,
        preferences=preferences(library, client),
        setups=setups_in_words(library, client),
    )


def preferences(library: Library, client: str) -> dict[str, Override]:
    """What the coach confirmed to keep for a client, by standard."""
    found = {}
    for _id, _name, document in Clients(library).kept(_PREFERENCE, client):
        own = override_from(document["own"])
        if own is not None:
            found[document["standard"]] = own
    return found


def keep_preference(library: Library, client: str, standard: str, own: Override | None) -> None:
    """Keep a preference for one exercise of a client; None forgets it."""
    clients = Clients(library)
    for id, _name, _document in clients.kept(_PREFERENCE, client, standard):
        clients.forget_thing(id)
    if own is not None and not own.lasting.empty:
        document = {"standard": standard, "own": override_document(own.lasting)}
        clients.keep_thing(_PREFERENCE, document, client=client, about=standard)


def plan_of_client(library: Library, client: str) -> Plan:
    found = Clients(library).kept(KIND, client)
    return (plan_from(found[0][2]) if found else None) or Plan()


def partials_asked(library: Library, client: str, standard: str, recorded: str) -> int:
    """How many partial reps the plan asked for after the last full one, on the day of a set."""
    session = next(
        (s for s in plan_of_client(library, client).sessions if s.on.isoformat() == recorded[:10]),
        None,
    )
    lines = session.lines if session is not None else ()
    scheme = next((line.scheme for line in lines if line.standard == standard), "")
    if not scheme:
        return 0
    known = schemes_with(library.folder / "schemes.toml").get(scheme)
    return known.partials if known is not None else 0


class KeptPlan(NamedTuple):
    """plan : as the library has it now; words : what another window planned otherwise meanwhile"""

    plan: Plan
    words: str


def keep_plan(library: Library, client: str, plan: Plan, since: Plan | None = None) -> KeptPlan:
    """Keep a plan, joined with what another window planned meanwhile.

    since : the plan from which this one was made; None keeps it whole, whatever is there
    """
    kept = KeptPlan(plan, "")

    def joined(stored: Any) -> Any:
        if since is None:
            return plan_document(plan)
        nonlocal kept
        both = merged_plans(since, plan, (plan_from(stored) if stored else None) or Plan())
        kept = KeptPlan(both.value, both.words)
        if stored is None and both.value == Plan():
            return None  # undo of the first plan, which somebody else has erased
        return plan_document(both.value)

    Clients(library).change_kept(KIND, joined, client=client)
    return kept


def merged_plans(base: Plan, mine: Plan, theirs: Plan) -> Merged[Plan]:
    """A plan that two windows changed, session by session; of one that both changed, the one in the
    library stays."""
    out, clashes = theirs, []
    if mine.order != base.order:
        out = replace(out, order=mine.order)
    for day in sorted({s.on for p in (base, mine, theirs) for s in p.sessions}):
        was, here, there = (p.session_on(day) for p in (base, mine, theirs))
        if here in (was, there):
            continue
        if there == was:
            out = out.without(day) if here is None else out.with_session(here)
        else:
            clashes.append(
                f"Another window changed the session of {day:%d %b} too; it stays as it is there."
                " Yours is not kept."
            )
    return Merged(out, tuple(clashes))


def read_plan(library: Library, client: str, on: date | None = None) -> PlanSheet:
    """A client's session of a day; None shows the next one, kept or proposed."""
    return sheet_of(plan_of_client(library, client), knowledge(library, client), on)


def sheet_of(plan: Plan, known: Knowledge, on: date | None = None) -> PlanSheet:
    """The sheet of one session of a plan."""
    proposed_on = _next_day(plan, known)
    ahead = [s.on for s in plan.sessions if s.on >= known.today]
    day = on or (ahead[0] if ahead else proposed_on)
    kept = plan.session_on(day)
    session = kept or proposed_session(known, day, plan.order)
    lines = tuple(
        dosed_in(plan, line, known, day)
        for line in session.lines
        if line.standard in known.standards
    )
    length = length_of(lines)
    turns = regions_of(lines, known, day, REGIONS)
    dropped = to_drop(lines, known.client, 60.0 * known.client.session_min)
    around = around_sore(lines, known, day)
    told = (*advice(lines, turns, known.client, length, dropped), *((around,) if around else ()))
    trained = sorted({s.on for s in known.sets if s.on > date.min})[-8:]
    days = (
        dict.fromkeys(trained, True)
        | {s.on: s.on in trained for s in plan.sessions}
        | {day: day in trained}
    )
    days.setdefault(proposed_on, False)
    return PlanSheet(
        known=known,
        plan=plan,
        session=session,
        kept=kept is not None,
        lines=lines,
        slots=slots_of(lines),
        length_s=length,
        turns=turns,
        balance=balance_of(lines, known, day),
        advice=told,
        dropped=dropped,
        days=tuple(sorted(days.items())),
        weeks=weeks_ahead(known),
        missed=missed(plan, known),
    )


def _next_day(plan: Plan, known: Knowledge) -> date:
    """When the next session would be: as long after the last one as sessions usually are apart."""
    days = sorted({s.on for s in known.sets if s.on > date.min} | {s.on for s in plan.sessions})
    gaps = [(b - a).days for a, b in zip(days[-6:], days[-5:], strict=False)]
    usual = sorted(gaps)[len(gaps) // 2] if gaps else 3
    last = days[-1] if days else known.today
    return max(last + timedelta(days=min(max(usual, 1), 7)), known.today)
