"""Clips for tests: small ones whose frames carry their own number, and simulated films."""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from pathlib import Path
from typing import Any, cast

import av
import numpy as np
from numpy.typing import NDArray

from guide_arc.capture.film.film import Filmed, Filming, film
from guide_arc.capture.video.clip import Clip, inspect_video
from guide_arc.core.model.marks import Mark, Marks, asked_points
from guide_arc.core.model.track import StatedView
from guide_arc.core.simulate.perform import Script
from guide_arc.standards.loader import standard

_BITS = 8


def numbered_clip(
    path: Path,
    frames: int = 40,
    *,
    codec: str = "libx264",
    rate: float = 30.0,
    times: NDArray[np.float64] | None = None,
    turned: int = 0,
    size: tuple[int, int] = (160, 96),
    key_every: int = 12,
    noted_rate: str = "",
) -> Path:
    """A clip whose frames show their number as black and white squares along their top edge."""
    with av.open(
        str(path), "w", options={"movflags": "use_metadata_tags"} if noted_rate else {}
    ) as out:
        if noted_rate:
            out.metadata["com.android.capture.fps"] = noted_rate
        options = (
            {"g": str(key_every)}
            if codec != "libsvtav1"
            else {"preset": "12", "svtav1-params": "log-level=0"}
        )
        if codec == "libx265":
            options["x265-params"] = "log-level=none"
        stream = out.add_stream(codec, rate=Fraction(rate).limit_denominator(1001), options=options)
        assert isinstance(stream, av.VideoStream)
        stream.width, stream.height = size
        stream.pix_fmt = "yuv420p"
        stream.codec_context.time_base = Fraction(1, 90_000)
        if turned:
            stream.set_display_rotation(turned)
        for i in range(frames):
            picture = np.full((size[1], size[0], 3), 90, np.uint8)
            for bit in range(_BITS):
                picture[4:20, 4 + 18 * bit : 20 + 18 * bit] = 255 if i >> bit & 1 else 0
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts = round((i / rate if times is None else float(times[i])) * 90_000)
            frame.time_base = Fraction(1, 90_000)
            out.mux(stream.encode(frame))
        out.mux(stream.encode())
    return path


def number_in(picture: NDArray[np.uint8]) -> int:
    """The number that a frame shows."""
    return sum(1 << bit for bit in range(_BITS) if picture[12, 12 + 18 * bit].mean() > 128)


@dataclass(frozen=True, eq=False)
class SmallFilm:
    """A simulated film with its truth."""

    clip: Clip
    filmed: Filmed

    @classmethod
    def of(cls, path: Path, filmed: Filmed) -> SmallFilm:
        return cls(inspect_video(path), filmed)

    def truth(self, name: str) -> NDArray[np.float64]:
        """(F, 2) where a point truly is."""
        track = self.filmed.truth
        if name.endswith("knuckles"):
            side = name.partition("_")[0]
            return 0.5 * (track.point(f"{side}_index") + track.point(f"{side}_pinky"))
        return track.point(name)

    def marks(self, frame: int = 0, *names: str) -> Marks:
        """Every asked joint marked truly on one frame."""
        out = Marks(cast(StatedView, self.filmed.truth.view))
        for name in names or asked_points(out.view):
            x, y = self.truth(name)[frame]
            out = out.with_mark(name, Mark(frame, float(x), float(y)))
        return out


def small_film(path: Path, id: str = "rope-pushdown", view: str = "left", **more: Any) -> SmallFilm:
    """A short film of two reps, 640 pixels wide."""
    reps = more.pop("reps", 2)
    script = Script(reps=reps, opening_s=0.6, stature_m=1.75, faults=more.pop("faults", {}))
    filming = Filming(view, 640, 360, **{"rate_hz": 20.0, **more})  # type: ignore[arg-type]
    filmed = film(path, standard(id), script, filming, 5)
    return SmallFilm(inspect_video(path), filmed)


@cache
def usual_film(folder: Path) -> SmallFilm:
    """The film that most tests look at, made once for a process."""
    return small_film(folder / "esme-2031-03-28-rope-pushdown-left.mp4")
