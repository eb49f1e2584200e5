"""What the setup means, in plain sentences, one after the other."""

from __future__ import annotations

from guide_arc.app.places.setup.arm_way import arm_way_says
from guide_arc.app.places.setup.beside import beside_says
from guide_arc.app.places.setup.document import SetupDocument, kit_words
from guide_arc.app.places.setup.joints import joints_say
from guide_arc.app.places.setup.meaning import MeaningLine, arms_words, fibre_words, meaning
from guide_arc.core.mechanics.path_load import elbow_way


def says(doc: SetupDocument) -> tuple[MeaningLine, ...]:
    load, plan = doc.load, doc.plan
    if load is None or doc.kit is None or plan is None:
        return ()
    found = doc.found_setup
    words = kit_words(doc, found.kit, found.bench_deg) if found else ""
    return (
        *meaning(load, doc.kit, doc.wish, found, words, doc.in_the_way if doc.found else ""),
        *(arms_words(load) if doc.on_rep else ()),
        *arm_way_says(doc),
        *joints_say(doc),
        *beside_says(doc),
        *fibre_words(elbow_way(doc.lift.points), plan.line),
    )
