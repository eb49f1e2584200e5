"""What must be true of the whole tree."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
from functools import cache
from pathlib import Path

import numpy as np
import pytest

from builders import slow

ROOT = Path(__file__).resolve().parent.parent


def tracked(pattern: str) -> list[Path]:
    listed = subprocess.run(["git", "ls-files", pattern], cwd=ROOT, capture_output=True, text=True)
    if listed.returncode:
        pytest.skip("not a git checkout")
    return [ROOT / line for line in listed.stdout.splitlines()]


@cache
def tree_of(file: Path) -> ast.Module:
    """A file's syntax tree, which several tests look at."""
    return ast.parse(file.read_text())


def test_the_page_of_checks_says_what_the_checks_say():
    sys.path.insert(0, str(ROOT / "tools"))
    import checks_doc

    page = (ROOT / "docs" / "checks.md").read_text()
    assert page.startswith(checks_doc.HEAD)
    assert re.findall(r"^## (.+)$", page, re.MULTILINE) == list(checks_doc.specs())  # type: ignore[attr-defined]
    for name in checks_doc.specs():  # type: ignore[attr-defined]
        says, users, used = checks_doc.described(name)
        section = page[page.index(says) :].split("\n## ")[0]
        assert section.strip().endswith(used), name
        if name in ("torso-swing", "range-short"):
            # The recordings that can show it are tried out, which takes too long for all of them
            # here.
            assert checks_doc.judged_by(name, users) in section, name


def test_the_page_and_the_schema_of_standards_say_what_the_standards_say():
    sys.path.insert(0, str(ROOT / "tools"))
    import standards_doc

    assert standards_doc.PAGE.read_text() == standards_doc.page()
    assert standards_doc.SCHEMA.read_text() == standards_doc.json_schema()  # type: ignore[attr-defined]


def test_the_page_of_formats_lists_what_is_declared():
    sys.path.insert(0, str(ROOT / "tools"))
    import forms_doc

    assert forms_doc.PAGE.read_text() == forms_doc.page()


def test_the_page_of_cases_lists_every_case():
    sys.path.insert(0, str(ROOT / "tools"))
    import cases_doc

    assert cases_doc.PAGE.read_text() == cases_doc.page()


def test_the_page_of_measures_says_what_the_measures_say():
    sys.path.insert(0, str(ROOT / "tools"))
    import measures_doc

    assert measures_doc.PAGE.read_text() == measures_doc.page()


def test_every_link_in_the_documents_leads_somewhere():
    for page in [ROOT / "README.md", ROOT / "CHANGELOG.md", *(ROOT / "docs").glob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)\)", page.read_text()):
            assert (page.parent / target).exists(), f"{page.name} links to {target}"


def test_documented_commands_exist():
    from guide_arc.cli.main import COMMANDS

    for line in (ROOT / "README.md").read_text().splitlines():
        match = re.match(r"\./run ([a-z-]+)\b", line)
        if match and match[1] not in ("test", "add-pose"):
            assert match[1] in COMMANDS, line


def test_modules_say_what_they_are_about():
    for file in tracked("src/*.py"):
        if file.name != "__init__.py" or file.stat().st_size:
            assert file.read_text().lstrip().startswith('"""'), file


def test_what_ships_has_its_licence():
    assert "GNU GENERAL PUBLIC LICENSE" in (ROOT / "LICENSE").read_text()
    assert "SIL OPEN FONT LICENSE" in (ROOT / "LICENSES" / "B612-fonts.txt").read_text()
    assert sorted(p.name for p in (ROOT / "src/guide_arc/drawings/fonts").iterdir()) == [
        "B612-Bold.otf",
        "B612-Regular.otf",
    ]


def app_files() -> list[Path]:
    return sorted((ROOT / "src" / "guide_arc" / "app").rglob("*.py"))


def test_the_window_hardly_imports_inside_functions():
    inside = [
        f"{file.name}:{node.lineno}"
        for file in app_files()
        for function in ast.walk(tree_of(file))
        if isinstance(function, ast.FunctionDef | ast.AsyncFunctionDef)
        for node in ast.walk(function)
        if isinstance(node, ast.Import | ast.ImportFrom)
    ]
    assert len(inside) <= 5, inside


def test_no_class_has_more_than_twenty_methods():
    large = {
        node.name: count
        for file in tracked("src/*.py")
        for node in ast.walk(tree_of(file))
        if isinstance(node, ast.ClassDef)
        and (count := sum(isinstance(n, ast.FunctionDef) for n in node.body)) > 20
    }
    assert large == {}


def test_a_public_class_name_exists_once():
    seen: dict[str, list[str]] = {}
    for file in tracked("src/*.py"):
        for node in ast.walk(tree_of(file)):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                seen.setdefault(node.name, []).append(file.name)
    assert {name: files for name, files in seen.items() if len(files) > 1} == {}


# Of other libraries: their functions take lists of columns or coordinates by position.
TAKE_MANY = {"select", "op.create_table", "cv2.circle", "cv2.line", "cv2.polylines", "cv2.ellipse"}


