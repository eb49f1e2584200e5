"""What a phone, a pose model and a body that is not the usual one do to a review; a part of
`bench/accuracy.py`.

    ./run dev python bench/conditions.py [--quick] [NAME …]

Every standard from each view that it recommends, in named conditions: a clean set of five reps, and
one with a fault at twice its limit, another check for each view and condition in turn. A phone is
put down by hand but in the rows that say *straight on*: it is turned by 5°, tilted by 4° and rolled
by 3° (standard deviations; where a row says how, it stands so), and a pose model's joints stand 3.5
px from ours, in space 12 mm, each axis of each joint by itself and all along. Such a model looks at
the body, cut out of the picture: where that is larger, both its offsets and its jitter are, too.

A row tells how many sets were counted whole, and of how many others a doubt about the count is
told, how far phase edges and angles are off (root mean square of each measure of a set), the share
of errors inside twice their uncertainty (of the measure with the least, too), and of clean sets'
verdicts those that are off or can't be told, and of the checks those that can't be told of either
arm; of the faults those called off, said to be likely, called near, not to be told, and fine. A
second table tells that share for each measure under each condition; sets are tried again for what
few of them show, with other noise, cameras and bodies. With `--quick` no set is tried again. What
lies outside 90 to 99 % is listed.
"""

from __future__ import annotations

import sys
import warnings
from collections import defaultdict
from collections.abc import Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from typing import Any, Final

import numpy as np

from faults_from_views import near_arm, twice_the_limit
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import CleanTrack
from guide_arc.core.kinematics.measures.registry import all_measures, spec_of_measure
from guide_arc.core.kinematics.vectors import Array
from guide_arc.core.kinematics.views import shown
from guide_arc.core.model.review import Review
from guide_arc.core.model.track import BETWEEN_VIEWS, LandmarkTrack
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.faults import faults_known
from guide_arc.core.simulate.perform import Performance, Script, perform
from guide_arc.core.simulate.tracker import TrackerNoise
from guide_arc.standards.loader import shipped, standard

REPS: Final = 5
# A phone as it is put down by hand: standard deviations of its yaw, pitch and roll, degrees.
_PUT_DOWN_DEG: Final = (5.0, 4.0, 3.0)
# How far a pose model's joints stand from ours, each axis, constantly: pixels.
_ELSEWHERE: Final = 3.5
# The cover of a measure that fewer sets show is taken of at least so many, with other noise and
# fewer reps.
_COVERED_BY: Final = 300
_REPS_AGAIN: Final = 3
# The cover that is asked of each measure under each condition, percent.
_ASKED: Final = (90.0, 99.0)
_TELLING: Final = ("off", "likely", "near", "ok", "cannot-tell")


@dataclass(frozen=True)
class Condition:
    """One way in which recordings are made. yaw_deg : either way round, by the set's number;
    put_down : whether the camera stands off that as phones do; between : whether it is said to
    stand between two sides"""

    name: str
    camera: Camera = field(default_factory=Camera)
    yaw_deg: float = 0.0
    arm_length: float = 1.0
    in_space: bool = False
    from_the_side: bool = False
    put_down: bool = True
    between: bool = False


# How far round the subject a camera stands, the way that leads from the front to the left.
_ROUND_DEG: Final = {"front": 0.0, "left": 90.0, "back": 180.0, "right": -90.0}
_BETWEEN_DEG: Final = {
    "front-left": 45.0,
    "back-left": 135.0,
    "back-right": -135.0,
    "front-right": -45.0,
}
Job = tuple[Condition, str, str, int]
Again = tuple[Job, frozenset[str]]


def _phone(**more: Any) -> Camera:
    jitter = more.pop("jitter", 2.0)
    keys = ("offset", "far_arm", "swapped_share", "lost_frames")
    given = {"offset": _ELSEWHERE} | {k: more.pop(k) for k in keys if k in more}
    return Camera(tracker=TrackerNoise(jitter, **given), **more)


