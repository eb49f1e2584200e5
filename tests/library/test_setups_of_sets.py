"""A kept setup stands behind the sets that were done since."""

from __future__ import annotations

from guide_arc.core.mechanics.kit import Cable, FreeWeight
from guide_arc.core.mechanics.path_load import placed
from guide_arc.core.simulate.on_path import path_of
from guide_arc.library.own_standards import OwnStandards
from guide_arc.library.reviewing import plan_of
from guide_arc.library.setups import KeptSetup, keep_setup
from guide_arc.library.store import Library
from guide_arc.standards.loader import standard

CURL = "standing-cable-curl"


def kept(library: Library, place: tuple[float, float, float], since: str) -> None:
    feet = path_of(standard(CURL), 1.75).feet
    spots = {
        "left": (feet[0] + place[0], feet[1] + place[1], feet[2] + place[2]),
        "right": (feet[0] - place[0], feet[1] + place[1], feet[2] + place[2]),
    }
    setup = KeptSetup(0, f"hole at {place[1]}", "two shoes out", Cable(20.0, spots), None, since)  # type: ignore[arg-type]
    keep_setup(library, CURL, "Ada Quill", setup)


def pulley(library: Library, set_id: int) -> list[float] | None:
    plan = plan_of(library, library.record(set_id), OwnStandards(library).catalogue())
    return [round(v, 6) for v in plan.pulley_m] if plan.pulley_m else None


def test_the_kept_pulley_holds_for_sets_since_it_was_kept(library: Library, add_set):
    before = add_set("Ada Quill", CURL, reps=3, recorded="2031-03-01")
    after = add_set("Ada Quill", CURL, reps=3, recorded="2031-03-20", seed=8)
    own = pulley(library, before)
    kept(library, (0.1, 1.4, 0.9), "2031-03-10")
    assert pulley(library, before) == own
    assert pulley(library, after) == [0.1, 1.4, 0.9]
    kept(library, (0.0, 0.6, 0.7), "2031-03-15")
    assert pulley(library, after) == [0.0, 0.6, 0.7]


def test_another_client_and_a_kit_without_a_line_change_nothing(library: Library, add_set):
    add_set("Ada Quill", CURL, reps=3, recorded="2031-03-01")
    other = add_set("Cleo Marsh", CURL, reps=3, recorded="2031-03-20", seed=9)
    own = pulley(library, other)
    kept(library, (0.1, 1.4, 0.9), "2031-03-10")
    assert pulley(library, other) == own
    mine = add_set("Ada Quill", CURL, reps=3, recorded="2031-03-21", seed=10)
    weight = KeptSetup(0, "dumbbells", "as usual", FreeWeight(10.0, "dumbbell"), None, "2031-03-18")
    keep_setup(library, CURL, "Ada Quill", weight)
    assert pulley(library, mine) == own


def test_a_setup_stands_where_the_setup_place_puts_it():
    """The offset that is kept is the one that the standard's own file would have."""
    plan = standard(CURL)
    path = path_of(plan, 1.75)
    assert plan.pulley_m is not None
    spots = placed(path, plan.pulley_m)
    assert [a - b for a, b in zip(spots["left"], path.feet, strict=True)] == list(plan.pulley_m)
