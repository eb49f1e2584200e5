"""Every reader on thousands of mutated files: no traceback, no hang, no crash. All must end in a
sentence.

    ./run dev python bench/fuzz_readers.py [FILES [FORM…]]     20,000 of all forms when left out

With forms, only their share of the files is read: `100000 c3d` reads 2,000. Prints what was found
and ends with 1 where anything but a sentence came.
"""

from __future__ import annotations

import io
import json
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import traceback
import zipfile
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from importlib import resources
from pathlib import Path
from typing import Any

HERE = Path(__file__).resolve()

import harness
from awkward import awkward_json, awkward_table, awkward_toml
from builders import filmed
from clips import numbered_clip
from guide_arc.capture.video.clip import inspect_video
from guide_arc.capture.video.frames import FrameReader
from guide_arc.core.model.errors import BadInput
from guide_arc.core.model.settings import Correction, Settings
from guide_arc.core.planning.dose import next_dose
from guide_arc.core.planning.session import figures_of_session
from guide_arc.formats.bundle import reading_bundle, write_bundle
from guide_arc.formats.format import Asked
from guide_arc.formats.kit_json import read_kit, read_wish
from guide_arc.formats.marks_json import read_marks
from guide_arc.formats.planning_json import dose_json, read_history, read_session, session_json
from guide_arc.formats.track_csv import csv_text
from guide_arc.formats.track_file import read_track, write_track
from guide_arc.library.bundles import take_bundle
from guide_arc.library.records import Decision, SetNotes
from guide_arc.library.set_document import added
from guide_arc.library.store import Library
from guide_arc.standards.loader import read_standard, standard
from guide_arc.standards.schemes import parse_schemes
from guide_arc.standards.tempo import parse_tempo

# Share of the files that each form gets. C3D is read in a process of its own each time.
SHARES = {
    "csv": 0.13,
    "json": 0.12,
    "trc": 0.08,
    "keypoints": 0.10,
    "zip": 0.10,
    "mp4": 0.04,
    "mkv": 0.02,
    "webm": 0.02,
    "mov": 0.02,
    "c3d": 0.02,
    "kit": 0.06,
    "wish": 0.05,
    "history": 0.06,
    "session": 0.06,
    "marks": 0.05,
    "toml": 0.05,
    "schemes": 0.01,
    "set": 0.01,
}
ENDINGS = {
    "keypoints": "json",
    "kit": "json",
    "wish": "json",
    "history": "json",
    "session": "json",
    "marks": "json",
    "schemes": "toml",
    "set": "zip",
}
JSONS = ("json", "keypoints", "kit", "wish", "history", "session", "marks")
LONGEST_S = 5
# So long a machine may stand still before a file is called one that hangs all the same.
STANDS_S = 60
CHUNK = 100
NOTES = SetNotes(
    {"torso-swing/both": Decision("reword", "Stand still.", "Marit Engel", "2031-05-01")},
    "slept badly",
    "done",
    False,
    Settings((Correction("delete", 1.0),), 1, ("forearm",)),
)
DOCUMENTS: dict[str, Any] = {
    "kit": {
        "pull": "cable",
        "kg": 20,
        "ratio": 2,
        "pulley_m": {"left": [0.5, 1.2, -0.8], "right": [-0.5, 1.2, -0.8]},
        "each": True,
        "body_kg": 80,
    },
    "wish": {
        "hardest": "middle",
        "no_slack": True,
        "in_plane": True,
        "spare": ["elbow", "wrist"],
        "room": {
            "pulley_heights_m": [0.3, 1.0, 1.8],
            "distance_m": [0.5, 2.0],
            "side_m": [-0.5, 0.5],
            "bench_deg": [0, 30],
        },
    },
    "history": {
        "standard": "standing-barbell-curl",
        "school": "locked-upper-arm",
        "rack_kg": {"from": 10, "to": 60, "step": 2.5},
        "assisted": False,
        "on": "2031-04-02",
        "aim": {"reps": [8, 12], "sets": 3},
        "sore": [{"place": "left elbow", "from": "2031-01-01", "to": None}],
        "sets": [
            {
                "on": "2031-04-01",
                "load_kg": 30,
                "left_reps": 10,
                "right_reps": 9,
                "partial_reps": 0,
                "findings": [{"check": "torso-swing", "verdict": "ok", "harm": "spine"}],
                "pain": False,
                "felt": ["forearm"],
            }
        ],
    },
    "session": {
        "warm_up_s": 300,
        "change_s": 90,
        "lines": [
            {
                "standard": "standing-barbell-curl",
                "sets": 3,
                "reps": 10,
                "tempo": "3-0-1-0",
                "rest_s": 90,
                "arms": "both",
                "load_kg": 30,
            },
            {
                "standard": "rope-pushdown",
                "sets": 3,
                "reps": 12,
                "tempo": "2-0-1-1",
                "rest_s": 60,
                "arms": "both",
                "pair": "A",
            },
            {
                "standard": "standing-barbell-curl",
                "sets": 2,
                "reps": 8,
                "tempo": "x-0-1-0",
                "rest_s": 75,
                "arms": "alternating",
                "pair": "A",
            },
        ],
    },
    "marks": {
        "marks": [
            {"frame": 0, "point": "left_wrist", "x": 412.0, "y": 233.5},
            {"frame": 0, "point": "left_elbow", "x": 400, "y": 200},
        ]
    },
}
EDGES = [
    b"\x00",
    b"\xff",
    b"\x7f\xff\xff\xff",
    b"\xff\xff\xff\xff",
    b"\x00\x00\x00\x00",
    b"nan",
    b"1e999",
    b"-1",
    b",",
    b"\t",
    b"{",
    b"]",
    b'"',
    b"\n",
    b"#",
]