CONDITIONS: Final = (
    Condition("1 px of white noise, straight on", Camera(noise=1.0), put_down=False),
    Condition(
        "a pose model's noise, 2 px, straight on, joints in place",
        _phone(offset=0.0),
        put_down=False,
    ),
    Condition("a pose model's noise, 2 px", _phone()),
    Condition("the same, 4 px", _phone(jitter=4.0)),
    Condition("joints 10 px elsewhere, constantly", _phone(offset=10.0)),
    Condition("camera 15° aside", _phone(), yaw_deg=15.0),
    Condition("camera 30° aside", _phone(), yaw_deg=30.0),
    Condition("camera 45° aside", _phone(), yaw_deg=45.0),
    Condition("30° between two views, said", _phone(), yaw_deg=30.0, between=True),
    Condition("45° between two views, said", _phone(), yaw_deg=45.0, between=True),
    Condition(
        "2.5 m near, looking 12° down, rolled 5°",
        _phone(distance_m=2.5, pitch_deg=12.0, roll_deg=5.0, jitter=3.4, offset=5.9),
        put_down=False,
    ),
    Condition("a tenth of the frames lost", _phone(lost_frames=0.1)),
    Condition("arms an eighth longer", _phone(), arm_length=1.125),
    Condition("arms an eighth shorter", _phone(), arm_length=0.875),
    Condition("far arm: the near one mirrored", _phone(far_arm="mirrored"), from_the_side=True),
    Condition("far arm: made up hanging", _phone(far_arm="hanging"), from_the_side=True),
    Condition("far arm: missing", _phone(far_arm="missing"), from_the_side=True),
    Condition("left and right swapped for a third", _phone(swapped_share=1 / 3)),
    Condition("in space, 10 mm of white noise", Camera(noise=0.010 / np.sqrt(3)), in_space=True),
    Condition(
        "in space, a model's noise, depth 3.5 times worse",
        Camera(tracker=TrackerNoise(0.006, 0.012, 3.5)),
        in_space=True,
    ),
    Condition(
        "the same, joints 15 mm elsewhere, hands 40 mm too near",
        Camera(tracker=TrackerNoise(0.006, 0.015, 3.5, 0.04)),
        in_space=True,
    ),
)


@dataclass(frozen=True)
class Errors:
    """Of one measure in one set, of both sides where both are seen. cover : the share inside twice
    the stated uncertainty; off : root mean square, degrees or percent"""

    cover: float
    off: float


@dataclass
class Told:
    """What one view's clean set and fault gave."""

    whole: bool
    doubted: bool
    edges: list[float]
    errors: dict[str, Errors]
    clean: dict[str, int]
    hidden: tuple[int, int]
    fault: str
    check: str
    wrong: list[str]


def film(condition: Condition, id: str, view: str, number: int, **script: Any) -> Performance:
    plan = standard(id)
    yaw = condition.yaw_deg * (1.0 if number % 2 else -1.0)
    camera = replace(condition.camera, view=view, yaw_deg=yaw)  # type: ignore[arg-type]
    if condition.put_down:
        turned, tilted, rolled = np.random.default_rng([number, 2031]).normal(0.0, _PUT_DOWN_DEG)
        camera = replace(
            camera,
            yaw_deg=yaw or turned,
            pitch_deg=camera.pitch_deg + tilted,
            roll_deg=camera.roll_deg + rolled,
        )
    if condition.between:
        camera = _said_between(camera)
    given = {
        "reps": REPS,
        "arms": near_arm(plan, camera.view),
        "arm_length": condition.arm_length,
        **script,
    }
    return perform(plan, Script(**given), camera, 100 + number)


def _said_between(camera: Camera) -> Camera:
    """The same camera, which is said to stand between the two sides that it stands between."""
    first = _ROUND_DEG[camera.view]
    round_deg = (first + camera.yaw_deg + 180.0) % 360.0 - 180.0
    name = min(
        _BETWEEN_DEG, key=lambda n: abs((round_deg - _BETWEEN_DEG[n] + 180.0) % 360.0 - 180.0)
    )
    base, _off = BETWEEN_VIEWS[name]
    yaw = (round_deg - _ROUND_DEG[base] + 180.0) % 360.0 - 180.0
    return replace(camera, view=base, yaw_deg=yaw, between=name)


def tried(job: Job) -> Told:
    """A clean set and one with a fault, as a condition has them."""
    condition, id, view, number = job
    warnings.simplefilter("ignore")
    plan = standard(id)
    done = film(condition, id, view, number)
    review, body, _repset = review_with_body(done.track, plan)
    truth = done.truth["reps"]
    whole = [(r.side, r.full) for r in review.reps] == [(r["side"], r["full"]) for r in truth]
    if not whole and len(review.reps) == len(truth) and done.track.view in ("left", "right"):
        # The far arm is not seen: which arms worked is the recording's to say.
        whole = all(r.full for r in review.reps) and plan.arms != "one"
    edges = []
    if len(review.reps) == len(truth):
        for got, true in zip(review.reps, truth, strict=True):
            for span, at in ((got.lift, true["lift"]), (got.lower, true["lower"])):
                edges += [abs(span.start_s - at[0]), abs(span.end_s - at[1])]
    rate = condition.camera.rate_hz
    clean: dict[str, int] = defaultdict(int)
    for finding in review.findings:
        clean[finding.verdict] += 1
    hidden = _hidden_checks(review)
    wrong = [f"{f.rule.name}/{f.side} {f.says}" for f in review.findings if f.verdict == "off"]
    checks = [r.name for r in plan.checks if r.name in faults_known()]
    check = checks[number % len(checks)]
    tempo, amount = twice_the_limit(plan, check)
    faulty = film(condition, id, view, number, tempo=tempo, faults={check: amount}, opening_s=1.4)
    found = review_with_body(faulty.track, plan, tempo)[0].findings
    told = {"likely" if f.hint else f.verdict for f in found if f.rule.name == check}
    fault = next(v for v in _TELLING if v in told)
    doubted = any("rep" in words or "counted" in words for words in review.trust.doubts)
    return Told(
        whole,
        doubted,
        [rate * e for e in edges],
        _errors(body, done, done.track.view),
        dict(clean),
        hidden,
        fault,
        check,
        wrong,
    )


