"""The pose of an arm in space from one picture, with the exercise as the prior.

The standard's path of elbow and hand is projected into the picture. How far along it the arm is may
be anything; how the person's own style, build and camera depart from it is unknown within usual
bounds (nuisance parameters with Gaussian priors). Generalised least squares over all of them gives,
for each moment, the place along the path and every angle with the uncertainty that the picture
leaves (Aitken 1935; nuisance parameters by their marginal covariance, Rasmussen and Williams 2006,
section 2.7). A view that hides an angle gives it a wide one: that is the whole rule of what a view
shows.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final, Literal

import numpy as np

from guide_arc.core.kinematics.anatomy import Anatomy
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.guide import (
    arm_directions,
    poses_along,
    poses_back,
    returns_elsewhere,
    trunk_along,
)
from guide_arc.core.kinematics.rules import ASIDE, CLEAN, FIT
from guide_arc.core.kinematics.trunk import trunk
from guide_arc.core.kinematics.vectors import Array, Flags, cross, dot, length, median, seen_median
from guide_arc.core.kinematics.views import PICTURE_RIGHT, near_side
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.standard import Standard
from guide_arc.core.model.track import View

# The path is tried at so many places, from a little before its start to a little past its end.
_PLACES: Final = 71
_BEYOND: Final = 0.2
Style = Literal["elevation", "plane", "elbow", "forearm"]
# The unknowns next to the place along the path, in the order of `_prior`.
_UNKNOWNS: Final = (
    "elevation",
    "plane",
    "elbow",
    "forearm",
    "lean",
    "twist",
    "yaw",
    "pitch",
    "upper_arm",
    "forearm_m",
    "scale",
    "nearness",
)
_STYLE: Final = slice(0, 4)
_STEP: Final = 1e-4
# The variance of a place along the path of which nothing is known: ten paths long.
_ANYWHERE: Final = 1e2
MEASURES: Final = ("shoulder_elevation", "shoulder_plane", "elbow_flexion")


@dataclass(frozen=True)
class PictureOf:
    """What the projection needs to know of a body in a picture.

    shoulder_m : (2,) the arm's shoulder from the picture's middle, right and up; distance_m : of
        the camera
    upper_arm_m, forearm_m, half_shoulders_m : usual lengths
    noise_m : of upper arm and forearm, what changes from moment to moment; stays_m : what is off
        all along
    upright : whether the trunk is turned upright, as far as it is seen
    """

    view: View
    yaw_deg: float
    yaw_u_deg: float
    pitch_deg: float
    pitch_u_deg: float
    shoulder_m: tuple[float, float]
    distance_m: float
    upper_arm_m: float
    forearm_m: float
    half_shoulders_m: float
    noise_m: tuple[float, float]
    stays_m: tuple[float, float]
    upright: bool = True


@dataclass(frozen=True, eq=False)
class FittedArm:
    """One arm over time.

    share : (T,) how far along the path; share_u : its standard uncertainty
    value, u : by measure (T,) degrees, with the standard uncertainty
    change_u : by measure (T,) the uncertainty of what it changed by since the start of the path,
        where all that stays as it is drops out
    misfit : (T,) squared distance of the picture from what the standard allows, over its degrees of
        freedom; about 1 where the movement is the exercise
    upper : (T, 2, 2) covariance of elevation and plane, square degrees; toward : (T, 3) the way to
        the camera in the trunk's axes (out, up, ahead)
    worst_u : by measure, how unsure it is where the path shows worst, but for its ends
    """

    share: Array
    share_u: Array
    value: dict[str, Array]
    u: dict[str, Array]
    change_u: dict[str, Array]
    misfit: Array
    upper: Array
    toward: Array
    worst_u: dict[str, float]


def fitted_arm(
    body: Body, standard: Standard, side: Side, free: tuple[Style, ...] = ()
) -> FittedArm | None:
    """The arm's pose over a recording, found once; None in space, where the arm or the trunk was
    never seen, and for the arm behind the body in a side view.

    free : what of the pose may be anything; a check of it must not lean on what is usual
    """
    key = ("arm", standard, side, free)
    if key not in body.kept:
        body.kept[key] = _fitted(body, standard, side, free)
    kept = body.kept[key]
    assert kept is None or isinstance(kept, FittedArm)
    return kept


def _fitted(
    body: Body, standard: Standard, side: Side, free: tuple[Style, ...]
) -> FittedArm | None:
    view = body.cleaned.track.view
    if near_side(view) not in (None, side):
        return None
    needed = [f"{side}_{part}" for part in ("shoulder", "elbow", "wrist")]
    if view == "none" or standard.across is not None or not body.learned.seen.issuperset(needed):
        return None
    picture = _picture(body, side)
    picture = replace(
        picture, upright=_trunk_looks(standard, side, picture) >= FIT.trunk_tells_share
    )
    seen = _seen(body, side, upright=picture.upright)
    seen *= _scale(body, standard, side, picture)
    rate_hz = body.cleaned.track.frame_rate_hz
    prior = _prior(picture, free, np.radians(_leans_more(body, standard)))
    known = prior
    every = max(1, round(rate_hz / FIT.learns_at_hz))
    some = seen[::every]
    for _ in range(FIT.rounds):
        ways = _ways(standard, side, picture, known)
        fits = [way.fit(some, rate_hz / every) for way in ways]
        known = _learned(ways, fits, some, known, prior)
    ways = _ways(standard, side, picture, known)
    found = _better([_at_every_frame(way, seen, rate_hz) for way in ways])
    alone = np.isfinite(seen[:, 0]) & np.isnan(seen[:, 2])
    if alone.sum() <= 1:
        return found
    # Where the hand is lost the upper arm still says how high it is.
    upper = np.where(
        alone[:, None], np.column_stack((seen[:, :2], np.zeros((len(seen), 2)))), np.nan
    )
    no_hand = replace(picture, noise_m=(picture.noise_m[0], FIT.lost_m))
    ways = _ways(standard, side, no_hand, known)
    parts = [_at_every_frame(way, upper, rate_hz) for way in ways]
    whole = _chosen(np.isfinite(found.share), found, _better(parts))
    return replace(whole, worst_u=found.worst_u)


def _at_every_frame(way: _Template, seen: Array, rate_hz: float) -> FittedArm:
    """The fit of a recording; of a fast one at every second frame or so, drawn through between, as
    a limb moves slower."""
    every = max(1, int(rate_hz // FIT.enough_hz))
    found = way.fit(seen[::every], rate_hz / every)
    if every == 1:
        return found
    whole, at = np.arange(len(seen)), np.arange(0, len(seen), every)
    known = np.isfinite(seen).all(axis=1)

    def drawn(part: Array) -> Array:
        flat = part.reshape(len(part), -1)
        seen_at = np.isfinite(flat).all(axis=1)
        out = np.full((len(seen), flat.shape[1]), np.nan)
        if seen_at.any():
            for i, column in enumerate(flat.T):
                out[known, i] = np.interp(whole[known], at[seen_at], column[seen_at])
        return out.reshape(len(seen), *part.shape[1:])

    def by_measure(part: dict[str, Array]) -> dict[str, Array]:
        return {m: drawn(one) for m, one in part.items()}

    return FittedArm(
        share=drawn(found.share),
        share_u=drawn(found.share_u),
        value=by_measure(found.value),
        u=by_measure(found.u),
        change_u=by_measure(found.change_u),
        misfit=drawn(found.misfit),
        upper=drawn(found.upper),
        toward=drawn(found.toward),
        worst_u=found.worst_u,
    )


@dataclass(frozen=True, eq=False)
class KnownOfArm:
    """What is known of the unknowns. mean : (U,); stays : (U, U) covariance of what is so all
    along; passing : (U,) variances of what is so at one moment only"""

    mean: Array
    stays: Array
    passing: Array

    @property
    def spread(self) -> Array:
        """(U, U) their covariance at one moment."""
        return self.stays + np.diag(self.passing)


def _ways(standard: Standard, side: Side, picture: PictureOf, known: KnownOfArm) -> list[_Template]:
    """The path of the lift and, if it differs, of the lowering."""
    backs = (False, True) if returns_elsewhere(standard) else (False,)
    return [_template(standard, side, picture, known, back=back) for back in backs]


def _better(fits: list[FittedArm]) -> FittedArm:
    """Of each moment the way that it fits better."""
    if len(fits) == 1:
        return fits[0]
    up, down = fits
    return _chosen(~(down.misfit < up.misfit), up, down)


def _chosen(first_is: Flags, first: FittedArm, second: FittedArm) -> FittedArm:
    """Of each moment the one or the other."""

    def pick(a: Array, b: Array) -> Array:
        out: Array = np.where(first_is.reshape(-1, *[1] * (a.ndim - 1)), a, b)
        return out

    def by_measure(a: dict[str, Array], b: dict[str, Array]) -> dict[str, Array]:
        return {m: pick(a[m], b[m]) for m in MEASURES}

    return FittedArm(
        share=pick(first.share, second.share),
        share_u=pick(first.share_u, second.share_u),
        value=by_measure(first.value, second.value),
        u=by_measure(first.u, second.u),
        change_u=by_measure(first.change_u, second.change_u),
        misfit=pick(first.misfit, second.misfit),
        upper=pick(first.upper, second.upper),
        toward=pick(first.toward, second.toward),
        worst_u={m: max(first.worst_u[m], second.worst_u[m]) for m in MEASURES},
    )


def _learned(
    ways: list[_Template], fits: list[FittedArm], seen: Array, before: KnownOfArm, prior: KnownOfArm
) -> KnownOfArm:
    """Build, camera and style estimated from a whole recording; they are constant in it: each part
    of the path is one witness, however many moments it was seen in."""
    told, toward = np.zeros_like(before.stays), np.zeros_like(before.mean)
    best = np.argmin(np.nan_to_num([fit.misfit for fit in fits], nan=np.inf), axis=0)
    for i, (way, fit) in enumerate(zip(ways, fits, strict=True)):
        good = np.isfinite(fit.share) & (fit.misfit < FIT.fits_below) & (best == i)
        more, to = way.witness(fit.share[good], seen[good], before.passing)
        told, toward = told + more, toward + to
    first = np.linalg.inv(prior.stays)
    stays = np.asarray(np.linalg.inv(first + told), dtype=float)
    mean = stays @ (toward + told @ before.mean + first @ prior.mean)
    return KnownOfArm(mean, stays, before.passing)


def _seen(body: Body, side: Side, *, upright: bool) -> Array:
    """(T, 4) upper arm and forearm in the picture, right and up, metres. upright : with the trunk's
    axis turned upright"""
    axis, sign = PICTURE_RIGHT[body.cleaned.track.view]
    pair = [(axis, sign), (1, 1.0)]

    def flat(v: Array) -> Array:
        return np.stack([s * v[:, a] for a, s in pair], axis=-1)

    shoulder, elbow, wrist = (
        flat(body.points[f"{side}_{p}"]) for p in ("shoulder", "elbow", "wrist")
    )
    limbs = [elbow - shoulder, wrist - elbow]
    if upright:
        axis_ = flat(trunk(body.points))
        limbs = [_upright(limb, axis_) for limb in limbs]
    out: Array = np.concatenate(limbs, axis=-1)
    return out


def _upright(limb: Array, axis: Array) -> Array:
    """(..., 2) a limb in a picture that is turned until the trunk stands upright in it."""
    long = np.maximum(np.hypot(axis[..., 0], axis[..., 1]), 1e-6)
    right, up = axis[..., 0] / long, axis[..., 1] / long
    out: Array = np.stack(
        (limb[..., 0] * up - limb[..., 1] * right, limb[..., 0] * right + limb[..., 1] * up),
        axis=-1,
    )
    return out


def _picture(body: Body, side: Side) -> PictureOf:
    cleaned = body.cleaned
    view = cleaned.track.view
    axis, sign = PICTURE_RIGHT[view]
    stature = cleaned.track.facts.subject_height_m or CLEAN.usual_stature_m
    usual = Anatomy(stature)
    shoulder = body.points[f"{side}_shoulder"]
    size, scale = cleaned.track.image_size, cleaned.metres_per_px
    middle = 0.0 if size is None or scale is None else 0.5 * scale * size[0]
    shoulder_u, elbow_u, wrist_u = (
        seen_median(cleaned.sigma(f"{side}_{p}")) for p in ("shoulder", "elbow", "wrist")
    )
    stays = np.sqrt(2.0) * FIT.joint_gain * body.learned.joint_u_m
    aside, said = cleaned.aside, cleaned.track.camera
    return PictureOf(
        view=view,
        yaw_deg=aside.yaw_deg,
        # A camera with a straight view is straight within a few degrees; between two sides its yaw
        # is free.
        yaw_u_deg=aside.u_deg if said.between else min(aside.u_deg or FIT.yaw_u_deg, FIT.yaw_u_deg),
        pitch_deg=said.pitch_deg or 0.0,
        pitch_u_deg=FIT.pitch_deg if said.pitch_deg is None else ASIDE.told_pitch_u_deg,
        shoulder_m=(
            sign * seen_median(shoulder[:, axis]) - middle,
            seen_median(shoulder[:, 1]) - body.learned.centre_m,
        ),
        distance_m=body.learned.distance_m,
        upper_arm_m=usual.upper_arm_m,
        forearm_m=usual.forearm_m,
        half_shoulders_m=usual.half_shoulders_m,
        noise_m=(float(np.hypot(shoulder_u, elbow_u)), float(np.hypot(elbow_u, wrist_u))),
        stays_m=(float(stays), float(stays)),
    )


def _leans_more(body: Body, standard: Standard) -> float:
    """Degrees by which the trunk leans more than the standard's, as a side view shows it; 0 where
    none does."""
    lean = body.measure("trunk_lean").value
    lean = lean[np.isfinite(lean)]
    if not len(lean):
        return 0.0
    more = median(lean) - float(np.mean([pose.lean_deg for pose in standard.trunk]))
    return float(np.clip(more, -FIT.leans_more_deg, FIT.leans_more_deg))


def _trunk_looks(standard: Standard, side: Side, picture: PictureOf) -> float:
    """The share of the trunk's length that the picture shows where it shows most."""
    none = np.zeros((1, 1))
    up = _frame(standard, side, np.linspace(0.0, 1.0, 11), none, none)[0, :, 1]
    axes, _near = _camera(picture, none[0], none[0])
    looks = up @ axes[0]
    return float(np.percentile(np.hypot(looks[:, 0], looks[:, 1]), 90))


