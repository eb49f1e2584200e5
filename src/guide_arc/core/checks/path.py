"""The departure of a joint from its guide arc, rep by rep: shared by elbow-path and hand-path."""

from __future__ import annotations

from functools import partial

import numpy as np

from guide_arc.core.checks.context import (
    RepValue,
    SetContext,
    cannot_tell,
    hidden,
    settled,
    summarise,
)
from guide_arc.core.kinematics.path import Departure, Part, departure
from guide_arc.core.kinematics.vectors import Array, length, span_of
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.standard import CheckRule

_WAYS = (
    ("in towards the midline", "out to the side"),
    ("too low", "too high"),
    ("behind", "ahead"),
)
_NAME = {"elbow": "elbow", "wrist": "hand"}


def path_findings(ctx: SetContext, rule: CheckRule, part: Part) -> list[Finding]:
    """One finding per working arm. A picture shows only what happens in its plane: there it can
    say `off`, and otherwise that it can't tell."""
    view = ctx.body.cleaned.track.view
    out: list[Finding] = []
    for side in ctx.sides:
        blocked = hidden(ctx, rule, "shoulder_elevation", side, "pct")
        if blocked:
            out.append(blocked)
            continue
        found = departure(ctx.body, ctx.standard, side, part)
        values: list[RepValue] = []
        ways: dict[float, str] = {}
        for rep in ctx.reps_of(side):
            worst = _worst(ctx, found, rep)
            if worst is not None:
                values.append(worst[0])
                ways[worst[0].value] = worst[1]
        finding = summarise(rule, side, values, "pct", partial(_words, part, ways))
        if view != "none" and finding.verdict in ("ok", "near"):
            why = f"from the {view} only a part of a departure shows; only a recording in space shows all of it"
            finding = cannot_tell(rule, side, rule.limit, "pct", why)
        out.append(finding)
    return out


def _words(part: Part, ways: dict[float, str], value: float) -> str:
    return f"{_NAME[part]} {value:.0f} % of the arm {ways.get(value, 'off its arc')}"


def _worst(ctx: SetContext, found: Departure, rep: Rep) -> tuple[RepValue, str] | None:
    """The largest settled departure within a rep, and which way it goes."""
    window = span_of(ctx.body.time_s, rep.start_s, rep.end_s)
    off, time, u = found.off_pct[window], ctx.body.time_s[window], found.u_pct[window]
    seen = np.isfinite(off[:, 1])
    if seen.sum() < 3:
        return None
    steady = np.stack([settled(time[seen], off[seen, axis]) for axis in range(3)], axis=-1)
    size = length(steady)
    i = int(np.argmax(size))
    value = RepValue(rep.number, float(size[i]), float(u[seen][i]), float(time[seen][i]))
    return value, way_of(steady[i])


def way_of(off: Array) -> str:
    """Which way a departure (out, up, ahead) mostly goes, in words."""
    axis = int(np.argmax(np.abs(off)))
    return _WAYS[axis][int(off[axis] > 0)]
