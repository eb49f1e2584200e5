"""What must be true of the whole tree."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parent.parent


def tracked(pattern: str) -> list[Path]:
    listed = subprocess.run(["git", "ls-files", pattern], cwd=ROOT, capture_output=True, text=True)
    if listed.returncode:
        pytest.skip("not a git checkout")
    return [ROOT / line for line in listed.stdout.splitlines()]


def test_the_page_of_checks_says_what_the_checks_say():
    sys.path.insert(0, str(ROOT / "tools"))
    import checks_doc

    assert (ROOT / "docs" / "checks.md").read_text() == checks_doc.page()


def test_the_page_and_the_schema_of_standards_say_what_the_standards_say():
    sys.path.insert(0, str(ROOT / "tools"))
    import standards_doc

    assert standards_doc.PAGE.read_text() == standards_doc.page()
    assert standards_doc.SCHEMA.read_text() == standards_doc.json_schema()


def test_every_link_in_the_documents_leads_somewhere():
    for page in [ROOT / "README.md", ROOT / "CHANGELOG.md", *(ROOT / "docs").glob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)\)", page.read_text()):
            assert (page.parent / target).exists(), f"{page.name} links to {target}"


def test_documented_commands_exist():
    from guide_arc.cli.main import app

    names = {c.name for c in app.registered_commands}
    for line in (ROOT / "README.md").read_text().splitlines():
        match = re.match(r"\./run (review|measure|standards|simulate|demo)\b", line)
        if match:
            assert match[1] in names


def test_modules_say_what_they_are_about():
    for file in tracked("src/*.py"):
        if file.name != "__init__.py" or file.stat().st_size:
            assert file.read_text().lstrip().startswith('"""'), file


def test_what_ships_has_its_licence():
    assert "GNU GENERAL PUBLIC LICENSE" in (ROOT / "LICENSE").read_text()
    assert "SIL OPEN FONT LICENSE" in (ROOT / "LICENSES" / "B612-fonts.txt").read_text()
    assert sorted(p.name for p in (ROOT / "src/guide_arc/drawings/fonts").iterdir()) == [
        "B612-Bold.otf", "B612-Regular.otf",
    ]  # fmt: skip
