"""Clips: any frame exactly, whatever the codec; true times; and sentences for what is no clip."""

from __future__ import annotations

import threading
from dataclasses import replace
from pathlib import Path

import av
import numpy as np
import pytest

from builders import slow
from clips import number_in, numbered_clip
from guide_arc.capture.video.clip import Clip, index_bytes, inspect_video, with_index
from guide_arc.capture.video.frames import FrameReader, every_frame
from guide_arc.capture.video.proxy import make_proxy, proxy_clip
from guide_arc.capture.video.server import FrameServer, FrameWish, Shown
from guide_arc.capture.video.writing import writing_clip
from guide_arc.formats.errors import BadFile

ORDER = [0, 39, 5, 6, 4, 27, 26, 25, 12, 11, 38, 1]


@pytest.mark.parametrize(
    ("name", "codec"),
    [
        ("a.mp4", "libx264"),
        ("a.mov", "libx265"),
        ("a.mkv", "libvpx-vp9"),
        ("a.webm", "libvpx-vp9"),
        ("b.mp4", "libsvtav1"),
    ],
)
def test_any_frame_of_any_codec_is_found_exactly(tmp_path: Path, name: str, codec: str) -> None:
    clip = inspect_video(numbered_clip(tmp_path / name, codec=codec))
    assert (clip.frames, clip.width, clip.height) == (40, 160, 96)
    with FrameReader(clip) as reader:
        assert [number_in(reader.at(i)) for i in ORDER] == ORDER
    assert [number_in(picture) for _, picture in every_frame(clip)] == list(range(40))


def test_a_turned_clip_is_seen_upright(tmp_path: Path) -> None:
    clip = inspect_video(numbered_clip(tmp_path / "phone.mp4", turned=-90))
    assert (clip.width, clip.height) == (96, 160)
    with FrameReader(clip) as reader:
        picture = reader.at(21)
    assert picture.shape == (160, 96, 3)
    # A phone held upright stores its picture lying on its side: turning it back shows the number.
    assert number_in(np.rot90(picture)) == 21


def test_uneven_times_are_true_times(tmp_path: Path) -> None:
    times = np.cumsum(np.random.default_rng(3).uniform(0.01, 0.09, 40))
    clip = inspect_video(numbered_clip(tmp_path / "uneven.mp4", times=times))
    assert np.abs(clip.time_s - (times - times[0])).max() < 1e-3
    assert clip.index(float(times[17] - times[0]) + 0.001) == 17
    with FrameReader(clip) as reader:
        assert number_in(reader.at(17)) == 17


def test_slow_motion_lasts_as_long_as_it_was_filmed(tmp_path: Path) -> None:
    clip = inspect_video(numbered_clip(tmp_path / "slow.mp4", rate=30.0))
    filmed = replace(clip, capture_hz=240.0)
    assert clip.duration_s == pytest.approx(40 / 30, rel=0.01)
    assert filmed.duration_s == pytest.approx(40 / 240, rel=0.01)
    assert filmed.slowdown == pytest.approx(8.0, rel=0.01)
    assert filmed.index(20 / 240 + 0.001) == 20


def test_the_rate_that_the_phone_noted_is_offered(tmp_path: Path) -> None:
    assert inspect_video(numbered_clip(tmp_path / "s.mp4", noted_rate="240.0")).filmed_hz == 240.0
    assert inspect_video(numbered_clip(tmp_path / "n.mp4", noted_rate="30.0")).filmed_hz is None


def test_reading_from_the_middle_begins_there(tmp_path: Path) -> None:
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4"))
    numbers = [(i, number_in(p)) for i, p in every_frame(clip, start=17, stop=22)]
    assert numbers == [(i, i) for i in range(17, 22)]


def test_a_kept_index_stands_for_looking_again(tmp_path: Path) -> None:
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4"))
    (tmp_path / "a.npz").write_bytes(index_bytes(clip))
    again = with_index(clip.path, tmp_path / "a.npz", 120.0)
    assert np.array_equal(again.pts, clip.pts)
    assert (again.width, again.codec, again.capture_hz) == (160, clip.codec, 120.0)


def _sound_only(path: Path) -> None:
    with av.open(str(path), "w") as out:
        stream = out.add_stream("aac", rate=44100)
        frame = av.AudioFrame.from_ndarray(
            np.zeros((1, 1024), np.float32), format="fltp", layout="mono"
        )
        frame.sample_rate = 44100
        out.mux(stream.encode(frame))
        out.mux(stream.encode())


