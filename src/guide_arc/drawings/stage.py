"""The stage: the body at a moment, the guide arc as a corridor, the real trail, the evidence."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from guide_arc.core.kinematics.path import Part, corridor_pct
from guide_arc.core.model.finding import Finding, Verdict
from guide_arc.core.model.landmarks import SIDES, Side
from guide_arc.core.model.rep import Rep
from guide_arc.core.review.trust import scale_u_share
from guide_arc.drawings.evidence import Evidence, Level, Wedge, evidence
from guide_arc.drawings.figure import Frame, Looking, framed, limbs
from guide_arc.drawings.free_spot import free_spot
from guide_arc.drawings.ghost import Ghost
from guide_arc.drawings.on_picture import Placed, cased, picture_frame
from guide_arc.drawings.pull import pull_at
from guide_arc.drawings.shapes import Area, Disc, Drawing, Points, Role, Stroke, Words
from guide_arc.drawings.shown_set import ShownSet
from guide_arc.drawings.words import live_angle, phase_words, rep_name, sure_words

# Narrower than this, one of the two words at the figure is left out, pixels.
_BOTH_WORDS: Final = 300.0
# A callout nearer than this needs no line.
_SHORTEST_LINE_PX: Final = 12.0


@dataclass(frozen=True, eq=False)
class StageState:
    """What the stage shows: a measured set at a moment, from a side, with a chosen finding.

    placed : where the clip's own picture is under the drawing; None without one
    playing : words then stay in one place, as nobody reads what jumps
    """

    measured: ShownSet
    at_s: float
    looking: Looking
    finding: Finding | None = None
    ghost: Ghost | None = None
    placed: Placed | None = None
    playing: bool = False

    @property
    def side(self) -> Side:
        """The arm that the guide and the trail are drawn for."""
        if self.finding is not None and self.finding.side in SIDES:
            return "left" if self.finding.side == "left" else "right"
        rep = self.measured.review.rep_at(self.at_s)
        if rep is not None and rep.side in SIDES:
            return "left" if rep.side == "left" else "right"
        if self.looking in SIDES and self.measured.review.side == "both":
            return "left" if self.looking == "left" else "right"
        return self.measured.shown_side


def stage(state: StageState, width: float, height: float) -> Drawing:
    """The whole stage on a sheet of this size."""
    out = Drawing(width, height)
    measured = state.measured
    index = measured.index(state.at_s)
    pose = measured.pose(state.at_s)
    over = picture_frame(measured.body, state.placed) if state.placed else None
    frame: Frame = over or framed(
        state.looking, measured.extent, width, height, pad=40.0, below=72.0
    )
    if over is None:
        _floor(out, frame, measured, width)
    sides: tuple[Side, ...] = (state.side,)
    if state.looking in ("front", "back") and measured.review.side == "both":
        sides = SIDES
    for side in sides:
        _corridor(out, frame, measured, side, index)
    _ghost(out, frame, state)
    limbs(out, frame, pose, weight=0.5 if over else 1.0, head=over is None)
    if over is None:
        _held(out, frame, measured, index)
    rep = measured.review.rep_at(state.at_s)
    for side in sides:
        if rep is not None:
            _trail(out, frame, measured, side, rep, index)
    found = _found(state)
    joint = frame.place(found.joint) if isinstance(found, Wedge) else None
    if isinstance(found, Level):
        joint = frame.place(found.point)
    _pull(out, frame, measured, state.side, index, joint)
    if state.finding is not None:
        anchor = None
        if found is not None and state.finding is not None:
            anchor = draw_evidence(out, frame, found, _verdict_at(state, state.finding))
        _callout(out, state, state.finding, anchor, width, height)
    if over is not None:
        _cable(out, frame, measured, state.side)
    _headline(out, state, width)
    return cased(out) if over else out


def _cable(out: Drawing, frame: Frame, measured: ShownSet, side: Side) -> None:
    """How far the cable runs off the plane in which the forearm moves, where the picture shows that
    plane edge on."""
    found = measured.off_plane.get(side)
    pull = measured.pulls[side]
    if pull is None or pull.pulley is None or pull.assumed or found is None:
        return
    at = frame.place(0.5 * (pull.hand[0] + pull.pulley[0]))
    if np.isfinite(at).all():
        words = f"cable {found.value:.0f}° ± {max(2 * found.u, 1):.0f}° off the arm's plane"
        out.add(Words(float(at[0]) + 10, float(at[1]), words, "near", 12))


def _floor(out: Drawing, frame: Frame, measured: ShownSet, width: float) -> None:
    low = np.array([0.0, float(measured.extent[:, 1].min()) - 0.02, 0.0])
    y = float(frame.place(low)[1])
    out.add(Stroke(np.array([[24.0, y], [width - 24.0, y]]), "rule", 1.4))


def _ghost(out: Drawing, frame: Frame, state: StageState) -> None:
    """The other rep at the same point of its lift or lower, behind the figure."""
    if state.ghost is None:
        return
    pose = state.ghost.pose(state.measured, state.at_s)
    if pose is not None:
        limbs(out, frame, pose, weight=0.7, role="near")
    words = f"ghost: {state.ghost.words}" + ("" if pose is not None else " (within reps only)")
    out.add(Words(16, 43, words, "near", 12))


def _corridor(out: Drawing, frame: Frame, measured: ShownSet, side: Side, index: int) -> None:
    """The intended path of the hand's end of the arm, with the ends' tolerance darker."""
    paths = measured.guide_in_space(side, index)
    part: Part = "wrist" if measured.review.standard.drive == "elbow_flexion" else "elbow"
    path = frame.place(paths[part])
    if not np.isfinite(path).all():
        return
    corridor = corridor_pct(measured.review.standard, part) / 100.0
    half = corridor * measured.body.learned.upper_arm_m[side] * frame.px_per_m
    ribbon, edges = band(path, half)
    out.add(Area(ribbon, "guide-soft", 0.8))
    span = measured.review.standard.range
    ends = max(1, round(len(path) * min(span.tolerance_deg / span.size_deg, 0.4)))
    for part_path in (path[: ends + 1], path[-ends - 1 :]):
        out.add(Area(band(part_path, half)[0], "guide", 0.16))
    for edge in edges:
        out.add(Stroke(edge, "guide", 1.0, dash=True))


def band(path: Points, half: float) -> tuple[Points, tuple[Points, Points]]:
    """A strip of constant width along a path (N, 2): its outline and its two edges."""
    along = np.gradient(path, axis=0)
    size = np.maximum(np.hypot(along[:, 0], along[:, 1]), 1e-6)[:, None]
    normal = np.stack((-along[:, 1], along[:, 0]), axis=-1) / size
    a, b = path + half * normal, path - half * normal
    return np.concatenate((a, b[::-1])), (a, b)


def _trail(
    out: Drawing, frame: Frame, measured: ShownSet, side: Side, rep: Rep, index: int
) -> None:
    start = measured.index(rep.start_s)
    if index - start < 2:
        return
    for part, width in (("wrist", 1.6), ("elbow", 1.2)):
        path = frame.place(measured.body.points[f"{side}_{part}"][start : index + 1])
        path = path[np.isfinite(path).all(axis=-1)]
        if len(path) > 1:
            out.add(Stroke(path, "actual", width, opacity=0.75))


def _held(out: Drawing, frame: Frame, measured: ShownSet, index: int) -> None:
    """The weight or handle in the working hands."""
    standard = measured.review.standard
    if standard.held == "none":
        return
    working = SIDES if measured.review.side == "both" else (measured.review.side,)
    for side in working:
        if frame.far(side):
            continue
        points = measured.body.points
        spot = 0.5 * (points[f"{side}_index"][index] + points[f"{side}_pinky"][index])
        if not np.isfinite(spot).all():
            spot = points[f"{side}_wrist"][index]
        if np.isfinite(spot).all():
            x, y = frame.place(spot)
            big = standard.pull == "free-weight"
            out.add(Disc(float(x), float(y), 13.0 if big else 6.0, outline="actual", width=2.2))


def _pull(
    out: Drawing, frame: Frame, measured: ShownSet, side: Side, index: int, busy: Points | None
) -> None:
    """The line of pull and its lever arm; the lever is left out if there is evidence in its
    place."""
    pull = pull_at(measured, side, index)
    if pull is None:
        return
    hand, toward, joint, foot = (
        frame.place(p) for p in (pull.hand, pull.toward, pull.joint, pull.foot)
    )
    out.add(Stroke(np.stack((hand, toward)), "muted", 1.2, dash=True))
    crowded = busy is not None and float(np.linalg.norm(busy - joint)) < 30.0
    if float(np.linalg.norm(foot - joint)) > 14.0 and not crowded:
        out.add(Stroke(np.stack((joint, foot)), "muted", 1.2))
        middle = 0.5 * (joint + foot)
        share = scale_u_share(measured.body.cleaned.track)
        spread = f" ± {max(200 * share * pull.lever_m, 1):.0f}" if share else ""
        out.add(
            Words(
                float(middle[0]),
                float(middle[1]) - 6,
                f"{100 * pull.lever_m:.0f}{spread} cm",
                "muted",
                11,
                anchor="middle",
                clear=True,
            )
        )
    label = "pull" if not pull.assumed else "pull as set up"
    at = toward if pull.toward[1] < pull.hand[1] - 0.3 else hand + 0.8 * (toward - hand)
    out.add(Words(float(at[0]), float(at[1]) + 13, label, "muted", 11, anchor="middle", clear=True))


def _found(state: StageState) -> Evidence | None:
    if state.finding is None or state.finding.verdict == "cannot-tell":
        return None
    return evidence(state.measured, state.finding, state.at_s)


# A finding's colour, and how strongly it fills what is between target and result.
_BY_VERDICT: Final[dict[Verdict, tuple[Role, float]]] = {
    "off": ("off", 0.22),
    "near": ("near", 0.22),
    "ok": ("actual", 0.12),
    "cannot-tell": ("muted", 0.12),
}


def draw_evidence(out: Drawing, frame: Frame, found: Evidence, verdict: Verdict) -> Points:
    """The wedge or level of a finding, in the colour of its verdict; returns the point that a word
    may refer to."""
    role, soft = _BY_VERDICT[verdict]
    if isinstance(found, Wedge):
        return _wedge(out, frame, found, role, soft)
    return _level(out, frame, found, role)


def _verdict_at(state: StageState, finding: Finding) -> Verdict:
    """The verdict on the rep under the clock; between reps the set's."""
    rep = state.measured.review.rep_at(state.at_s)
    judged = next((j for j in finding.per_rep if rep is not None and j.rep == rep.number), None)
    return judged.verdict if judged else finding.verdict


