"""A recorded rep as a setup looks at it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from builders import filmed
from guide_arc.core.mechanics.kit import FreeWeight
from guide_arc.core.mechanics.path_load import load_along, own_kit
from guide_arc.core.mechanics.rep_path import body_of_rep, path_of_rep
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.landmarks import ALL
from guide_arc.core.model.rep import Span
from guide_arc.core.review.assess import review_with_body
from guide_arc.core.simulate.on_path import path_of
from guide_arc.standards.loader import standard


def reviewed_body(id: str, **film):
    done = filmed(id, reps=3, **film)
    review, body, _repset = review_with_body(done.track, standard(id), also=ALL)
    return review, body


@pytest.mark.parametrize(
    "id",
    ["standing-barbell-curl", "cable-cross-raise-low", "lateral-raise-dumbbell", "rope-pushdown"],
)
def test_a_clean_rep_asks_for_what_the_standards_path_does(id):
    plan = standard(id)
    review, body = reviewed_body(id, stature_m=1.75)
    meant = path_of(plan, 1.75)
    done = path_of_rep(body, plan, review.reps[1])
    kit = own_kit(plan, meant)
    asked, was = load_along(meant, kit).curve, load_along(done, kit).curve
    assert was.hardest.nm == pytest.approx(asked.hardest.nm, rel=0.05)
    assert was.hardest.share == pytest.approx(asked.hardest.share, abs=0.08)


def test_a_rep_that_stops_short_has_a_shorter_path():
    plan = standard("standing-barbell-curl")
    review, body = reviewed_body("standing-barbell-curl", faults={"range-short": 50.0})
    path = path_of_rep(body, plan, review.reps[0])
    assert path.share[-1] < 0.75
    assert load_along(path, FreeWeight(10.0, "dumbbell")).curve.hardest is not None


def test_it_stands_on_the_floor_over_the_middle_of_the_hips():
    plan = standard("lateral-raise-dumbbell")
    review, body = reviewed_body("lateral-raise-dumbbell")
    share, points = body_of_rep(body, plan, review.reps[0])
    assert len(share) == 201
    assert (np.diff(share) > 0).all()
    middle = 0.5 * (points["left_hip"][0] + points["right_hip"][0])
    assert middle[[0, 2]] == pytest.approx([0.0, 0.0], abs=1e-9)
    assert min(points[f"{s}_foot"][:, 1].min() for s in ("left", "right")) >= -1e-9


def test_a_picture_and_a_glimpse_are_refused_in_words():
    plan = standard("standing-barbell-curl")
    review, body = reviewed_body("standing-barbell-curl", view="left", noise=1.0)
    with pytest.raises(BadInput, match="shows no depth"):
        body_of_rep(body, plan, review.reps[0])
    crunch, trunk = reviewed_body("kneeling-cable-crunch")
    with pytest.raises(BadInput, match="moves the trunk"):
        body_of_rep(trunk, standard("kneeling-cable-crunch"), crunch.reps[0])
    review, body = reviewed_body("standing-barbell-curl")
    rep = review.reps[0]
    glimpse = replace(rep, lift=Span(rep.lift.start_s, rep.lift.start_s + 0.1))
    with pytest.raises(BadInput, match="too little of rep 1"):
        body_of_rep(body, plan, glimpse)
