"""Elbow and hand against the guide arc, in the body's own frame.

A departure is the shortest way from the guide arc to where the joint really is. It is counted from
the shoulder, in percent of the upper arm, so that bodies of any size compare.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import arm_path, way_back
from guide_arc.core.kinematics.rules import BODY_RULES, PICTURE
from guide_arc.core.kinematics.vectors import Array, dot, length, unit
from guide_arc.core.kinematics.views import hidden_axis
from guide_arc.core.model.landmarks import Side
from guide_arc.core.model.standard import Standard

Part = Literal["elbow", "wrist"]
PARTS: Final[tuple[Part, ...]] = ("elbow", "wrist")
_CHECK_OF: Final = {"elbow": "elbow-path", "wrist": "hand-path"}
_SAMPLES: Final = 61


@dataclass(frozen=True, eq=False)
class Departure:
    """One joint against its guide arc over time.

    share : (T,) how far along the guide arc its nearest point is: 0 at the start, 1 at the turn
    off_pct : (T, 3) from the guide arc to the joint: out to the arm's own side, up, ahead
    size_pct : (T,) the length of that
    across_pct : (T,) the part across the arc's plane, positive to `positive`; where the guide is
        a spot, the part ahead of it
    within_pct : (T,) the part within that plane, positive away from the arc's inside
    u_pct : (T,) standard uncertainty of each of them
    spot : the guide is a spot that the joint keeps, with no way along it
    """

    share: Array
    off_pct: Array
    size_pct: Array
    across_pct: Array
    within_pct: Array
    u_pct: Array
    positive: str
    spot: bool


def corridor_pct(standard: Standard, part: Part) -> float:
    """Half of the corridor about the guide arc: the standard's limit, or else a usual one."""
    rule = standard.check(_CHECK_OF[part])
    return rule.limit if rule else BODY_RULES.usual_corridor_pct


def guide_of(body: Body, standard: Standard, side: Side, part: Part) -> Array:
    """(N, 3) the guide arc of this body, from the shoulder, in upper-arm lengths, both ends
    drawn on a little; the axis that a picture does not show is 0."""
    return _pictured(
        body,
        arm_path(
            standard, _SAMPLES, body.learned.forearm_over_upper_arm[side], BODY_RULES.beyond_share
        )[part],
    )


def guide_back(body: Body, standard: Standard, side: Side, part: Part) -> Array | None:
    """(N, 3) the guide arc of the lowering, if it differs, from the turn on."""
    back = way_back(
        standard, _SAMPLES, body.learned.forearm_over_upper_arm[side], BODY_RULES.beyond_share
    )
    return None if back is None else _pictured(body, back[part])


def _pictured(body: Body, path: Array) -> Array:
    flat = hidden_axis(body.cleaned.track.view)
    if flat is not None:
        path = path.copy()
        path[:, flat] = 0.0
    return path


def departure(body: Body, standard: Standard, side: Side, part: Part) -> Departure:
    """A joint's departure from its guide arc over the whole recording."""
    arm = body.learned.upper_arm_m[side]
    path = guide_of(body, standard, side, part)
    here = body.in_trunk(f"{side}_{part}", side) / arm
    flat = hidden_axis(body.cleaned.track.view)
    if flat is not None:
        here = here.copy()
        here[:, flat] = np.where(np.isnan(here[:, flat]), np.nan, 0.0)
    at, nearest = nearest_on(here, path)
    back = guide_back(body, standard, side, part)
    if back is not None:
        other, there = nearest_on(here, back[::-1])
        closer = length(here - there) < length(here - nearest)
        at = np.where(closer, other, at)
        nearest = np.where(closer[:, None], there, nearest)
    off = 100.0 * (here - nearest)
    deep = np.interp(
        np.nan_to_num(at), np.linspace(0.0, 1.0, len(path)), _unseen(body, standard, side, part)
    )
    spot = np.allclose(path, path[0])
    axis, positive = (np.array([0.0, 0.0, 1.0]), "ahead") if spot else _across(path)
    share = (1.0 + 2.0 * BODY_RULES.beyond_share) * at - BODY_RULES.beyond_share
    across = dot(off, np.broadcast_to(axis, off.shape))
    flat_off = off - across[:, None] * axis
    outward = nearest - 0.5 * (path[0] + path[-1])
    within = length(flat_off) * np.where(dot(flat_off, outward) >= 0.0, 1.0, -1.0)
    return Departure(
        share=share,
        off_pct=off,
        size_pct=length(off),
        across_pct=across,
        within_pct=within,
        u_pct=100.0 * np.hypot(_u(body, side, part) / arm, turned_by(body) * deep),
        positive=positive,
        spot=spot,
    )