def _wedge(out: Drawing, frame: Frame, wedge: Wedge, role: Role, soft: float) -> Points:
    joint, actual, wanted = (frame.place(p) for p in (wedge.joint, wedge.actual, wedge.wanted))
    steps = np.linspace(0.0, 1.0, 14)[:, None]
    a, w = wedge.actual - wedge.joint, wedge.wanted - wedge.joint
    arc = w + steps * (a - w)
    arc *= (np.linalg.norm(w) / np.maximum(np.linalg.norm(arc, axis=1), 1e-6))[:, None]
    out.add(Area(np.concatenate((joint[None], frame.place(wedge.joint + arc))), role, soft))
    out.add(Stroke(np.stack((joint, wanted)), "guide", 1.6, dash=True))
    if wedge.limit is not None and np.isfinite(wedge.limit).all():
        limit = frame.place(wedge.limit)
        out.add(Stroke(np.stack((joint, limit)), role, 1.3, dash=True))
        tip = limit + 12 * (limit - joint) / max(float(np.linalg.norm(limit - joint)), 1.0)
        out.add(Words(float(tip[0]), float(tip[1]), "limit", role, 11, anchor="middle", clear=True))
    out.add(Stroke(np.stack((joint, actual)), role, 5.2))
    out.add(Disc(float(joint[0]), float(joint[1]), 4.2, fill="panel", outline=role, width=1.8))
    return joint + 0.6 * (actual - joint)


