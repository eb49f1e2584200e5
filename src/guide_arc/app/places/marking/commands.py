"""What can be done while a clip is marked."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.command import Command
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.places.marking import document

if TYPE_CHECKING:
    from guide_arc.app.places.marking.model import MarkingModel
    from guide_arc.app.places.marking.place import MarkingPlace


def _open(place: MarkingPlace) -> bool:
    return place.model.doc.record is not None


def _model(act: Callable[[MarkingModel], object]) -> Callable[[MarkingPlace], object]:
    """An action of the model without arguments."""
    return lambda place: act(place.model)


def _meant(number: int) -> Command[MarkingPlace]:
    """One of the people in view, by their number."""
    return Command(
        f"marking.meant-{number}",
        f"Person {number} is meant",
        "Landmarks",
        (str(number),),
        "Of several people in view, this one is meant",
        run=_model(lambda m: m.mean(number - 1)),
        when=lambda place: len(place.model.doc.people) >= number,
    )


COMMANDS: Final[tuple[Command[MarkingPlace], ...]] = (
    *(_meant(number) for number in (1, 2, 3, 4)),
    Command(
        "marking.review",
        "Review this set",
        "Go",
        ("Return",),
        "Go to what was found, where something was",
        run=lambda p: p.go_to_review(),
        when=_open,
    ),
    Command(
        "marking.follow",
        "Follow the marks",
        "Landmarks",
        ("Ctrl+Return",),
        "Find every marked point in the whole clip",
        run=lambda p: p.follow_marks(),
        when=_open,
    ),
    Command(
        "marking.next-frame",
        "Next frame",
        "Landmarks",
        (".", "Right"),
        "One frame on",
        run=_model(lambda m: m.go_to(m.doc.frame + 1)),
        when=_open,
    ),
    Command(
        "marking.previous-frame",
        "Previous frame",
        "Landmarks",
        (",", "Left"),
        "One frame back",
        run=_model(lambda m: m.go_to(m.doc.frame - 1)),
        when=_open,
    ),
    Command(
        "marking.next-point",
        "Next point",
        "Landmarks",
        ("Down",),
        "The next point to mark",
        run=_model(lambda m: m.show(m.doc.stepped_point(1))),
        when=_open,
    ),
    Command(
        "marking.previous-point",
        "Previous point",
        "Landmarks",
        ("Up",),
        "The point before",
        run=_model(lambda m: m.show(m.doc.stepped_point(-1))),
        when=_open,
    ),
    Command(
        "marking.remove",
        "Take the mark away",
        "Landmarks",
        ("Backspace",),
        "Take the chosen point's mark on this frame away",
        run=_model(lambda m: m.change(document.taken_away(m.doc))),
        when=_open,
    ),
    Command(
        "marking.doubt",
        "Look again",
        "Landmarks",
        ("Q",),
        "The next place where the tracker doubts",
        run=_model(lambda m: m.next_doubt()),
        when=_open,
    ),
    Command(
        "marking.doubt-before",
        "Look again before",
        "Landmarks",
        ("Shift+Q",),
        "The doubt before",
        run=_model(lambda m: m.next_doubt(-1)),
        when=_open,
    ),
    Command(
        "marking.length",
        "Known length",
        "Landmarks",
        ("Ctrl+1",),
        "Draw a line of known length: scale",
        run=_model(lambda m: m.show(m.doc.using("length"))),
        when=_open,
    ),
    Command(
        "marking.plumb",
        "Plumb line",
        "Landmarks",
        ("Ctrl+2",),
        "Draw along what is truly upright",
        run=_model(lambda m: m.show(m.doc.using("plumb"))),
        when=_open,
    ),
    Command(
        "marking.level",
        "Level line",
        "Landmarks",
        ("Ctrl+3",),
        "Draw along what is truly level",
        run=_model(lambda m: m.show(m.doc.using("level"))),
        when=_open,
    ),
    Command(
        "marking.person",
        "This person",
        "Landmarks",
        ("Ctrl+4",),
        "Draw a box about the person meant",
        run=_model(lambda m: m.show(m.doc.using("person"))),
        when=_open,
    ),
    Command(
        "marking.zoom-in",
        "Zoom in",
        "View",
        ("+", "="),
        "Larger; the wheel does it as well",
        run=lambda p: p.view.zoom_by(1.25),
        when=_open,
    ),
    Command(
        "marking.zoom-out",
        "Zoom out",
        "View",
        ("-",),
        "Smaller",
        run=lambda p: p.view.zoom_by(0.8),
        when=_open,
    ),
    Command(
        "marking.zoom-away",
        "Whole picture",
        "View",
        ("0",),
        "The whole picture again",
        run=lambda p: p.view.zoom_away(),
        when=_open,
    ),
)
