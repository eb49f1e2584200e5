"""The frames of a clip as Qt shows them."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal, pyqtSlot
from PyQt6.QtGui import QImage

from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.server import FrameServer, FrameWish, Shown


class ClipFrames(QObject):
    """One clip's frames, asked for by number; `came` is emitted when another picture is ready.

    Close it before it is dropped: it has a thread.
    """

    came = pyqtSignal()
    _given = pyqtSignal(object)

    def __init__(self, clip: Clip, proxy: Clip | None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.clip = clip
        self.picture: QImage | None = None
        self.number = -1
        self.rough = False
        self.wrong = ""
        self._wish: FrameWish | None = None
        self._data = b""
        self._given.connect(self._take)
        self._server = FrameServer(clip, proxy, self._given.emit)

    def show(self, number: int, width: int, *, playing: bool = False) -> None:
        """Ask for a frame, no wider than `width` pixels. Asking for the same again asks nothing."""
        wish = FrameWish(number, min(max(width, 64), self.clip.width), playing)
        if wish != self._wish:
            self._wish = wish
            self._server.want(wish)

    def with_proxy(self, proxy: Clip) -> None:
        self._server.with_proxy(proxy)

    @pyqtSlot(object)
    def _take(self, shown: Shown) -> None:
        self.wrong = shown.wrong
        if shown.picture is not None:
            high, wide, _ = shown.picture.shape
            self._data = shown.picture.tobytes()  # Qt reads it in place
            self.picture = QImage(self._data, wide, high, 3 * wide, QImage.Format.Format_RGB888)
            self.number, self.rough = shown.number, shown.rough
        self.came.emit()

    @property
    def settled(self) -> bool:
        """Whether the wished frame itself is there."""
        return bool(self.wrong) or (
            self._wish is not None and self.number == self._wish.number and not self.rough
        )

    def close(self) -> None:
        self._server.close()
