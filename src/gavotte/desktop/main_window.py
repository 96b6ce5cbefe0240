"""The window: rail, desks, menus, and what they ask of the session and the library."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtGui import (
    QAction,
    QActionGroup,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeySequence,
    QUndoGroup,
)
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.desks.label import LabelDesk
from gavotte.desktop.desks.shelf import ShelfDesk
from gavotte.desktop.desks.vocabulary import VocabularyDesk
from gavotte.desktop.details_dialog import DetailsDialog
from gavotte.desktop.dialogs import LickDialog
from gavotte.desktop.exporting import Exporter
from gavotte.desktop.help import show_about, show_keys
from gavotte.desktop.importing import Importer
from gavotte.desktop.library_edits import LibraryEdits
from gavotte.desktop.notice import Notice
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.playback.transport import Transport
from gavotte.desktop.playback.transport_bar import TransportBar
from gavotte.desktop.playing import Playing
from gavotte.desktop.rail import DESKS, Rail
from gavotte.desktop.session import SoloSession
from gavotte.desktop.sheet_pdf import Sheet
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.palette import DAY, THEMES, Palette
from gavotte.desktop.theme.stylesheet import style_sheet
from gavotte.desktop.words import FUNCTION_KEYS, FUNCTION_WORDS, counted
from gavotte.engraving.engraver import Engraver
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MIDI_SUFFIXES, SCORE_SUFFIXES
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library


class MainWindow(QMainWindow):
    """Gavotte's window on one library."""

    def __init__(self, library: Library, settings: QSettings) -> None:
        super().__init__()
        self._library, self._settings = library, settings
        self.setWindowTitle("Gavotte")
        self.setAcceptDrops(True)
        self.setMinimumSize(900, 600)
        engraver = Engraver()
        self.session = SoloSession(library, self)
        self.shelf = ShelfDesk(library)
        self.label = LabelDesk(self.session, engraver)
        self.vocabulary = VocabularyDesk(library, engraver)
        self.importer = Importer(library, self)
        self.exporter = Exporter(engraver, settings, self)
        self.transport = Transport(settings, self)
        self.transport_bar = TransportBar(self.transport)
        self.playing = Playing(self.transport, self.transport_bar, self)
        self.rail = Rail()
        self.notice = Notice()
        self.lick_dialog: LickDialog | None = None
        self.details_dialog: DetailsDialog | None = None
        self.library_edits = LibraryEdits(library, self)
        self._undo = QUndoGroup(self)
        self._undo.addStack(self.library_edits.undo_stack)
        self._undo.addStack(self.session.undo_stack)
        self._desks: dict[str, QWidget] = {"shelf": self.shelf, "label": self.label, "vocabulary": self.vocabulary}
        self._lay_out()
        self._make_actions()
        self._connect()
        self.set_theme(THEMES.get(str(settings.value("theme", DAY.name)), DAY))
        self._restore()
        self.vocabulary.refresh()
        self._restore_work()

    # -- layout -------------------------------------------------------------------------------------

    def _lay_out(self) -> None:
        self._stack = QStackedWidget()
        for desk in self._desks.values():
            self._stack.addWidget(desk)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addWidget(self.notice)
        right.addWidget(self._stack, 1)
        right.addWidget(self.transport_bar)
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.rail)
        row.addLayout(right, 1)
        self.setCentralWidget(whole)
        self._saved = QLabel()
        self._sound = QLabel()
        self._busy = QLabel()
        self._stop = QPushButton("Cancel")
        self._stop.setToolTip("Stop what is going on")
        self._stop.clicked.connect(self.importer.cancel)
        self._stop.clicked.connect(self.exporter.cancel)
        self._stop.hide()
        bar = self.statusBar()
        assert bar is not None
        bar.addWidget(self._busy)
        bar.addWidget(self._stop)
        bar.addPermanentWidget(self._sound)
        bar.addPermanentWidget(self._saved)

    def _make_actions(self) -> None:
        bar = self.menuBar()
        assert bar is not None
        self._file_menu(_menu(bar.addMenu("&File")))
        self._edit_menu(_menu(bar.addMenu("&Edit")))
        self._label_menu(_menu(bar.addMenu("&Label")))
        self._play_menu(_menu(bar.addMenu("&Play")))
        self._view_menu(_menu(bar.addMenu("&View")))
        self._help_menu(_menu(bar.addMenu("&Help")))

    def _action(
        self, menu: QMenu, text: str, keys: str, then: Callable[[], object], scope: QWidget | None = None
    ) -> QAction:
        """A menu entry; with ``scope`` its shortcut works only there."""
        action = QAction(text, self)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda: then())
        menu.addAction(action)
        if scope is not None:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            scope.addAction(action)
        return action

    def _file_menu(self, menu: QMenu) -> None:
        self.import_action = self._action(menu, "Import a solo…", "Ctrl+I", self.choose_files)
        self.export_action = self._action(menu, "Export…", "Ctrl+E", self.choose_export)
        menu.addSeparator()
        self._action(menu, "Quit", "Ctrl+Q", self.close)

    def _edit_menu(self, menu: QMenu) -> None:
        undo = self._undo.createUndoAction(self, "Undo")
        redo = self._undo.createRedoAction(self, "Redo")
        assert undo is not None
        assert redo is not None
        undo.setShortcut(QKeySequence("Ctrl+Z"))
        redo.setShortcuts([QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")])
        # The group hands these over: without a reference of our own they would be gone.
        self._undo_actions = (undo, redo)
        menu.addActions([undo, redo])
        menu.addSeparator()
        self.details_action = self._action(menu, "Details of the solo…", "Ctrl+D", self.change_details)
        self.delete_action = self._action(menu, "Delete", "", self._delete_current)

    def _label_menu(self, menu: QMenu) -> None:
        self._label_actions: list[QAction] = []
        for function, word in FUNCTION_WORDS.items():
            self._label_actions.append(
                self._action(
                    menu,
                    f"Call it {word.lower()}",
                    FUNCTION_KEYS[function],
                    partial(self.session.decide, function),
                    self.label,
                )
            )
        self._label_actions.append(
            self._action(menu, "Take the decision back", "Backspace", self.session.take_back, self.label)
        )
        menu.addSeparator()
        page = self.label.page
        self._label_actions += [
            self._action(menu, "Next note in doubt", "Tab", partial(self.session.select_in_doubt, 1), page),
            self._action(menu, "Previous note in doubt", "Shift+Tab", partial(self.session.select_in_doubt, -1), page),
            self._action(menu, "Go to the note card", "F6", self._switch_focus, self.label),
        ]
        # Qt has a key of its own for Tab with Shift.
        self._label_actions[-2].setShortcuts([QKeySequence("Shift+Tab"), QKeySequence("Shift+Backtab")])
        menu.addSeparator()
        self.keep_action = self._action(menu, "Keep as lick…", "K", self.keep_lick, self.label)
        self._label_actions.append(self.keep_action)

    def _play_menu(self, menu: QMenu) -> None:
        bar = self.transport_bar
        self._play_actions: list[QAction] = []
        for text, keys, then in (
            ("Play or stop", "Space", self.playing.toggle),
            ("Loop", "L", bar.loop.toggle),
            ("Slower", "[", bar.slower),
            ("Faster", "]", bar.faster),
            ("Tempo as it is", "=", bar.as_it_is),
        ):
            action = self._action(menu, text, keys, then, self.label.page)
            self.vocabulary.page.addAction(action)
            self._play_actions.append(action)
        # The list of licks has no use for the space bar of its own.
        self.vocabulary.licks.addAction(self._play_actions[0])
        menu.addSeparator()
        self._note_actions = [
            self._action(menu, "Hear the note", "Return", self._hear_note, self.label.page),
            self._action(menu, "A semitone up", "Alt+Up", partial(self._move_notes, 1), self.label.page),
            self._action(menu, "A semitone down", "Alt+Down", partial(self._move_notes, -1), self.label.page),
        ]
        self._play_actions += self._note_actions

    def _hear_note(self) -> None:
        solo, current = self.session.solo, self.session.current
        if solo is not None and current is not None:
            self.playing.preview(solo.note(current), solo)

    def _move_notes(self, semitones: int) -> None:
        note = self.session.move(semitones)
        if note is not None and self.session.solo is not None:
            self.playing.preview(note, self.session.solo)

    def _show_sound(self) -> None:
        self._sound.setText(self.transport.sound_words)

    def _view_menu(self, menu: QMenu) -> None:
        for name, word, keys in DESKS:
            self._action(menu, word, keys, partial(self.show_desk, name))
        menu.addSeparator()
        self._zoom_actions = [
            self._action(menu, "Larger", "Ctrl++", lambda: self._on_page(PageView.zoom_in)),
            self._action(menu, "Smaller", "Ctrl+-", lambda: self._on_page(PageView.zoom_out)),
            self._action(menu, "Fit the width", "Ctrl+0", lambda: self._on_page(PageView.zoom_to_fit)),
        ]
        self._zoom_actions[0].setShortcuts([QKeySequence("Ctrl++"), QKeySequence("Ctrl+=")])
        menu.addSeparator()
        self.written_action = QAction("Written pitch", self)
        self.written_action.setCheckable(True)
        self.written_action.setShortcut(QKeySequence("Ctrl+T"))
        self.written_action.toggled.connect(self.set_written)
        menu.addAction(self.written_action)
        menu.addSeparator()
        group = QActionGroup(self)
        self._theme_actions: dict[str, QAction] = {}
        for name, about in (("Day", "Day: paper and ink"), ("Stage", "Stage: for a dim room")):
            action = self._action(menu, about, "", partial(self.set_theme, THEMES[name]))
            action.setCheckable(True)
            group.addAction(action)
            self._theme_actions[name] = action

    def _help_menu(self, menu: QMenu) -> None:
        self._action(menu, "Keys", "Ctrl+/", partial(show_keys, self))
        self._action(menu, "About Gavotte", "", partial(show_about, self))

    def _connect(self) -> None:
        self.rail.chosen.connect(self.show_desk)
        self.shelf.solo_chosen.connect(self.open_solo)
        self.shelf.lick_chosen.connect(self.open_lick)
        self.shelf.solo_unwanted.connect(self.delete_solo)
        self.shelf.lick_unwanted.connect(self.library_edits.delete_lick)
        self.shelf.import_wanted.connect(self.choose_files)
        self.label.keep_wanted.connect(self.keep_lick)
        self.label.shelf_wanted.connect(partial(self.show_desk, "shelf"))
        self.vocabulary.renamed.connect(self.library_edits.rename_lick)
        self.vocabulary.unwanted.connect(self.library_edits.delete_lick)
        self.vocabulary.source_wanted.connect(self._open_source)
        self.vocabulary.failed.connect(self.notice.say)
        self.importer.imported.connect(self._imported)
        self.importer.failed.connect(self.notice.say)
        self.importer.busy.connect(self._show_busy)
        self.exporter.busy.connect(self._show_busy)
        self.exporter.failed.connect(self.notice.say)
        self.exporter.exported.connect(self._tell)
        self.transport.sound_changed.connect(self._show_sound)
        self.transport.failed.connect(self.notice.say)
        self.vocabulary.shown.connect(self.playing.refresh)
        edits = self.library_edits
        edits.changed.connect(self._library_changed)
        edits.failed.connect(self.notice.say)
        edits.deleted.connect(lambda message: self.notice.say(message, "Undo", edits.undo_stack.undo))
        session = self.session
        session.solo_opened.connect(self._show_counts)
        session.labels_changed.connect(self._show_counts)
        session.labels_changed.connect(self._show_saved)
        session.selection_changed.connect(self._show_enabled)
        session.saved.connect(self._show_saved)
        for changed in (session.solo_opened, session.labels_changed):
            changed.connect(self._music_changed)
        session.failed.connect(self.notice.say)

    # -- desks --------------------------------------------------------------------------------------

    def show_desk(self, name: str) -> None:
        """Go to a desk."""
        self.session.save()
        desk = self._desks[name]
        if name == "shelf":
            self.shelf.refresh()
        if desk is not self._stack.currentWidget():
            self.notice.hide()
        self._stack.setCurrentWidget(desk)
        self.rail.show_current(name)
        self._undo.setActiveStack(self.session.undo_stack if name == "label" else self.library_edits.undo_stack)
        focus = {"shelf": self.shelf.solos, "label": self.label.page, "vocabulary": self.vocabulary.licks}[name]
        focus.setFocus()
        self._play_for(name)
        self._show_counts()

    def _play_for(self, desk: str) -> None:
        if desk == "label":
            self.playing.at_desk(self.label.page, lambda: self.session.solo, self.session.selected)
        elif desk == "vocabulary":
            self.playing.at_desk(self.vocabulary.page, self.vocabulary.concert_solo, self.vocabulary.selected)
        else:
            self.playing.at_desk(None)

    def _music_changed(self) -> None:
        self.transport.stop()
        self.playing.refresh()

    def open_solo(self, solo_id: str) -> None:
        """Open a solo at the Label desk."""
        if solo_id != self.session.solo_id:
            try:
                self.session.open(solo_id)
            except (LibraryError, FormatError) as error:
                self.notice.say(str(error))
                return
        self.show_desk("label")

    def open_lick(self, lick_id: str) -> None:
        """Show a lick at the Vocabulary desk."""
        self.vocabulary.refresh(lick_id)
        self.show_desk("vocabulary")

    def _open_source(self, solo_id: str) -> None:
        if any(entry.id == solo_id for entry in self._library.solos()):
            self.open_solo(solo_id)
        else:
            self.notice.say("The solo this lick comes from is no longer on the shelf.")

    def _on_page(self, change: Callable[[PageView], None]) -> None:
        desk = self._stack.currentWidget()
        if isinstance(desk, LabelDesk | VocabularyDesk):
            change(desk.page)

    def _switch_focus(self) -> None:
        target = self.label.card.device if self.label.page.hasFocus() else self.label.page
        target.setFocus()

    # -- import -------------------------------------------------------------------------------------

    def choose_files(self) -> None:
        """Ask for files and import them."""
        folder = str(self._settings.value("folder", str(Path.home())))
        names, _ = QFileDialog.getOpenFileNames(
            self, "Import a solo", folder, f"Solos ({' '.join(f'*{s}' for s in SCORE_SUFFIXES + MIDI_SUFFIXES)})"
        )
        if names:
            self._settings.setValue("folder", str(Path(names[0]).parent))
            self.import_files([Path(name) for name in names])

    def import_files(self, paths: list[Path]) -> None:
        """Take these files into the library; the last one that works is opened."""
        self.importer.take(paths)

    def _imported(self, solo_id: str, title: str, remarks: tuple[str, ...]) -> None:
        self.shelf.refresh()
        self.open_solo(solo_id)
        if remarks:
            more = f" (and {len(remarks) - 3} more remarks)" if len(remarks) > 3 else ""
            self.notice.say(f"{title} was imported. " + " ".join(remarks[:3]) + more)
        else:
            self.notice.hide()
            self._tell(f"{title} was imported")

    # -- export -------------------------------------------------------------------------------------

    def sheet(self) -> Sheet | None:
        """What the current desk shows, for export: a lick or its sheet at Vocabulary, else the open solo."""
        if self._stack.currentWidget() is self.vocabulary:
            return self.vocabulary.sheet()
        return self.label.sheet()

    def choose_export(self) -> None:
        """Ask where to and as what the music shown goes out, and write it."""
        sheet = self.sheet()
        if sheet is not None:
            self.exporter.choose(sheet)

    def _show_busy(self, name: str) -> None:
        self._busy.setText(name)
        self._stop.setVisible(bool(name))

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        data = event.mimeData()
        if data is not None and any(url.isLocalFile() for url in data.urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        data = event.mimeData()
        if data is not None:
            self.import_files([Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()])
            event.acceptProposedAction()

    def change_details(self) -> None:
        """Show the open solo's details and take what is changed as an edit."""
        if self.session.solo is None:
            return
        dialog = self.details_dialog = DetailsDialog(self, self.session.solo)
        dialog.accepted.connect(lambda: self.session.edit("Change the details", dialog.solo))
        dialog.open()

    # -- edits of the library -----------------------------------------------------------------------

    def keep_lick(self) -> None:
        """Keep the selected notes as a lick, after showing the name proposed."""
        lick = self.session.lick()
        if lick is None or len(self.session.selected()) < 2:
            self._tell("Select two notes or more to keep them as a lick")
            return
        dialog = self.lick_dialog = LickDialog(self, lick)
        dialog.accepted.connect(lambda: self._keep(dialog))
        dialog.open()

    def _keep(self, dialog: LickDialog) -> None:
        try:
            lick_id = self._library.add_lick(dialog.lick)
        except LibraryError as error:
            self.notice.say(str(error))
            return
        self.vocabulary.refresh(lick_id)
        self._show_counts()
        self.notice.say(f"Kept “{dialog.lick.name}”.", "See it in all keys", partial(self._show_in_all_keys, lick_id))

    def _show_in_all_keys(self, lick_id: str) -> None:
        self.open_lick(lick_id)
        self.vocabulary.all_keys.click()

    def delete_solo(self, solo_id: str) -> None:
        """Take a solo off the shelf, closing it first if it is the open one; can be undone."""
        if solo_id == self.session.solo_id:
            self.session.close()
            self.session.solo_opened.emit()
        self.library_edits.delete_solo(solo_id)

    def _library_changed(self) -> None:
        self.shelf.refresh()
        self.vocabulary.refresh()
        self._show_counts()

    def _delete_current(self) -> None:
        if self._stack.currentWidget() is self.vocabulary:
            self.vocabulary.delete_current()
        elif self._stack.currentWidget() is self.shelf:
            self.shelf.delete_current()

    # -- state --------------------------------------------------------------------------------------

    def set_theme(self, palette: Palette) -> None:
        """Show everything in a theme."""
        self._settings.setValue("theme", palette.name)
        self.palette_in_use = palette
        self.importer.palette_in_use = palette
        self.setStyleSheet(style_sheet(palette))
        self.setWindowIcon(icon("mark", palette.accent, 64))
        self._theme_actions[palette.name].setChecked(True)
        for part in (self.rail, self.shelf, self.label, self.vocabulary, self.transport_bar):
            part.set_palette(palette)

    def set_written(self, written: bool) -> None:
        """Show solos and licks as the instrument's player reads them, or in concert pitch."""
        self._settings.setValue("written", written)
        self.session.set_written(written)
        self.vocabulary.set_written(written)

    def _restore(self) -> None:
        self.written_action.setChecked(self._settings.value("written", False, type=bool))
        geometry = self._settings.value("geometry")
        if geometry is not None:
            self.restoreGeometry(geometry)
        else:
            self.resize(1280, 800)

    def _restore_work(self) -> None:
        """Go back to the solo, note, size and desk of the last time, as far as they are still there."""
        settings = self._settings
        solo_id, note = str(settings.value("solo", "")), str(settings.value("note", ""))
        desk = str(settings.value("desk", "shelf"))
        self.show_desk("shelf")
        if any(entry.id == solo_id for entry in self._library.solos()):
            self.open_solo(solo_id)
            solo = self.session.solo
            if solo is not None and any(known.id == note for known in solo.notes):
                self.session.select(note, note)
            self.label.page.set_zoom(float(settings.value("zoom", 1.0)))
        if desk in self._desks:
            self.show_desk(desk if desk != "label" or self.session.solo is not None else "shelf")

    def _keep_work(self) -> None:
        """Remember where the user is."""
        desk = next(name for name, widget in self._desks.items() if widget is self._stack.currentWidget())
        for key, value in (
            ("solo", self.session.solo_id or ""),
            ("note", self.session.current or ""),
            ("desk", desk),
            ("zoom", self.label.page.zoom),
            ("geometry", self.saveGeometry()),
        ):
            self._settings.setValue(key, value)

    def _show_counts(self) -> None:
        solos, licks = self.shelf.solos.count(), self.vocabulary.licks.count()
        self.rail.show_state("shelf", counted(solos, "solo", "solos") if solos else "")
        self.rail.show_state("vocabulary", counted(licks, "lick", "licks") if licks else "")
        doubts = len(self.session.in_doubt())
        state = "" if self.session.solo is None else f"{doubts} in doubt" if doubts else "no doubts"
        self.rail.show_state("label", state)
        self._show_enabled()

    def _show_enabled(self) -> None:
        at_label = self._stack.currentWidget() is self.label and self.session.solo is not None
        for action in self._label_actions:
            action.setEnabled(at_label)
        at_vocabulary = self._stack.currentWidget() is self.vocabulary
        self.export_action.setEnabled(self.vocabulary.has_lick if at_vocabulary else self.session.solo is not None)
        self.keep_action.setEnabled(at_label and len(self.session.selected()) > 1)
        self.details_action.setEnabled(at_label)
        self.delete_action.setEnabled(not at_label)
        for action in self._play_actions:
            action.setEnabled(at_label or (at_vocabulary and self.vocabulary.has_lick))
        for action in self._note_actions:
            action.setEnabled(at_label and self.session.current is not None)
        title = self.session.solo.title if self.session.solo is not None and at_label else ""
        self.setWindowTitle(f"{title} – Gavotte" if title else "Gavotte")

    def _show_saved(self) -> None:
        self._saved.setText("Saved" if self.session.is_saved else "Saving …")

    def _tell(self, text: str) -> None:
        bar = self.statusBar()
        assert bar is not None
        bar.showMessage(text, 5000)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.session.save()
        self._keep_work()
        self.importer.cancel()
        self.exporter.cancel()
        self.transport.close()
        super().closeEvent(event)


def _menu(menu: QMenu | None) -> QMenu:
    assert menu is not None
    return menu
