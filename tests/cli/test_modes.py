"""What is written is for its owner alone, whatever the machine's usual mode is."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

from builders import filmed, slow
from guide_arc.formats.track_file import write_track

ROOT = Path(__file__).resolve().parents[2]


def open_to_others(folder: Path) -> list[str]:
    return sorted(
        f"{p.relative_to(folder)} {p.stat().st_mode & 0o777:o}"
        for p in folder.rglob("*")
        if p.stat().st_mode & 0o077
    )


@slow
def test_a_wide_umask_widens_nothing_that_commands_write(tmp_path: Path):
    write_track(filmed("rope-pushdown", reps=2).track, tmp_path / "ada.csv")
    (tmp_path / "ada.csv").chmod(0o644)
    out = tmp_path / "out"
    out.mkdir(mode=0o700)
    library = str(out / "library")
    commands = [
        [
            "import",
            str(tmp_path / "ada.csv"),
            "--library",
            library,
            "--standard",
            "rope-pushdown",
            "--client",
            "Ada Quill",
        ],
        ["review", "--all", "--library", library],
        ["export", str(out / "record"), "--library", library],
        ["measure", str(tmp_path / "ada.csv"), "--out", str(out / "measures.csv")],
        ["convert", str(tmp_path / "ada.csv"), str(out / "ada.trc")],
        ["simulate", "--standard", "rope-pushdown", "--out", str(out / "made.csv")],
        ["report", "Ada Quill", "--library", library, "--out", str(out / "report.pdf")],
    ]
    runs = "\n".join(f"assert run({c!r}) == 0, {c[0]!r}" for c in commands)
    script = (
        "import os, sys; os.umask(0)\nfrom guide_arc.cli import main\nreal = main.run\ndef"
        " run(c):\n    sys.argv = ['guide-arc', *c]\n    try:\n        main.main()\n    except"
        f" SystemExit as end:\n        return end.code or 0\n{runs}\n"
    )
    done = subprocess.run(
        [sys.executable, "-c", script],
        capture_output=True,
        text=True,
        check=False,
        env={
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "QT_QPA_PLATFORM": "offscreen",
            "GUIDE_ARC_STATE": str(out / "state"),
        },
    )
    assert done.returncode == 0, done.stderr
    assert (out / "report.pdf").exists()
    assert open_to_others(out) == []
