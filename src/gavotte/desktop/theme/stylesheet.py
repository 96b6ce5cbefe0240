"""The application's look as one style sheet, from a palette. Spacing keeps a 4 px grid."""

from __future__ import annotations

from string import Template

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import SMALL, TITLE

_SHEET = Template("""
* { color: $text; }
QMainWindow, QDialog, QWidget#desk, QWidget#chrome { background: $chrome; }
QWidget#rail { background: $chrome; border-right: 1px solid $rule; }
QToolTip { background: $text; color: $chrome; border: none; padding: 4px 8px; }
QLabel { background: transparent; }
QLabel#title { font-size: ${title}px; font-weight: 700; }
QLabel#heading, QLabel#keys { font-weight: 700; }
QLabel#quiet { color: $quiet; font-size: ${small}px; }
QLabel#quietBody { color: $quiet; }
QLabel#degree { font-size: 34px; font-weight: 700; }
QPushButton { background: $well; border: 1px solid $rule; border-radius: 4px; padding: 6px 12px; }
QPushButton:hover { border-color: $accent; }
QPushButton:focus { border: 2px solid $accent; padding: 5px 11px; }
QPushButton:disabled { color: $quiet; background: $chrome; }
QPushButton#primary { background: $accent; color: $on_accent; border-color: $accent; font-weight: 500; }
QPushButton#primary:disabled { color: $quiet; background: $chrome; border-color: $rule; }
QPushButton#primary:focus { border: 2px solid $text; }
QPushButton#link { background: transparent; border: none; padding: 4px 8px; text-align: left; }
QPushButton#link:hover { color: $accent; }
QPushButton:checked { background: $selection; border-color: $accent; }
QToolButton#railButton { background: transparent; border: none; border-left: 3px solid transparent;
    padding: 4px 4px; font-size: ${small}px; }
QToolButton#railButton[tight="true"] { padding: 0 4px; }
QToolButton#railButton:hover { background: $well; }
QToolButton#railButton:checked { border-left-color: $accent; background: $well; font-weight: 700; }
QToolButton#railButton:focus { border-left-color: $text; }
QToolButton#railButton:disabled { color: $quiet; }
QWidget#transport { background: $chrome; border-top: 1px solid $rule; }
QToolButton#transportButton { background: $well; border: 1px solid $rule; border-radius: 4px; padding: 4px 8px; }
QToolButton#transportButton:hover { border-color: $accent; }
QToolButton#transportButton:checked { background: $selection; border-color: $accent; }
QToolButton#transportButton:focus { border: 2px solid $accent; padding: 3px 7px; }
QFrame#popup { background: $well; border: 1px solid $rule; }
QSlider { background: transparent; }
QSlider::groove:horizontal { height: 4px; border-radius: 2px; background: $rule; }
QSlider::sub-page:horizontal { height: 4px; border-radius: 2px; background: $accent; }
QSlider::handle:horizontal { width: 14px; height: 14px; margin: -5px 0; border-radius: 7px; background: $accent; }
QSlider::handle:horizontal:focus { background: $text; }
QPushButton#tab { background: transparent; border: none; border-bottom: 2px solid transparent; border-radius: 0;
    padding: 6px 6px; }
QPushButton#tab:checked { border-bottom-color: $accent; font-weight: 700; }
QPushButton#tab:focus { color: $accent; }
QPushButton#corner { background: transparent; border: none; padding: 0 12px; max-height: 20px;
    min-height: 0; color: $quiet; }
QPushButton#corner:hover, QPushButton#corner:focus { color: $accent; text-decoration: underline; }
QTextBrowser { background: $page; color: $text; border: 1px solid $rule; border-radius: 4px; }
QTreeView::indicator, QListView::indicator { width: 14px; height: 14px; border: 1px solid $quiet;
    border-radius: 3px; background: $well; }
QTreeView::indicator:checked, QListView::indicator:checked { background: $accent; border-color: $accent; }
QListView, QTreeView, QPlainTextEdit { background: $well; border: 1px solid $rule; border-radius: 4px;
    outline: none; }
QListView:focus { border-color: $accent; }
QListView#strip { background: $chrome; border: none; }
QListView::item { padding: 8px 12px; border-bottom: 1px solid $rule; }
QListView::item:selected { background: $selection; color: $text; }
QListView::item:hover { background: $chrome; }
QLineEdit, QComboBox, QAbstractSpinBox { background: $well; border: 1px solid $rule; border-radius: 4px;
    padding: 5px 8px; selection-background-color: $accent; selection-color: $on_accent; }
QLineEdit:focus, QComboBox:focus, QAbstractSpinBox:focus { border-color: $accent; }
QAbstractSpinBox::up-button, QAbstractSpinBox::down-button { border: none; width: 22px; }
QAbstractSpinBox::up-arrow, QAbstractSpinBox::down-arrow { image: none; }
QCheckBox { background: transparent; spacing: 8px; }
QCheckBox::indicator { width: 16px; height: 16px; border: 1px solid $quiet; border-radius: 3px; background: $well; }
QCheckBox::indicator:focus { border: 2px solid $accent; }
QCheckBox:focus { color: $accent; }
QComboBox::drop-down { border: none; width: 22px; }
QComboBox::down-arrow { image: none; }
QComboBox QAbstractItemView { background: $well; border: 1px solid $rule; selection-background-color: $selection;
    selection-color: $text; }
QHeaderView { background: $well; }
QHeaderView::section { background: $well; color: $quiet; border: none; border-bottom: 1px solid $rule;
    padding: 4px 6px; }
QTreeView::item { padding: 3px 2px; }
QTreeView::item:selected { background: $selection; color: $text; }
QGraphicsView#page { background: $page; border: 1px solid $page; }
QGraphicsView#page:focus { border: 1px solid $accent; }
QScrollArea { background: $chrome; border: none; }
QScrollArea > QWidget > QWidget { background: $chrome; }
QMenuBar { background: $chrome; border-bottom: 1px solid $rule; }
QMenuBar::item { background: transparent; padding: 4px 10px; }
QMenuBar::item:selected { background: $selection; }
QMenu { background: $well; border: 1px solid $rule; padding: 4px; }
QMenu::item { padding: 5px 24px 5px 12px; border-radius: 3px; }
QMenu::item:selected { background: $selection; }
QMenu::item:disabled { color: $quiet; }
QMenu::separator { height: 1px; background: $rule; margin: 4px 8px; }
QStatusBar { background: $chrome; border-top: 1px solid $rule; color: $quiet; }
QStatusBar QLabel { color: $quiet; font-size: ${small}px; }
QStatusBar::item { border: none; }
QSplitter::handle { background: $rule; }
QFrame#line { background: $rule; max-height: 1px; border: none; }
QWidget#card { background: $chrome; border-left: 1px solid $rule; }
QWidget#keyMap, QWidget#keyMapCompact { background: $well; border: 1px solid $rule; border-radius: 6px; }
QWidget#keyMapCompact QLabel { font-size: ${compact}px; }
QListView#suggestions { background: $well; color: $text; border: 1px solid $rule; padding: 4px; }
QListView#suggestions::item { padding: 4px 6px; color: $text; }
QListView#suggestions::item:selected { background: $selection; color: $text; }
QLabel#warning { color: $warning; font-size: ${small}px; }
QLabel#accent { color: $accent; font-weight: 700; }
QWidget#notice { background: $selection; }
QProgressBar { background: $well; border: 1px solid $rule; border-radius: 3px; max-height: 6px; }
QProgressBar::chunk { background: $accent; border-radius: 3px; }
QScrollBar:vertical { background: transparent; width: 12px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 12px; margin: 0; }
QScrollBar::handle { background: $rule; border-radius: 4px; min-height: 32px; min-width: 32px; margin: 2px; }
QScrollBar::handle:hover { background: $quiet; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
""")


def style_sheet(palette: Palette) -> str:
    """The Qt style sheet of a theme."""
    return _SHEET.substitute(
        small=SMALL,
        compact=SMALL - 1,
        title=TITLE,
        page=palette.page,
        text=palette.text,
        chrome=palette.chrome,
        well=palette.well,
        rule=palette.rule,
        quiet=palette.quiet_text,
        accent=palette.accent,
        warning=palette.warning,
        on_accent=palette.on_accent,
        selection=palette.selection,
    )