def _scale(body: Body, standard: Standard, side: Side, picture: PictureOf) -> float:
    """Metres of the body for one of the picture's, which were found by the trunk as if it lay in
    the picture's plane."""
    looks = _trunk_looks(standard, side, picture)
    if looks >= FIT.trunk_tells_share or picture.view in SIDES:
        return looks
    # A trunk that points at the camera gives no scale; the breadth of the shoulders does.
    apart = np.abs(body.points["left_shoulder"] - body.points["right_shoulder"])[:, 0]
    breadth = 2.0 * picture.half_shoulders_m
    return breadth / max(seen_median(apart), 0.2 * breadth)


def _prior(picture: PictureOf, free: tuple[Style, ...], leans_more: float) -> KnownOfArm:
    """What is known before the picture was seen, in radians and shares."""
    sides = [FIT.elevation_deg, FIT.plane_deg, FIT.elbow_deg, FIT.forearm_deg]
    rest = [FIT.lean_deg, FIT.twist_deg, picture.yaw_u_deg, picture.pitch_u_deg]
    degrees = np.deg2rad(np.array(sides + rest))
    for name in free:
        anything = FIT.any_bend_deg if name == "elbow" else FIT.anything_deg
        degrees[_UNKNOWNS.index(name)] = np.radians(anything)
    shares = [FIT.limb_share, FIT.limb_share, FIT.scale_share, FIT.nearness_share]
    variance: Array = np.concatenate((degrees, np.array(shares))) ** 2
    passing = np.zeros(len(variance))
    passing[_STYLE] = (1.0 - FIT.style_stays_share) * variance[_STYLE]
    mean = np.zeros(len(variance))
    mean[_UNKNOWNS.index("lean")] = leans_more
    return KnownOfArm(mean, np.diag(variance - passing), passing)


