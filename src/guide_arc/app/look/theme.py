"""Type and widget styles from the palette; light or dark by choice or as the desktop is."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPalette
from PyQt6.QtWidgets import QApplication

from guide_arc.app.look.type import follow_desktop, px
from guide_arc.drawings.palette import DARK, LIGHT
from guide_arc.drawings.typeface import FAMILY, font_files

Mode = Literal["system", "light", "dark"]


def load_fonts() -> None:
    """Make the shipped family known to Qt, at the size that the desktop's own font has."""
    follow_desktop(QApplication.font())
    for data in font_files().values():
        QFontDatabase.addApplicationFontFromData(data)


def icon() -> QIcon:
    """The program's icon."""
    return QIcon(str(Path(__file__).parent / "guide-arc.svg"))


def colours(mode: Mode) -> dict[str, str]:
    """The palette that a mode means on this desktop now."""
    if mode == "system":
        hints = QApplication.styleHints()
        dark = hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark
        return DARK if dark else LIGHT
    return DARK if mode == "dark" else LIGHT


def apply(app: QApplication, mode: Mode) -> dict[str, str]:
    """Give the whole application a mode's colours, and return them."""
    c = colours(mode)
    font = QFont(FAMILY)
    font.setPixelSize(px(13))
    app.setFont(font)
    palette = QPalette()
    for role, name in (
        (QPalette.ColorRole.Window, "paper"),
        (QPalette.ColorRole.Base, "panel"),
        (QPalette.ColorRole.AlternateBase, "paper"),
        (QPalette.ColorRole.Text, "ink"),
        (QPalette.ColorRole.WindowText, "ink"),
        (QPalette.ColorRole.Button, "panel"),
        (QPalette.ColorRole.ButtonText, "ink"),
        (QPalette.ColorRole.Highlight, "guide"),
        (QPalette.ColorRole.HighlightedText, "panel"),
        (QPalette.ColorRole.ToolTipBase, "panel"),
        (QPalette.ColorRole.ToolTipText, "ink"),
        (QPalette.ColorRole.PlaceholderText, "muted"),
    ):
        palette.setColor(role, QColor(c[name]))
    for role in (
        QPalette.ColorRole.Text,
        QPalette.ColorRole.ButtonText,
        QPalette.ColorRole.WindowText,
    ):
        palette.setColor(QPalette.ColorGroup.Disabled, role, QColor(c["faint"]))
    app.setPalette(palette)
    app.setStyleSheet(_sheet(c))
    return c


_ARROW = (Path(__file__).parent / "arrow-down.svg").as_posix()
_TICK = (Path(__file__).parent / "tick.svg").as_posix()


