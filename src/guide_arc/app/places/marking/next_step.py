"""What the marking place asks for next."""

from __future__ import annotations

from typing import Final

from guide_arc.app.places.marking.document import MarkingDocument
from guide_arc.drawings.marking import point_words

# A point that is lost for more of a clip is not mended by a click or two.
_OFTEN_LOST: Final = 0.2
_NEEDS: Final = (
    " It was lost in {:.0f} % of the clip: it hardly stands out from what is behind it. Next time a"
    " strip of tape on it, or a shirt of another colour than the trunk's or the wall's, lets it be"
    " followed."
)


def next_words(doc: MarkingDocument) -> str:
    """What to do next, in a sentence."""
    if doc.tool in ("length", "plumb", "level"):
        return "Draw the line from one end to the other."
    if doc.people:
        keys = " or ".join(str(i) for i in range(1, len(doc.people) + 1))
        count = len(doc.people)
        return f"{count} people are in view. Click the one who is meant, or press {keys}."
    if doc.tool == "person":
        return "Draw a box about the person, head to feet."
    doubt = next(
        (d for d in doc.doubts if d.point == doc.point and d.start <= doc.frame < d.stop),
        None,
    )
    if doubt is not None:
        lost = doc.lost_share(doc.point)
        needs = _NEEDS.format(100 * lost) if lost > _OFTEN_LOST else ""
        return f"Is the {point_words(doc.point).lower()} here? Click where it is.{needs}"
    left = [n for n in doc.asked if n not in doc.marks.points]
    if not left and doc.point in doc.asked:
        return "All is marked. Follow the marks, or click to correct one."
    return f"Click the {point_words(doc.point).lower()}."