def test_what_is_no_clip_gets_a_sentence(tmp_path: Path) -> None:
    whole = numbered_clip(tmp_path / "whole.mp4").read_bytes()
    files = {
        "empty.mp4": b"",
        "words.mp4": b"this is no clip at all" * 40,
        "cut.mp4": whole[: len(whole) // 3],
        "noise.mkv": bytes(np.random.default_rng(0).integers(0, 256, 5000, dtype=np.uint8)),
    }
    for name, data in files.items():
        (tmp_path / name).write_bytes(data)
    _sound_only(tmp_path / "sound.mp4")
    numbered_clip(tmp_path / "one.mp4", 1)
    numbered_clip(tmp_path / "tiny.mp4", size=(32, 32))
    expected = {
        "empty.mp4": "empty",
        "words.mp4": "no clip that can be read",
        "cut.mp4": "no clip that can be read",
        "noise.mkv": "no clip that can be read",
        "sound.mp4": "no moving picture",
        "one.mp4": "one frame",
        "tiny.mp4": "too small",
    }
    for name, words in expected.items():
        with pytest.raises(BadFile, match=words) as caught:
            inspect_video(tmp_path / name)
        assert name in str(caught.value)
        assert "\n" not in str(caught.value)
    with pytest.raises(BadFile, match=r"gone\.mp4"):
        inspect_video(tmp_path / "gone.mp4")


def test_a_clip_cut_off_in_the_middle_shows_what_is_whole(tmp_path: Path) -> None:
    whole = numbered_clip(tmp_path / "a.mkv", 80, size=(320, 240)).read_bytes()
    (tmp_path / "cut.mkv").write_bytes(whole[: int(0.6 * len(whole))])
    clip = inspect_video(tmp_path / "cut.mkv")
    assert 0 < clip.frames < 80
    with FrameReader(clip) as reader:
        assert number_in(reader.at(3)) == 3
        with pytest.raises(IndexError):
            reader.at(clip.frames)


def test_looking_can_be_stopped(tmp_path: Path) -> None:
    class Stop(Exception):
        pass

    def stop(_share: float) -> None:
        raise Stop

    with pytest.raises(Stop):
        inspect_video(numbered_clip(tmp_path / "a.mp4"), stop)


@slow
@pytest.mark.parametrize("turned", [0, -90, 180])
def test_the_small_copy_has_the_same_frames(tmp_path: Path, turned: int) -> None:
    times = np.cumsum(np.random.default_rng(4).uniform(0.02, 0.06, 40))
    clip = inspect_video(
        numbered_clip(tmp_path / "a.mp4", times=times, size=(1280, 720), turned=turned)
    )
    make_proxy(clip, tmp_path / "small.mp4")
    proxy = proxy_clip(clip, tmp_path / "small.mp4")
    assert proxy is not None
    assert max(proxy.width, proxy.height) == 640
    assert (proxy.width > proxy.height) == (clip.width > clip.height)
    assert proxy.key.sum() >= 5
    with FrameReader(clip) as full, FrameReader(proxy) as small:
        for number in (0, 13, 39):
            shrunk = full.at(number, small.at(number).shape[1])
            assert np.abs(shrunk.astype(int) - small.at(number)).mean() < 12


def test_a_small_copy_of_another_clip_is_not_used(tmp_path: Path) -> None:
    clip, other = (inspect_video(numbered_clip(tmp_path / f"{n}.mp4", n)) for n in (40, 30))
    make_proxy(other, tmp_path / "small.mp4")
    assert proxy_clip(clip, tmp_path / "small.mp4") is None
    assert proxy_clip(clip, tmp_path / "none.mp4") is None


def test_a_stopped_writing_leaves_nothing(tmp_path: Path) -> None:
    def write() -> None:
        with writing_clip(tmp_path / "out.mp4", 64, 64) as writer:
            writer.add(np.zeros((64, 64, 3), np.uint8), 0.0)
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        write()
    assert list(tmp_path.iterdir()) == []


def test_what_is_written_is_read_back(tmp_path: Path) -> None:
    with writing_clip(tmp_path / "out.mp4", 128, 96, comment="made here") as writer:
        for i in range(6):
            writer.add(np.full((96, 128, 3), 40 * i, np.uint8), 0.1 * i)
    clip = inspect_video(tmp_path / "out.mp4")
    assert clip.made_by == "made here"
    assert np.allclose(clip.time_s, 0.1 * np.arange(6), atol=1e-3)
    with FrameReader(clip) as reader:
        assert reader.at(3).mean() == pytest.approx(120, abs=4)


class _Heard:
    """What a frame server gave, in order; waits for it."""

    def __init__(self) -> None:
        self.shown: list[Shown] = []
        self._more = threading.Condition()

    def take(self, shown: Shown) -> None:
        with self._more:
            self.shown.append(shown)
            self._more.notify_all()

    def until(self, number: int, rough: bool = False) -> Shown:
        def there() -> bool:
            return any(s.number == number and s.rough == rough for s in self.shown)

        with self._more:
            assert self._more.wait_for(there, timeout=20)
        return next(s for s in self.shown if s.number == number and s.rough == rough)


@pytest.fixture
def clip_with_copy(tmp_path: Path) -> tuple[Clip, Clip | None]:
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4", 40, size=(1280, 720)))
    make_proxy(clip, tmp_path / "small.mp4")
    return clip, proxy_clip(clip, tmp_path / "small.mp4")


def test_scrubbing_shows_the_small_copy_first_and_then_the_frame_itself(
    clip_with_copy: tuple[Clip, Clip | None],
) -> None:
    heard = _Heard()
    server = FrameServer(*clip_with_copy, heard.take)
    server.want(FrameWish(31, 1280))
    assert heard.until(31).picture is not None
    assert [s.rough for s in heard.shown] == [True, False]
    assert number_in(heard.shown[1].picture) == 31  # type: ignore[arg-type]
    server.close()


def test_only_the_last_wish_counts(clip_with_copy: tuple[Clip, Clip | None]) -> None:
    heard = _Heard()
    server = FrameServer(*clip_with_copy, heard.take)
    for number in range(40):
        server.want(FrameWish(number, 640))
    heard.until(39)
    whole = [s.number for s in heard.shown if not s.rough]
    assert whole[-1] == 39
    assert len(whole) < 40
    server.close()


def test_a_damaged_clip_is_told_not_thrown(tmp_path: Path) -> None:
    clip = inspect_video(numbered_clip(tmp_path / "a.mp4"))
    heard = _Heard()
    server = FrameServer(clip, None, heard.take)
    server.want(FrameWish(400, 640))
    assert "40 frames" in heard.until(400).wrong
    server.close()