def _level(out: Drawing, frame: Frame, level: Level, role: Role) -> Points:
    line = frame.place(level.line)
    out.add(Stroke(line, "guide", 1.6, dash=True))
    if level.limit is not None:
        limit = frame.place(level.limit)
        out.add(Stroke(limit, role, 1.3, dash=True))
        out.add(
            Words(float(limit[1][0]) + 6, float(limit[1][1]) + 4, "limit", role, 11, clear=True)
        )
    point = frame.place(level.point)
    nearest = line[0] + np.clip(
        np.dot(point - line[0], line[1] - line[0])
        / max(float(np.dot(line[1] - line[0], line[1] - line[0])), 1e-6),
        0,
        1,
    ) * (line[1] - line[0])
    out.add(Stroke(np.stack((nearest, point)), role, 2.4))
    out.add(Disc(float(point[0]), float(point[1]), 5.0, fill="panel", outline=role, width=2.2))
    return point


def _told(finding: Finding) -> str:
    """The words of a finding that the recording does not show."""
    if finding.eye is None:
        return "can't tell"
    return "seen by eye, it held" if finding.eye == "held" else "seen by eye, it broke"


def _callout(
    out: Drawing,
    state: StageState,
    finding: Finding,
    anchor: Points | None,
    width: float,
    height: float,
) -> None:
    """The finding's words next to their joint; at the foot if there is none."""
    rep = state.measured.review.rep_at(state.at_s)
    judged = next((j for j in finding.per_rep if rep is not None and j.rep == rep.number), None)
    verdict = _verdict_at(state, finding)
    role: Role = "off" if verdict == "off" else "near" if verdict == "near" else "ink"
    if finding.verdict == "cannot-tell":
        out.add(
            Words(18.0, height - 34.0, f"{finding.title}: {_told(finding)}", "muted", 14, bold=True)
        )
        out.add(Words(18.0, height - 15.0, finding.why or "", "muted", 12))
        return
    size = 14.0 if width >= _BOTH_WORDS else 11.0
    said = finding.says if judged is None else _said(finding, judged.value)
    sure = sure_words(finding, judged)
    small = min(size, 12.0)
    room = (_wide(said, size, 0.51), _wide(sure, small, 0.48))
    box_w, box_h = max(room), 1.35 * size + 1.2 * small
    left, top = 16.0, 34.0 if state.playing else height - box_h - 12.0
    if anchor is not None and not state.playing and np.isfinite(anchor).all():
        left, top = free_spot(out, anchor, (box_w, box_h), (width, height))
        end = np.array(
            [np.clip(anchor[0], left, left + box_w), np.clip(anchor[1], top, top + box_h)]
        )
        if float(np.linalg.norm(end - anchor)) > _SHORTEST_LINE_PX:
            out.add(Stroke(np.stack((end, anchor)), role, 1.2))
    out.add(Words(left, top + size, said, role, size, bold=True, clear=True))
    out.add(Words(left, top + 1.35 * size + small, sure, role, small, clear=True))


def _wide(text: str, size: float, share: float) -> float:
    """About how wide words are: the shipped type's usual letter is this share of its size."""
    return share * size * len(text)


def _said(finding: Finding, value: float) -> str:
    """The finding's words with this rep's value in place of the worst rep's."""
    if finding.value is None:
        return finding.says
    for digits in (0, 1):
        worst = f"{finding.value:.{digits}f}"
        if worst in finding.says:
            return finding.says.replace(worst, f"{value:.{digits}f}", 1)
    return finding.says


def _headline(out: Drawing, state: StageState, width: float) -> None:
    rep = state.measured.review.rep_at(state.at_s)
    if width >= _BOTH_WORDS:
        out.add(Words(16, 24, phase_words(state.measured.review, state.at_s), "muted", 13))
    elif rep is not None:
        out.add(Words(12, 24, rep_name(rep), "muted", 12))
    angle = live_angle(state.measured, state.side, state.at_s)
    out.add(Words(width - 16, 25, angle, "ink", 15, bold=True, anchor="end"))
