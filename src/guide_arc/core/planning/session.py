"""A session in figures: how long it takes, what is under tension, what it trains, and what it
should not hold."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from typing import Final, Literal

from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.standard import Standard, Tempo
from guide_arc.core.planning.rules import PLAN

Arms = Literal["both", "one-after-other", "alternating"]
# A phase without a target counts one second.
_UNASKED_S: Final = 1.0
_OVERHEAD_DEG: Final = 140.0
_CLEARLY_DEG: Final = 40.0
_FRONT: Final = ("chest-upper", "chest-lower", "front-shoulder")
_BEHIND: Final = ("rear-shoulder", "traps", "back")


@dataclass(frozen=True)
class SessionLine:
    """One exercise of a session.

    reps : of each arm; pair : lines of one label take turns set by set; circuit : lines of one
    label are gone through in rounds
    """

    standard: Standard
    sets: int
    reps: int
    tempo: Tempo
    rest_s: float
    arms: Arms = "both"
    pair: str = ""
    load_kg: float | None = None
    circuit: str = ""

    @property
    def under_tension_s(self) -> float:
        """Of each arm, over all sets."""
        return self.sets * self.reps * rep_s(self.tempo)

    @property
    def work_s(self) -> float:
        """How long its sets last: one arm after the other takes twice as long."""
        return self.under_tension_s * (1.0 if self.arms == "both" else 2.0)


@dataclass(frozen=True)
class Session:
    """Lines in their order, with the warm-up before them and the time to change from one to the
    next."""

    lines: tuple[SessionLine, ...]
    warm_up_s: float = 0.0
    change_s: float = 90.0


@dataclass(frozen=True)
class SessionFigures:
    """length_s : warm-up, work, rests and changes; rest_s : the rests alone; regions : sets of
    each"""

    length_s: float
    under_tension_s: float
    rest_s: float
    work_s: tuple[float, ...]
    tension_s: tuple[float, ...]
    warnings: tuple[str, ...]
    regions: dict[str, int]


def presses_overhead(line: SessionLine) -> bool:
    """Whether an exercise ends overhead and both lifts the upper arm and straightens the elbow on
    the way."""
    start, turn = line.standard.start, line.standard.turn
    return (
        turn.elevation_deg >= _OVERHEAD_DEG
        and turn.elevation_deg - start.elevation_deg >= _CLEARLY_DEG
        and start.elbow_deg - turn.elbow_deg >= _CLEARLY_DEG
    )


def rep_s(tempo: Tempo) -> float:
    """Seconds that a rep lasts at a tempo."""
    parts = (tempo.lower_s, tempo.bottom_s, tempo.lift_s, tempo.top_s)
    return sum(_UNASKED_S if part is None else part for part in parts)


def figures_of_session(session: Session) -> SessionFigures:
    """Lengths, rests, regions and warnings of a session.

    Raises BadInput for a session without lines, and for a pair that is not two lines.
    """
    if not session.lines:
        raise BadInput("the session has no line")
    blocks = blocks_of(session.lines)
    rest = sum(_rest_of(block) for block in blocks)
    work = tuple(line.work_s for line in session.lines)
    tension = tuple(line.under_tension_s for line in session.lines)
    changes = session.change_s * (len(blocks) - 1)
    regions: dict[str, int] = {}
    for line in session.lines:
        regions[line.standard.region] = regions.get(line.standard.region, 0) + line.sets
    return SessionFigures(
        length_s=session.warm_up_s + sum(work) + rest + changes,
        under_tension_s=sum(tension),
        rest_s=rest,
        work_s=work,
        tension_s=tension,
        warnings=_warnings(session, blocks, regions),
        regions=regions,
    )


def blocks_of(lines: tuple[SessionLine, ...]) -> list[tuple[SessionLine, ...]]:
    """What is done between two changes: a line, the two lines of a pair, or the lines of a circuit,
    in the place of the first of them."""
    pairs: dict[str, list[SessionLine]] = {}
    for line in lines:
        if line.pair:
            pairs.setdefault(line.pair, []).append(line)
    for label, own in pairs.items():
        if len(own) != 2:
            count = "1 line" if len(own) == 1 else f"{len(own)} lines"
            raise BadInput(f"the pair {label!r} has {count}; it must have two")
    rounds: dict[str, list[SessionLine]] = {}
    for line in lines:
        if line.circuit:
            if line.pair:
                raise BadInput(
                    f"{line.standard.name} is in a pair and in a circuit; it can be in one"
                )
            rounds.setdefault(line.circuit, []).append(line)
    out: list[tuple[SessionLine, ...]] = []
    for line in lines:
        if line.circuit:
            if rounds[line.circuit][0] is line:
                out.append(tuple(rounds[line.circuit]))
        elif not line.pair:
            out.append((line,))
        elif pairs[line.pair][0] is line:
            out.append(tuple(pairs[line.pair]))
    return out


def _rest_of(block: tuple[SessionLine, ...]) -> float:
    """The rests within a block. Two that take turns rest after each round but the last, as long as
    the longer of their rests; sets that are left over rest as their own line does, after the last
    full round too. A circuit rests between its rounds, as long as its last line does."""
    if block[0].circuit:
        return block[-1].rest_s * (max(line.sets for line in block) - 1)
    if len(block) == 1:
        return block[0].rest_s * (block[0].sets - 1)
    first, second = block
    rounds = min(first.sets, second.sets)
    longer = first if first.sets > second.sets else second
    return max(first.rest_s, second.rest_s) * (rounds - 1) + longer.rest_s * (longer.sets - rounds)


def _warnings(
    session: Session, blocks: list[tuple[SessionLine, ...]], regions: dict[str, int]
) -> tuple[str, ...]:
    out: list[str] = []
    if not session.warm_up_s:
        out.append(f"no warm-up: start {session.lines[0].standard.name} with light sets")
    for line in session.lines:
        usual = line.standard.dose.rest_s
        if line.rest_s < 0.5 * usual and line.sets > 1 and not line.pair and not line.circuit:
            out.append(f"{line.standard.name}: {line.rest_s:g} s of rest, {usual} s are usual")
    bent = [b for b in blocks if any(line.standard.base == "hinged" for line in b)]
    for a, b in itertools.pairwise(blocks):
        if a in bent and b in bent:
            names = f"{a[0].standard.name} and {b[0].standard.name}"
            out.append(f"{names} follow one another: the lower back carries both")
    ahead, rear = regions.get("front-shoulder", 0), regions.get("rear-shoulder", 0)
    if ahead > PLAN.most_of_opposite * rear:
        out.append(
            f"{ahead} sets for the front of the shoulder, {rear} for the rear: more than twice as"
            " many"
        )
    out += [
        f"{region.replace('-', ' ')}: {sets} sets, more than {PLAN.most_sets_of_region} in a"
        " session"
        for region, sets in regions.items()
        if sets > PLAN.most_sets_of_region
    ]
    for overhead, run in itertools.groupby(session.lines, key=presses_overhead):
        presses = [line.standard.name for line in run]
        if overhead and len(presses) > PLAN.most_presses_running:
            out.append(f"{len(presses)} overhead presses follow one another: {', '.join(presses)}")
    front = sum(regions.get(region, 0) for region in _FRONT)
    behind = sum(regions.get(region, 0) for region in _BEHIND)
    for more, less, words in ((front, behind, "front"), (behind, front, "back")):
        if less and more > PLAN.most_of_opposite * less:
            other = "back" if words == "front" else "front"
            out.append(f"{more} sets for the {words} of the shoulders and {less} for the {other}")
    return tuple(out)