def _hidden_checks(review: Review) -> tuple[int, int]:
    """How many checks can't be told of either arm, and how many there are."""
    told: dict[str, bool] = {}
    for finding in review.findings:
        name = finding.rule.name
        told[name] = told.get(name, False) or finding.verdict != "cannot-tell"
    return sum(not seen for seen in told.values()), len(told)


def covered(job: Again) -> dict[str, float]:
    """The cover of some measures of a clean set, as `tried` has it."""
    (condition, id, view, number), measures = job
    warnings.simplefilter("ignore")
    done = film(condition, id, view, number, reps=_REPS_AGAIN)
    every = _errors(review_with_body(done.track, standard(id))[1], done, view)
    return {measure: own.cover for measure, own in every.items() if measure in measures}


def _errors(body: Body, done: Performance, view: str) -> dict[str, Errors]:
    """By measure, how far off it is and how often that is told."""
    names = done.track.names
    world = LandmarkTrack(done.track.time_s, names, done.exact, np.ones(done.exact.shape[:2]))
    sure = np.full(done.exact.shape[:2], 1e-4)
    exact = Body(
        CleanTrack(world, names, done.exact, np.zeros(len(names)), sure, 0.0, 0, 0, None),
        body.first_lift_s,
    )
    out: dict[str, list[tuple[float, float]]] = defaultdict(list)
    for measure, side in all_measures() if view == "none" else shown(view):  # type: ignore[arg-type]
        got = body.measure(measure, side)
        miss = apart(got.value - exact.measure(measure, side).value)
        seen = np.isfinite(miss)
        if seen.any():
            inside = float((np.abs(miss[seen]) <= 2 * got.u[seen]).mean())
            out[measure].append((inside, float(np.mean(miss[seen] ** 2))))
    means = {measure: np.mean(both, axis=0) for measure, both in out.items()}
    return {m: Errors(float(cover), float(np.sqrt(square))) for m, (cover, square) in means.items()}


def apart(miss: Array) -> Array:
    out: Array = np.where(np.abs(miss) > 180, 360 - np.abs(miss), miss)
    return out


def jobs_of(condition: Condition) -> list[Job]:
    if condition.in_space:
        return [(condition, id, "none", n) for n, id in enumerate(shipped())]
    views = [(id, view) for id in shipped() for view in standard(id).views]
    if condition.from_the_side:
        views = [(id, view) for id, view in views if view in ("left", "right")]
    return [(condition, id, view, n) for n, (id, view) in enumerate(views)]