def test_no_call_passes_more_than_six_arguments_by_position():
    many = {
        f"{file.name}:{node.lineno}"
        for file in tracked("src/*.py")
        for node in ast.walk(tree_of(file))
        if isinstance(node, ast.Call)
        and len(node.args) > 6
        and not any(isinstance(a, ast.Starred) for a in node.args)
        and ast.unparse(node.func) not in TAKE_MANY
    }
    assert many == set()


def test_types_are_not_switched_off_where_parts_of_the_window_meet():
    for file in tracked("src/guide_arc/app/contract/*.py"):
        assert not re.search(r"\bAny\b", file.read_text()), file
    for file in app_files():
        named = re.findall(r"[\[(] ?Any\b(?! measures)|: Any\b|-> Any\b", file.read_text())
        if named:  # documents as JSON and TOML have them, and fields of rows
            assert file.name in {
                "model.py",
                "scheme_dialog.py",
                "edits.py",
                "plan_jobs.py",
                "setup_jobs.py",
                "set_changes.py",
                "set_jobs.py",
            }, file


def imported_at_once(file: Path, modules: set[str]) -> set[str]:
    """The modules that a file imports when it is loaded: not for types alone, and not lazily."""
    found = set()
    for node in tree_of(file).body:
        if isinstance(node, ast.ImportFrom) and node.module:
            names = {f"{node.module}.{alias.name}" for alias in node.names}
            found |= (names | {node.module}) & modules
    return found


def test_no_files_of_the_program_import_one_another_in_a_circle():
    source = ROOT / "src"
    files = {
        ".".join(f.relative_to(source).with_suffix("").parts).removesuffix(".__init__"): f
        for f in tracked("src/*.py")
    }
    graph = {name: imported_at_once(file, set(files)) for name, file in files.items()}
    while free := [name for name, needs in graph.items() if not needs]:
        for name in free:
            del graph[name]
        graph = {name: needs - set(free) for name, needs in graph.items()}
    assert graph == {}


def is_numeric(value: ast.expr) -> bool:
    if isinstance(value, ast.Constant):
        return isinstance(value.value, int | float) and not isinstance(value.value, bool)
    if isinstance(value, ast.UnaryOp):
        return is_numeric(value.operand)
    if isinstance(value, ast.BinOp):
        return is_numeric(value.left) and is_numeric(value.right)
    return isinstance(value, ast.Tuple) and bool(value.elts) and all(map(is_numeric, value.elts))


def test_each_number_of_tracking_and_drawing_has_its_reason():
    """Beside it, above it, or above the group of lines that it stands in."""
    bare = []
    for file in (*tracked("src/guide_arc/capture/*.py"), *tracked("src/guide_arc/drawings/*.py")):
        lines = file.read_text().split("\n")
        for node in ast.parse("\n".join(lines)).body:
            if not isinstance(node, ast.AnnAssign) or node.value is None:
                continue
            if not isinstance(node.target, ast.Name) or not node.target.id.isupper():
                continue
            above = node.lineno - 2
            while re.match(r"_?[A-Z]", lines[above]):
                above -= 1
            if is_numeric(node.value) and "#" not in lines[above] + lines[node.lineno - 1]:
                bare.append(f"{file.name}: {node.target.id}")
    assert bare == []


def test_a_check_stands_in_its_own_file():
    named = [f for f in tracked("src/*.py") if '"range-short"' in f.read_text()]
    assert len(named) <= 3, named


def test_the_list_of_places_loads_neither_the_core_nor_a_widget():
    told = subprocess.run(
        [sys.executable, "-c", "import sys, guide_arc.app.entries; print(*sys.modules)"],
        capture_output=True,
        text=True,
        check=True,
    )
    loaded = set(told.stdout.split())
    assert "guide_arc.app.places.review.entry" in loaded
    assert not {m for m in loaded if m.startswith(("guide_arc.core", "PyQt6"))}


@slow
def test_what_a_start_loads_is_without_the_slow_few_of_scipy():
    code = (
        "import sys, guide_arc.app.shell.window, guide_arc.cli.main; from guide_arc.lazily import"
        " load; from guide_arc.app.entries import ENTRIES; [load(one) for e in ENTRIES for"
        " one in e.also]; print(*sys.modules)"
    )
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    loaded = set(told.stdout.split())
    assert "guide_arc.core.mechanics.find_setup" in loaded
    assert not loaded & {"scipy.optimize", "scipy.stats"}


def test_the_page_of_constants_tells_each_number_as_it_is():
    from guide_arc.core.checks.rules import CHECK, SPINE
    from guide_arc.core.kinematics.rules import BODY_RULES, CLEAN, LEVEL, PICTURE
    from guide_arc.core.mechanics.rules import PULL
    from guide_arc.core.model.rules import told
    from guide_arc.core.planning.rules import PLAN
    from guide_arc.core.reps.rules import EDGE, REP, SELECT
    from guide_arc.core.review.rules import REVIEW

    page = (ROOT / "docs" / "constants.md").read_text()
    for group in (
        REP,
        EDGE,
        SELECT,
        CLEAN,
        LEVEL,
        PICTURE,
        BODY_RULES,
        CHECK,
        SPINE,
        REVIEW,
        PULL,
        PLAN,
    ):
        for number in told(group):
            value = " to ".join(f"{v:g}" for v in np.atleast_1d(number.value))
            assert f"| `{number.name}` | {value} {number.unit}".rstrip() in page, number.name