def turned_by(body: Body) -> float:
    """The sine of how far the camera is off the axis of its view: what reaches towards it or away
    from it looks displaced by that share of its depth."""
    return float(np.sin(np.radians(body.cleaned.aside.deg)))


def _unseen(body: Body, standard: Standard, side: Side, part: Part) -> Array:
    """(N,) how far the guide arc reaches out of the picture's plane, in upper-arm lengths; 0 in
    space."""
    flat = hidden_axis(body.cleaned.track.view)
    way = arm_path(
        standard, _SAMPLES, body.learned.forearm_over_upper_arm[side], BODY_RULES.beyond_share
    )
    return np.zeros(_SAMPLES) if flat is None else np.abs(way[part][:, flat])


def nearest_on(points: Array, path: Array) -> tuple[Array, Array]:
    """(T,) share of the path's samples and (T, 3) point of the path that is nearest to each; the
    path is sampled finely, so that the nearest piece touches the nearest sample."""
    pieces = len(path) - 1
    share, nearest = np.full(len(points), np.nan), np.full(points.shape, np.nan)
    seen = np.isfinite(points).all(axis=1)
    here = points[seen]
    sample = (dot(path, path) - 2.0 * here @ path.T).argmin(axis=1)
    best = np.full(len(here), np.inf)
    at, spot = np.zeros(len(here)), np.zeros(here.shape)
    for piece in (np.maximum(sample - 1, 0), np.minimum(sample, pieces - 1)):
        start, step = path[piece], path[piece + 1] - path[piece]
        along = np.clip(dot(here - start, step) / np.maximum(dot(step, step), 1e-12), 0.0, 1.0)
        there = start + along[:, None] * step
        far = length(here - there)
        closer = far < best
        best[closer], spot[closer] = far[closer], there[closer]
        at[closer] = (piece[closer] + along[closer]) / pieces
    share[seen], nearest[seen] = at, spot
    return share, nearest


def _across(path: Array) -> tuple[Array, str]:
    """The direction across the arc's plane and its words: outward, or else up, or else ahead."""
    # The shoulder is in the plane of an arc around it: the normal is square to all of the arc.
    normal = np.linalg.svd(np.concatenate((path, [np.zeros(3)])) - path.mean(axis=0))[2][-1]
    main = int(np.argmax(np.abs(normal)))
    normal = normal * np.sign(normal[main])
    axis: Array = unit(normal[None])[0]
    return axis, ("outward", "up", "ahead")[main]


def _u(body: Body, side: Side, part: Part) -> Array:
    """(T,) metres: the joint's and the shoulder's own noise, and what the trunk's frame turns
    by."""
    cleaned = body.cleaned
    joint, shoulder = (cleaned.worst_sigma(f"{side}_{p}") for p in (part, "shoulder"))
    reach = body.learned.upper_arm_m[side] * (
        1.0 if part == "elbow" else 1.0 + body.learned.forearm_over_upper_arm[side]
    )
    breadth = length(body.points["left_shoulder"] - body.points["right_shoulder"])
    turned = np.sqrt(2.0) * shoulder * reach / np.maximum(breadth, 0.1)
    tipped = shoulder * reach / np.maximum(body.trunk_m, 0.1)
    if cleaned.track.view != "none":
        # A picture does not show how the trunk is turned; it is a little out of plane.
        out_deg = np.hypot(PICTURE.out_of_plane_u, cleaned.aside.limb_u_deg)
        turned = np.full_like(shoulder, np.radians(out_deg) * reach)
    out: Array = np.sqrt(joint**2 + shoulder**2 + turned**2 + tipped**2)
    return out
