"""From pixels to verdicts: clips with known joints, marked once, followed, and reviewed.

    ./run dev python bench/clips_to_verdicts.py FOLDER…
    ./run dev python bench/clips_to_verdicts.py --puppets

Each folder holds clips with a `NAME.truth.json` beside them: `view`, `standard`, `reps` (seconds of
each lift and lower), `points` (the joints' centres in pixels), `angles`, and `marks` on the first
frame. A sample is off where it is more than 4 cm from the truth, lost where the tracker doubts it.
Then: what the review says, against the review of the true joints. With the pose extra also
through the model alone, and through marks of which every joint is lost for a second, one after the
other, and filled by the model.

`--puppets` films paper puppets (`tests/puppets.py`) in every costume and room with each fault of a
curl, marks the first frame once, and prints a table: what was found, what was called wrong, and
which checks declined.
"""

from __future__ import annotations

import json
import sys
from dataclasses import dataclass, replace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.tracking.calibrated import CalibratedPoints, arm_px, filled, with_person
from guide_arc.capture.tracking.following import MarkedPoints
from guide_arc.capture.tracking.landmarks import landmark_track
from guide_arc.capture.tracking.pose import PoseModel
from guide_arc.capture.tracking.tracker import Tracked
from guide_arc.capture.video.clip import Clip, inspect_video
from guide_arc.core.model.marks import Mark, Marks
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import LandmarkTrack, PointsFrom, SetFacts
from guide_arc.core.review.assess import review_with_body
from guide_arc.standards.loader import standard
from puppets import Costume, Curls, Room, puppet

OFF_CM = 4.0


@dataclass(frozen=True)
class Followed:
    """Of a clip: off, lost, silent : shares of the samples of all joints; worst_lost : of the joint
    that is lost most"""

    off: float
    lost: float
    silent: float
    worst_lost: float
    worst: str


def followed(tracked: Tracked, truth: dict[str, Any]) -> Followed:
    off, lost = [], []
    for i, name in enumerate(tracked.names):
        if name not in truth["points"]:
            continue
        true = np.array(truth["points"][name], dtype=float)[: len(tracked.position)]
        apart = np.linalg.norm(tracked.position[: len(true), i] - true, axis=1)
        off.append(100.0 * apart / truth["px_per_m"] > OFF_CM)
        lost.append(np.asarray(tracked.doubted[: len(true), i]))
    names = [n for n in tracked.names if n in truth["points"]]
    away, gone = np.array(off), np.array(lost)
    worst = int(gone.mean(axis=1).argmax())
    return Followed(
        off=float(away.mean()),
        lost=float(gone.mean()),
        silent=float((away & ~gone).mean()),
        worst_lost=float(gone.mean(axis=1)[worst]),
        worst=names[worst],
    )


def words(review: Review) -> list[str]:
    out = []
    for verdict in ("off", "near", "ok", "cannot-tell"):
        found = review.with_verdict(verdict)
        if not found:
            continue
        told = [
            f"{f.rule.name}{'/' + f.side if f.side != 'both' else ''}"
            + (
                f" ({f.says} ± {f.uncertainty:.1f})"
                if verdict in ("off", "near") and f.uncertainty
                else ""
            )
            for f in found
        ]
        out.append(f"    {verdict}: {', '.join(told)}")
    return out


