"""Every joint that the setup loads, next to the one that works."""

from __future__ import annotations

from typing import Final

import numpy as np

from guide_arc.app.places.setup.document import SetupDocument
from guide_arc.app.places.setup.meaning import MeaningLine
from guide_arc.core.mechanics.joints import JointMoments, joint_moments
from guide_arc.drawings.setup_sheet import StripLine

_SPEAKS_FROM_NM: Final = 2.0


def joint_lines(doc: SetupDocument) -> tuple[StripLine, ...]:
    """The torque of every joint along the lift, if requested."""
    m = _moments(doc)
    if m is None:
        return ()
    return (
        StripLine("shoulder", m.shoulder, "actual"),
        StripLine("elbow", m.elbow, "guide"),
        StripLine("wrist", m.wrist, "near"),
        StripLine("trunk", m.trunk, "muted"),
    )


def joints_say(doc: SetupDocument) -> tuple[MeaningLine, ...]:
    """Where the setup loads the working joint most: what the other joints carry there."""
    m, load = _moments(doc), doc.load
    if m is None or load is None:
        return ()
    against = np.mean([a.against_nm for a in load.loads.values()], axis=0)
    i = int(np.argmax(against))
    parts = (("flexion", m.flexion), ("abduction", m.abduction), ("rotation", m.rotation))
    told = [f"{name} {abs(nm[i]):.0f}" for name, nm in parts if abs(nm[i]) >= _SPEAKS_FROM_NM]
    bends = (("forward", m.trunk_bend), ("sideways", m.trunk_side), ("twist", m.trunk_twist))
    trunk = [f"{name} {nm[i]:.0f}" for name, nm in bends if nm[i] >= _SPEAKS_FROM_NM]
    return (
        MeaningLine(
            "ok",
            f"Hardest there: shoulder {m.shoulder[i]:.0f} N·m{_of(told)}, elbow"
            f" {m.elbow[i]:.0f}, wrist {m.wrist[i]:.0f}.",
            f"The trunk carries {m.trunk[i]:.0f} N·m about the hips{_of(trunk)}.",
        ),
        _shares(m, "At the start", 0, "at the end of the lift", -1),
    )


def _moments(doc: SetupDocument) -> JointMoments | None:
    state = doc.state
    if state is None or not doc.every_joint:
        return None
    return joint_moments(state.load, state.points)


def _shares(m: JointMoments, first: str, a: int, then: str, b: int) -> MeaningLine:
    """How the load goes over from one joint to the other along the lift."""

    def of(i: int) -> str:
        both = m.shoulder[i] + m.elbow[i]
        pct = 100.0 * m.shoulder[i] / both if both > 0.0 else 0.0
        return (
            f"shoulder {m.shoulder[i]:.0f} N·m, elbow {m.elbow[i]:.0f} ({pct:.0f} % of the two is"
            " the shoulder's)"
        )

    return MeaningLine("ok", f"{first}: {of(a)};", f"{then}: {of(b)}.")


def _of(parts: list[str]) -> str:
    return f" ({', '.join(parts)})" if parts else ""
