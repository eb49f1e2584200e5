"""The program among the desktop's applications."""

from __future__ import annotations

import configparser
import shlex
import sys
from pathlib import Path

import pytest
from typer.testing import CliRunner

from guide_arc.cli import install_desktop
from guide_arc.cli.install_desktop import quoted
from guide_arc.cli.main import application


def run(*arguments: str) -> str:
    done = CliRunner().invoke(application(["install-desktop"]), ["install-desktop", *arguments])
    assert done.exit_code == 0, done.output
    return done.output


@pytest.fixture
def data(tmp_path, monkeypatch) -> Path:
    """A person's own XDG data folder, and a command that is installed beside Python."""
    home, bin_ = tmp_path / "own data", tmp_path / "some bin"
    bin_.mkdir()
    (bin_ / "guide-arc").write_text("#!/bin/sh\n")
    monkeypatch.setenv("XDG_DATA_HOME", str(home))
    monkeypatch.setenv("PATH", "/nowhere")
    monkeypatch.setattr(sys, "executable", str(bin_ / "python"))
    return home


def test_entry_and_icon_are_put_there_and_taken_out_again(data):
    assert "wrote" in run()
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str  # type: ignore[assignment]
    entry.read(data / "applications" / "guide-arc.desktop")
    of = entry["Desktop Entry"]
    assert of["Name"] == "Guide Arc"
    assert shlex.split(of["Exec"]) == [str(Path(sys.executable).with_name("guide-arc"))]
    icon = data / "icons" / "hicolor" / "scalable" / "apps" / f"{of['Icon']}.svg"
    assert icon.read_text().startswith("<svg") or "<svg" in icon.read_text()
    assert (data / "applications" / "guide-arc.desktop").stat().st_mode & 0o777 == 0o644
    run()  # once more changes nothing
    assert "removed" in run("--remove")
    assert [p for p in data.rglob("*") if p.is_file()] == []
    assert "nothing to remove" in run("--remove")


def test_what_else_is_there_stays(data):
    other = data / "applications" / "other.desktop"
    other.parent.mkdir(parents=True)
    other.write_text("[Desktop Entry]\n")
    run()
    run("--remove")
    assert other.exists()


def test_without_an_installed_command_it_says_what_to_do(data, monkeypatch):
    monkeypatch.setattr(sys, "executable", "/nowhere/python")
    done = CliRunner().invoke(application(["install-desktop"]), ["install-desktop"])
    assert done.exit_code == 1
    assert "pip install" in str(done.exception)
    assert not install_desktop.places()[0].exists()


@pytest.mark.parametrize(
    ("argument", "line"),
    [("/a b/c", '"/a b/c"'), ("/50%/c", '"/50%%/c"'), ("/a$b", r'"/a\\$b"'), ('/a"b', r'"/a\\"b"')],
)
def test_a_path_is_quoted_as_desktop_entries_are(argument, line):
    assert quoted(argument) == line
