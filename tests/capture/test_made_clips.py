"""Clips as phones and programs make them: turned, mirrored, cropped, stretched, cut, bright; each
made here."""

from __future__ import annotations

import itertools
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from numpy.typing import NDArray

from clips import numbered_clip
from guide_arc.capture.video.clip import inspect_video, orientation
from guide_arc.capture.video.frames import FrameReader
from guide_arc.capture.video.proxy import make_proxy, proxy_clip
from guide_arc.formats.errors import BadFile
from guide_arc.library.clip_folder import ClipFolder

WIDE, HIGH = 128, 96
ONE = 65536
# Every way in which a phone can hold its sensor: a turn by quarters, mirrored or not.
TURNS = ((1, 0, 0, 1), (0, 1, -1, 0), (-1, 0, 0, -1), (0, -1, 1, 0))
MIRRORS = tuple((-a, -b, c, d) for a, b, c, d in TURNS)


def four_corners() -> NDArray[np.uint8]:
    """A picture whose corners are black, dark grey, light grey and white, clockwise from the top
    left."""
    out = np.full((HIGH, WIDE, 3), 110, np.uint8)
    out[: HIGH // 2, : WIDE // 2], out[: HIGH // 2, WIDE // 2 :] = 16, 80
    out[HIGH // 2 :, WIDE // 2 :], out[HIGH // 2 :, : WIDE // 2] = 150, 235
    return out


def made(path: Path, picture: NDArray[Any], frames: int = 6, **how: Any) -> Path:
    """A clip that shows one picture. matrix: (a, b, c, d); shape: of a pixel; first: the first
    stamp; format, trc"""
    with av.open(str(path), "w") as out:
        codec = how.get("codec", "libx264")
        options = {"x265-params": "log-level=none"} if codec == "libx265" else {"crf": "10"}
        stream = out.add_stream(codec, rate=30, options=options)
        assert isinstance(stream, av.VideoStream)
        stream.height, stream.width = picture.shape[:2]
        stream.pix_fmt = how.get("format", "yuv420p")
        if "trc" in how:
            stream.codec_context.color_trc = how["trc"]
            stream.codec_context.color_primaries = 9
            stream.codec_context.colorspace = 9
        if "shape" in how:
            stream.codec_context.sample_aspect_ratio = how["shape"]
        stream.codec_context.time_base = Fraction(1, 90_000)
        if "matrix" in how:
            a, b, c, d = how["matrix"]
            stream.set_display_matrix((a * ONE, b * ONE, 0, c * ONE, d * ONE, 0, 0, 0, 1 << 30))
        for i in range(frames):
            frame = av.VideoFrame.from_ndarray(picture, format=how.get("given", "rgb24"))
            frame.pts = how.get("first", 0) + i * 3000
            frame.time_base = Fraction(1, 90_000)
            out.mux(stream.encode(frame))
        out.mux(stream.encode())
    return path


def shown_by(matrix: tuple[int, int, int, int], stored: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """The picture as the matrix shows it, pixel by pixel: (x, y) goes to (a x + c y, b x + d y)."""
    a, b, c, d = matrix
    high, wide = stored.shape[:2]
    places = {(x, y): (a * x + c * y, b * x + d * y) for x in range(wide) for y in range(high)}
    left, top = (min(p[i] for p in places.values()) for i in (0, 1))
    right, low = (max(p[i] for p in places.values()) for i in (0, 1))
    out = np.zeros((low - top + 1, right - left + 1, 3), np.uint8)
    for (x, y), (u, v) in places.items():
        out[v - top, u - left] = stored[y, x]
    return out


def looks_like(one: NDArray[np.uint8], other: NDArray[np.uint8]) -> bool:
    return one.shape == other.shape and float(np.abs(one.astype(int) - other).mean()) < 6.0


@pytest.mark.parametrize("matrix", [*TURNS, *MIRRORS])
def test_every_display_matrix_is_seen_as_it_says(tmp_path: Path, matrix: tuple[int, int, int, int]):
    stored = four_corners()
    clip = inspect_video(made(tmp_path / "a.mp4", stored, matrix=matrix))
    want = shown_by(matrix, stored)
    assert (clip.height, clip.width) == want.shape[:2]
    with FrameReader(clip) as reader:
        assert looks_like(reader.at(2), want)
    # Its small copy and its kept index say the same.
    make_proxy(clip, tmp_path / "small.mp4")
    small = proxy_clip(clip, tmp_path / "small.mp4")
    assert small is not None
    with FrameReader(small) as reader:
        assert looks_like(reader.at(2), want)
    folder = ClipFolder(tmp_path / "library")
    name, _clip, _slip = folder.take(clip.path, {})
    kept = folder.find(name)
    assert kept is not None
    with FrameReader(kept) as reader:
        assert looks_like(reader.at(2), want)


def test_a_matrix_between_the_quarters_is_rounded():
    angle = np.radians(83.0)
    turn = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
    assert orientation(turn) == (1, False)
    assert orientation(turn @ np.diag([-1.0, 1.0])) == (1, True)


@pytest.mark.parametrize("turned", [False, True])
def test_pixels_that_are_not_square_are_made_so(tmp_path: Path, turned: bool):
    how: dict[str, Any] = {"matrix": TURNS[1]} if turned else {}
    clip = inspect_video(made(tmp_path / "a.mp4", four_corners(), shape=Fraction(4, 3), **how))
    seen = (round(WIDE * 4 / 3), HIGH)
    assert (clip.width, clip.height) == (seen[::-1] if turned else seen)
    with FrameReader(clip) as reader:
        assert reader.at(0).shape[:2] == (clip.height, clip.width)


def test_a_size_that_no_block_fits_is_cropped_as_the_file_says(tmp_path: Path):
    """H.264 stores whole blocks of 16 pixels; what is beyond the picture's edge is cut off."""
    picture = np.full((90, 122, 3), 200, np.uint8)
    picture[:, -6:] = 30
    clip = inspect_video(made(tmp_path / "a.mp4", picture))
    assert (clip.width, clip.height) == (122, 90)
    with FrameReader(clip) as reader:
        assert reader.at(0).shape == (90, 122, 3)
        assert reader.at(0)[:, -3:].mean() < 60


@pytest.mark.parametrize("first", [-6000, -3000, 90_000])
@pytest.mark.parametrize("ending", ["mp4", "mkv"])
def test_stamps_that_do_not_begin_at_zero(tmp_path: Path, ending: str, first: int):
    """MP4 writes an edit list for them. The first frame that is shown is the first one of the
    clip."""
    clip = inspect_video(made(tmp_path / f"a.{ending}", four_corners(), 12, first=first))
    assert clip.time_s[0] == 0.0
    assert clip.frames in (10, 11, 12)
    assert np.diff(clip.time_s) == pytest.approx(1 / 30, abs=0.002)
    with FrameReader(clip) as reader:
        for number in range(clip.frames):
            assert looks_like(reader.at(number), four_corners())


def test_an_edit_list_that_skips_the_start_hides_it(tmp_path: Path):
    """As a phone's own trimming leaves it: the frames before the cut are there, and are not
    shown."""
    source = numbered_clip(tmp_path / "whole.mp4", 40)
    trimmed = tmp_path / "trimmed.mp4"
    with av.open(str(source)) as given, av.open(str(trimmed), "w") as out:
        stream = given.streams.video[0]
        copy = out.add_stream_from_template(stream)
        cut = int(Fraction(1, 2) / stream.time_base)
        for packet in given.demux(stream):
            if packet.pts is None or packet.dts is None:
                continue
            packet.pts, packet.dts = packet.pts - cut, packet.dts - cut
            packet.stream = copy
            out.mux(packet)
    clip = inspect_video(trimmed)
    assert clip.time_s[0] == 0.0
    assert 24 <= clip.frames <= 40
    with FrameReader(clip) as reader:
        for number in (0, clip.frames // 2, clip.frames - 1):
            assert reader.at(number).shape[2] == 3


def test_frames_without_stamps_are_refused_in_a_sentence(tmp_path: Path):
    raw = made(tmp_path / "a.h264", four_corners())
    clip = tmp_path / "a.mp4"
    clip.write_bytes(raw.read_bytes())
    with pytest.raises(BadFile, match=r"a\.mp4: "):
        inspect_video(clip)


def test_one_frame_is_no_clip(tmp_path: Path):
    with pytest.raises(BadFile, match="one frame"):
        inspect_video(made(tmp_path / "a.mp4", four_corners(), 1))


@pytest.mark.parametrize(("ending", "tenth"), list(itertools.product(["mp4", "mkv"], range(1, 10))))
def test_cut_at_each_tenth_it_opens_with_what_is_whole_or_says_why_not(
    tmp_path: Path, ending: str, tenth: int
):
    whole = numbered_clip(tmp_path / f"whole.{ending}", 40).read_bytes()
    path = tmp_path / f"cut.{ending}"
    path.write_bytes(whole[: len(whole) * tenth // 10])
    try:
        clip = inspect_video(path)
    except BadFile as error:
        assert str(error).startswith(f"cut.{ending}: ")
        return
    assert clip.frames <= 40
    with FrameReader(clip) as reader:
        assert reader.at(0).shape == (96, 160, 3)


@pytest.mark.parametrize(
    ("trc", "white", "grey"), [(18, 0.75, 0.38), (16, 0.58, 0.38)], ids=["HLG", "HDR10"]
)
def test_bright_pictures_are_shown_as_a_usual_screen_shows_them(
    tmp_path: Path, trc: int, white: float, grey: float
):
    """BT.2408: diffuse white stands at 75 % of HLG and 58 % of PQ, a grey card at 38 %. On a usual
    screen white is nearly 255, and a grey card that reflects 18 % a little above 120."""
    picture = np.zeros((HIGH, WIDE, 3), np.uint16)
    for i, level in enumerate((0.0, grey, white, 1.0)):
        picture[:, 32 * i : 32 * (i + 1)] = round(level * 65535)
    path = made(
        tmp_path / "a.mp4", picture, codec="libx265", format="yuv420p10le", given="rgb48le", trc=trc
    )
    clip = inspect_video(path)
    with FrameReader(clip) as reader:
        shown = reader.at(0)
    levels = [float(shown[40:60, 32 * i + 10 : 32 * i + 22].mean()) for i in range(4)]
    assert levels[0] < 12
    assert 95 <= levels[1] <= 150
    assert 215 <= levels[2] <= 250
    assert levels[3] > levels[2]
    make_proxy(clip, tmp_path / "small.mp4")
    small = proxy_clip(clip, tmp_path / "small.mp4")
    assert small is not None
    with FrameReader(small) as reader:
        again = reader.at(0)
    assert abs(float(again[40:60, 74:86].mean()) - levels[2]) < 12