def projected(
    standard: Standard, side: Side, picture: PictureOf, share: Array, off: Array, *, back: bool
) -> Array:
    """(N, K, 4) upper arm and forearm as the picture shows them, metres.

    share : (K,) along the path; off : (N, U) the unknowns, each time
    """
    poses = np.repeat(
        (poses_back if back else poses_along)(standard, share)[None], len(off), axis=0
    )
    poses[..., :3] += np.degrees(off[:, None, :3])
    upper, fore = arm_directions(poses)
    turn = off[:, 3, None, None]
    fore = (
        np.cos(turn) * fore
        + np.sin(turn) * cross(upper, fore)
        + (1.0 - np.cos(turn)) * dot(upper, fore)[..., None] * upper
    )
    frame = _frame(standard, side, share, off[:, 4, None], off[:, 5, None])
    lengths = (picture.upper_arm_m * (1.0 + off[:, 8]), picture.forearm_m * (1.0 + off[:, 9]))
    limbs = [
        long[:, None, None] * np.einsum("nkij,nki->nkj", frame, limb)
        for long, limb in zip(lengths, (upper, fore), strict=True)
    ]
    axes, near = _camera(picture, off[:, 6], off[:, 7])
    seen = [limb @ axes for limb in limbs]
    deep = [(limb @ near[..., None])[..., 0] for limb in limbs]
    # What is nearer looks larger, about the picture's middle.
    per_m = (1.0 + off[:, 11, None]) / picture.distance_m
    shoulder = np.array(picture.shoulder_m)
    first = seen[0] + (per_m * deep[0])[..., None] * (seen[0] + shoulder)
    second = seen[1] * (1.0 + per_m * (deep[0] + deep[1]))[..., None] + (per_m * deep[1])[
        ..., None
    ] * (shoulder + seen[0])
    if picture.upright:
        axis = frame[..., 1, :] @ axes
        first, second = _upright(first, axis), _upright(second, axis)
    out: Array = (1.0 + off[:, 10, None, None]) * np.concatenate((first, second), axis=-1)
    return out


