"""A measure is one file: it is then measured, traced, chosen, exported and documented."""

from __future__ import annotations

import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest

from builders import filmed, measured_set
from guide_arc.core.kinematics.body import Body, _all_parts
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.kinematics.measures.registry import all_measures, measures
from guide_arc.core.kinematics.views import how_to_see, shown
from guide_arc.core.review.measure_all import measure_all
from guide_arc.drawings.traces import can_show, series_of, trace_words
from guide_arc.formats.measures_csv import measures_text
from hands import Hands
from toys import one_file_more

STANCE = '''"""How far apart the feet stand."""

from guide_arc.core.kinematics.measures.spec import MeasureSpec
from guide_arc.core.kinematics.vectors import length, unit
import numpy as np


def stance(p):
    """The angle at the hips between the two feet."""
    hips = 0.5 * (p["left_hip"] + p["right_hip"])
    left, right = unit(p["left_ankle"] - hips), unit(p["right_ankle"] - hips)
    return np.degrees(2.0 * np.arcsin(np.clip(0.5 * length(left - right), 0.0, 1.0)))


SPEC = MeasureSpec(
    name="stance",
    unit="deg",
    order=140,
    parts=("left_hip", "right_hip", "left_ankle", "right_ankle"),
    formula=stance,
    words="feet apart",
    per_side=False,
    from_front=True,
)
'''


@pytest.fixture
def stance(tmp_path: Path) -> Iterator[None]:
    kept = (measures, all_measures, _all_parts)
    with one_file_more(tmp_path, "guide_arc.core.kinematics.measures", "stance", STANCE, kept):
        yield
    assert "stance" not in measures()


def test_it_is_measured_with_its_uncertainty_where_a_view_shows_it(stance):
    in_space = Body(clean(filmed("lateral-raise-dumbbell", reps=2).track)).measure("stance")
    assert in_space.unit == "deg"
    assert 10.0 < np.nanmedian(in_space.value) < 45.0
    assert 0.0 < np.nanmedian(in_space.u) < 5.0
    aside = Body(clean(filmed("lateral-raise-dumbbell", reps=2, view="left", noise=1.0).track))
    assert np.isnan(aside.measure("stance").value).all()
    assert ("stance", None) in shown("front")
    assert ("stance", None) not in shown("left")
    assert how_to_see("stance", "left", None) == "film from the front"


def test_it_is_traced_under_its_own_words(stance):
    measured = measured_set("lateral-raise-dumbbell", reps=2)
    assert ("stance", None) in can_show(measured)
    assert trace_words(("stance", None)) == "feet apart"
    assert np.isfinite(series_of(measured, ("stance", None)).value).any()


def test_it_is_a_column_of_what_is_exported(stance):
    track = filmed("lateral-raise-dumbbell", reps=2).track
    head = measures_text(track.time_s, measure_all(track, None)).splitlines()[0]
    assert head.endswith("stance,stance_u")


def test_it_can_be_chosen_in_the_review(stance, add_set, window: Hands):
    window.open_set(add_set("Cleo Marsh", "lateral-raise-dumbbell", reps=2))
    window.settle()
    assert "feet apart" in [trace_words(t) for t in can_show(window.shown)]
    window.do("view.traces")
    window.review_place.traces.want((("stance", None),))
    assert "feet apart" in " ".join(window.review_place.traces.drawn(800, 200).words())


def test_the_page_of_measures_says_what_it_is(stance):
    sys.path.insert(0, str(Path(__file__).parents[2] / "tools"))
    import measures_doc

    said = measures_doc.section(measures()["stance"])
    assert "## stance\n\nHow far apart the feet stand. The angle at the hips" in said
    assert "Shown as “feet apart”, in degrees, for the whole trunk. From the front or back" in said
