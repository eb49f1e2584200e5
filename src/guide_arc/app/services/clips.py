"""The frames of the clips that are looked at, each with its thread; and small copies for
scrubbing."""

from __future__ import annotations

from collections import OrderedDict
from typing import TYPE_CHECKING, Final

from guide_arc.app.contract.app import App
from guide_arc.app.contract.job import Job, on_library
from guide_arc.app.services.open_library import OpenLibrary
from guide_arc.lazily import lazily

with lazily():
    from guide_arc.app.services import clip_jobs
    from guide_arc.app.widgets.clip_frames import ClipFrames

if TYPE_CHECKING:
    from PyQt6.QtCore import QObject

    from guide_arc.app.services.set_jobs import OpenedSet
    from guide_arc.capture.video.clip import Clip

_KEPT: Final = 3


class Clips:
    """parent : what the frames belong to, so that their news arrives on the window's thread"""

    def __init__(self, app: App, library: OpenLibrary, parent: QObject) -> None:
        self._app, self._parent = app, parent
        self._frames: OrderedDict[tuple[int, bool], ClipFrames] = OrderedDict()
        library.gone.connect(self._drop)

    def frames(self, opened: OpenedSet, *, second: bool = False) -> ClipFrames | None:
        """The frames of an opened set's clip. `second`: separate from those of the set next to
        it."""
        if opened.clip is None:
            return None
        key = (opened.record.id, second)
        kept = self._frames.get(key)
        if kept is not None and kept.clip.mirrored != opened.clip.mirrored:
            self._frames.pop(key).close()  # turned left to right since
        if key not in self._frames:
            self._frames[key] = ClipFrames(opened.clip, opened.proxy, self._parent)
        self._frames.move_to_end(key)
        while len(self._frames) > _KEPT:
            _old, frames = self._frames.popitem(last=False)
            frames.close()
        return self._frames[key]

    def _drop(self, ids: frozenset[int]) -> None:
        for key in [k for k in self._frames if k[0] in ids]:
            self._frames.pop(key).close()

    def close(self) -> None:
        """End the threads that read clips."""
        for frames in self._frames.values():
            frames.close()
        self._frames.clear()

    def make_small_copies(self) -> None:
        """For scrubbing, in the background."""

        def done(made: dict[str, Clip]) -> None:
            for frames in self._frames.values():
                proxy = made.get(frames.clip.path.name)
                if proxy is not None:
                    frames.with_proxy(proxy)

        self._app.start(
            Job("Making small copies", on_library(clip_jobs.make_proxies), "proxies"), done
        )
