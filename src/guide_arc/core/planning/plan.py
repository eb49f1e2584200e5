"""A client's plan: sessions with their lines, as proposed, as the coach changed them, and as they
were done."""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from types import MappingProxyType
from typing import Final, Literal

from guide_arc.core.model.client import Client
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.prescription import Prescription
from guide_arc.core.model.standard import Standard
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.first_weight import first_weight
from guide_arc.core.planning.history import History
from guide_arc.core.planning.kept_set import KeptSet
from guide_arc.core.planning.loaded import places_loaded
from guide_arc.core.planning.memory import Memory, memory_of
from guide_arc.core.planning.odd_entries import odd_entries
from guide_arc.core.planning.one_arm import of_arm
from guide_arc.core.planning.racks import rack_of, usual_rack
from guide_arc.core.planning.rules import PLAN, RAMP
from guide_arc.core.planning.scheme import PLAIN_SCHEME, Scheme
from guide_arc.core.planning.session import Arms, Session, SessionLine, figures_of_session, rep_s
from guide_arc.core.planning.training_log import LoggedSet

Order = Literal["weak-first", "biggest-first", "raises-before-presses", "as-set"]
ORDERS: Final[dict[Order, str]] = {
    "weak-first": "weak first, then the rest by size",
    "biggest-first": "biggest first",
    "raises-before-presses": "raises before presses",
    "as-set": "as the coach set it",
}
# Regions by how much muscle they move, the biggest first.
_BY_SIZE: Final = (
    "back",
    "chest-lower",
    "chest-upper",
    "front-shoulder",
    "rear-shoulder",
    "side-shoulder",
    "traps",
    "triceps",
    "elbow-flexors",
    "trunk",
)


@dataclass(frozen=True)
class Override:
    """What the coach changed of a proposal; None if it is unchanged. why : in the coach's words"""

    load_kg: float | None = None
    sets: int | None = None
    reps: tuple[int, int] | None = None
    rest_s: int | None = None
    why: str = ""

    @property
    def empty(self) -> bool:
        return self == Override()

    @property
    def lasting(self) -> Override:
        """What of it may become a client's preference: never the weight, which each set decides
        again."""
        return Override(sets=self.sets, reps=self.reps, rest_s=self.rest_s)


@dataclass(frozen=True)
class PlannedLine:
    """One exercise of a planned session, by ids. pair : lines of one label take turns set by set;
    arm : the one that does it alone"""

    standard: str
    school: str
    scheme: str = PLAIN_SCHEME.id
    pair: str = ""
    override: Override = Override()
    arm: Side | None = None


@dataclass(frozen=True)
class PlannedSession:
    """on : the day; lines : in their order; id : stays with a session when it is moved"""

    on: date
    lines: tuple[PlannedLine, ...] = ()
    id: str = field(default="", compare=False)

    @property
    def identity(self) -> str:
        """By what a calendar knows it: the day on which it was first planned."""
        return self.id or self.on.isoformat()

    def moved_to(self, day: date) -> PlannedSession:
        return replace(self, on=day, id=self.identity)


@dataclass(frozen=True)
class Plan:
    """order : by which rule proposals are ordered; sessions : by day"""

    order: Order = "weak-first"
    sessions: tuple[PlannedSession, ...] = ()

    def session_on(self, day: date) -> PlannedSession | None:
        return next((s for s in self.sessions if s.on == day), None)

    def with_session(self, session: PlannedSession) -> Plan:
        """The plan with a session in place of the one of its day, which it is from then on."""
        others = [s for s in self.sessions if s.on != session.on]
        if not session.id:
            before, taken = self.session_on(session.on), {s.identity for s in others}
            day = session.on.isoformat()
            ids = itertools.chain((day,), (f"{day}-{n}" for n in itertools.count(2)))
            free = next(id for id in ids if id not in taken)
            session = replace(session, id=before.identity if before else free)
        return replace(self, sessions=tuple(sorted((*others, session), key=lambda s: s.on)))

    def without(self, day: date) -> Plan:
        return replace(self, sessions=tuple(s for s in self.sessions if s.on != day))