def jobs_again(jobs: list[Job], found: list[Told]) -> list[Again]:
    """The sets that show what few of them show, again, each with another noise, camera and body,
    for that alone."""
    showing: dict[str, list[Job]] = defaultdict(list)
    for job, one in zip(jobs, found, strict=True):
        for measure in one.errors:
            showing[measure].append(job)
    more: dict[Job, set[str]] = defaultdict(set)
    for measure, own in showing.items():
        for again in range(1, -(-_COVERED_BY // len(own))):
            for condition, id, view, number in own:
                more[condition, id, view, number + again * 1001].add(measure)
    return [(job, frozenset(measures)) for job, measures in more.items()]


HEAD: Final = (
    "| conditions | sets | counted whole | edges, frames: median, 95 % | angles, degrees: median,"
    " 95 % | within 2 u: all, least | clean: off | clean: can't tell | by check | fault: off |"
    " likely | near | can't tell | fine |\n| --- | --- | --- | --- | --- | --- | --- | --- | --- |"
    " --- | --- | --- | --- | --- |"
)


def row(
    condition: Condition, pool: ProcessPoolExecutor, *, told_wrong: bool, quick: bool
) -> tuple[str, dict[str, list[float]]]:
    """A condition's row, and by measure the cover of each set."""
    jobs = jobs_of(condition)
    found = list(pool.map(tried, jobs, chunksize=4))
    again = [] if quick else list(pool.map(covered, jobs_again(jobs, found), chunksize=4))
    edges = np.array([e for one in found for e in one.edges] or [np.nan])
    angles = [
        e.off for one in found for m, e in one.errors.items() if spec_of_measure(m).unit == "deg"
    ]
    clean: dict[str, int] = defaultdict(int)
    cover: dict[str, list[float]] = defaultdict(list)
    for one in found:
        for verdict, count in one.clean.items():
            clean[verdict] += count
        for measure, errors in one.errors.items():
            cover[measure].append(errors.cover)
    for own in again:
        for measure, share in own.items():
            cover[measure].append(share)
    total = sum(clean.values())
    means = {m: float(np.mean(v)) for m, v in cover.items()}
    least = min(means, key=lambda m: means[m])
    faults = {v: sum(o.fault == v for o in found) for v in _TELLING}
    if told_wrong:
        for job, one in zip(jobs, found, strict=True):
            for words in one.wrong:
                print("  clean, off:", job[1], job[2], words)
            if one.fault == "ok":
                print("  fault called fine:", job[1], job[2], one.check)
            if not one.whole:
                print("  miscounted:", job[1], job[2])
        print("  cover:", {m: round(100 * v) for m, v in sorted(means.items(), key=lambda p: p[1])})
    every = 100 * float(np.mean([v for own in cover.values() for v in own]))
    hidden, checks = (sum(o.hidden[k] for o in found) for k in (0, 1))
    wrongly = [o for o in found if not o.whole]
    told = f", {sum(o.doubted for o in wrongly)} of {len(wrongly)} told" if wrongly else ""
    return (
        (
            f"| {condition.name} | {len(found)} | {100 * np.mean([o.whole for o in found]):.0f}"
            f" %{told} | {np.median(edges):.1f}, {np.percentile(edges, 95):.1f} |"
            f" {np.median(angles):.1f}, {np.percentile(angles, 95):.1f} | {every:.0f} %,"
            f" {100 * means[least]:.0f} % ({_words(least)}) | {100 * clean['off'] / total:.1f} % |"
            f" {100 * clean['cannot-tell'] / total:.0f} % | {100 * hidden / checks:.0f} % |"
            f" {faults['off']} | {faults['likely']} | {faults['near']} | {faults['cannot-tell']} |"
            f" {faults['ok']} |"
        ),
        cover,
    )


def table(names: list[str], *, told_wrong: bool = False, quick: bool = False) -> None:
    """Print the rows of the conditions whose names begin so; all where none is given."""
    print(HEAD, flush=True)
    covers: dict[str, dict[str, list[float]]] = defaultdict(dict)
    with ProcessPoolExecutor() as pool:
        for condition in CONDITIONS:
            if not names or any(n in condition.name for n in names):
                words, cover = row(condition, pool, told_wrong=told_wrong, quick=quick)
                print(words, flush=True)
                for measure, shares in cover.items():
                    covers[measure][condition.name] = shares
    if not quick:
        _print_covers(covers)


def _words(measure: str) -> str:
    return measure.replace("_", " ")


def _print_covers(covers: Mapping[str, Mapping[str, Sequence[float]]]) -> None:
    """By measure and condition, the cover of each set: a table, and whatever lies outside what is
    asked."""
    measures = sorted(covers)
    print(
        f"\n| within 2 u, percent | {' | '.join(map(_words, measures))}"
        f" |\n|{' --- |' * (1 + len(measures))}"
    )
    for name in dict.fromkeys(name for by_name in covers.values() for name in by_name):
        cells = [covers[measure].get(name, ()) for measure in measures]
        print(
            f"| {name} |"
            f" {' | '.join(f'{100 * float(np.mean(s)):.1f}' if s else '' for s in cells)} |",
            flush=True,
        )
    low, high = _ASKED
    print(f"\nNot between {low:.0f} and {high:.0f} %:")
    by_condition: dict[str, list[str]] = defaultdict(list)
    for measure, by_name in sorted(covers.items()):
        for name, shares in by_name.items():
            percent = 100 * float(np.mean(shares))
            if not low <= round(percent, 1) <= high:
                by_condition[name].append(f"{_words(measure)} {percent:.1f}")
    for name, outside in by_condition.items():
        print(f"- {name}: {', '.join(outside)}")


if __name__ == "__main__":
    wanted = [name for name in sys.argv[1:] if name != "--quick"]
    table(wanted, told_wrong=bool(wanted), quick="--quick" in sys.argv)