def one_clip(file: Path) -> list[str]:
    truth = json.loads(file.with_suffix("").with_suffix(".truth.json").read_text())
    clip = inspect_video(file)
    marks = Marks(truth["view"])
    for m in truth["marks"]:
        marks = marks.with_mark(m["point"], Mark(m["frame"], m["x"], m["y"]))
    tracked = MarkedPoints().track(clip, marks, lambda _share: None)
    plan = standard(truth["standard"])
    found = followed(tracked, truth)
    track = _as_track(tracked, clip, marks, "marks")
    exact = Tracked(
        tuple(truth["points"]),
        np.stack([np.array(p, dtype=float) for p in truth["points"].values()], axis=1)[
            : clip.frames
        ],
        np.ones((clip.frames, len(truth["points"]))),
        np.zeros((clip.frames, len(truth["points"])), dtype=bool),
    )
    true_track = _as_track(exact, clip, marks, "marks")
    tracks = [("marks", track), ("true joints", true_track)]
    model = PoseModel()
    if model.why_not(clip, marks) is None:
        found_by_model = model.track(clip, with_person(marks, clip), lambda _share: None)
        refilled = _hidden_in_turn(tracked, clip)
        hidden = refilled.doubted & ~tracked.doubted
        refilled = filled(refilled, found_by_model, arm_px(clip, marks), clip.time_s)
        tracks += [
            (
                f"marks, {100 * hidden.mean():.0f} % hidden, of which"
                f" {100 * (hidden & ~refilled.doubted).sum() / hidden.sum():.0f} % filled,"
                f" {_off_share(refilled, hidden, truth):.1f} % of these off",
                _as_track(refilled, clip, marks, "marks"),
            ),
            ("pose model", _as_track(found_by_model, clip, marks, "pose")),
        ]
    out = [
        f"{file.stem}: {100 * (1 - found.silent):.1f} % within {OFF_CM:g} cm or declared lost,"
        f" {100 * found.lost:.1f} % lost ({found.worst} {100 * found.worst_lost:.1f} %),"
        f" {100 * found.silent:.1f} % off in silence"
    ]
    for what, one in tracks:
        review, body, _reps = review_with_body(one, plan)
        out.append(
            f"  {what}: {len(review.reps)} of {len(truth['reps'])} reps;"
            f" {_durations(review, truth)}; {_angles(body, truth)}"
        )
        out += words(review)
    return out


def _as_track(found: Tracked, clip: Clip, marks: Marks, by: PointsFrom) -> LandmarkTrack:
    return landmark_track(found, clip, marks, SetFacts(subject_height_m=1.75), points_from=by)


def _hidden_in_turn(found: Tracked, clip: Clip) -> Tracked:
    """Every joint lost for one second, the next one from the end of that."""
    doubted = found.doubted.copy()
    for i in range(len(found.names)):
        start = 1.0 + i
        while start < clip.time_s[-1]:
            doubted[(clip.time_s >= start) & (clip.time_s < start + 1.0), i] = True
            start += len(found.names)
    return replace(found, doubted=doubted)


def _off_share(found: Tracked, hidden: NDArray[np.bool_], truth: dict[str, Any]) -> float:
    """Of hidden samples that were filled, the percentage more than 4 cm off."""
    off = []
    for i, name in enumerate(found.names):
        if name in truth["points"]:
            rows = np.flatnonzero(hidden[:, i] & ~found.doubted[:, i])
            true = np.array(truth["points"][name], dtype=float)[rows]
            off.append(np.hypot(*(found.position[rows, i] - true).T) * 100.0 / truth["px_per_m"])
    every = np.concatenate(off)
    return float(100.0 * np.mean(every > OFF_CM)) if len(every) else 0.0


def _durations(review: Review, truth: dict[str, Any]) -> str:
    """How far the phases that were timed are from the truth, in percent: the median and the
    worst."""
    off, timed = [], 0
    for rep in review.reps:
        true = min(truth["reps"], key=lambda t: abs(t["lift"][0] - rep.start_s))
        for span, (a, b) in ((rep.lift, true["lift"]), (rep.lower, true["lower"])):
            if span.seen:
                timed += 1
                off.append(100.0 * abs(span.length_s - (b - a)) / (b - a))
    if not off:
        return "no phase timed"
    return (
        f"{timed} of {2 * len(review.reps)} phases timed, off by {np.median(off):.0f} % (worst"
        f" {max(off):.0f} %)"
    )


def _angles(body: Any, truth: dict[str, Any]) -> str:
    """The largest error of each angle at the turns and starts, in degrees."""
    at = sorted({t for rep in truth["reps"] for t in (*rep["lift"], *rep["lower"])})
    out = []
    for name, values in truth["angles"].items():
        side, _, measure = name.partition("_")
        series = body.measure(measure, side).value
        true = np.interp(at, np.arange(len(values)) / truth["fps"], np.array(values, dtype=float))
        near = [
            abs(float(np.interp(t, body.time_s, series)) - v) for t, v in zip(at, true, strict=True)
        ]
        seen = [e for e in near if np.isfinite(e)]
        out.append(
            f"{name} {np.median(seen):.1f}° (worst {max(seen):.1f}°, {len(seen)} of {len(at)} seen)"
            if seen
            else f"{name} not seen"
        )
    return "; ".join(out)