def seeds(folder: Path) -> None:
    """A whole file of each form."""
    for kind, document in DOCUMENTS.items():
        (folder / f"seed.{kind}").write_text(json.dumps(document))
    data = resources.files("guide_arc.standards").joinpath("data")
    curl = next(
        p
        for r in data.iterdir()
        if r.is_dir()
        for p in r.iterdir()
        if p.name == "standing-barbell-curl.toml"
    )
    (folder / "seed.toml").write_text(curl.read_text(encoding="utf-8"))
    (folder / "seed.schemes").write_text(data.joinpath("schemes.toml").read_text(encoding="utf-8"))
    space = filmed("rope-pushdown", reps=1, noise=0.003, dropout=0.05, rate=10.0).track
    picture = filmed("rope-pushdown", reps=1, view="left", noise=1.0, rate=10.0).track
    for ending in ("csv", "json", "trc", "c3d"):
        write_track(space, folder / f"seed.{ending}")
    # The form's own ending is the other JSON's too: named apart only here.
    write_track(picture, folder / "keypoints.json", form="keypoints")
    (folder / "keypoints.json").rename(folder / "seed.keypoints")
    for ending, codec in (
        ("mp4", "libx264"),
        ("mov", "libx265"),
        ("mkv", "libvpx-vp9"),
        ("webm", "libvpx-vp9"),
    ):
        numbered_clip(folder / f"seed.{ending}", 20, codec=codec)
    shutil.copy(folder / "seed.csv", folder / "own.csv")
    write_bundle(
        folder / "seed.set",
        {"client": "Ada Quill", "standard": "rope-pushdown", **added(NOTES)},
        ((folder / "own.csv").read_bytes(), ".csv"),
        None,
    )
    write_bundle(
        folder / "seed.zip",
        {"client": "Ada Quill", "standard": "rope-pushdown"},
        (csv_text(picture).encode(), ".csv"),
        folder / "seed.mp4",
    )


def mutated(data: bytes, rng: random.Random) -> bytes:
    """A file with some of its bytes changed, lost, doubled or replaced by awkward ones."""
    out = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 3, 8, 30))):
        if not out:
            break
        at = rng.randrange(len(out))
        kind = rng.randrange(7)
        if kind == 0:
            out[at] ^= 1 << rng.randrange(8)
        elif kind == 1:
            out[at] = rng.randrange(256)
        elif kind == 2:
            edge = rng.choice(EDGES)
            out[at : at + len(edge)] = edge
        elif kind == 3:
            del out[at : at + rng.choice((1, 4, 64, 1000))]
        elif kind == 4:
            piece = out[at : at + rng.choice((1, 4, 64, 1000))]
            out[at:at] = piece
        elif kind == 5 and rng.random() < 0.3:
            del out[at:]
        else:
            # The head of a file says how the rest is read: it is changed more often than its share.
            out[min(at % 600, len(out) - 1)] = rng.randrange(256)
    return bytes(out)


def changed(kind: str, data: bytes, rng: random.Random) -> bytes:
    """Half of the text files are well made and yet wrong."""
    if rng.random() < 0.5:
        if kind in JSONS:
            return awkward_json(data.decode(), rng)
        if kind in ("csv", "trc"):
            return awkward_table(data.decode(), rng)
        if kind in ("toml", "schemes"):
            return awkward_toml(data.decode(), rng)
    if kind == "set":
        return with_awkward_set(data, rng)
    return mutated(data, rng)