def _frame(standard: Standard, side: Side, share: Array, lean: Array, twist: Array) -> Array:
    """(N, K, 3, 3) the trunk's axes in the room: out to the arm's side, up along the trunk, ahead.

    lean, twist : (N, 1) radians beyond the standard's
    """
    posture = np.radians(trunk_along(standard, np.clip(share, 0.0, 1.0)))
    own = 1.0 if side == "left" else -1.0
    turned = -1.0 if standard.arms == "one" and side == "right" else 1.0
    leans, turns = posture[:, 0] + lean, turned * posture[:, 2] + twist
    aside = np.broadcast_to(turned * posture[:, 1], leans.shape)
    up = np.stack((np.tan(aside) * np.cos(leans), np.cos(leans), np.sin(leans)), axis=-1)
    up /= length(up)[..., None]
    level = np.array([1.0, 0.0, 0.0])
    left0 = level - up[..., :1] * up
    left0 /= length(left0)[..., None]
    ahead0 = cross(left0, up)
    left = np.cos(turns)[..., None] * left0 - np.sin(turns)[..., None] * ahead0
    return np.stack((own * left, up, cross(left, up)), axis=-2)


def _camera(picture: PictureOf, yaw: Array, pitch: Array) -> tuple[Array, Array]:
    """(N, 3, 2) the picture's right and up in the room, and (N, 3) the way to the camera.

    yaw : (N,) correction of the camera's yaw in radians, positive from the front to the left; pitch
        : that it looks down more"""
    turn = np.radians(picture.yaw_deg) + yaw
    down = (np.radians(picture.pitch_deg) + pitch)[:, None]
    axis, sign = PICTURE_RIGHT[picture.view]
    x, z = (-sign, 0.0) if axis == 2 else (0.0, sign)
    zero = np.zeros_like(turn)
    near = np.stack(
        (np.cos(turn) * x + np.sin(turn) * z, zero, np.cos(turn) * z - np.sin(turn) * x), axis=-1
    )
    right = np.stack((near[:, 2], zero, -near[:, 0]), axis=-1)
    up = np.array([0.0, 1.0, 0.0])
    above = np.cos(down) * up - np.sin(down) * near
    return np.stack((right, above), axis=-1), np.cos(down) * near + np.sin(down) * up


