"""The sheets beside a standard's figure: what it asks, its checks, its schools, its views, the changes."""

from __future__ import annotations

import html
from collections.abc import Callable, Mapping

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDoubleSpinBox,
    QFormLayout,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from guide_arc.app.viewmodels.standards import PULLS, StandardsModel
from guide_arc.core.mechanics.fibres import FIBRES, along_pct
from guide_arc.core.model.finding import Finding
from guide_arc.core.model.review import Review
from guide_arc.core.model.standard import CheckRule, Standard
from guide_arc.core.model.track import View
from guide_arc.drawings.standard_sheet import STAYS
from guide_arc.drawings.words import JOINT, sentence
from guide_arc.standards.cautions import caution_words
from guide_arc.standards.differences import school_differences
from guide_arc.standards.schools import Preference

VIEW_WORDS: dict[View, str] = {
    "none": "In space", "front": "From the front", "back": "From the back", "left": "From the left",
    "right": "From the right",
}  # fmt: skip
_BASES = {
    "standing": "standing", "seated": "seated", "hinged": "hinged at the hips", "kneeling": "kneeling",
    "prone": "face down on a bench", "plank": "in one line on hands and feet", "pike": "hips high, feet raised",
    "on-hands": "on the hands, feet free", "side-lying": "lying on the side",
}  # fmt: skip
_ELBOWS = {
    "still": "stays where it is", "close": "close to the body", "between": "about 45° between close and wide",
    "wide": "wide", "leads": "leads, the hand follows", "level-arc": "on a level arc",
    "arc-to-hip": "in an arc back to the hip", "over-and-up": "opens on its way", "turns-with-trunk": "turns with the trunk",
}  # fmt: skip
_HOLDS = {"every": "in every rep", "first": "in the first rep", "last": "in the last rep", "first-and-last": "in the first and the last rep"}  # fmt: skip


def unit_of(rule: CheckRule, plan: Standard) -> str:
    """`°` or `%` behind a limit."""
    pct = rule.name in _PCT or (
        rule.name in ("range-short", "range-over", "left-right") and plan.drive_unit == "pct"
    )
    return "%" if pct else "°"


_PCT = (
    "shoulder-hike", "elbow-low", "elbow-high", "elbow-path", "hand-path", "end-point", "too-fast-lower",
    "too-fast-lift", "hold-missing", "momentum", "slack-zone", "fatigue-drift",
)  # fmt: skip


class Sheet(QScrollArea):
    """A sheet that scrolls; `body` is laid out anew for each standard."""

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._fresh()

    def _fresh(self) -> QVBoxLayout:
        inside = QWidget()
        box = QVBoxLayout(inside)
        box.setContentsMargins(14, 10, 14, 10)
        box.setSpacing(8)
        self.setWidget(inside)
        self.box = box
        return box

    def words(self, text: str, name: str = "", rich: bool = False) -> QLabel:
        label = QLabel(text)
        label.setWordWrap(True)
        if name:
            label.setObjectName(name)
        label.setTextFormat(Qt.TextFormat.RichText if rich else Qt.TextFormat.PlainText)
        self.box.addWidget(label)
        return label


