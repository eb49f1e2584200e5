"""The review of a set: clean, measure, split into reps, check, rank, prescribe."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Final

import numpy as np

from guide_arc.core.checks.context import SetContext
from guide_arc.core.checks.registry import check_of, spec_of
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.measures.registry import spec_of_measure
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.landmarks import SIDES
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.rep import Rep
from guide_arc.core.model.review import Review
from guide_arc.core.model.settings import ENTRY, PLAIN, Saw, Settings
from guide_arc.core.model.standard import TRUNK_DRIVES, Standard, Tempo
from guide_arc.core.model.track import LandmarkTrack, View
from guide_arc.core.planning.history import NO_PAST, Past
from guide_arc.core.reps.segment import RepSet, find_reps
from guide_arc.core.review.allow import allowing
from guide_arc.core.review.aside import judged_from_aside
from guide_arc.core.review.causes import causes_of
from guide_arc.core.review.drift_load import drift_causes
from guide_arc.core.review.prescribe import next_time
from guide_arc.core.review.rank import ranked
from guide_arc.core.review.remedy import with_remedies
from guide_arc.core.review.trends import broke_down, off_by_rep
from guide_arc.core.review.trust import trust_in

Progress = Callable[[float], None]

_ALWAYS: Final = ("elbow_flexion", "shoulder_elevation", "trunk_lean", "shoulder_hike")


def merged(asked: Tempo | None, own: Tempo) -> Tempo:
    """The tempo to hold a set against: the given value, or else the standard's own."""
    return own if asked is None else asked


def review_set(
    track: LandmarkTrack,
    standard: Standard,
    tempo: Tempo | None = None,
    progress: Progress | None = None,
    settings: Settings = PLAIN,
    past: Past = NO_PAST,
) -> Review:
    """Review a recorded set against a standard as one school sees it.

    tempo : what was asked of this set; None takes the standard's own
    progress : called with a share from 0 to 1 between steps; may raise to stop the work
    settings : what the coach adds by hand
    past : what is known of the client, also used for the next dose

    Raises BadInput when the track can't be reviewed (fewer than 2 frames, no trunk in view).
    """
    return review_with_body(track, standard, tempo, progress, settings=settings, past=past)[0]


def review_with_body(
    track: LandmarkTrack,
    standard: Standard,
    tempo: Tempo | None = None,
    progress: Progress | None = None,
    also: tuple[str, ...] = (),
    settings: Settings = PLAIN,
    past: Past = NO_PAST,
) -> tuple[Review, Body, RepSet]:
    """As `review_set`, with the measured body and the drives for those who draw them.

    also : further landmarks to clean, for showing
    """
    step = progress or (lambda _share: None)
    step(0.0)
    cleaned = clean(track, (*landmarks_for(standard, track.view), *also))
    step(0.5)
    return review_body(
        Body(cleaned), standard, tempo, settings, lambda s: step(0.5 + 0.5 * s), past
    )


def with_partials(standard: Standard, reps: tuple[Rep, ...], settings: Settings) -> Standard:
    """The standard with as many partial reps asked for at the end as the coach says there were."""
    start_s = settings.partials_from_s
    if start_s is None:
        return standard
    count = sum(not r.full and r.turn_s >= start_s for r in reps)
    return replace(standard, dose=replace(standard.dose, partials=count))


def review_body(
    body: Body,
    standard: Standard,
    tempo: Tempo | None = None,
    settings: Settings = PLAIN,
    progress: Progress | None = None,
    past: Past = NO_PAST,
) -> tuple[Review, Body, RepSet]:
    """The review of a body that is measured already: what a correction by hand asks for.

    Measures are kept by the body, so that only what the settings change is computed again.
    """
    step = progress or (lambda _share: None)
    repset = find_reps(body, standard, settings)
    body = body.counted_from(repset.first_lift_s)
    standard = with_partials(standard, repset.reps, settings)
    step(0.4)
    context = context_of(body, repset, standard, tempo)
    found: list[Finding] = []
    for i, rule in enumerate(standard.checks):
        found.extend(check_of(rule.name)(context, rule))
        step(0.4 + 0.5 * (i + 1) / len(standard.checks))
    reps = repset.reps
    found = judged_from_aside(found, body.cleaned)
    found = with_remedies(found, standard, body.cleaned.track.view, repset.side)
    found = [replace(f, eye=_saw(settings, f)) for f in found] if settings.eye else found
    findings = ranked(allowing(found, reps, settings.loose_last))
    off = off_by_rep(reps, findings)
    trust = trust_in(body, repset, standard, findings)
    lower = [rep.lower.length_s for rep in reps]
    track = body.cleaned.track
    review = Review(
        standard=standard,
        tempo=context.tempo,
        settings=settings,
        frames=track.frames,
        duration_s=track.duration_s,
        side=repset.side,
        reps=reps,
        findings=findings,
        trust=trust,
        under_tension_s=float(sum(rep.under_load_s for rep in reps)),
        lower_first_last_s=(lower[0], lower[-1]) if lower else None,
        range_by_rep=tuple(
            Quantity(abs(r.to_deg - r.from_deg), float(np.sqrt(2) * trust.angle_u_deg))
            for r in reps
        ),
        loose=tuple(key for key, names in off.items() if names),
        broke_down=broke_down(reps, off),
        causes=(
            *causes_of(standard, findings, settings.felt, past.feel),
            *drift_causes(body, standard, reps, findings),
        ),
        next_time=next_time(
            standard,
            context.tempo,
            reps,
            findings,
            track.facts.load_kg,
            felt=settings.felt,
            past=past,
            entry_is_right=settings.seen_by_eye(ENTRY) is not None,
        ),
    )
    step(1.0)
    return review, body, repset


def _saw(settings: Settings, finding: Finding) -> Saw | None:
    answer = settings.seen_by_eye(finding.key)
    return None if answer is None else answer.saw


def context_of(
    body: Body, repset: RepSet, standard: Standard, tempo: Tempo | None = None
) -> SetContext:
    """A measured set as the checks and the figures see it."""
    return SetContext(standard, merged(tempo, standard.tempo), body, repset)


def landmarks_for(standard: Standard, view: View = "none") -> tuple[str, ...]:
    """The landmarks that a review against this standard rests on."""
    measures = set(_ALWAYS)
    names = ["nose"]
    for rule in standard.checks:
        needed = spec_of(rule.name)
        measures.update(needed.needs)
        names += [point.format(side=side) for point in needed.needs_points for side in SIDES]
        if rule.target == "opposite-knee":
            names += [f"{side}_knee" for side in SIDES]
    if standard.arms == "one" and standard.drive in TRUNK_DRIVES:
        measures.add("trunk_rotation")
    if view != "none":
        # Things that should be plumb or level show the camera's roll.
        names += [f"{side}_{part}" for side in SIDES for part in ("ankle", "heel", "foot")]
    for measure in measures:
        for side in SIDES:
            names.extend(spec_of_measure(measure).points(side))
    return tuple(dict.fromkeys(names))