@dataclass(frozen=True, eq=False)
class _Template:
    """The path in the picture at each of its places (K).

    mean : (U,) the unknowns for which it is drawn; looks : (K, 4)
    jacobian : (K, 4, U) what the unknowns change of the looks; along : (K, 4) what a step along the
        path changes
    noise : (4,) variances; inverse : (K, 4, 4) of all that is unknown; width : (K,) its log
        determinant known : (K, 3) elevation, plane and elbow at each place, degrees; gain : (K, 3,
        4) what a difference in the picture changes of it
    share_u : (K,); u, change_u : (K, 3); upper : (K, 2, 2); toward : (K, 3), see `FittedArm`"""

    share: Array
    mean: Array
    told: Array
    looks: Array
    jacobian: Array
    along: Array
    noise: Array
    inverse: Array
    width: Array
    gain: Array
    share_u: Array
    u: Array
    change_u: Array
    upper: Array
    toward: Array

    def witness(self, share: Array, seen: Array, passing: Array) -> tuple[Array, Array]:
        """(U, U) and (U,) the information of a recording about the unknowns: the normal equations,
        each part of the path counted once.

        passing : (U,) variance of what an unknown is off at one moment only
        """
        spread = np.einsum("kiu,u,kju->kij", self.jacobian, passing, self.jacobian)
        spread += np.diag(self.noise)
        # How far along the path the arm is may be anything.
        spread += _ANYWHERE * np.einsum("ki,kj->kij", self.along, self.along)
        inverse = np.linalg.inv(spread)
        weighted = np.einsum("kiu,kij->kuj", self.jacobian, inverse)
        told, toward = np.zeros((len(passing), len(passing))), np.zeros(len(passing))
        part = np.floor((share + _BEYOND) * FIT.parts / (1.0 + 2.0 * _BEYOND)).astype(int)
        at = np.clip(np.searchsorted(self.share, share), 0, len(self.share) - 1)
        looks = np.stack([np.interp(share, self.share, column) for column in self.looks.T], axis=-1)
        for one in np.unique(part):
            own = part == one
            if own.sum() >= FIT.fewest:
                off = np.median(seen[own] - looks[own], axis=0)
                middle = int(np.median(at[own]))
                told += weighted[middle] @ self.jacobian[middle]
                toward += weighted[middle] @ off
        return told, toward

    def fit(self, seen: Array, rate_hz: float) -> FittedArm:
        """seen : (T, 4), NaN if a joint was lost; rate_hz : of the frames"""
        known = np.isfinite(seen).all(axis=1)
        here = seen[known]
        far = self._far(here)
        cost = far + self.width
        if self.ambiguous and len(here):
            cost = _about(cost, likeliest_way(cost, rate_hz))
        best = cost.argmin(axis=1)
        inner = np.clip(best, 1, len(self.share) - 2)
        rows = np.arange(len(here))
        a, b, c = (cost[rows, inner + d] for d in (-1, 0, 1))
        with np.errstate(invalid="ignore"):
            bent = a - 2.0 * b + c
            shift = np.where(bent > 1e-9, 0.5 * (a - c) / np.where(bent > 1e-9, bent, 1.0), 0.0)
        at = inner + np.clip(np.nan_to_num(shift), -1.0, 1.0)
        place = np.arange(len(self.share), dtype=float)
        near = np.clip(np.round(at).astype(int), 0, len(self.share) - 1)
        looks = np.stack([np.interp(at, place, column) for column in self.looks.T], axis=-1)
        departs = np.einsum("tij,tj->ti", self.gain[near], here - looks)
        value = np.stack([np.interp(at, place, column) for column in self.told.T], axis=-1)
        value += departs
        misfit = far[rows, best] / FIT.freedom
        more = np.sqrt(np.maximum(misfit, 1.0))
        misfit_more = np.maximum(misfit, 1.0)[:, None, None]

        def whole(part: Array) -> Array:
            out = np.full((len(seen), *part.shape[1:]), np.nan)
            out[known] = part
            return out

        return FittedArm(
            share=whole(np.interp(at, place, self.share)),
            share_u=whole(self.share_u[near] * more),
            value={m: whole(value[:, i]) for i, m in enumerate(MEASURES)},
            u={m: whole(self.u[near, i] * more) for i, m in enumerate(MEASURES)},
            change_u={m: whole(self.change_u[near, i] * more) for i, m in enumerate(MEASURES)},
            misfit=whole(misfit),
            upper=whole(self.upper[near] * misfit_more),
            toward=whole(self.toward[near]),
            worst_u={m: float(self.u[self.inside, i].max()) for i, m in enumerate(MEASURES)},
        )

    @property
    def inside(self) -> Flags:
        """(K,) the places between the path's ends."""
        at, end = self.share, FIT.end_share
        return (at >= end) & (at <= 1.0 - end)

    def _far(self, here: Array) -> Array:
        """(T, K) squared distances of the observed points from those of each place, in standard
        deviations."""
        pairs = (here[:, :, None] * here[:, None]).reshape(len(here), -1)
        squares = self.inverse.reshape(len(self.share), -1)
        mixed = np.einsum("kij,kj->ki", self.inverse, self.looks)
        own = (mixed * self.looks).sum(axis=1)
        out: Array = np.maximum(pairs @ squares.T - 2.0 * here @ mixed.T + own, 0.0)
        return out

    @cached_property
    def ambiguous(self) -> bool:
        """Whether two places that lie apart look alike, so that only where the arm came from tells
        which it is."""
        apart = np.abs(self.share[:, None] - self.share[None]) > FIT.apart_share
        return bool((self._far(self.looks) < FIT.alike_squared)[apart].any())