@dataclass(frozen=True)
class DoubtfulSet:
    """A set whose entry looks like a slip, and waits for an answer. meant_kg : what was probably
    meant, where a load is in doubt; logged : if it was logged and not filmed"""

    set_id: int
    question: str
    load_kg: float | None
    meant_kg: float | None
    logged: LoggedSet | None = None


@dataclass(frozen=True)
class DosedLine:
    """A line with its dose: as the engine proposes it, and as it is to be done.

    asked : what is to be done; proposed : what the engine says; cautions : sore places that it
        loads; doubtful : entries that look like slips; memory : of the exercise, if it was done
    """

    line: PlannedLine
    plan: Standard
    proposed: Prescription
    asked: Prescription
    last: KeptSet | None
    cautions: tuple[str, ...] = ()
    doubtful: tuple[DoubtfulSet, ...] = ()
    memory: Memory | None = None

    @property
    def name(self) -> str:
        """`Rope pushdown, right arm only`"""
        return f"{self.plan.name}, {self.line.arm} arm only" if self.line.arm else self.plan.name

    @property
    def changed(self) -> bool:
        """Whether the coach overrode the proposal."""
        return self.asked != self.proposed

    @property
    def arms(self) -> Arms:
        return (
            "both"
            if self.plan.arms == "both"
            else "one-after-other"
            if self.plan.arms == "one"
            else "both"
        )

    def as_line(self) -> SessionLine:
        return SessionLine(
            standard=self.plan,
            sets=self.asked.sets,
            reps=self.asked.reps[1],
            tempo=self.asked.tempo,
            rest_s=self.asked.rest_s,
            arms=self.arms,
            pair=self.line.pair,
            load_kg=self.asked.load_kg,
        )