class AsksSheet(Sheet):
    """Setup, range, tempo, dose; range and tempo can be typed."""

    went = pyqtSignal(str)

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        self.words(plan.setup)
        form = QFormLayout()
        form.setSpacing(6)
        form.setLabelAlignment(Qt.AlignmentFlag.AlignLeft)
        for label, text in self._facts(plan):
            value = QLabel(text)
            value.setWordWrap(True)
            head = QLabel(label)
            head.setObjectName("muted")
            form.addRow(head, value)
        self.box.addLayout(form)
        self._range(form, plan)
        self._tempo(form, plan)
        self._links(plan)
        self.words("Care", "heading")
        for caution in plan.cautions:
            self.words(caution_words().get(caution, caution))
        self.box.addStretch(1)

    def _facts(self, plan: Standard) -> list[tuple[str, str]]:
        along = along_pct(plan)
        fibres = FIBRES[plan.line].words
        if along is not None:
            fibres += f"; {along:.0f} % of the elbow's way runs along it"
        pull = dict(PULLS)[plan.pull]
        held = "" if plan.held == "none" else f", {plan.held.replace('-', ' ')}"
        where = plan.pulley_m or plan.anchor_m
        if where:
            side = (
                "in the middle"
                if abs(where[0]) < 0.05
                else f"{abs(where[0]):.1f} m {'out' if where[0] > 0 else 'on the other side'}"
            )
            depth = "ahead" if where[2] > 0 else "behind"
            held += f"; from {where[1]:.1f} m up, {side}, {abs(where[2]):.1f} m {depth}"
        low, high = plan.trunk_lean_deg
        bench = "" if plan.bench_deg is None else f", bench at {plan.bench_deg:g}°"
        stays = [STAYS[c.name][0] for c in plan.checks if c.name in STAYS]
        rows = [
            ("Works", f"{plan.muscle}: {fibres}"),
            ("Body", f"{_BASES[plan.base]}, trunk {_signed(low)} to {_signed(high)}°{bench}"),
            ("Kit", f"{pull}{held}"),
            ("Elbow", _ELBOWS[plan.elbow_path]),
            ("Stays", ", ".join(stays) or "nothing is asked to stay"),
            ("Dose", f"{plan.dose.sets[0]}–{plan.dose.sets[1]} × {plan.dose.reps[0]}–{plan.dose.reps[1]}, {plan.dose.rest_s} s rest"),
            ("Film", ", ".join(f"from the {v}" for v in plan.views)),
        ]  # fmt: skip
        if plan.holds.opening_stretch_s:
            rows.append(("Opens", f"with a stretch of {plan.holds.opening_stretch_s:g} s"))
        if plan.holds.on != "every":
            rows.append(("Holds", _HOLDS[plan.holds.on]))
        return rows

    def _range(self, form: QFormLayout, plan: Standard) -> None:
        unit = "pct" if plan.drive_unit == "pct" else "deg"
        row = QHBoxLayout()
        row.setSpacing(4)
        self.ends: dict[str, QDoubleSpinBox] = {}
        keys = {
            "from": plan.range.from_deg,
            "to": plan.range.to_deg,
            "tolerance": plan.range.tolerance_deg,
        }
        for key, value in keys.items():
            if key != "from":
                row.addWidget(QLabel("to" if key == "to" else "±"))
            box = number(value, "°" if unit == "deg" else " %", f"Range {key}")
            box.valueChanged.connect(lambda v, k=key: self._set_range(plan, k, v))
            self.ends[key] = box
            row.addWidget(box)
        row.addStretch(1)
        head = QLabel(f"Range, {JOINT[plan.drive]}")
        head.setObjectName("muted")
        form.addRow(head, row)

    def _set_range(self, plan: Standard, key: str, value: float) -> None:
        unit = "pct" if plan.drive_unit == "pct" else "deg"
        values = {f"range.{key}_{unit}": value}
        number_of = {
            "elbow_flexion": "arm.elbow_deg", "shoulder_elevation": "arm.elevation_deg", "shoulder_plane": "arm.plane_deg",
        }.get(plan.drive)  # fmt: skip
        if number_of and key != "tolerance":
            values[f"pose.{'start' if key == 'from' else 'turn'}.{number_of}"] = value
        self.model.set_values(values, f"Range {key} {value:g}")

    def _tempo(self, form: QFormLayout, plan: Standard) -> None:
        self.tempo = QLineEdit(str(plan.tempo))
        self.tempo.setMaximumWidth(130)
        self.tempo.setToolTip("Lower – bottom – lift – top in seconds, x for no demand")
        self.tempo.setAccessibleName("Tempo: lower, bottom, lift, top in seconds")
        self.tempo.editingFinished.connect(self._set_tempo)
        head = QLabel("Tempo")
        head.setObjectName("muted")
        form.addRow(head, self.tempo)

    def _set_tempo(self) -> None:
        from guide_arc.core.model.errors import BadInput  # noqa: PLC0415
        from guide_arc.standards.tempo import parse_tempo  # noqa: PLC0415

        plan = self.model.plan
        if plan is None or self.tempo.text().strip() == str(plan.tempo):
            return
        try:
            tempo = parse_tempo(self.tempo.text())
        except BadInput as error:
            self.model.refused.emit(f"{sentence(str(error))}.")
            self.tempo.setText(str(plan.tempo))
            return
        values = {
            f"tempo.{part}": value
            for part in ("lower_s", "bottom_s", "lift_s", "top_s")
            if (value := getattr(tempo, part)) is not None or getattr(plan.tempo, part) is not None
        }
        self.model.set_values(values, f"Tempo {tempo}")

    def _links(self, plan: Standard) -> None:
        for label, ids in (("Easier", plan.easier), ("Harder", plan.harder)):
            known = [i for i in ids if i in self.model.catalogue]
            if not known:
                continue
            row = QHBoxLayout()
            head = QLabel(label)
            head.setObjectName("muted")
            row.addWidget(head)
            for id in known:
                button = QPushButton(self.model.catalogue.standard(id).name)
                button.setObjectName("small")
                button.clicked.connect(lambda _on, i=id: self.went.emit(i))
                row.addWidget(button)
            row.addStretch(1)
            self.box.addLayout(row)


