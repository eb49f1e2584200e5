"""`guide-arc install-desktop`: the program among the desktop's applications, and out of them
again."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from importlib.resources import files
from pathlib import Path
from typing import Annotated, Final

import platformdirs
import typer

from guide_arc.core.model.errors import BadInput
from guide_arc.formats.atomic import write_atomic

NAME: Final = "guide-arc"
_FOR_ALL: Final = 0o644
_ENTRY: Final = """[Desktop Entry]
Type=Application
Version=1.5
Name=Guide Arc
GenericName=Training set review
Comment=Measures recorded training sets against their intended path
Exec={command}
TryExec={program}
Icon={icon}
Terminal=false
Categories=Sports;Education;
Keywords=coach;training;exercise;reps;form;
StartupNotify=true
StartupWMClass=guide-arc
"""


def install_desktop(
    remove: Annotated[
        bool, typer.Option("--remove", help="Take entry and icon out again.")
    ] = False,
) -> None:
    """Put the program with its icon among your desktop's applications."""
    entry, icon = places()
    if remove:
        gone = [file for file in (entry, icon) if file.exists()]
        for file in gone:
            file.unlink()
        _tell_desktop(entry, icon)
        typer.echo(
            "\n".join(f"removed {file}" for file in gone)
            or "there was nothing to remove: neither entry nor icon is there"
        )
        return
    program = program_file()
    picture = files("guide_arc.app.look").joinpath("guide-arc.svg").read_bytes()
    text = _ENTRY.format(command=quoted(str(program)), program=_plain(program), icon=NAME)
    try:
        for file, data in ((icon, picture), (entry, text.encode())):
            file.parent.mkdir(parents=True, exist_ok=True)
            write_atomic(file, data, _FOR_ALL)
    except OSError as error:
        raise BadInput(f"{error.filename}: it can't be written ({error.strerror})") from None
    _tell_desktop(entry, icon)
    typer.echo(f"wrote {entry}\nwrote {icon}\n'guide-arc install-desktop --remove' takes them out")


def places() -> tuple[Path, Path]:
    """Of the entry and of the icon, in the person's own XDG data folder."""
    data = Path(platformdirs.user_data_dir())
    return (
        data / "applications" / f"{NAME}.desktop",
        data / "icons" / "hicolor" / "scalable" / "apps" / f"{NAME}.svg",
    )


def program_file() -> Path:
    """The command installed with this Python, else the one on the path. Raises BadInput
    without one."""
    beside = Path(sys.executable).parent / NAME
    found = str(beside) if beside.is_file() else shutil.which(NAME)
    if found is None:
        raise BadInput(
            "the guide-arc command isn't installed; 'pip install .' or 'pipx install .' does that"
        )
    return Path(found).absolute()


def quoted(argument: str) -> str:
    """One argument of an Exec line: quoted, then escaped as any string of an entry is; a % is no
    field code."""
    inside = re.sub(r'(["`$\\])', r"\\\1", argument).replace("%", "%%")
    return '"' + inside.replace("\\", "\\\\") + '"'


def _plain(path: Path) -> str:
    return str(path).replace("\\", "\\\\")


def _tell_desktop(entry: Path, icon: Path) -> None:
    """Desktops that keep lists of both make them again; others look for themselves."""
    for command in (
        ["update-desktop-database", str(entry.parent)],
        ["gtk-update-icon-cache", "-qtf", str(icon.parents[2])],
    ):
        if shutil.which(command[0]):
            subprocess.run(command, check=False, capture_output=True, timeout=20)
