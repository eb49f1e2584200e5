"""The dialog for what leaves the program: which form, and how."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QCheckBox, QListWidget, QListWidgetItem, QWidget

from guide_arc.app.places.details import AskingDialog

Kind = Literal["clip", "still", "subtitles", "track", "measures", "reps", "keypoints", "bundle"]


@dataclass(frozen=True)
class ExportKind:
    """needs : "clip" for what only a set with a clip has, "world" and "image" for what its track must be"""

    kind: Kind
    words: str
    help: str
    ending: str
    filter: str
    needs: str = ""


KINDS: Final[tuple[ExportKind, ...]] = (
    ExportKind("clip", "Annotated clip", "The set's clip with the drawing on it, slow at the faults", ".mp4", "MP4 clip (*.mp4)", "clip"),
    ExportKind("still", "Still picture", "This moment as it stands on the stage", ".png", "Picture (*.png);;Drawing (*.svg)"),
    ExportKind("subtitles", "Cues as subtitles", "WebVTT, to play beside the clip", ".vtt", "Subtitles (*.vtt)"),
    ExportKind("reps", "Reps as a table", "One row a rep: phases, range, what is off", ".csv", "CSV (*.csv)"),
    ExportKind("measures", "Measures as a table", "Every measure over time with its uncertainty", ".csv", "CSV (*.csv)"),
    ExportKind("track", "Landmark track", "CSV, JSON; C3D or TRC where it is in space", ".csv", "CSV (*.csv);;JSON (*.json);;C3D (*.c3d);;TRC (*.trc)"),
    ExportKind("keypoints", "Keypoints", "JSON in the common ordering of 17 points", ".json", "JSON (*.json)", "image"),
    ExportKind("bundle", "The whole set", "One ZIP with clip, track and what is known of the set", ".zip", "Set (*.zip)"),
)  # fmt: skip


class ExportDialog(AskingDialog):
    """One list of what can leave; two questions about the clip."""

    def __init__(self, parent: QWidget, has_clip: bool, in_space: bool) -> None:
        super().__init__(parent, "Export", "Choose where…")
        self.setMinimumWidth(520)
        self.kinds = QListWidget()
        self.kinds.setMinimumHeight(236)
        for kind in KINDS:
            if (kind.needs == "clip" and not has_clip) or (kind.needs == "image" and in_space):
                continue
            item = QListWidgetItem(f"{kind.words}: {kind.help[0].lower() + kind.help[1:]}"
                                   if kind.help[:3] not in ("CSV", "Web", "JSO") else f"{kind.words}: {kind.help}")  # fmt: skip
            item.setData(Qt.ItemDataRole.UserRole, kind)
            self.kinds.addItem(item)
        self.kinds.setCurrentRow(0)
        self.kinds.currentRowChanged.connect(lambda _row: self._ask())
        self.kinds.itemDoubleClicked.connect(lambda _item: self.try_accept())
        self.slow = QCheckBox("Slow motion at the faults")
        self.slow.setChecked(True)
        self.face = QCheckBox("Cover the client's face")
        self.box.addWidget(self.kinds)
        self.box.addWidget(self.slow)
        self.box.addWidget(self.face)
        self.finish()
        self._ask()

    def chosen(self) -> ExportKind:
        item = self.kinds.currentItem()
        assert item is not None
        kind: ExportKind = item.data(Qt.ItemDataRole.UserRole)
        return kind

    def _ask(self) -> None:
        clip = self.chosen().kind == "clip"
        self.slow.setVisible(clip)
        self.face.setVisible(clip)