def _signed(value: float) -> str:
    """A whole number with a minus sign that is one."""
    return f"{value + 0.0:.0f}".replace("-0", "0").replace("-", "−")


def number(value: float, suffix: str, name: str) -> QDoubleSpinBox:
    """A field for a limit: typed, or by the arrow keys."""
    box = QDoubleSpinBox()
    box.setRange(-180.0, 200.0)
    box.setDecimals(0 if value == round(value) else 1)
    box.setValue(value)
    box.setSuffix(suffix)
    box.setAccessibleName(name)
    box.setKeyboardTracking(False)
    box.setFixedWidth(78)
    box.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
    return box


class ChecksSheet(Sheet):
    """Each check with its limit to change, what the clean set gives, and what is said."""

    marked = pyqtSignal(str)

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model
        self.limits: dict[str, QDoubleSpinBox] = {}
        self._clean: dict[str, QLabel] = {}

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        self.limits, self._clean = {}, {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(4)
        for column, words in enumerate(("Check and cue", "Limit", "Clean set")):
            head = QLabel(words)
            head.setObjectName("muted")
            grid.addWidget(head, 0, column)
        for i, rule in enumerate(plan.checks):
            row = 1 + 2 * i
            name = QPushButton(rule.title)
            name.setObjectName("tab")
            felt = f"\nFelt in: {', '.join(rule.felt)}" if rule.felt else ""
            name.setToolTip(f"{rule.name}\n{rule.why}{felt}")
            name.clicked.connect(lambda _on, n=rule.name: self.marked.emit(n))
            grid.addWidget(name, row, 0, Qt.AlignmentFlag.AlignLeft)
            unit = unit_of(rule, plan)
            box = number(rule.limit, unit if unit == "°" else " %", f"Limit of {rule.title}")
            key = f"check.{rule.name}.limit_{'deg' if unit == '°' else 'pct'}"
            box.valueChanged.connect(lambda v, k=key, r=rule: self._set(k, r, v))
            self.limits[rule.name] = box
            grid.addWidget(box, row, 1)
            clean = QLabel("…")
            clean.setObjectName("muted")
            clean.setMinimumWidth(96)
            self._clean[rule.name] = clean
            grid.addWidget(clean, row, 2)
            cue = QLineEdit(rule.cue)
            cue.setToolTip(f"{rule.cue}\n{rule.why}")
            cue.setCursorPosition(0)
            cue.setAccessibleName(f"Cue of {rule.title}")
            cue.editingFinished.connect(lambda c=cue, r=rule: self._say(c, r))
            grid.addWidget(cue, row + 1, 0, 1, 3)
            grid.setRowMinimumHeight(row, 40)
        grid.setColumnStretch(0, 1)
        self.box.addLayout(grid)
        self.box.addStretch(1)

    def _set(self, key: str, rule: CheckRule, value: float) -> None:
        self.marked.emit(rule.name)
        self.model.set_value(key, value, f"{rule.title}: {value:g}")

    def _say(self, cue: QLineEdit, rule: CheckRule) -> None:
        text = cue.text().strip()
        if (
            text
            and text != rule.cue
            and not self.model.set_value(f"check.{rule.name}.cue", text, "Cue")
        ):
            cue.setText(rule.cue)

    def show_clean(self, review: Review | None) -> None:
        """What the simulated client's clean set gives, the worse arm of each check."""
        found: dict[str, Finding] = {}
        for f in review.findings if review else ():
            if f.rule.name not in found:  # ranked: the worst comes first
                found[f.rule.name] = f
        for name, label in self._clean.items():
            worst = found.get(name)
            label.setText("…" if worst is None else _value_words(worst))
            label.setObjectName("muted" if worst is None or worst.verdict == "ok" else "heading")
            style = label.style()
            if style is not None:
                style.polish(label)


def _value_words(f: Finding) -> str:
    verdict = {"ok": "ok", "near": "near", "off": "off", "cannot-tell": "can't tell"}[f.verdict]
    if f.value is None:
        return verdict
    unit = {"deg": "°", "pct": " %", "s": " s"}[f.unit]
    return f"{verdict}, {f.value:.{1 if f.unit == 's' else 0}f}{unit}"


class SchoolsSheet(Sheet):
    """Schools side by side, the differences marked; and which one is preferred for whom."""

    def __init__(
        self, model: StandardsModel, clients: Callable[[], list[str]], colours: Mapping[str, str]
    ) -> None:
        super().__init__()
        self.model, self._clients, self.colours = model, clients, colours

    def show_plan(self, plan: Standard) -> None:
        self._fresh()
        raw = self.model.catalogue.raw(plan.id)
        changes = school_differences(raw)
        row = QHBoxLayout()
        row.setSpacing(6)
        for school in plan.schools:
            button = QPushButton(school.name)
            button.setCheckable(True)
            button.setChecked(school.id == plan.school.id)
            button.setToolTip(school.why)
            button.clicked.connect(lambda _on, s=school.id: self.model.show_school(s))
            row.addWidget(button)
        row.addStretch(1)
        holder = QWidget()
        holder.setLayout(row)
        row.setContentsMargins(0, 0, 0, 0)
        side = QScrollArea()
        side.setWidgetResizable(True)
        side.setWidget(holder)
        side.setFixedHeight(44)
        side.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.box.addWidget(side)
        self.words(f"{plan.school.why} {plan.school.choose_when}".strip())
        if changes:
            self.words(self._table(plan, changes), rich=True)
        else:
            self.words("Practitioners agree on this one: there is no other school.", "muted")
        self._preferred(plan)
        self.box.addStretch(1)

    def _table(self, plan: Standard, changes: Mapping[str, list]) -> str:  # type: ignore[type-arg]
        keys = list(dict.fromkeys(d.key for rows in changes.values() for d in rows))
        c = self.colours
        strict = {d.key: d.before for rows in changes.values() for d in rows}
        head = "".join(f"<th align='left'>{html.escape(s.name)}</th>" for s in plan.schools)
        lines = [f"<tr><th></th>{head}</tr>"]
        for key in keys:
            cells = [f"<td>{_cell(strict[key])}</td>"]
            for school in plan.schools[1:]:
                own = next((d for d in changes[school.id] if d.key == key), None)
                if own is None:
                    cells.append(f"<td style='color:{c['muted']}'>{_cell(strict[key])}</td>")
                else:
                    cells.append(f"<td style='color:{c['guide']}'><b>{_cell(own.after)}</b></td>")
            words = html.escape(key_words(key))
            lines.append(f"<tr><td style='color:{c['muted']}'>{words}</td>{''.join(cells)}</tr>")
        return f"<table cellspacing='0' cellpadding='5'>{''.join(lines)}</table>"

    def _preferred(self, plan: Standard) -> None:
        if len(plan.schools) < 2:
            return
        self.words("Start with this school", "heading")
        row = QHBoxLayout()
        self.who = QComboBox()
        self.who.addItem("for every client", None)
        for client in self._clients():
            self.who.addItem(f"for {client}", client)
        self.where = QComboBox()
        self.where.addItem("in this exercise", plan.id)
        self.where.addItem("wherever it exists", None)
        add = QPushButton("Prefer")
        add.setToolTip("New sets start with this school; it can still be changed for each set")
        add.clicked.connect(
            lambda: self.model.prefer(
                Preference(plan.school.id, self.who.currentData(), self.where.currentData())
            )
        )
        for widget in (self.who, self.where, add):
            row.addWidget(widget)
        row.addStretch(1)
        self.box.addLayout(row)
        names = {s.id: s.name for s in plan.schools}
        for p in self.model.preferences():
            line = QHBoxLayout()
            who = p.client or "every client"
            where = "in this exercise" if p.standard else "wherever it exists"
            line.addWidget(QLabel(f"{names[p.school]}: {who}, {where}"))
            forget = QPushButton("Forget")
            forget.setObjectName("small")
            forget.clicked.connect(lambda _on, old=p: self.model.forget_preference(old))
            line.addWidget(forget)
            line.addStretch(1)
            self.box.addLayout(line)


def _cell(value: object) -> str:
    if value is None:
        return "–"
    if isinstance(value, list):
        return html.escape(" to ".join(f"{v:g}" for v in value))
    return html.escape(f"{value:g}" if isinstance(value, (int, float)) else str(value))


def key_words(key: str) -> str:
    """`check.upper-arm-drift.limit_deg` as a coach reads it."""
    words = key.replace("check.", "").replace("pose.", "").replace(".arm.", ": ").replace("_", " ")
    for short, unit in ((" deg", " (°)"), (" pct", " (%)"), (" s", " (s)")):
        if words.endswith(short):
            words = words.removesuffix(short) + unit
    return words.replace(".", ", ").replace("-", " ")


class ViewsSheet(Sheet):
    """What a recording from each side can judge, as found on simulated sets."""

    def __init__(self, colours: Mapping[str, str]) -> None:
        super().__init__()
        self.colours = colours

    def show_views(self, plan: Standard, judged: Mapping[View, Mapping[str, bool]] | None) -> None:
        self._fresh()
        if judged is None:
            self.words("Filming the simulated client from every side…", "muted")
            self.box.addStretch(1)
            return
        titles = {c.name: c.title for c in plan.checks}
        if not any(any(told.values()) for view, told in judged.items() if view != "none"):
            self.words(
                "The movement runs towards and away from every camera: a single picture does not even count "
                "its reps. Record it in space."
            )
        for view, told in judged.items():
            able = [titles[n] for n in titles if told.get(n)]
            hidden = [titles[n] for n in titles if not told.get(n)]
            best = " · best" if view in plan.views and able else ""
            self.words(f"{VIEW_WORDS[view]}{best}: {len(able)} of {len(titles)} checks", "heading")
            if hidden and able:
                self.words("Can't judge: " + ", ".join(_lower(h) for h in hidden) + ".")
            elif not able:
                self.words("Can't judge any of them: the body hides the movement from here.")
            else:
                self.words("Judges all of them.", "muted")
        self.box.addStretch(1)


def _lower(words: str) -> str:
    return words[:1].lower() + words[1:]


class ChangesSheet(Sheet):
    """What the coach's own file changes in the shipped one."""

    def __init__(self, model: StandardsModel) -> None:
        super().__init__()
        self.model = model

    def show_changes(self) -> None:
        self._fresh()
        changes = self.model.changes()
        if not self.model.is_own:
            self.words(
                "This is the standard as it ships. What you change becomes your own, with this one kept beside it.",
                "muted",
            )
        elif (
            not changes
            and self.model.chosen is not None
            and not self.model.catalogue.overrides(self.model.chosen)
        ):
            self.words(
                "This standard is your own; there is no shipped one to compare it with.", "muted"
            )
        elif not changes:
            self.words("Nothing differs from the shipped one.", "muted")
        else:
            rows = "".join(
                f"<tr><td>{html.escape(key_words(d.key))}</td><td>{_cell(d.before)}</td><td><b>{_cell(d.after)}</b></td></tr>"
                for d in changes
            )
            head = "<tr><th align='left'></th><th align='left'>shipped</th><th align='left'>yours</th></tr>"
            self.words(f"<table cellpadding='5'>{head}{rows}</table>", rich=True)
        for id, why in self.model.catalogue.problems.items():
            self.words(f"Your file {id}.toml is not used: {why}", "heading")
        self.box.addStretch(1)
