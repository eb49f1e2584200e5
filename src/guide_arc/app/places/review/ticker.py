"""The timer that drives the review's clock while it plays, and the words of the time line."""

from __future__ import annotations

from typing import Final

from PyQt6.QtCore import QElapsedTimer, QObject, Qt, QTimer

from guide_arc.app.places.review.document import ReviewDocument
from guide_arc.app.places.review.playback import SPEEDS, Playback

_TICK_MS: Final = 16


class Ticker:
    """Moves a playback on by the time that went by."""

    def __init__(self, playback: Playback, parent: QObject) -> None:
        self._playback = playback
        self._timer = QTimer(parent)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_TICK_MS)
        self._timer.timeout.connect(self._tick)
        self._wall = QElapsedTimer()

    @property
    def ticking(self) -> bool:
        """Whether the clock runs."""
        return self._timer.isActive()

    def follow(self) -> None:
        """Run while the playback plays, and rest while it does not."""
        if self._playback.playing and not self._timer.isActive():
            self._wall.start()
            self._timer.start()
        elif not self._playback.playing:
            self._timer.stop()

    def stop(self) -> None:
        self._timer.stop()

    def _tick(self) -> None:
        self._playback.tick(self._wall.restart() / 1000.0)


def clock_words(doc: ReviewDocument, playback: Playback) -> str:
    """Time under tension, how the lowering changed, which reps were loose, and the speed."""
    if doc.measured is None:
        return ""
    review = doc.measured.review
    speed = SPEEDS[playback.speed]
    speed = f" · {speed}" if speed else ""
    loop = " · looping the rep" if playback.loop else ""
    words = f"under tension {review.under_tension_s:.0f} s"
    if review.lower_first_last_s:
        first, last = review.lower_first_last_s
        words += f" · lowering {first:.1f} s in the first rep, {last:.1f} s in the last"
    if review.broke_down is not None:
        words += f" · {review.broke_down.says}"
    elif review.loose and len(review.loose) < len(review.reps):
        strict = len(review.reps) - len(review.loose)
        words += f" · {strict} strict reps, {len(review.loose)} loose"
    return words + speed + loop