def likeliest_way(cost: Array, rate_hz: float) -> Array:
    """(T,) the course of places that is likeliest as a whole: a limb does not jump (Viterbi 1967).

    cost : (T, K) of each place at each moment
    """
    every = max(1, round(rate_hz / FIT.way_hz))
    some = cost[::every]
    step_s = every / rate_hz
    spacing = (1.0 + 2.0 * _BEYOND) / (cost.shape[1] - 1)
    reach = max(1, round(3.0 * FIT.fastest_share_s * step_s / spacing))
    moves = np.arange(-reach, reach + 1)
    price = (moves * spacing / (FIT.fastest_share_s * step_s)) ** 2
    total, came = some[0].copy(), np.zeros(some.shape, dtype=int)
    padded = np.full(len(total) + 2 * reach, np.inf)
    from_each = np.lib.stride_tricks.sliding_window_view(padded, len(moves))
    places = np.arange(len(total))
    for t in range(1, len(some)):
        padded[reach:-reach] = total
        tried = from_each + price
        best = tried.argmin(axis=1)
        came[t] = best - reach
        total = tried[places, best] + some[t]
    at = int(total.argmin())
    way = np.empty(len(some))
    for t in range(len(some) - 1, -1, -1):
        way[t] = at
        at = int(np.clip(at + came[t, at], 0, cost.shape[1] - 1))
    out: Array = np.interp(np.arange(len(cost)), np.arange(len(some)) * every, way)
    return out


