"""A disk that is full, errs, writes halves, or loses its power; under every kind of write.

    ./run dev python bench/faults.py [EVERY]        1 when left out: each call that writes is tried;
    4: each fourth

A small library in C (`faults.c`, built with `cc`) stands between the program and its disk. One run
of the writes counts their calls; then, for each call in turn, a run in which the disk is full from
there on, one in which that call alone ends in an I/O error, and one in which half of it is written.
Each write must succeed or say in a sentence why not, and at the next start all that was said to be
written stands there, the file is sound and nothing is left behind. For the cut of power every call
is noted, and the disk put together as it would be found after each of them: of each file what was
flushed, of each folder the names that were. Ends with 1 where anything else was found.
"""

from __future__ import annotations

import ctypes
import json
import os
import shutil
import subprocess
import sys
import tempfile
import time
import traceback
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any, NamedTuple

HERE = Path(__file__).resolve()

import harness
from clips import numbered_clip
from guide_arc.core.model.errors import BadInput
from guide_arc.library.store import Library
from kills import State, Writer, held_after, looked_through, told

KINDS = {1: "the disk is full", 2: "an I/O error", 3: "half is written"}
ACTS = (
    "add",
    "keep_notes",
    "keep_review",
    "keep_profile",
    "keep_thing",
    "keep_setting",
    "keep_standard",
    "change",
    "add_clip",
    "find",
    "split",
    "out_and_back",
    "bundle",
    "copy",
    "restore",
    "erase",
    "add",
)


class Shim(NamedTuple):
    """What stands between the program and the disk."""

    set: Callable[[int, int], None]
    root: Callable[[bytes], None]
    log: Callable[[int], None]
    calls: Callable[[], int]


def shim() -> Shim:
    lib = ctypes.CDLL(os.environ["LD_PRELOAD"])
    lib.fault_count.restype = ctypes.c_long
    return Shim(
        lambda kind, at: lib.fault_set(kind, ctypes.c_long(at)),
        lib.fault_root,
        lib.fault_log,
        lib.fault_count,
    )


def writes(folder: Path, clip: Path, out: int) -> None:
    """Every kind of write once; one that can't be done says why, and the next is tried."""
    try:
        writer = Writer(folder, clip, 7, out)
    except (BadInput, OSError) as error:
        os.write(out, json.dumps({"kind": "said", "error": str(error)}).encode() + b"\n")
        return
    for act in ACTS:
        try:
            getattr(writer, act)()
        except (BadInput, OSError) as error:
            os.write(
                out, json.dumps({"kind": "said", "act": act, "error": str(error)}).encode() + b"\n"
            )
        except IndexError:
            continue  # no set is there to be chosen, since none could be added


def forked(work: Callable[[int], None]) -> list[bytes]:
    """What a child said that did some work; how it broke is the last of it."""
    out_of, into = os.pipe()
    child = os.fork()
    if not child:
        os.close(out_of)
        try:
            work(into)
        except BaseException as error:
            os.write(
                into,
                json.dumps(
                    {
                        "kind": "broke",
                        "error": repr(error)[:300],
                        "where": traceback.format_exc()[-900:],
                    }
                ).encode()
                + b"\n",
            )
        finally:
            os._exit(0)
    os.close(into)
    with os.fdopen(out_of, "rb") as said:
        lines = said.read().splitlines()
    os.waitpid(child, 0)
    return lines


def tried(
    folder: Path, base: Path, clip: Path, disk: Shim, kind: int, at: int
) -> tuple[list[str], int]:
    """One run with a fault; what went wrong, and how many sentences were said."""
    shutil.rmtree(folder, ignore_errors=True)
    shutil.copytree(base, folder)

    def work(out: int) -> None:
        disk.root(os.fsencode(folder))
        disk.set(kind, at)
        writes(folder, clip, out)

    lines = forked(work)
    found = [json.loads(line) for line in lines]
    wrong = [f"it broke: {f['error']}\n{f['where']}" for f in found if f["kind"] == "broke"]
    held = held_after(base)
    may, alive = _alike(lines, held)
    for made in clip.parent.glob("[0-9]*.*"):
        made.unlink()
    try:
        wrong += looked_through(folder, held, {"may": may} if alive else None)
    except Exception as error:
        wrong.append(f"the library does not open: {error!r}")
    return wrong, sum(f["kind"] == "said" for f in found)


