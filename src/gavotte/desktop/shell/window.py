"""The window: rail, desks, menus, and what they ask of the session and the library."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtGui import (
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QKeySequence,
    QShortcut,
    QUndoGroup,
)
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.desks.label.desk import LabelDesk
from gavotte.desktop.desks.listen.desk import ListenDesk
from gavotte.desktop.desks.shelf.desk import ShelfDesk
from gavotte.desktop.desks.vocabulary.desk import VocabularyDesk
from gavotte.desktop.desks.write.desk import WriteDesk
from gavotte.desktop.desks.write.drafts import Drafts
from gavotte.desktop.errands.beginning import Beginning
from gavotte.desktop.errands.details_dialog import DetailsDialog
from gavotte.desktop.errands.exporting import ANALYSIS, PAPER, Exporter
from gavotte.desktop.errands.importing import Importer
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.errands.lick_dialog import LickDialog
from gavotte.desktop.errands.recent import recent_solos, remember
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.deck import Deck
from gavotte.desktop.playback.playing import Playing
from gavotte.desktop.playback.transport import Transport
from gavotte.desktop.playback.transport_bar import TransportBar
from gavotte.desktop.playback.way_out import DEVICE
from gavotte.desktop.shell.key_map import LIST_KEYS, PAGE_KEYS, WAVE_KEYS, WRITE_KEYS, KeyMap, groups_of
from gavotte.desktop.shell.menus import Menus
from gavotte.desktop.shell.notice import Notice
from gavotte.desktop.shell.preferences import PreferencesDialog
from gavotte.desktop.shell.rail import Rail
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.look import FOLLOW_SYSTEM, palette_for
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.stylesheet import style_sheet
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.engraving.engraver import Engraver
from gavotte.formats.errors import FormatError
from gavotte.formats.opening import MIDI_SUFFIXES, SCORE_SUFFIXES
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library
from gavotte.recording.decode import SUFFIXES
from gavotte.solo.bars import bars_written

if TYPE_CHECKING:
    from gavotte.desktop.paper.dialog import PaperDialog
    from gavotte.desktop.shell.library_dialog import LibraryDialog


class MainWindow(QMainWindow):
    """Gavotte's window on one library."""

    def __init__(self, library: Library, settings: QSettings) -> None:
        super().__init__()
        self._library, self._settings = library, settings
        self.palette_in_use: Palette | None = None
        self._look = FOLLOW_SYSTEM
        self.setWindowTitle("Gavotte")
        self.setAcceptDrops(True)
        self.setMinimumSize(900, 600)
        self._engraver = engraver = Engraver()
        self.session = SoloSession(library, self)
        self.shelf = ShelfDesk(library)
        self.tape = Tape(library, self)
        self.deck = Deck(settings, self)
        self.listen = ListenDesk(self.session, self.tape, self.deck, engraver)
        self.drafts = Drafts(self.session, self.tape, lambda: self.listen.region, self)
        self.write = WriteDesk(self.session, self.drafts, engraver, settings)
        self.label = LabelDesk(self.session, engraver, Path(settings.fileName()).parent)
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
        self.preferences_dialog: PreferencesDialog | None = None
        self.library_dialog: LibraryDialog | None = None
        self.paper_dialog: PaperDialog | None = None
        self.beginning = Beginning(library, self.session, self.tape, settings, self)
        self.library_edits = LibraryEdits(library, self)
        self._undo = QUndoGroup(self)
        self._undo.addStack(self.library_edits.undo_stack)
        self._undo.addStack(self.session.undo_stack)
        self._undo.addStack(self.tape.undo_stack)
        self._desks: dict[str, QWidget] = {
            "shelf": self.shelf,
            "listen": self.listen,
            "write": self.write,
            "label": self.label,
            "vocabulary": self.vocabulary,
        }
        self._lay_out()
        self.menus = Menus(self, self._undo)
        self.key_map = KeyMap(self)
        self._connect()
        self.set_look(str(settings.value("look", FOLLOW_SYSTEM)))
        self._restore()
        self.vocabulary.refresh(str(settings.value("lick", "")) or None)
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
        self._stop = QPushButton(translate("Gavotte", "Cancel"))
        self._stop.setToolTip(translate("Gavotte", "Stop what is going on"))
        self._stop.clicked.connect(self.importer.cancel)
        self._stop.clicked.connect(self.exporter.cancel)
        self._stop.clicked.connect(self._stop_library_work)
        self._stop.clicked.connect(self.tape.cancel)
        self._stop.clicked.connect(self.listen.finder.cancel)
        self._stop.clicked.connect(self.drafts.cancel)
        self._stop.hide()
        bar = self.statusBar()
        assert bar is not None
        bar.addWidget(self._busy)
        bar.addWidget(self._stop)
        bar.addPermanentWidget(self._sound)
        bar.addPermanentWidget(self._saved)

    def hear_note(self) -> None:
        solo, current = self.session.solo, self.session.current
        if solo is not None and current is not None:
            self.playing.preview(solo.note(current), solo)

    def _hear_pitch(self, midi: int) -> None:
        self.deck.stop()
        if self.session.solo is not None:
            self.transport.preview(midi, self.session.solo.instrument.name)

    def move_notes(self, semitones: int) -> None:
        note = self.session.move(semitones)
        if note is not None and self.session.solo is not None:
            self.playing.preview(note, self.session.solo)

    def _show_sound(self) -> None:
        silent = translate("Gavotte", "No sound card: playing silently")
        self._sound.setText(self.transport.sound_words or ("" if self.deck.is_heard else silent))

    def _connect(self) -> None:
        QShortcut(QKeySequence(Qt.Key.Key_Escape), self).activated.connect(self.notice.hide)
        self.rail.chosen.connect(self.show_desk)
        self.shelf.solo_chosen.connect(self.open_solo)
        self.shelf.lick_chosen.connect(self.open_lick)
        self.shelf.solo_unwanted.connect(self.delete_solo)
        self.shelf.lick_unwanted.connect(self.library_edits.delete_lick)
        self.shelf.import_wanted.connect(self.choose_files)
        beginning = self.beginning
        self.shelf.new_wanted.connect(beginning.new_solo)
        beginning.begun.connect(self._begun)
        beginning.failed.connect(self.notice.say)
        beginning.listening_wanted.connect(partial(self.show_desk, "listen"))
        self.listen.open_wanted.connect(beginning.choose_recording)
        self.listen.find_wanted.connect(beginning.find_recording)
        for desk in (self.listen, self.write):
            desk.hear_wanted.connect(self._hear_pitch)
        for at_page in (self.listen, self.write, self.label):
            at_page.shelf_wanted.connect(partial(self.show_desk, "shelf"))
        for writing in (self.write, self.label):
            writing.new_wanted.connect(beginning.new_solo)
        self.write.recording_wanted.connect(self.hear_recording)
        self.write.details.clicked.connect(self.change_details)
        self.write.told.connect(self._tell)
        self.write.heard_recording = self.listen.heard_time
        self.transport.playhead_moved.connect(self.write.show_heard)
        self.transport.playing_changed.connect(lambda playing: None if playing else self.write.show_heard(None))
        self.drafts.told.connect(self._tell)
        self.drafts.failed.connect(self.notice.say)
        self.drafts.drafter.busy.connect(self._show_busy)
        self.write.failed.connect(self.notice.say)
        self.listen.told.connect(self._tell)
        self.tape.busy.connect(self._show_busy)
        self.tape.failed.connect(self.notice.say)
        for heard in (self.tape.loaded, self.tape.changed):
            heard.connect(self._show_counts)
        finder = self.listen.finder
        finder.busy.connect(self._show_busy)
        finder.failed.connect(self.notice.say)
        finder.told.connect(self.notice.say)
        self.deck.failed.connect(self.notice.say)
        self.deck.sound_changed.connect(self._show_sound)
        self.label.keep_wanted.connect(self.keep_lick)
        self.label.play_wanted.connect(self.playing.play)
        self.label.text_wanted.connect(self.export_text)
        self.label.review.changed.connect(self._show_counts)
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
        edits.deleted.connect(
            lambda message: self.notice.say(message, translate("Gavotte", "Undo"), edits.undo_stack.undo)
        )
        session = self.session
        session.solo_opened.connect(self._show_counts)
        session.labels_changed.connect(self._show_counts)
        session.labels_changed.connect(self._show_saved)
        session.selection_changed.connect(self._show_enabled)
        session.saved.connect(self._show_saved)
        for changed in (session.solo_opened, session.labels_changed):
            changed.connect(self._music_changed)
        session.failed.connect(self.notice.say)
        hints = QGuiApplication.styleHints()
        assert hints is not None
        hints.colorSchemeChanged.connect(self._show_look)

    # -- dialogs ------------------------------------------------------------------------------------

    def show_keys(self) -> None:
        """Lay the map of the keys that work now over the window."""
        desk = self._stack.currentWidget()
        on_page = isinstance(desk, LabelDesk | VocabularyDesk)
        extra = (
            PAGE_KEYS
            if on_page
            else WAVE_KEYS
            if desk is self.listen
            else WRITE_KEYS
            if desk is self.write
            else LIST_KEYS
        )
        self.key_map.show_groups(
            translate("Gavotte", "Keys at this desk"), groups_of(self.menus.bar, self.menus.belongs_here, extra)
        )

    def show_preferences(self) -> None:
        """Show the preferences; what is changed there takes effect at once."""
        dialog = self.preferences_dialog = PreferencesDialog(self, self._settings, self.transport.sound_words)
        dialog.look_chosen.connect(self.set_look)
        dialog.soundfont_chosen.connect(self.transport.use_soundfont)
        dialog.device_chosen.connect(self.use_device)
        dialog.open()

    def use_device(self, name: str) -> None:
        """Let everything sound on another output; "" is the usual one."""
        self._settings.setValue(DEVICE, name)
        self.transport.reopen()
        self.deck.close()

    def show_library(self) -> None:
        """Show the library with its backups."""
        from gavotte.desktop.shell.library_dialog import LibraryDialog

        assert self.palette_in_use is not None
        self.session.save()
        dialog = self.library_dialog = LibraryDialog(self, self._library, self.palette_in_use)
        dialog.about_to_change.connect(self._close_everything)
        dialog.changed.connect(self._library_replaced)
        dialog.told.connect(self._tell)
        dialog.failed.connect(self.notice.say)
        dialog.busy.connect(self._show_busy)
        dialog.open()

    def _stop_library_work(self) -> None:
        if self.library_dialog is not None:
            self.library_dialog.cancel()

    def _close_everything(self) -> None:
        self.transport.stop()
        self.tape.unload()
        self.tape.loaded.emit()
        self.session.close()
        self.session.solo_opened.emit()
        self.library_edits.undo_stack.clear()

    def _library_replaced(self) -> None:
        self._library_changed()
        if self.session.solo is None:
            self.show_desk("shelf")

    def welcome(self, files: list[Path]) -> None:
        """Come to the front for a later start, with the files it was given."""
        self.setWindowState((self.windowState() & ~Qt.WindowState.WindowMinimized) | Qt.WindowState.WindowActive)
        self.show()
        self.raise_()
        self.activateWindow()
        if files:
            self.import_files(files)

    def recent_solos(self) -> list[tuple[str, str]]:
        """(id, title) of the solos opened last."""
        return recent_solos(self._settings, self._library)

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
        stacks = {"label": self.session.undo_stack, "write": self.session.undo_stack, "listen": self.tape.undo_stack}
        self._undo.setActiveStack(stacks.get(name, self.library_edits.undo_stack))
        self._focus_of[name].setFocus()
        self._go_listening(name)
        self._play_for(name)
        self._show_counts()

    @property
    def _focus_of(self) -> dict[str, QWidget]:
        return {
            "shelf": self.shelf.solos,
            "listen": self.listen.wave,
            "write": self.write.page,
            "label": self.label.page,
            "vocabulary": self.vocabulary.licks,
        }

    def _go_listening(self, desk: str) -> None:
        """Where the recording can be heard it is taken up; elsewhere it rests."""
        self.deck.stop()
        if desk in ("listen", "write"):
            self.tape.load(self.session.solo_id)
        if desk == "listen":
            self.listen.refresh()
        elif desk == "write":
            self.write.refresh()
        elif desk == "label":
            self.label.refresh()

    def use_recording(self, path: Path) -> None:
        """A recording begins a new solo at the shelf; elsewhere it is the open solo's."""
        if self._stack.currentWidget() is self.shelf:
            self.beginning.new_solo(path)
        else:
            self.beginning.use_recording(path)

    def hear_recording(self) -> None:
        """At the Write desk: the recording under the selected notes, or the caret's bar, round and round; or stop."""
        if self.deck.is_playing:
            self.deck.stop()
            return
        self.transport.stop()
        phrase = self.drafts.phrase()
        span = (phrase.start, phrase.end) if phrase is not None and self.write.panel.page_shown == "draft" else None
        if not self.listen.hear_bar(self.write.writer.entry.caret, self.session.selected(), span):
            self._tell(translate("Gavotte", "There is no recording with beats to hear here"))

    def _play_for(self, desk: str) -> None:
        if desk == "label":
            self.playing.at_desk(self.label.page, lambda: self.session.solo, self.session.selected)
        elif desk == "write":
            self.playing.at_desk(self.write.page, self.write.played, self.session.selected)
        elif desk == "vocabulary":
            self.playing.at_desk(self.vocabulary.page, self.vocabulary.concert_solo, self.vocabulary.selected)
        else:
            self.playing.at_desk(None)

    def _music_changed(self) -> None:
        self.transport.stop()
        self.playing.refresh()

    def _begun(self, solo_id: str) -> None:
        self.shelf.refresh()
        self.open_solo(solo_id)

    def open_solo(self, solo_id: str) -> None:
        """Open a solo at the Label desk, or to be written where nothing is."""
        if solo_id != self.session.solo_id:
            try:
                self.session.open(solo_id)
            except (LibraryError, FormatError) as error:
                self.notice.say(str(error))
                return
        remember(self._settings, solo_id)
        written = self.session.solo is not None and bool(self.session.solo.notes)
        self.show_desk("label" if written else "write")

    def open_lick(self, lick_id: str) -> None:
        """Show a lick at the Vocabulary desk."""
        self.vocabulary.refresh(lick_id)
        self.show_desk("vocabulary")

    def _open_source(self, solo_id: str) -> None:
        if any(entry.id == solo_id for entry in self._library.solos()):
            self.open_solo(solo_id)
        else:
            self.notice.say(translate("Gavotte", "The solo this lick comes from is no longer on the shelf."))

    def on_page(self, change: Callable[[PageView], None]) -> None:
        desk = self._stack.currentWidget()
        if isinstance(desk, LabelDesk | VocabularyDesk | WriteDesk):
            change(desk.page)
        elif desk is self.listen:
            wave = self.listen.wave
            if change is PageView.zoom_to_fit:
                wave.show_all()
            else:
                wave.zoom(1.5 if change is PageView.zoom_in else 1 / 1.5)

    # -- import -------------------------------------------------------------------------------------

    def choose_files(self) -> None:
        """Ask for files and import them."""
        folder = str(self._settings.value("folder", str(Path.home())))
        names, _ = QFileDialog.getOpenFileNames(
            self,
            translate("Gavotte", "Import a solo"),
            folder,
            translate("Gavotte", "Solos ({endings})").format(
                endings=" ".join(f"*{s}" for s in SCORE_SUFFIXES + MIDI_SUFFIXES)
            ),
        )
        if names:
            self._settings.setValue("folder", str(Path(names[0]).parent))
            self.import_files([Path(name) for name in names])

    def import_files(self, paths: list[Path]) -> None:
        """Take these files into the library; the last one that works is opened. A recording goes to the open solo."""
        recordings = [path for path in paths if path.suffix.lower() in SUFFIXES]
        scores = [path for path in paths if path not in recordings]
        if scores:
            self.importer.take(scores)
        if recordings:
            self.use_recording(recordings[-1])

    def _imported(self, solo_id: str, title: str, remarks: tuple[str, ...]) -> None:
        self.shelf.refresh()
        self.open_solo(solo_id)
        if remarks:
            more = (
                translate("Gavotte", " (and {number} more remarks)").format(number=len(remarks) - 3)
                if len(remarks) > 3
                else ""
            )
            self.notice.say(
                translate("Gavotte", "{title} was imported. ").format(title=title) + " ".join(remarks[:3]) + more
            )
        else:
            self.notice.hide()
            self._tell(translate("Gavotte", "{title} was imported").format(title=title))

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

    def show_paper(self) -> None:
        """Show the page setup of what is shown, with its pages."""
        sheet = self.sheet()
        if sheet is None:
            return
        from gavotte.desktop.paper.dialog import PaperDialog

        assert self.palette_in_use is not None
        dialog = self.paper_dialog = PaperDialog(self, sheet, self._engraver, self._settings, self.palette_in_use)
        dialog.pdf_wanted.connect(partial(self.exporter.choose, sheet, PAPER))
        dialog.told.connect(self._tell)
        dialog.failed.connect(self.notice.say)
        dialog.open()

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
        dialog.accepted.connect(lambda: self.session.edit(translate("Gavotte", "Change the details"), dialog.solo))
        dialog.open()

    # -- edits of the library -----------------------------------------------------------------------

    def keep_lick(self) -> None:
        """Keep the selected notes as a lick, after showing the name proposed."""
        lick = self.session.lick()
        if lick is None or len(self.session.selected()) < 2:
            self._tell(translate("Gavotte", "Select two notes or more to keep them as a lick"))
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
        self.notice.say(
            translate("Gavotte", "Kept “{name}”.").format(name=dialog.lick.name),
            translate("Gavotte", "See it in all keys"),
            partial(self._show_in_all_keys, lick_id),
        )

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

    def delete_current(self) -> None:
        if self._stack.currentWidget() is self.vocabulary:
            self.vocabulary.delete_current()
        elif self._stack.currentWidget() is self.shelf:
            self.shelf.delete_current()

    # -- state --------------------------------------------------------------------------------------

    def set_look(self, name: str) -> None:
        """Show everything in a theme, or with FOLLOW_SYSTEM in light and dark as the desktop has it."""
        name = name if name in self.menus.look_actions else FOLLOW_SYSTEM
        self._look = name
        self._settings.setValue("look", name)
        self.menus.look_actions[name].setChecked(True)
        self._show_look()

    def _show_look(self) -> None:
        palette = palette_for(self._look)
        if palette is not self.palette_in_use:
            self.set_theme(palette)

    def set_theme(self, palette: Palette) -> None:
        """Paint everything in a palette."""
        self.palette_in_use = palette
        self.importer.palette_in_use = palette
        self.setStyleSheet(style_sheet(palette))
        self.setWindowIcon(icon("mark", palette.accent, 64))
        desks = (self.shelf, self.listen, self.write, self.label, self.vocabulary)
        for part in (self.rail, *desks, self.transport_bar, self.key_map):
            part.set_palette(palette)

    def export_text(self) -> None:
        """Ask where the analysis of the open solo goes as text, and write it."""
        sheet = self.label.sheet()
        if sheet is not None:
            self.exporter.choose(sheet, ANALYSIS)

    def set_numerals(self, shown: bool) -> None:
        """Show roman numerals under the chord symbols of the Label desk, or not."""
        self._settings.setValue("numerals", shown)
        self.label.page.set_numerals(shown)

    def set_written(self, written: bool) -> None:
        """Show solos and licks as the instrument's player reads them, or in concert pitch."""
        self._settings.setValue("written", written)
        self.session.set_written(written)
        self.vocabulary.set_written(written)

    def _restore(self) -> None:
        self.menus.written_action.setChecked(self._settings.value("written", False, type=bool))
        self.menus.numerals_action.setChecked(self._settings.value("numerals", False, type=bool))
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
            ids = {known.id for known in solo.notes} if solo is not None else set()
            if note in ids:
                anchor = str(settings.value("anchor", note))
                self.session.select(anchor if anchor in ids else note, note)
            self.label.page.set_zoom(float(settings.value("zoom", 1.0)))
        if desk in self._desks:
            needs_solo = desk in ("label", "listen", "write")
            self.show_desk(desk if not needs_solo or self.session.solo is not None else "shelf")

    @property
    def _desk(self) -> str:
        return next(name for name, widget in self._desks.items() if widget is self._stack.currentWidget())

    def _keep_work(self) -> None:
        """Remember where the user is."""
        for key, value in (
            ("solo", self.session.solo_id or ""),
            ("note", self.session.current or ""),
            ("anchor", self.session.anchor or ""),
            ("lick", self.vocabulary.licks.current_id() or ""),
            ("desk", self._desk),
            ("zoom", self.label.page.zoom),
            ("geometry", self.saveGeometry()),
        ):
            self._settings.setValue(key, value)

    def _show_counts(self) -> None:
        solos, licks = self.shelf.solos.count(), self.vocabulary.licks.count()
        self.rail.show_state("shelf", counted(solos, "solo") if solos else "")
        self.rail.show_state("vocabulary", counted(licks, "lick") if licks else "")
        number = len(self.label.review.items)
        state = (
            ""
            if self.session.solo is None
            else translate("Gavotte", "{number} to look at").format(number=number)
            if number
            else translate("Gavotte", "all clear")
        )
        self.rail.show_state("label", state)
        solo = self.session.solo
        bars = bars_written(solo) if solo is not None else 0
        self.rail.show_state("write", counted(bars, "bar") if bars else "")
        recorded = self.tape.recording is not None and self.tape.solo_id == self.session.solo_id
        beats = len(self.tape.beats.times)
        self.rail.show_state("listen", counted(beats, "beat") if recorded and beats else "")
        self._show_enabled()

    def _show_enabled(self) -> None:
        self.write.recording.setVisible(self.listen.has_recording)
        self.menus.enable(self._desk, self.vocabulary.has_lick, self.listen.has_recording)
        at_solo = self._stack.currentWidget() in (self.listen, self.write, self.label)
        title = self.session.solo.title if self.session.solo is not None and at_solo else ""
        self.setWindowTitle(translate("Gavotte", "{title} – Gavotte").format(title=title) if title else "Gavotte")

    def _show_saved(self) -> None:
        self._saved.setText(
            translate("Gavotte", "Saved") if self.session.is_saved else translate("Gavotte", "Saving …")
        )

    def _tell(self, text: str) -> None:
        bar = self.statusBar()
        assert bar is not None
        bar.showMessage(text, 5000)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        self.session.save()
        self.session.cancel()
        self.label.review.cancel()
        self._keep_work()
        self.importer.cancel()
        self.exporter.cancel()
        self._stop_library_work()
        self.tape.close()
        self.listen.cancel()
        self.write.strip.close_devices()
        self.drafts.drafter.cancel()
        self.deck.close()
        self.transport.close()
        super().closeEvent(event)
