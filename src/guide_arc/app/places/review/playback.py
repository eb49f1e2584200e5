"""The clock of the review: time, running or not, speed, and loop."""

from __future__ import annotations

from typing import Final

from guide_arc.app.contract.signal import Signal
from guide_arc.core.model.rep import Span

# The speeds that can be played at, slowest first, with their words.
SPEEDS: Final[dict[float, str]] = {
    0.125: "an eighth of the speed",
    0.25: "quarter speed",
    0.5: "half speed",
    1.0: "",
    1.5: "one and a half times as fast",
    2.0: "double speed",
}


class Playback:
    """A clock over the samples of one recording."""

    moved: Signal[float] = Signal()
    changed: Signal[()] = Signal()

    def __init__(self) -> None:
        self._times: tuple[float, ...] = (0.0,)
        self._at_s = 0.0
        self.playing = False
        self.speed = 1.0
        self.loop: Span | None = None

    @property
    def at_s(self) -> float:
        return self._at_s

    @property
    def start_s(self) -> float:
        return self._times[0]

    @property
    def end_s(self) -> float:
        return self._times[-1]

    def load(self, times: tuple[float, ...], at_s: float) -> None:
        """Another recording: its sample times, and the first time to show. Said by whoever opens
        it."""
        self._times = times or (0.0,)
        self.playing, self.loop = False, None
        self._at_s = min(max(at_s, self.start_s), self.end_s)

    def go_to(self, at_s: float) -> None:
        at_s = min(max(at_s, self.start_s), self.end_s)
        if at_s != self._at_s:
            self._at_s = at_s
            self.moved.emit(at_s)

    def step(self, frames: int) -> None:
        """Frames forward or back, to the exact sample."""
        self.pause()
        near = min(range(len(self._times)), key=lambda i: abs(self._times[i] - self._at_s))
        self.go_to(self._times[min(max(near + frames, 0), len(self._times) - 1)])

    def tick(self, elapsed_s: float) -> None:
        """Time has passed on the wall; move on, round the loop, or stop at the end."""
        if not self.playing:
            return
        at = self._at_s + elapsed_s * self.speed
        first = self.loop.start_s if self.loop else self.start_s
        last = self.loop.end_s if self.loop else self.end_s
        if at >= last:
            if self.loop:
                at = first + (at - last) % max(self.loop.length_s, 1e-3)
            else:
                self.pause()
                at = last
        self.go_to(at)

    def toggle(self) -> None:
        if self.playing:
            self.pause()
            return
        end = self.loop.end_s if self.loop else self.end_s
        if self._at_s >= end - 1e-6:
            self.go_to(self.loop.start_s if self.loop else self.start_s)
        self.playing = True
        self.changed.emit()

    def pause(self) -> None:
        if self.playing:
            self.playing = False
            self.changed.emit()

    def set_speed(self, speed: float) -> None:
        if speed != self.speed:
            self.speed = speed
            self.changed.emit()

    def change_speed(self, by: int) -> None:
        """The next faster or slower speed."""
        speeds = list(SPEEDS)
        at = speeds.index(self.speed) + by
        self.set_speed(speeds[min(max(at, 0), len(speeds) - 1)])

    def set_loop(self, loop: Span | None) -> None:
        if loop != self.loop:
            self.loop = loop
            if loop and not loop.start_s <= self._at_s <= loop.end_s:
                self.go_to(loop.start_s)
            self.changed.emit()