def _alike(lines: list[bytes], held: State) -> tuple[dict[str, Any], bool]:
    """Like `told`; but what a write that was refused may have done already is remembered for all of
    them."""
    may: dict[str, Any] = {}
    begun: dict[str, Any] | None = None
    for line in lines:
        said = json.loads(line)
        if said["kind"] == "begin":
            begun = said
        elif said["kind"] == "said" and begun is not None:
            may.update(begun["may"])
            begun = None
        elif said["kind"] == "done":
            told([json.dumps(begun).encode(), line], held)
            begun = None
    return may, bool(may)


# A cut of power


class Disk:
    """What a disk holds for good, by what was done to it: of a file what was flushed, of a folder
    the names that were."""

    def __init__(self, base: Path, root: Path) -> None:
        """base : what the disk held before; root : where its calls say that it is"""
        self.root = root
        self.files: dict[str, bytearray] = {}
        self.flushed: dict[int, bytes] = {}
        self.ids: dict[str, int] = {}
        self.names: dict[str, int] = {}
        self._next = 0
        for path in base.rglob("*"):
            if path.is_file():
                self._make(str(root / path.relative_to(base)), path.read_bytes(), for_good=True)

    def _make(self, path: str, data: bytes, *, for_good: bool) -> None:
        self._next += 1
        self.files[path], self.ids[path] = bytearray(data), self._next
        self.flushed[self._next] = data if for_good else b""
        if for_good:
            self.names[path] = self._next

    def do(self, what: str, path: str, other: str, offset: int, data: bytes) -> None:
        if what == "c":
            self._make(path, b"", for_good=False)
        elif what == "w":
            own = self.files.setdefault(path, bytearray())
            if path not in self.ids:
                self._make(path, bytes(own), for_good=False)
                own = self.files[path]
            own.extend(bytes(max(offset - len(own), 0)))
            own[offset : offset + len(data)] = data
        elif what == "t" and path in self.files:
            own = self.files[path]
            del own[offset:]
            own.extend(bytes(offset - len(own)))
        elif what == "r" and path in self.files:
            self.files[other], self.ids[other] = self.files.pop(path), self.ids.pop(path)
        elif what == "u":
            self.files.pop(path, None)
            self.ids.pop(path, None)
        elif what == "s" and path in self.files:
            self.flushed[self.ids[path]] = bytes(self.files[path])
            self.names.setdefault(path, self.ids[path])  # a file that is flushed keeps its name
        elif what == "s":
            beside = {n: i for n, i in self.names.items() if os.path.dirname(n) != path}
            here = {n: i for n, i in self.ids.items() if os.path.dirname(n) == path}
            self.names = {**beside, **here}

    def laid_out(self, target: Path) -> None:
        """The disk as it is found after a cut of power now."""
        shutil.rmtree(target, ignore_errors=True)
        for place in (
            "",
            "tracks",
            "clips",
            "clips/coming",
            "standards",
            "backups",
            "coming",
            "erased",
        ):
            (target / place).mkdir(parents=True, exist_ok=True, mode=0o700)
        for name, own in self.names.items():
            path = target / os.path.relpath(name, self.root)
            path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
            path.write_bytes(self.flushed[own])
            path.chmod(0o600)


def noted(log: Path) -> Iterator[tuple[str, str, str, int, bytes]]:
    """The calls in a log: what, on which file, to which name, where, with which bytes."""
    with log.open("rb") as given:
        while head := given.readline():
            if head.startswith(b"{"):
                yield "said", head.decode(), "", 0, b""
                continue
            what, path, other, offset, size = (
                head.decode("utf-8", "surrogateescape").rstrip("\n").split("\t")
            )
            yield what, path, other, int(offset), given.read(int(size)) if what == "w" else b""