def _sheet(c: dict[str, str]) -> str:
    return f"""
    QMainWindow, QDialog {{ background: {c["paper"]}; }}
    QToolTip {{ background: {c["panel"]}; color: {c["ink"]}; border: 1px solid {c["rule"]};
        padding: 4px; }}
    QFrame#panel {{ background: {c["panel"]}; border: 1px solid {c["rule"]}; border-radius: 3px; }}
    QLabel#title {{ font-size: {px(20)}px; font-weight: bold; }}
    QLabel#heading {{ font-weight: bold; }}
    QLabel#muted, QLabel#hint {{ color: {c["muted"]}; }}
    QLabel#hint {{ font-size: {px(12)}px; }}
    QLabel#guide {{ color: {c["guide"]}; }}
    QLabel#next {{ font-weight: bold; }}
    QLabel#warning {{ color: {c["off"]}; font-weight: bold; }}
    QPushButton {{ background: {c["panel"]}; border: 1px solid {c["rule"]}; border-radius: 3px;
        padding: 4px 12px; min-height: 20px; }}
    QPushButton:hover {{ background: {c["hover"]}; }}
    QPushButton:focus {{ border: 1px solid {c["guide"]}; }}
    QPushButton:checked {{ border: 1px solid {c["guide"]}; color: {c["guide"]}; font-weight: bold;
        }}
    QPushButton:disabled {{ color: {c["faint"]}; }}
    QPushButton#main {{ background: {c["guide"]}; color: {c["panel"]};
        border: 1px solid {c["guide"]}; font-weight: bold; }}
    QPushButton#main:disabled {{ background: {c["rule"]}; color: {c["muted"]};
        border: 1px solid {c["rule"]}; }}
    QPushButton#rail {{ background: transparent; border: none; border-left: 3px solid transparent;
        border-radius: 0; text-align: left; padding: 5px 10px; color: {c["muted"]}; }}
    QPushButton#rail:checked {{ border-left: 3px solid {c["guide"]}; color: {c["ink"]};
        font-weight: bold; }}
    QPushButton#rail:hover {{ color: {c["ink"]}; }}
    QPushButton#rail:disabled {{ color: {c["faint"]}; }}
    QPushButton#rail:focus {{ color: {c["guide"]}; }}
    QPushButton#line {{ background: transparent; border: none; color: {c["off"]}; text-align: left;
        padding: 0 2px; }}
    QPushButton#line:hover {{ color: {c["guide"]}; }}
    QPushButton#small {{ padding: 2px 8px; min-height: 22px; font-size: {px(12)}px; }}
    QPushButton#tab {{ background: transparent; border: none; border-bottom: 2px solid transparent;
        border-radius: 0; padding: 4px 8px; color: {c["muted"]}; min-height: 20px; }}
    QPushButton#tab:checked {{ border-bottom: 2px solid {c["guide"]}; color: {c["ink"]};
        font-weight: bold; }}
    QPushButton#tab:hover {{ color: {c["ink"]}; }}
    QPushButton#flat {{ background: transparent; border: none; padding: 4px 6px;
        color: {c["muted"]}; font-size: {px(16)}px; }}
    QPushButton#flat:hover {{ color: {c["ink"]}; }}
    QLineEdit, QComboBox, QDateEdit, QPlainTextEdit, QSpinBox, QDoubleSpinBox, QTableWidget {{
        background: {c["panel"]}; border: 1px solid {c["rule"]};
        border-radius: 3px; padding: 3px 6px; min-height: 20px;
        selection-background-color: {c["guide"]}; selection-color: {c["panel"]}; }}
    QLineEdit[guessed="true"], QComboBox[guessed="true"] {{ color: {c["muted"]}; }}
    QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus {{ border: 1px solid {c["guide"]}; }}
    QComboBox::drop-down, QDateEdit::drop-down {{ border: none; width: 22px; }}
    QComboBox::down-arrow, QDateEdit::down-arrow {{ image: url("{_ARROW}"); width: 10px;
        height: 10px; }}
    QComboBox QAbstractItemView {{ background: {c["panel"]}; border: 1px solid {c["rule"]}; }}
    QListView {{ background: transparent; border: none; outline: none; }}
    QListView::indicator, QCheckBox::indicator {{ width: 13px; height: 13px;
        border: 1px solid {c["muted"]}; border-radius: 2px; background: {c["panel"]}; }}
    QListView::indicator:checked, QCheckBox::indicator:checked {{ background: {c["guide"]};
        border: 1px solid {c["guide"]}; image: url("{_TICK}"); }}
    QListView#boxed {{ background: {c["panel"]}; border: 1px solid {c["rule"]}; border-radius: 3px;
        padding: 3px; }}
    QListView#boxed::item {{ padding: 3px 4px; }}
    QListView#boxed::item:selected {{ background: {c["hover"]}; color: {c["ink"]}; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
    QScrollBar:vertical {{ background: transparent; width: 10px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {c["rule"]}; border-radius: 4px; min-height: 28px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; }}
    QMenuBar {{ background: {c["paper"]}; color: {c["ink"]}; }}
    QMenuBar::item:selected {{ background: {c["hover"]}; }}
    QMenu {{ background: {c["panel"]}; border: 1px solid {c["rule"]}; padding: 4px; }}
    QMenu::item {{ padding: 5px 26px 5px 14px; }}
    QMenu::item:selected {{ background: {c["hover"]}; color: {c["ink"]}; }}
    QMenu::item:disabled {{ color: {c["faint"]}; }}
    QMenu::separator {{ height: 1px; background: {c["rule"]}; margin: 4px 8px; }}
    QProgressBar {{ background: {c["rule"]}; border: none; border-radius: 3px; max-height: 6px; }}
    QProgressBar::chunk {{ background: {c["guide"]}; border-radius: 3px; }}
    QHeaderView::section {{ background: {c["paper"]}; color: {c["muted"]}; border: none;
        padding: 4px 6px; }}
    QTableWidget {{ gridline-color: {c["rule"]}; }}
    """
