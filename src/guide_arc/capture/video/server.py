"""Frames of a clip for showing: decoded on a thread of their own, so that the window never waits.

While somebody scrubs, the small copy gives each frame at once and the clip's own frame follows when
they rest. A wish that is not begun yet is replaced by the next one.
"""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from guide_arc.capture.video.clip import Clip
from guide_arc.capture.video.frames import FrameReader, Picture
from guide_arc.core.model.errors import BadInput

# Pictures kept for stepping back: 120 MB.
_KEPT_PIXELS: Final = 40_000_000
# Playing shows the clip's own frames as long as one takes less than this to come.
_KEEPS_PACE_S: Final = 0.012


@dataclass(frozen=True, eq=False)
class Shown:
    """A frame that came. `rough`: from the small copy, its own will follow; `wrong`: why it can't
    be shown."""

    number: int
    picture: Picture | None
    rough: bool = False
    wrong: str = ""


@dataclass(frozen=True)
class FrameWish:
    """Which frame, how wide at most, and whether the clip plays."""

    number: int
    width: int
    playing: bool = False


class FrameServer:
    """Gives frames of one clip to `give`, from its own thread."""

    def __init__(self, clip: Clip, proxy: Clip | None, give: Callable[[Shown], None]) -> None:
        self.clip = clip
        self._proxy, self._give = proxy, give
        self._changed = threading.Condition()
        self._wish: FrameWish | None = None
        self._closed = False
        self._kept: OrderedDict[tuple[int, int], Picture] = OrderedDict()
        self._pace_s = 0.0
        self._thread = threading.Thread(target=self._work, daemon=True)
        self._thread.start()

    def want(self, wish: FrameWish) -> None:
        """Ask for a frame; it is delivered through `give`, unless another is requested before
        decoding begins."""
        with self._changed:
            self._wish = wish
            self._changed.notify()

    def with_proxy(self, proxy: Clip) -> None:
        """The small copy is there now."""
        with self._changed:
            self._proxy = proxy

    def close(self) -> None:
        """Stop and wait until the thread has ended."""
        with self._changed:
            self._closed = True
            self._changed.notify()
        self._thread.join()

    def _next(self) -> FrameWish | None:
        with self._changed:
            while self._wish is None and not self._closed:
                self._changed.wait()
            wish, self._wish = self._wish, None
            return None if self._closed else wish

    def _newer(self) -> bool:
        with self._changed:
            return self._closed or self._wish is not None

    def _work(self) -> None:
        own: FrameReader | None = None
        small: FrameReader | None = None
        try:
            while (wish := self._next()) is not None:
                kept = self._kept.get((wish.number, wish.width))
                if kept is not None:
                    self._kept.move_to_end((wish.number, wish.width))
                    self._give(Shown(wish.number, kept))
                    continue
                try:
                    if small is None and self._proxy is not None:
                        small = FrameReader(self._proxy)
                    slow = wish.playing and self._pace_s > _KEEPS_PACE_S
                    if small is not None and (slow or not wish.playing):
                        self._give(Shown(wish.number, small.at(wish.number), rough=True))
                        if slow or self._newer():
                            continue
                    own = own or FrameReader(self.clip)
                    self._give(Shown(wish.number, self._own(own, wish)))
                except (BadInput, IndexError, OSError) as error:
                    self._give(Shown(wish.number, None, wrong=str(error)))
        finally:
            for reader in (own, small):
                if reader is not None:
                    reader.close()

    def _own(self, reader: FrameReader, wish: FrameWish) -> Picture:
        begun = time.perf_counter()
        picture = reader.at(wish.number, wish.width)
        if wish.playing:
            self._pace_s = 0.8 * self._pace_s + 0.2 * (time.perf_counter() - begun)
        self._kept[(wish.number, wish.width)] = picture
        while len(self._kept) > max(2, _KEPT_PIXELS // max(picture[..., 0].size, 1)):
            self._kept.popitem(last=False)
        return picture