def cuts(place: Path, base: Path, clip: Path, disk: Shim, every: int) -> tuple[int, list[str]]:
    """The library after a cut of power behind each call; how many were tried, and what was
    wrong."""
    folder, log = place / "powered", place / "calls.log"
    shutil.copytree(base, folder)

    def work(_out: int) -> None:
        calls = os.open(log, os.O_CREAT | os.O_WRONLY | os.O_APPEND, 0o600)
        disk.root(os.fsencode(folder))
        disk.log(calls)
        disk.set(0, 0)
        writes(folder, clip, calls)

    forked(work)
    for made in clip.parent.glob("[0-9]*.*"):
        made.unlink()
    disk_now = Disk(base, folder)
    held, said, wrong, tries = held_after(base), [], [], 0
    target = place / "found"
    for n, (what, path, other, offset, data) in enumerate(noted(log)):
        if what == "said":
            said.append(path.encode())
            continue
        disk_now.do(what, path, other, offset, data)
        if n % every:
            continue
        tries += 1
        now = dict(held)
        under_way, act = told(said, now)
        disk_now.laid_out(target)
        try:
            found = looked_through(target, now, under_way)
        except Exception as error:
            found = [f"the library does not open: {error!r}"]
        wrong += [f"call {n} ({what} {os.path.basename(path)}) in {act}: {w}" for w in found]
    return tries, wrong


def main(every: int) -> int:
    disk = shim()
    begun = time.monotonic()
    bad = 0
    with tempfile.TemporaryDirectory() as name:
        place = Path(name)
        base, folder, clip = place / "base", place / "library", place / "in" / "clip.mp4"
        clip.parent.mkdir()
        numbered_clip(clip, 12, size=(160, 120))
        Library.open(base).close()
        shutil.copytree(base, folder)

        def counted(out: int) -> None:
            disk.root(os.fsencode(folder))
            disk.set(0, 0)
            writes(folder, clip, out)
            os.write(out, json.dumps({"kind": "count", "n": disk.calls()}).encode() + b"\n")

        lines = [json.loads(line) for line in forked(counted)]
        broken = [line for line in lines if line["kind"] in ("said", "broke")]
        assert not broken, broken
        calls = next(line["n"] for line in lines if line["kind"] == "count")
        for made in clip.parent.glob("[0-9]*.*"):
            made.unlink()
        print(f"{len(ACTS)} writes make {calls} calls that write, flush, make or rename")
        for kind, words in KINDS.items():
            wrong, sentences, tries = [], 0, 0
            for at in range(1, calls + 1, every):
                found, said = tried(folder, base, clip, disk, kind, at)
                wrong += [f"call {at}: {what}" for what in found]
                sentences += said
                tries += 1
            bad += len(wrong)
            for what in wrong[:12]:
                print("WRONG", words, what)
            print(
                f"{words}: {tries} runs, {sentences} writes refused in a sentence, {len(wrong)}"
                " wrong"
            )
        tries, wrong = cuts(place, base, clip, disk, every)
        bad += len(wrong)
        for what in wrong[:12]:
            print("WRONG power", what)
        print(f"a cut of power: {tries} states of the disk, {len(wrong)} wrong")
    print(f"in {time.monotonic() - begun:.0f} s")
    return 1 if bad else 0


if __name__ == "__main__":
    every_nth = harness.number(1, 1)
    if "faults.so" not in os.environ.get("LD_PRELOAD", ""):
        with tempfile.TemporaryDirectory() as made_in:
            built = Path(made_in) / "faults.so"
            subprocess.run(
                [
                    "cc",
                    "-shared",
                    "-fPIC",
                    "-O2",
                    "-o",
                    str(built),
                    str(HERE.with_suffix(".c")),
                    "-ldl",
                ],
                check=True,
            )
            sys.exit(
                subprocess.run(
                    [sys.executable, str(HERE), str(every_nth)],
                    check=False,
                    env={**os.environ, "LD_PRELOAD": str(built)},
                ).returncode
            )
    sys.exit(main(every_nth))