def with_awkward_set(data: bytes, rng: random.Random) -> bytes:
    """A set's bundle that says something awkward of its set."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as given, zipfile.ZipFile(out, "w") as made:
        for name in given.namelist():
            own = given.read(name)
            made.writestr(name, awkward_json(own.decode(), rng) if name == "set.json" else own)
    return out.getvalue()


def read(path: Path, kind: str) -> None:
    """Read one file as the program does."""
    if kind == "kit":
        read_kit(path)
    elif kind == "wish":
        read_wish(path)
    elif kind == "history":
        json.loads(dose_json(next_dose(read_history(path, standard))))
    elif kind == "session":
        json.loads(session_json(figures_of_session(read_session(path, standard, parse_tempo))))
    elif kind == "marks":
        read_marks(path, "left", 400, (640, 480))
    elif kind == "toml":
        read_standard(path)
    elif kind == "schemes":
        parse_schemes(path.read_text(encoding="utf-8", errors="replace"), path.name)
    elif kind == "set":
        library = Library.open(path.parent / "library")
        try:
            take_bundle(library, path)
        finally:
            library.close()
    elif kind in ("mp4", "mkv", "webm", "mov"):
        clip = inspect_video(path)
        with FrameReader(clip) as reader:
            for number in (0, clip.frames // 2, clip.frames - 1):
                reader.at(number, 320)
    elif kind == "zip":
        with reading_bundle(path) as bundle:
            assert bundle.track is not None or bundle.clip is not None
    else:
        read_track(path, None, Asked("left"))


def chunk(kind: str, start: int, count: int, seed_file: Path, told: Path) -> int:
    """Read so many mutations; what went wrong goes into a file, one JSON line each."""
    data = seed_file.read_bytes()
    ending = ENDINGS.get(kind, kind)

    def too_long(_signal: int, _frame: object) -> None:
        raise TimeoutError

    def read_in_time() -> None:
        """A file that takes longer than it may is read once more, by its own time: a shared machine
        stands still at times."""
        try:
            signal.alarm(LONGEST_S)
            read(path, kind)
        except TimeoutError:
            signal.alarm(STANDS_S)
            begun = time.process_time()
            try:
                read(path, kind)
            finally:
                if time.process_time() - begun > LONGEST_S:
                    raise TimeoutError

    signal.signal(signal.SIGALRM, too_long)
    wrong = said = 0
    with tempfile.TemporaryDirectory() as folder, told.open("a") as out:
        for number in range(start, start + count):
            told.with_suffix(".at").write_text(str(number))
            path = Path(folder) / f"f.{ending}"
            path.write_bytes(changed(kind, data, random.Random(f"{kind}{number}")))
            try:
                read_in_time()
            except BadInput as error:
                said += 1
                if "\n" in str(error):
                    wrong += 1
                    out.write(
                        json.dumps([kind, number, "a sentence of several lines", str(error)]) + "\n"
                    )
            except TimeoutError:
                wrong += 1
                out.write(json.dumps([kind, number, "it hangs", ""]) + "\n")
            except BaseException as error:
                wrong += 1
                out.write(
                    json.dumps([kind, number, repr(error)[:200], traceback.format_exc()[-1500:]])
                    + "\n"
                )
            finally:
                signal.alarm(0)
    print(said)
    return wrong


def main(total: int, only: list[str]) -> int:
    begun = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        place = Path(folder)
        seeds(place)
        jobs = []
        for kind, share in SHARES.items():
            if only and kind not in only:
                continue
            count = round(total * share)
            jobs += [(kind, at, min(CHUNK, count - at)) for at in range(0, count, CHUNK)]
        sentences: Counter[str] = Counter()
        files: Counter[str] = Counter()
        crashes: list[str] = []

        def run(job: tuple[str, int, int]) -> None:
            kind, at, count = job
            told = place / f"{kind}-{at}.jsonl"
            command = [
                sys.executable,
                str(HERE),
                "--chunk",
                kind,
                str(at),
                str(count),
                str(place / f"seed.{kind}"),
                str(told),
            ]
            done = subprocess.run(
                command,
                capture_output=True,
                text=True,
                env={**os.environ, "OPENBLAS_NUM_THREADS": "1"},
            )
            files[kind] += count
            if done.returncode not in (0, 1):
                number = told.with_suffix(".at").read_text()
                crashes.append(
                    f"{kind} {number}: the process ended with {done.returncode}:"
                    f" {done.stderr[-300:]}"
                )
            elif done.stdout.strip():
                sentences[kind] += int(done.stdout)

        with ThreadPoolExecutor(os.cpu_count()) as pool:
            list(pool.map(run, jobs))
        wrong = [
            json.loads(line)
            for f in sorted(place.glob("*.jsonl"))
            for line in f.read_text().splitlines()
        ]
    for kind in files:
        print(f"{kind:10s} {files[kind]:6d} files, {sentences[kind]:6d} refused in a sentence")
    for line in crashes:
        print("CRASH", line)
    for kind, number, what, where in wrong[:40]:
        print(f"WRONG {kind} {number}: {what}\n{where}")
    print(
        f"{sum(files.values())} files in {time.monotonic() - begun:.0f} s: {len(crashes)} crashes,"
        f" {len(wrong)} other than a sentence"
    )
    return 1 if crashes or wrong else 0


if __name__ == "__main__":
    if sys.argv[1:2] == ["--chunk"]:
        kind, start, count, seed, told = sys.argv[2:]
        sys.exit(1 if chunk(kind, int(start), int(count), Path(seed), Path(told)) else 0)
    sys.exit(main(harness.number(1, 20_000), sys.argv[2:]))
