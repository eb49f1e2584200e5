"""Makes the pictures in docs/screenshots from the demo data: `./run dev python
tools/screenshots.py`."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from functools import partial
from pathlib import Path

from guide_arc.app.places.marking.document import drawn, placed
from guide_arc.app.places.plan.practice_dialog import PracticeDialog
from guide_arc.app.places.plan.propose_dialog import ProposeDialog
from guide_arc.app.places.review.by_hand import corrected, felt_there
from guide_arc.app.services.destinations import ToClients, ToPlan, ToQueue, ToSetup, ToStandards
from guide_arc.core.mechanics.find_setup import Wish

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "*.warning=false")

from guide_arc.app.widgets.clip_frames import ClipFrames

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtWidgets import QApplication

from guide_arc.app.main import application, settings_at
from guide_arc.app.places.standards.proposal_dialog import ProposalDialog
from guide_arc.capture.film.film import in_film, performed
from guide_arc.capture.tracking.simulated import recipe_of
from guide_arc.core.kinematics.body import Body
from guide_arc.core.kinematics.cleaning import clean
from guide_arc.core.model.settings import Correction
from guide_arc.core.simulate.camera import Camera
from guide_arc.core.simulate.perform import ArmsAtWork, Script, perform
from guide_arc.library.demo import ensure_demo_library
from guide_arc.library.demo_history import fill_weeks
from guide_arc.library.store import Library
from guide_arc.standards.from_set.propose import propose
from guide_arc.standards.loader import standard
from hands import Hands, dialog_of

# Points to pixels.
_PAGE_SCALE = 1.1
TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


# What a model set is performed by, and the file of its picture.
MODEL_SETS: tuple[tuple[str, str, str | None, ArmsAtWork | None], ...] = (
    ("model-set-curl", "standing-barbell-curl", "rising-upper-arm", None),
)


def _standards(window: Hands, shoot: Callable[[str], None]) -> None:
    """The place Standards, and what is proposed from three model sets."""

    def still(at_s: float) -> None:
        window.settle()
        place._settle.stop()
        place._try()
        window.settle()
        place.stage.look_at(at_s)

    window.shell.set_mode("light")
    window.program.go(ToStandards())
    window.settle()
    place = window.standards_place
    window.standards.show(window.standards.doc.choosing("lateral-raise-dumbbell"))
    still(1.0)
    shoot("standards")
    window.standards.show(window.standards.doc.choosing("standing-barbell-curl"))
    place.sheets.show_sheet("Checks")
    place.checks.limits["torso-swing"].setValue(12)
    still(1.1)
    shoot("standards-checks")
    window.shell.set_mode("dark")
    window.standards.show(window.standards.doc.choosing("lateral-raise-dumbbell"))
    window.standards.show(window.standards.doc.of_school("overhead-sweep"))
    place.sheets.show_sheet("Schools")
    still(1.1)
    shoot("standards-schools-dark")
    window.shell.set_mode("light")
    for name, id, school, arms in MODEL_SETS:
        done = perform(standard(id, school), Script(reps=6, arms=arms), Camera(noise=0.003), 4)
        body = Body(clean(done.track, done.track.names))
        found = propose(body, window.program.library.catalogue(), id=name, name="Model set")
        dialog = ProposalDialog(window.shell, found, window.program.colours)
        dialog._clock.stop()
        dialog._at_s = 1.3
        dialog.show()
        QApplication.processEvents()
        dialog.grab().save(str(TARGET / f"{name}.png"))
        dialog.close()


def _settled(frames: ClipFrames | None) -> None:
    """Let the window work until the clip's own frame is there."""
    while frames is not None and not frames.settled:
        QApplication.processEvents()


def _clips(window: Hands, shoot: Callable[[str], None]) -> None:
    """Clips: the drawing over one, two reps of it side by side, and one that is being marked."""
    found, unmarked = (
        next(r.id for r in window.sets.doc.rows if r.has_clip and r.has_track is has_track)
        for has_track in (True, False)
    )
    window.program.go(ToQueue())
    window.shell.set_mode("dark")
    window.open_set(found)
    window.settle()
    stages = window.review_place.stages
    _settled(stages.stage.frames)
    shoot("clip-review-dark")
    window.shell.set_mode("light")
    window.review.show_ghost(window.review.doc.own_ghost(window.shown.review.reps[0].key))
    QApplication.processEvents()
    _settled(stages.stage.frames)
    _settled(stages.beside.frames)
    shoot("clip-beside")
    window.review.show_ghost(None)
    window.open_set(unmarked)
    marking = window.marking
    assert marking.doc.clip is not None
    recipe = recipe_of(marking.doc.clip)
    assert recipe is not None
    done, filming, moves = performed(recipe, standard(recipe["standard"], recipe["school"]))
    truth = in_film(done, filming, moves)
    for name in marking.doc.asked[:-2]:
        side = name.partition("_")[0]
        at = truth.point(f"{side}_index" if name.endswith("knuckles") else name)[0]
        marking.change(placed(marking.doc, float(at[0]), float(at[1])))
    marking.show(marking.doc.using("length"))
    marking.change(drawn(marking.doc, (476.2, 343.7), (476.2, 194.9), 1.0, "a measuring pole"))
    QApplication.processEvents()
    _settled(window.marking_place.view.frames)
    QApplication.processEvents()
    shoot("clip-marking")