# Of a picture of 1280 by 720: a puppet is cut out and turned in every frame.
_SIZE: Final = 0.55
# What a puppet wears and how it is filmed.
COSTUMES: Final = {
    "plain shirt": (Costume(), Room()),
    "plates over the hand": (Costume(kit="plates"), Room()),
    "dumbbell, bare arms": (Costume(sleeves="none", kit="dumbbell"), Room()),
    "long sleeves, striped": (Costume("striped", "long"), Room()),
    "checked shirt, plates": (Costume("checked", "short", "plates"), Room()),
    "upright phone, by hand": (Costume(kit="plates"), Room(shake=5.0, portrait=True)),
    "dim room, grain": (Costume("striped", "short", "dumbbell"), Room(light=0.5, grain=9.0)),
}
# The reps of each set, and the check that they break.
SETS: Final = {
    "clean": (Curls(reps=3), ""),
    "swing 22°": (Curls(reps=3, swing_deg=22.0), "torso-swing"),
    "45° short": (Curls(reps=3, top_deg=85.0), "range-short"),
    "lowered in 0.6 s": (Curls(reps=3, lower_s=0.6), "too-fast-lower"),
    "upper arm 30° forward": (Curls(reps=3, drift_deg=-30.0), "upper-arm-drift"),
}
# Checks that the fault of a set moves as well, by plain geometry.
ALSO: Final = {
    "torso-swing": {"momentum", "torso-lean", "neutral-back"},
    "too-fast-lower": {"momentum", "fatigue-drift"},
    "range-short": {"too-fast-lift", "too-fast-lower"},
    "upper-arm-drift": {"range-short", "hand-path", "elbow-path"},
}


def puppets() -> None:
    print("| filmed | set | reps | within 4 cm or lost | lost | off in silence | found | wrong |")
    print("| --- | --- | --- | --- | --- | --- | --- | --- |")
    plan = standard("standing-barbell-curl")
    with TemporaryDirectory() as folder:
        for n, (filmed, (costume, room)) in enumerate(COSTUMES.items()):
            for what, (curls, fault) in SETS.items():
                doll = puppet(
                    Path(folder) / "p.mp4",
                    size=_SIZE,
                    seed=n + 1,
                    costume=costume,
                    room=room,
                    curls=curls,
                )
                marks = doll.marks()
                tracked = CalibratedPoints().track(doll.clip, marks, lambda _share: None)
                truth = {
                    "points": {k: v.tolist() for k, v in doll.truth.items()},
                    "px_per_m": 400.0 * _SIZE,
                }
                seen = followed(tracked, truth)
                review = review_with_body(_as_track(tracked, doll.clip, marks, "marks"), plan)[0]
                said = {f.rule.name: "likely" for f in review.findings if f.hint}
                said |= {f.rule.name: "off" for f in review.with_verdict("off")}
                wrong = (
                    {c for c, v in said.items() if v == "off"} - {fault} - ALSO.get(fault, set())
                )
                found = said.get(fault, "declined") if fault else "-"
                print(
                    f"| {filmed} | {what} | {len(review.reps)} of {curls.reps} |"
                    f" {100 * (1 - seen.silent):.1f} % | {100 * seen.lost:.1f} % |"
                    f" {100 * seen.silent:.1f} % | {found} | {', '.join(sorted(wrong)) or '-'} |",
                    flush=True,
                )


def main(folders: list[str]) -> int:
    if folders == ["--puppets"]:
        puppets()
        return 0
    files = sorted(f for folder in folders for f in Path(folder).glob("*.mp4"))
    if not files:
        print(__doc__)
        return 2
    for file in files:
        print("\n".join(one_clip(file)), flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