@dataclass(frozen=True)
class Knowledge:
    """What a plan rests on.

    standards : by id; schemes : by id; sets : the client's, oldest first; today : the day of
        looking
    preferences : by standard, what the coach confirmed to keep for this client
    setups : by standard, how this client's kit is set up, in words
    """

    client: Client
    standards: Mapping[str, Standard]
    schemes: Mapping[str, Scheme]
    sets: Sequence[KeptSet]
    today: date
    tired: tuple[date, ...] = ()
    preferences: Mapping[str, Override] = field(default_factory=dict)
    setups: Mapping[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        object.__setattr__(self, "preferences", MappingProxyType(dict(self.preferences)))

    def sets_of(self, standard: str, before: date | None = None) -> list[KeptSet]:
        return [
            s
            for s in self.sets
            if s.standard == standard and s.on > date.min and (before is None or s.on < before)
        ]


def dosed_in(plan: Plan, line: PlannedLine, known: Knowledge, on: date) -> DosedLine:
    """A line's dose on a day of a plan: what is planned before it is expected to be done, and the
    plan's easier weeks are easier ones."""
    before = [
        s.on
        for s in plan.sessions
        if known.today <= s.on < on and any(o.standard == line.standard for o in s.lines)
    ]
    weeks = weeks_ahead(known, max((on - known.today).days // 7 + 2, 1))
    easier = any(easy and 0 <= (on - monday).days < 7 for monday, easy in weeks)
    return dosed(line, known, on, max(before, default=None), easier=easier)


def dosed(
    line: PlannedLine,
    known: Knowledge,
    on: date,
    expected: date | None = None,
    *,
    easier: bool = False,
) -> DosedLine:
    """A line's dose on a day, from all that was done before it. Pain and sore places can't be
    overridden.

    expected : the last day before it on which this exercise is still to be done
    easier : whether the day is in an easier week of the plan
    """
    plan = known.standards[line.standard]
    scheme = known.schemes.get(line.scheme, PLAIN_SCHEME)
    done = known.sets_of(line.standard, on)
    rack = rack_of(known.client, plan)
    doubtful: tuple[DoubtfulSet, ...] = ()
    memory: Memory | None = None
    history: History | None = None
    sore = tuple(s for s in known.client.sore if not _is_other_arm(s.place, line.arm))
    if done:
        history = History(
            standard=plan,
            rack_kg=rack or usual_rack(plan.dose.load_step_kg, done[-1].load_kg),
            sets=tuple(s.done for s in done),
            on=on,
            assisted=plan.pull == "assisted",
            aim=None,
            sore=sore,
            cleared=known.client.cleared,
            tempo=None,
            scheme=scheme,
            tired=known.tired,
            expected=expected,
            easier=easier,
        )
        history = of_arm(history, line.arm) if line.arm is not None else history
    if history is not None:
        odd, memory = odd_entries(history), memory_of(history)
        proposed = next_dose(history, odd)
        doubtful = tuple(
            DoubtfulSet(
                done[e.index].id,
                e.question,
                done[e.index].load_kg,
                e.meant_kg,
                done[e.index].logged,
            )
            for e in odd
        )
    else:
        spared = replace(known, client=replace(known.client, sore=sore))
        proposed = _first(plan, scheme, spared, rack, on)
    proposed = _preferred(proposed, known.preferences.get(line.standard))
    asked = _overridden(proposed, line.override)
    return DosedLine(
        line=line,
        plan=plan,
        proposed=proposed,
        asked=asked,
        last=done[-1] if done else None,
        cautions=tuple(p for p in sore_for(plan, known, on) if not _is_other_arm(p, line.arm)),
        doubtful=doubtful,
        memory=memory,
    )


def _is_other_arm(place: str, arm: Side | None) -> bool:
    """Whether a place belongs to the arm that rests."""
    return (
        arm is not None
        and place.split(" ", maxsplit=1)[0] in SIDES
        and not place.startswith(f"{arm} ")
    )


def _first(
    plan: Standard, scheme: Scheme, known: Knowledge, rack: tuple[float, ...], on: date
) -> Prescription:
    """The first dose of an exercise that was never done."""
    dose = scheme.dose(plan)
    if any(s.joint in places_loaded(plan) for s in known.client.sore_on(on)):
        sore = next(s for s in known.client.sore_on(on) if s.joint in places_loaded(plan))
        why = (
            f"{sore.place} is sore, and this exercise loads it: nothing is prescribed until a"
            " licensed clinician was asked"
        )
        return Prescription(
            change="stop",
            load_kg=None,
            reps=dose.reps,
            sets=dose.sets[0],
            tempo=scheme.tempo(plan),
            rest_s=dose.rest_s,
            reasons=(why,),
            then="",
        )
    parent = plan.dose.of_parent[0] if plan.dose.of_parent else ""
    load, why = first_weight(plan, known.sets_of(parent) if parent else (), rack)
    return Prescription(
        change="same",
        load_kg=load,
        reps=dose.reps,
        sets=dose.sets[0],
        tempo=scheme.tempo(plan),
        rest_s=dose.rest_s,
        reasons=(why,),
        then="the first set's form",
        in_reserve=scheme.in_reserve,
    )


def _preferred(proposed: Prescription, own: Override | None) -> Prescription:
    """A proposal as the coach confirmed to have it for this client. An easier week, and a stop,
    stay as they are."""
    if own is None or own.lasting.empty or proposed.change in ("deload", "stop"):
        return proposed
    words = preference_words(own)
    return replace(
        _overridden(proposed, own.lasting),
        reasons=(*proposed.reasons, f"as you keep it for this client: {words}"),
    )


def preference_words(own: Override) -> str:
    """`4 sets, 8–10 reps, 120 s of rest`"""
    parts = []
    if own.sets is not None:
        parts.append(f"{own.sets} set{'' if own.sets == 1 else 's'}")
    if own.reps is not None:
        parts.append(f"{own.reps[0]}–{own.reps[1]} reps")
    if own.rest_s is not None:
        parts.append(f"{own.rest_s} s of rest")
    return ", ".join(parts)


def _overridden(proposed: Prescription, own: Override) -> Prescription:
    ask = proposed.ask
    if proposed.ask_first and ask is not None and own.load_kg == ask.load_kg:
        # The way back after pain, which a clinician has cleared and the coach said yes to.
        return replace(proposed, change="deload", load_kg=ask.load_kg, reasons=(ask.why,), ask=None)
    if proposed.ask_first or own.empty:
        return proposed
    return replace(
        proposed,
        load_kg=proposed.load_kg if own.load_kg is None else own.load_kg,
        sets=own.sets or proposed.sets,
        reps=own.reps or proposed.reps,
        rest_s=proposed.rest_s if own.rest_s is None else own.rest_s,
    )


def stepped(line: DosedLine, by: int, known: Knowledge) -> Override | None:
    """The coach's step to the next weight up or down; None if there is none or nothing is
    lifted."""
    asked = line.asked
    if asked.ask_first or asked.load_kg is None:
        return None
    rack = rack_of(known.client, line.plan) or usual_rack(
        line.plan.dose.load_step_kg, asked.load_kg
    )
    weights = [kg for kg in rack if (kg > asked.load_kg if by > 0 else kg < asked.load_kg)]
    if not weights:
        return None
    return replace(line.line.override, load_kg=weights[0] if by > 0 else weights[-1])


def jump_of(line: DosedLine) -> float:
    """The increase of the proposed weight over the last lifted one, as a share; 0 if that is not
    known."""
    if line.last is None or not line.last.load_kg or line.asked.load_kg is None:
        return 0.0
    return line.asked.load_kg / line.last.load_kg - 1.0


# Order


def sore_for(plan: Standard, known: Knowledge, on: date) -> tuple[str, ...]:
    """The client's sore places that an exercise loads on a day."""
    loaded = places_loaded(plan)
    return tuple(s.place for s in known.client.sore_on(on) if s.joint in loaded)


def ordered(lines: Sequence[DosedLine], order: Order, client: Client) -> list[DosedLine]:
    """Lines by a rule; lines of a pair stay together."""
    if order == "as-set":
        return list(lines)
    first = {line.line.pair: i for i, line in reversed(list(enumerate(lines))) if line.line.pair}

    def key(at: tuple[int, DosedLine]) -> tuple[float, ...]:
        i, line = at
        lead = lines[first[line.line.pair]] if line.line.pair else line
        size = _BY_SIZE.index(lead.plan.region) if lead.plan.region in _BY_SIZE else len(_BY_SIZE)
        weak = (
            client.weak.index(lead.plan.region)
            if lead.plan.region in client.weak
            else len(client.weak)
        )
        isolating = 0.0 if lead.plan.drive != "elbow_flexion" else 1.0
        by = {
            "weak-first": (weak, size),
            "biggest-first": (size,),
            "raises-before-presses": (isolating, size),
        }[order]
        pair_at = first.get(line.line.pair, i) if line.line.pair else i
        return (*by, pair_at, i)

    return [line for _i, line in sorted(enumerate(lines), key=key)]


# Proposals


def proposed_session(known: Knowledge, on: date, order: Order = "weak-first") -> PlannedSession:
    """What the next session would hold: the exercises of the last weeks, each region's turn,
    ordered by a rule."""
    since = min(on, known.today) - timedelta(days=PLAN.programme_days)
    recent = [s for s in known.sets if since <= s.on < on and s.standard in known.standards]
    if not recent:
        recent = [s for s in known.sets if s.standard in known.standards][-12:]
    schools = {s.standard: s.school for s in recent}
    lines = [PlannedLine(id, school) for id, school in schools.items()]
    done = ordered([dosed(line, known, on) for line in lines], order, known.client)
    return PlannedSession(on, tuple(d.line for d in done))


def to_drop(lines: Sequence[DosedLine], client: Client, most_s: float) -> tuple[str, ...]:
    """What to leave out so that a session comes within a length: sets from the last lines first,
    weak regions last; in words. Empty if it fits."""
    own = list(lines)
    out: list[str] = []
    while own and length_of(own) > most_s:
        spare = [i for i, d in enumerate(own) if d.plan.region not in client.weak] or list(
            range(len(own))
        )
        i = spare[-1]
        line = own[i]
        if line.asked.sets > 2:
            own[i] = replace(line, asked=replace(line.asked, sets=line.asked.sets - 1))
            out.append(f"one set of {line.plan.name}")
        else:
            del own[i]
            out = [o for o in out if not o.endswith(f" of {line.plan.name}")]
            out.append(line.plan.name)
    return tuple(dict.fromkeys(out))


def session_of(lines: Sequence[DosedLine]) -> Session | None:
    """The session as its figures are computed: what pain stops takes no time."""
    own = tuple(d.as_line() for d in lines if not d.asked.ask_first)
    if not own:
        return None
    alone = {p for p in (line.pair for line in own) if p and sum(o.pair == p for o in own) != 2}
    own = tuple(replace(line, pair="") if line.pair in alone else line for line in own)
    return Session(own, warm_up_s(own[0]), PLAN.change_s)


def warm_up_s(first: SessionLine) -> float:
    """A general start, then the first lift with growing weights."""
    ramp = sum(reps * rep_s(first.tempo) + PLAN.ramp_rest_s for _share, reps in RAMP)
    return PLAN.general_warm_up_s + (ramp if first.load_kg else 0.0)


def warm_up_words(first: DosedLine, rack_kg: Sequence[float]) -> str:
    """`3 min easy, then standing barbell curl: 12.5 kg × 8, 17.5 × 5, 22.5 × 2`; of assisted kit it
    begins with more help than the work has."""
    easy = f"{PLAN.general_warm_up_s / 60:g} min easy movement"
    load = first.asked.load_kg
    if not load:
        return f"{easy}, then {first.plan.name} without weight"
    steps = []
    assisted = first.plan.pull == "assisted"
    for share, reps in RAMP:
        if assisted:
            fits = [kg for kg in reversed(rack_kg) if kg >= (2.0 - share) * load - 1e-9]
        else:
            fits = [kg for kg in rack_kg if kg <= share * load + 1e-9]
        if fits:
            steps.append(f"{fits[-1]:g} kg{' of help' if assisted else ''} × {reps}")
    none = "with the most help there is" if assisted else "without weight"
    return f"{easy}, then {first.plan.name}: {', '.join(steps) or none}"


def length_of(lines: Sequence[DosedLine]) -> float:
    """Seconds from the first minute of warm-up to the last rep."""
    session = session_of(lines)
    return figures_of_session(session).length_s if session else 0.0


# Weeks


def weeks_ahead(known: Knowledge, weeks: int = 12) -> tuple[tuple[date, bool], ...]:
    """The Mondays from this week on, and whether each is an easier one: every so many weeks trained
    without one."""
    monday = known.today - timedelta(days=known.today.weekday())
    sets: dict[date, int] = {}
    for s in known.sets:
        if s.on > date.min:
            first = s.on - timedelta(days=s.on.weekday())
            sets[first] = sets.get(first, 0) + 1

    def whole(week: date) -> bool:
        # Half the sets of the week before it, or less: that week was an easier one.
        return 2 * sets.get(week, 0) > sets.get(week - timedelta(days=7), 0)

    run, week = 0, monday - timedelta(days=7)
    while week in sets and run < PLAN.weeks_to_deload and whole(week):
        run, week = run + 1, week - timedelta(days=7)
    out = []
    for i in range(weeks):
        # A week that has begun as any other goes on so; the next one is due then.
        easier = run >= PLAN.weeks_to_deload and not (i == 0 and monday in sets and whole(monday))
        out.append((monday + timedelta(days=7 * i), easier))
        run = 0 if easier else run + 1
    return tuple(out)


def missed(plan: Plan, known: Knowledge) -> tuple[PlannedSession, ...]:
    """Planned sessions that lie behind without a set done on their day."""
    done = {s.on for s in known.sets}
    return tuple(s for s in plan.sessions if s.on < known.today and s.on not in done and s.lines)


def shifted(plan: Plan, missed_on: date, to: date) -> Plan:
    """A missed session is done on a later day; those from that day on move by as much as they would
    else meet."""
    own = plan.session_on(missed_on)
    if own is None:
        return plan
    days = to - missed_on
    moved = [s.moved_to(s.on + days) if s.on >= missed_on else s for s in plan.sessions]
    return replace(plan, sessions=tuple(sorted(moved, key=lambda s: s.on)))


def merged_into(plan: Plan, missed_on: date, into: date) -> Plan:
    """A missed session's lines join another session, each exercise once."""
    own, other = plan.session_on(missed_on), plan.session_on(into)
    if own is None or other is None:
        return plan
    known = {line.standard for line in other.lines}
    lines = (*other.lines, *(line for line in own.lines if line.standard not in known))
    return plan.without(missed_on).with_session(replace(other, lines=lines))


def moved(plan: Plan, start: date, to: date) -> Plan:
    """A session goes to another day; where one is planned there, the two change places."""
    own, other = plan.session_on(start), plan.session_on(to)
    if own is None or start == to:
        return plan
    out = plan.without(start).without(to).with_session(own.moved_to(to))
    return out.with_session(other.moved_to(start)) if other is not None else out