def _about(cost: Array, way: Array) -> Array:
    """The cost near a course of places only."""
    place = np.arange(cost.shape[1])
    near = np.abs(place[None] - way[:, None]) <= 0.5 * FIT.apart_share / (
        (1.0 + 2.0 * _BEYOND) / (cost.shape[1] - 1)
    )
    return np.where(near, cost, np.inf)


def _template(
    standard: Standard, side: Side, picture: PictureOf, known: KnownOfArm, *, back: bool
) -> _Template:
    share = np.linspace(-_BEYOND, 1.0 + _BEYOND, _PLACES)
    nudged = known.mean + _STEP * np.vstack((np.zeros(len(known.mean)), np.eye(len(known.mean))))
    every = projected(standard, side, picture, share, nudged, back=back)
    looks = every[0]
    jacobian = np.moveaxis((every[1:] - looks) / _STEP, 0, -1)  # (K, 4, U)
    white = np.repeat(np.array(picture.noise_m), 2) ** 2
    joints = np.repeat(np.array(picture.stays_m), 2) ** 2
    noise = white + joints
    crossed = jacobian @ known.spread
    spread = np.einsum("kiu,kju->kij", crossed, jacobian) + np.diag(noise)
    inverse = np.linalg.inv(spread)
    told = (poses_back if back else poses_along)(standard, share)[:, :3] + np.degrees(
        known.mean[:3]
    )
    by_unknown = np.degrees(np.eye(3, len(known.mean)))
    along = np.gradient(looks, share, axis=0)
    told_along = np.gradient(told, share, axis=0)
    # Generalised least squares: the place is free, the rest has its prior.
    toward = np.einsum("ki,kij->kj", along, inverse)
    share_u = 1.0 / np.sqrt(np.maximum((toward * along).sum(axis=-1), 1e-9))
    gain = np.degrees(np.einsum("kiu,kij->kuj", crossed, inverse)[:, :3])
    by_place = told_along - np.einsum("kuj,kj->ku", gain, along)
    # What each makes of a difference in the picture, and of each unknown.
    of_picture = gain + by_place[..., None] * (share_u**2)[:, None, None] * toward[:, None]
    of_unknown = by_unknown - of_picture @ jacobian
    start = int(np.argmin(np.abs(share)))
    return _Template(
        share=share,
        mean=known.mean,
        told=told,
        looks=looks,
        jacobian=jacobian,
        along=along,
        noise=noise,
        inverse=inverse,
        width=np.linalg.slogdet(spread)[1],
        gain=gain,
        share_u=share_u,
        u=np.sqrt(_squared(of_unknown, known.spread) + _squared(of_picture, np.diag(noise))),
        change_u=np.sqrt(
            _squared(of_unknown - of_unknown[start], known.stays)
            + _twice(_squared(of_unknown, np.diag(known.passing)), start)
            + _squared(of_picture - of_picture[start], np.diag(joints))
            + _twice(_squared(of_picture, np.diag(white)), start)
        ),
        upper=np.einsum("kmi,ij,knj->kmn", of_unknown[:, :2], known.spread, of_unknown[:, :2])
        + np.einsum("kmi,i,kni->kmn", of_picture[:, :2], noise, of_picture[:, :2]),
        toward=_frame(standard, side, share, known.mean[4:5, None], known.mean[5:6, None])[0]
        @ _camera(picture, known.mean[6:7], known.mean[7:8])[1][0],
    )


def _squared(by: Array, spread: Array) -> Array:
    """(K, 3) the variance that (K, 3, N) sensitivities make of a covariance."""
    out: Array = np.einsum("kmi,ij,kmj->km", by, spread, by)
    return out


def _twice(variance: Array, start: int) -> Array:
    """A variance at each place with that at the start."""
    out: Array = variance + variance[start]
    return out
