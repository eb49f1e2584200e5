"""The leading facts of a landmark track, shared by its CSV and JSON forms."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from datetime import datetime
from typing import Any, cast

from guide_arc.core.model.calibration import Calibration
from guide_arc.core.model.errors import did_you_mean
from guide_arc.core.model.quantity import Quantity
from guide_arc.core.model.track import (
    BETWEEN_VIEWS,
    POINTS_FROM,
    SPACES,
    STATED_VIEWS,
    CameraPlace,
    LandmarkTrack,
    PointsFrom,
    SetFacts,
    Space,
    StatedView,
    View,
    side_of,
)
from guide_arc.formats.errors import BadFile

Fail = Callable[[str, str, str | None], BadFile]
KNOWN_KEYS = (
    "landmark-track",
    "space",
    "units",
    "view",
    "image_size",
    "standard",
    "load_kg",
    "subject_height_m",
    "recorded",
    "px_per_m",
    "px_per_m_u",
    "vertical_deg",
    "vertical_deg_u",
    "scale_from",
    "points_from",
    "yaw_deg",
    "pitch_deg",
    "roll_deg",
)


class Head:
    """Validated leading keys of a track.

    values : key to text; fail : makes the error for (key, what, right)
    """

    def __init__(self, values: dict[str, str], fail: Fail) -> None:
        self._values, self._fail = values, fail
        self._check_version()
        self.space = cast(Space, self._one_of("space", SPACES))
        views: tuple[str, ...] = ("none",) if self.space == "world" else STATED_VIEWS
        self._one_of("units", ("m",) if self.space == "world" else ("px",))
        stated = self._one_of("view", views)
        self.view: View = "none" if stated == "none" else side_of(cast(StatedView, stated))
        self.camera = self._camera(stated)
        self.image_size = self._image_size()
        self.facts = SetFacts(
            standard=values.get("standard") or None,
            load_kg=self._number("load_kg", 0.0, 2000.0),
            subject_height_m=self._number("subject_height_m", 0.5, 2.6),
            recorded=self._recorded(),
            other={k: v for k, v in values.items() if k not in KNOWN_KEYS},
        )
        self.calibration = Calibration(
            self._quantity("px_per_m", 1e-3, 1e5),
            self._quantity("vertical_deg", -45.0, 45.0),
            values.get("scale_from", ""),
        )

        points = self._one_of("points_from", POINTS_FROM) if values.get("points_from") else ""
        self.points_from = cast(PointsFrom, points)

    def _camera(self, stated: str) -> CameraPlace:
        """Where the camera stood; a recording in space has none."""
        if self.space == "world":
            return CameraPlace()
        return CameraPlace(
            stated if stated in BETWEEN_VIEWS else "",
            self._number("yaw_deg", -180.0, 180.0),
            self._number("pitch_deg", -90.0, 90.0),
            self._number("roll_deg", -90.0, 90.0),
        )

    def _check_version(self) -> None:
        version = self._values.get("landmark-track")
        if version is None:
            raise self._fail(
                "landmark-track",
                "there is no landmark-track number",
                "a track starts with landmark-track: 1",
            )
        if version != "1":
            raise self._fail(
                "landmark-track", f"landmark-track is {version!r}", "this program reads number 1"
            )

    def _one_of(self, key: str, allowed: tuple[str, ...]) -> str:
        value = self._values.get(key)
        choice = (
            " or ".join(f"'{a}'" for a in allowed)
            if len(allowed) < 3
            else (", ".join(f"'{a}'" for a in allowed[:-1]) + f" or '{allowed[-1]}'")
        )
        if value is None:
            raise self._fail(key, f"the key {key} is missing", f"it must be {choice}")
        if value not in allowed:
            raise self._fail(
                key, f"{key} is {value!r}{did_you_mean(value, allowed)}", f"it must be {choice}"
            )
        return value

    def _image_size(self) -> tuple[int, int] | None:
        text = self._values.get("image_size")
        if self.space == "world":
            return None
        if text is None:
            raise self._fail(
                "image_size",
                "the key image_size is missing",
                "it must be WIDTHxHEIGHT such as 1280x720",
            )
        match = re.fullmatch(r"(\d{1,6})x(\d{1,6})", text)
        if not match or "0" in (match[1].lstrip("0") or "0", match[2].lstrip("0") or "0"):
            raise self._fail(
                "image_size", f"image_size is {text!r}", "it must be WIDTHxHEIGHT such as 1280x720"
            )
        return int(match[1]), int(match[2])

    def _number(self, key: str, low: float, high: float) -> float | None:
        text = self._values.get(key)
        if text is None or text == "":
            return None
        try:
            value = float(text)
        except ValueError:
            value = math.nan
        if not math.isfinite(value) or not low <= value <= high:
            raise self._fail(
                key, f"{key} is {text!r}", f"it must be a number from {low:g} to {high:g}"
            )
        return value

    def _quantity(self, key: str, low: float, high: float) -> Quantity | None:
        """A number with its standard uncertainty next to it, of an image track only."""
        value = self._number(key, low, high)
        u = self._number(f"{key}_u", 0.0, high)
        return None if value is None or self.space == "world" else Quantity(value, u or 0.0)

    def _recorded(self) -> str | None:
        text = self._values.get("recorded")
        if not text:
            return None
        try:
            datetime.fromisoformat(text)
        except ValueError:
            raise self._fail(
                "recorded",
                f"recorded is {text!r}",
                "it must be a date such as 2031-02-03 or 2031-02-03T18:30:00",
            ) from None
        return text


def as_texts(meta: dict[str, Any]) -> dict[str, str]:
    """Leading keys of a JSON track as texts; null is left out."""
    out = {}
    for key, value in meta.items():
        if value is None:
            continue
        out[key] = repr(value) if isinstance(value, float) else str(value)
    return out


def head_lines(track: LandmarkTrack) -> list[tuple[str, str]]:
    """The keys of a track in their usual order, for writing."""
    facts, known = track.facts, track.calibration
    units = "m" if track.space == "world" else "px"
    out = [("space", track.space), ("units", units), ("view", track.stated_view)]
    if track.image_size:
        out.append(("image_size", f"{track.image_size[0]}x{track.image_size[1]}"))
    if facts.standard:
        out.append(("standard", facts.standard))
    if facts.load_kg is not None:
        out.append(("load_kg", repr(facts.load_kg).removesuffix(".0")))
    if facts.subject_height_m is not None:
        out.append(("subject_height_m", repr(facts.subject_height_m)))
    if facts.recorded:
        out.append(("recorded", facts.recorded))
    for key, quantity in (("px_per_m", known.px_per_m), ("vertical_deg", known.vertical_deg)):
        if quantity is not None:
            out += [(key, repr(quantity.value)), (f"{key}_u", repr(quantity.u))]
    if known.scale_from:
        out.append(("scale_from", known.scale_from))
    for key, angle in (
        ("yaw_deg", track.camera.yaw_deg),
        ("pitch_deg", track.camera.pitch_deg),
        ("roll_deg", track.camera.roll_deg),
    ):
        if angle is not None:
            out.append((key, repr(angle)))
    if track.points_from:
        out.append(("points_from", track.points_from))
    out.extend(facts.other.items())
    return out
