"""The demo's twelve weeks: what the company's performers did before the sets that wait.

They are filmed and reviewed after the sets that wait, in the background, and stay from then on.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import date, timedelta
from typing import Final

from guide_arc.core.model.client import Client, SorePlace
from guide_arc.library.clients import Clients
from guide_arc.library.demo import fill, fill_clips, fill_done
from guide_arc.library.demo_film import STATURE_M, DemoSet
from guide_arc.library.store import Library

_DONE: Final = "demo-history"
_FIRST: Final = date(2031, 1, 6)
_BARS: Final = tuple(20.0 + 2.5 * i for i in range(21))
_DUMBBELLS: Final = tuple(
    float(kg) for kg in (2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30)
)
_STACK: Final = tuple(2.5 * i for i in range(2, 33))

PEOPLE: Final = (
    Client(
        "Ada Quill",
        goals="both arms alike again",
        weak=("rear-shoulder",),
        sore=(SorePlace("right wrist", date(2031, 1, 12), date(2031, 2, 2)),),
        rack_kg={"dumbbell": _DUMBBELLS, "cable": _STACK},
        room="rehearsal hall",
        dominant="right",
    ),
    Client(
        "Benno Hartz",
        goals="strength first",
        rack_kg={"bar": _BARS, "cable": _STACK},
        room="tour truck",
    ),
    Client(
        "Cleo Marsh",
        goals="strength first",
        covers_face=True,
        rack_kg={"bar": (*_BARS, 28.75)},
        room="rehearsal hall",
        words="“pin” and “reach” work; no talk of shoulder blades",
    ),
    Client(
        "Dario Venn",
        goals="wider shoulders",
        weak=("side-shoulder",),
        rack_kg={"dumbbell": _DUMBBELLS, "cable": _STACK},
        room="rehearsal hall",
    ),
    Client(
        "Esme Rook",
        goals="upper chest for the aerial act",
        weak=("chest-upper", "back"),
        rack_kg={"cable": _STACK},
        room="tour truck",
    ),
    Client(
        "Finn Adair",
        goals="steady tempo",
        rack_kg={"cable": _STACK, "dumbbell": _DUMBBELLS},
        room="tour truck",
    ),
)


def history() -> tuple[DemoSet, ...]:
    """Every set of the twelve weeks, oldest first."""
    return tuple(sorted(_stories(), key=lambda f: f.recorded))


def _stories() -> Iterator[DemoSet]:
    curl, press, raise_, row, push, cross = (
        "standing-barbell-curl",
        "overhead-press-dumbbell",
        "lateral-raise-dumbbell",
        "seated-row-narrow-low",
        "rope-pushdown",
        "cable-cross-raise-low",
    )
    # Cleo: 27.5 kg holds; 30 kg came too soon, and the upper arm moves from rep 6.
    for week, (kg, reps, drift, start) in enumerate(
        [
            (22.5, 12, 0, 1),
            (22.5, 12, 0, 1),
            (25, 10, 0, 1),
            (25, 11, 0, 1),
            (25, 12, 0, 1),
            (27.5, 10, 19, 8),
            (27.5, 11, 0, 1),
            (27.5, 12, 0, 1),
            (27.5, 12, 0, 1),
            (30, 9, 25, 6),
            (30, 10, 26, 6),
        ]
    ):
        cue = "Pin your elbows to your ribs." if drift else None
        yield _set(
            "Cleo Marsh",
            curl,
            week,
            at="09:05",
            kg=kg,
            reps=reps,
            faults={"upper-arm-drift": drift} if drift else {},
            start=start,
            cue=cue,
        )
    # Benno: clean for weeks, until the load jumps.
    for week, (kg, reps, shrink) in enumerate(
        [
            (30, 10, 0),
            (30, 12, 0),
            (32.5, 9, 0),
            (32.5, 10, 0),
            (32.5, 12, 0),
            (35, 9, 0),
            (35, 10, 0),
            (35, 12, 0),
            (37.5, 9, 16),
            (37.5, 9, 20),
            (40, 9, 28),
        ]
    ):
        yield _set(
            "Benno Hartz",
            curl,
            week,
            at="18:20",
            kg=kg,
            reps=reps,
            faults={"fatigue-drift": shrink} if shrink else {},
        )
    for week in range(1, 11, 2):
        yield _set(
            "Benno Hartz", row, week, at="18:45", kg=45 + 2.5 * (week // 4), reps=10, faults={}
        )
    # Ada: the right arm lags after the sprain, and closes the gap.
    for week, lag in enumerate([36, 0, 0, 33, 31, 28, 26, 24, 21, 19]):
        if week not in (1, 2):
            cue = "Both dumbbells arrive together." if lag > 25 else None
            yield _set(
                "Ada Quill",
                press,
                week,
                at="16:00",
                kg=8 if week < 7 else 9,
                reps=9,
                faults={"left-right": lag},
                start=1,
                cue=cue,
            )
    for week in range(3, 11, 2):
        yield _set(
            "Ada Quill",
            push,
            week,
            at="16:25",
            kg=12.5 + 2.5 * (week > 6),
            reps=12,
            faults={},
            tempo="2-0-1-1",
        )
    for week in (8, 9, 10):
        for at, standard, kg, reps in (
            ("16:35", "cross-cable-rear-fly", 5, 12),
            ("16:45", "seated-row-narrow-low", 35, 10),
            ("16:55", raise_, 5, 12),
            ("17:05", "kneeling-cable-crunch", 25, 15),
        ):
            yield _set("Ada Quill", standard, week, at=at, kg=kg, reps=reps, faults={})
    # Dario: the shoulder hikes from rep 7; “long neck” changes nothing, other words do.
    for week, (kg, hike, start) in enumerate(
        [
            (7, 0, 1),
            (7, 0, 1),
            (8, 15, 9),
            (8, 16, 8),
            (8, 15, 8),
            (8, 0, 1),
            (8, 0, 1),
            (9, 17, 7),
            (9, 18, 7),
            (9, 0, 1),
        ]
    ):
        cue = {
            2: "Long neck: reach out, not up.",
            3: "Long neck: reach out, not up.",
            4: "Make room between shoulder and ear.",
        }.get(week)
        yield _set(
            "Dario Venn",
            raise_,
            week,
            at="20:40",
            kg=kg,
            reps=12,
            faults={"shoulder-hike": hike} if hike else {},
            start=start,
            cue=cue,
        )
    for week in (2, 5, 8):
        yield _set("Dario Venn", "cross-cable-rear-fly", week, at="21:00", kg=5, reps=12, faults={})
    # Esme: the cables are too near since the company changed halls.
    for week in range(0, 11, 2):
        short = 14.0 if week >= 6 else 0.0
        yield _set(
            "Esme Rook",
            cross,
            week,
            at="11:30",
            kg=5 + 2.5 * (week > 3),
            reps=12,
            faults={"end-point": short} if short else {},
        )
    for week in range(1, 11, 3):
        yield _set("Esme Rook", row, week, at="11:40", kg=30 + 2.5 * (week // 4), reps=9, faults={})
    # Finn: the lowering got fast on tour, and comes back.
    for week, fast in enumerate([0, 0, 1.0, 0.8, 0.8, 0.9, 1.1, 1.4, 0, 0, 0]):
        cue = "Count the weight down, every rep." if 0 < fast < 1 else None
        yield _set(
            "Finn Adair",
            push,
            week,
            at="19:10",
            kg=20,
            reps=12,
            faults={"too-fast-lower": fast} if fast else {},
            start=1,
            cue=cue,
            tempo="2-0-1-1",
        )
    for week in range(2, 11, 4):
        yield _set(
            "Finn Adair",
            "one-arm-dumbbell-row",
            week,
            at="19:20",
            kg=22 + week // 4,
            reps=10,
            faults={},
        )


def _set(
    who: str,
    standard: str,
    week: int,
    at: str,
    kg: float,
    reps: int,
    faults: dict[str, float],
    start: int = 1,
    cue: str | None = None,
    tempo: str | None = None,
) -> DemoSet:
    offset = sorted(STATURE_M).index(who) % 4
    on = _FIRST + timedelta(days=7 * week + offset)
    return DemoSet(
        who,
        standard,
        f"{on.isoformat()}T{at}",
        float(kg),
        reps,
        tempo=tempo,
        faults=faults,
        fault_from=start,
        done=True,
        cue=cue,
    )


def fill_rest(library: Library, progress: Callable[[float], None]) -> int:
    """Film, review and add the sets that are missing; returns how many were added."""
    return (
        fill_done(library, lambda share: progress(0.1 * share))
        + fill_clips(library, lambda share: progress(0.1 + 0.1 * share))
        + fill_weeks(library, lambda share: progress(0.2 + 0.8 * share))
    )


def fill_weeks(library: Library, progress: Callable[[float], None]) -> int:
    """Those of the twelve weeks alone."""
    sets = [(replace(f, rate_hz=20.0), 4062 + i) for i, f in enumerate(history())]
    if library.setting(_DONE, "0") == "0":
        clients = Clients(library)
        for person in PEOPLE:
            clients.keep(replace(person, stature_m=STATURE_M[person.name]))
    return fill(library, _DONE, sets, progress)
