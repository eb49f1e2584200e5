"""How the arm goes along the lift: as which school, and with the elbow bent otherwise than
asked."""

from __future__ import annotations

from dataclasses import replace

from guide_arc.app.places.setup.document import SetupDocument
from guide_arc.app.places.setup.meaning import MeaningLine
from guide_arc.core.mechanics.arm_way import with_bend
from guide_arc.core.mechanics.compare import as_hard
from guide_arc.core.mechanics.kit import Cable, FreeWeight
from guide_arc.core.simulate.on_path import path_of


def next_school(doc: SetupDocument) -> str:
    """The school after the one that is shown; empty if there is one alone."""
    plan = doc.plan
    if plan is None or len(plan.schools) < 2:
        return ""
    ids = [s.id for s in plan.schools]
    return ids[(ids.index(plan.school.id) + 1) % len(ids)]


def bent(doc: SetupDocument, by_deg: float) -> SetupDocument:
    """The elbow held more bent all along the lift. Raises BadInput if no arm goes like that."""
    assert doc.known is not None
    with_bend(doc.known.plan, doc.bend_deg + by_deg)
    return replace(doc, bend_deg=doc.bend_deg + by_deg)


def arm_way_says(doc: SetupDocument) -> tuple[MeaningLine, ...]:
    """What another bend of the elbow is worth in kilograms."""
    load, kit, known = doc.load, doc.kit, doc.known
    if not doc.bend_deg or known is None or load is None or load.curve.hardest is None:
        return ()
    asked = known.plan.turn.elbow_deg
    told = f"With the elbow bent {asked + doc.bend_deg:.0f}° instead of {asked:.0f}°"
    as_asked = path_of(known.plan, doc.stature_m, doc.bench_deg, joint=load.path.joint)
    kg = as_hard(as_asked, kit, load.curve.hardest.nm) if kit is not None else None
    if not isinstance(kit, FreeWeight | Cable) or not kg:
        return (MeaningLine("ok", f"{told}.", "What it is worth in kilograms needs a weight."),)
    equal = kit.kg * kit.kg / kg
    return (
        MeaningLine(
            "ok",
            f"{told}, {equal:.1f} kg is as hard as {kit.kg:g} kg.",
            "Start with less than that." if equal > kit.kg else "",
        ),
    )