def _years(window: Hands, shoot: Callable[[str], None]) -> None:
    """Clients, Plan and Setup, after the demo's twelve weeks."""
    window.shell.set_mode("light")
    window.program.go(ToClients(client="Cleo Marsh", standard="standing-barbell-curl"))
    window.settle()
    model = window.of("clients").model
    model.show(model.doc.choosing_column(len(model.doc.columns) - 2))
    shoot("clients")
    window.program.go(ToPlan("Ada Quill"))
    shoot("plan")
    for command, kind, name in (
        ("plan.propose", ProposeDialog, "plan-proposed"),
        ("plan.practice", PracticeDialog, "plan-practice"),
    ):
        window.do(command)
        dialog = dialog_of(window, kind)
        dialog.grab().save(str(TARGET / f"{name}.png"))
        dialog.reject()
    window.program.go(ToSetup(standard="cable-cross-raise-low", client="Esme Rook"))
    window.settle()
    window.of("setup").model.want(Wish(hardest="middle", no_slack=True))
    window.of("setup").model.find()
    shoot("setup")


def _first_page(pdf: Path, target: Path) -> None:
    """A picture of a PDF's first page."""
    document = QPdfDocument(None)
    document.load(str(pdf))
    size = document.pagePointSize(0) * _PAGE_SCALE
    page = document.render(0, size.toSize())
    out = QImage(page.size(), QImage.Format.Format_RGB32)
    out.fill(Qt.GlobalColor.white)
    painter = QPainter(out)
    painter.drawImage(0, 0, page)
    painter.end()
    out.save(str(target))


def main() -> None:
    app = application()  # held: Qt goes with its last reference
    with tempfile.TemporaryDirectory() as place:
        folder = Path(place) / "library"
        ensure_demo_library(folder)
        library = Library.open(folder)
        window = Hands(folder, settings_at(folder))
        window.shell.resize(1280, 800)

        def shoot(name: str) -> None:
            window.settle()
            app.processEvents()
            window.shell.grab().save(str(TARGET / f"{name}.png"))

        def open_(client: str, standard: str, day: str) -> None:
            row = next(
                r
                for r in library.queue()
                if (r.client, r.standard, r.recorded[:10]) == (client, standard, day)
            )
            window.open_set(row.id)
            window.settle()

        shoot("queue")
        open_("Cleo Marsh", "standing-barbell-curl", "2031-03-25")
        window.review.choose_rep(window.shown.review.reps[7])
        window.review.decide(window.review.doc.findings[0], "keep")
        window.review.decide(window.review.doc.findings[1], "keep")
        shoot("review")
        window.of("review").asking.leaving.save_page(Path(place) / "page.pdf")
        window.settle()
        sheets = window.review_place
        sheets.left.show_sheet("Path")
        sheets.below.show_sheet("Traces")
        sheets.right.show_sheet("Numbers")
        shoot("path-traces-numbers")
        sheets.left.show_sheet("Figure")
        sheets.below.show_sheet("Tempo")
        window.review.set_up(partial(felt_there, spot="front shoulder"))
        window.of("review").compare_with_last()
        window.settle()
        shoot("compare")
        window.review.show_ghost(None)
        sheets.right.show_sheet("What to say")
        rep = window.shown.review.reps[2]
        window.review.set_up(
            partial(corrected, words="Not a rep", correction=Correction("delete", rep.turn_s))
        )
        rep = window.shown.review.reps[4]
        window.review.set_up(
            partial(
                corrected,
                words="Start",
                correction=Correction(
                    "edge", rep.lift.start_s, rep.lift.start_s - 0.3, edge="lift-start"
                ),
            )
        )
        first, last = (
            window.shown.review.reps[0],
            window.shown.review.reps[-2],
        )
        window.review.set_up(
            partial(
                corrected,
                words="End",
                correction=Correction("bounds", first.start_s - 1.0, last.end_s + 0.3),
            )
        )
        window.review.choose_rep(window.shown.review.reps[4])
        window.shell.set_mode("dark")
        shoot("review-by-hand-dark")
        while window.undo_words and not window.undo_words.startswith("Keep"):
            window.undo()
        open_("Dario Venn", "lateral-raise-dumbbell", "2031-03-27")
        shoot("review-from-the-front-dark")
        _clips(window, shoot)
        _standards(window, shoot)
        fill_weeks(library, lambda _share: None)
        _years(window, shoot)
        window.close()
        _first_page(Path(place) / "page.pdf", TARGET / "client-page.png")
        library.close()


if __name__ == "__main__":
    main()
