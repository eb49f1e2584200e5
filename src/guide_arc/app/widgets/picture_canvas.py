"""A canvas over a clip's picture, zoomed with the wheel and dragged about."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QResizeEvent, QWheelEvent

from guide_arc.app.widgets.canvas import Canvas
from guide_arc.app.widgets.clip_frames import ClipFrames
from guide_arc.drawings.on_picture import Placed, fitted
from guide_arc.drawings.palette import PICTURE

# (x0, y0, x1, y1) in picture pixels.
Box = tuple[float, float, float, float]

_MOST_ZOOM: Final = 8.0
# The room about the person, which drawings/on_picture.py leaves, may be used up by so much.
_INTO_THE_ROOM: Final = 1.16
_ZOOM_STEP: Final = 1.25


class PictureCanvas(Canvas):
    """Shows one clip's frame under what a subclass draws."""

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__(colours)
        self.frames: ClipFrames | None = None
        self.zoom = 1.0
        self.middle: tuple[float, float] | None = None
        self._about: Box | None = None
        self._whole = False
        self._drag: QPointF | None = None

    def show_clip(self, frames: ClipFrames | None, about: Box | None = None) -> None:
        """Another clip, or none. about : the part of the picture to show at first, where not all of
        it"""
        if frames is not self.frames:
            if self.frames is not None:
                self.frames.came.disconnect(self.redraw)
            self.frames = frames
            if frames is not None:
                frames.came.connect(self.redraw)
            self._whole, self._about = False, None
        if about != self._about:
            self._about = about
            self._look_at_part()
        self.redraw()

    def _look_at_part(self) -> None:
        """Scaled so that the requested part fits on the sheet."""
        self.zoom, self.middle = 1.0, None
        if self._about is None or self._whole or self.frames is None:
            return
        x0, y0, x1, y1 = self._about
        clip = self.frames.clip
        whole = min(self.width() / clip.width, self.height() / clip.height)
        part = min(self.width() / max(x1 - x0, 1.0), self.height() / max(y1 - y0, 1.0))
        # A strip without picture goes where the room about the person allows it.
        cover = max(self.width() / clip.width, self.height() / clip.height)
        part = max(part, min(cover, _INTO_THE_ROOM * part))
        self.zoom = min(max(part / max(whole, 1e-6), 1.0), _MOST_ZOOM)
        scale = whole * self.zoom
        self.middle = (
            (
                _inside(0.5 * (x0 + x1), clip.width, self.width() / scale),
                _inside(0.5 * (y0 + y1), clip.height, self.height() / scale),
            )
            if self.zoom > 1.0
            else None
        )

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._look_at_part()

    def shows_picture(self) -> bool:
        return self.frames is not None

    def placed(self) -> Placed | None:
        """Where the picture is on this sheet."""
        if self.frames is None or not self.shows_picture():
            return None
        clip = self.frames.clip
        return fitted(clip.width, clip.height, self.width(), self.height(), self.zoom, self.middle)

    def ask_for(self, number: int, *, playing: bool = False) -> None:
        """Ask for a frame as large as it is shown."""
        placed = self.placed()
        if self.frames is not None and placed is not None:
            wide = placed.zoom * self.frames.clip.width * self.devicePixelRatioF()
            # In steps, so that every turn of the wheel does not decode again.
            self.frames.show(number, 160 * (int(wide) // 160 + 1), playing=playing)

    def palette_for(self) -> Mapping[str, str]:
        return PICTURE if self.shows_picture() else self.colours

    def under(self, painter: QPainter) -> None:
        placed = self.placed()
        if placed is None or self.frames is None:
            return
        painter.fillRect(self.rect(), QColor(PICTURE["panel"]))
        clip, picture = self.frames.clip, self.frames.picture
        box = QRectF(placed.left, placed.top, placed.zoom * clip.width, placed.zoom * clip.height)
        if picture is not None:
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(box, picture)

    # Zoom and pan

    def zoom_by(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller about a point of the sheet, the middle without one."""
        placed = self.placed()
        if placed is None:
            return
        spot = at or QPointF(self.width() / 2, self.height() / 2)
        x, y = placed.to_picture(spot.x(), spot.y())
        zoom = min(max(self.zoom * factor, 1.0), _MOST_ZOOM)
        share = placed.zoom * zoom / self.zoom
        self.zoom = zoom
        self.middle = (
            None
            if zoom == 1.0
            else (
                x + (self.width() / 2 - spot.x()) / share,
                y + (self.height() / 2 - spot.y()) / share,
            )
        )
        self.redraw()

    def zoom_away(self) -> None:
        """The whole picture; again, the part that was shown at first."""
        self._whole = not self._whole
        self._look_at_part()
        self.redraw()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is not None and self.shows_picture():
            steps = event.angleDelta().y() / 120.0
            self.zoom_by(_ZOOM_STEP**steps, event.position())

    def start_pan(self, at: QPointF) -> None:
        """From here on the picture follows the mouse, if it is larger than the sheet."""
        if self.zoom > 1.0:
            self._drag = at

    def pan_to(self, at: QPointF) -> bool:
        """Move the picture along; whether it is being dragged."""
        placed = self.placed()
        if self._drag is None or placed is None:
            return False
        step = at - self._drag
        self._drag = at
        self.middle = placed.to_picture(self.width() / 2 - step.x(), self.height() / 2 - step.y())
        self.redraw()
        return True

    def end_pan(self) -> bool:
        """Let go of the picture; whether it was being dragged."""
        dragged, self._drag = self._drag is not None, None
        return dragged

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None and event.button() == Qt.MouseButton.LeftButton:
            self.start_pan(event.position())

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self.pan_to(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self.end_pan()

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self.zoom_away()


def _inside(middle: float, long: float, shown: float) -> float:
    """The middle of what is shown of a picture's side, moved so that nothing beyond its ends is, if
    it is long enough."""
    return min(max(middle, 0.5 * shown), long - 0.5 * shown) if shown <= long else 0.5 * long
