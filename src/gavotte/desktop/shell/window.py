"""The window: it makes the studio and the desks, shows one of them, and does what is asked from any."""

from __future__ import annotations

import os
from collections.abc import Callable
from contextlib import suppress
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING
from urllib.parse import unquote_to_bytes

from PyQt6.QtCore import QSettings, Qt, QTimer, QUrl
from PyQt6.QtGui import (
    QCloseEvent,
    QDesktopServices,
    QDragEnterEvent,
    QDropEvent,
    QGuiApplication,
    QKeySequence,
    QShortcut,
    QUndoGroup,
)
from PyQt6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.activity import Activities
from gavotte.desktop.asks import Asks
from gavotte.desktop.desk.desk import Desk
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks import DESKS
from gavotte.desktop.errands.beginning import Beginning
from gavotte.desktop.errands.details_dialog import DetailsDialog
from gavotte.desktop.errands.exporting import PAPER, Exporter, ExportFormat
from gavotte.desktop.errands.importing import Importer
from gavotte.desktop.errands.indexer import Indexer
from gavotte.desktop.errands.keeping import Keeping
from gavotte.desktop.errands.library_edits import LibraryEdits
from gavotte.desktop.errands.open_sheet import OpenSheet
from gavotte.desktop.errands.recent import recent_solos, remember
from gavotte.desktop.errands.to_practise import ToPractise
from gavotte.desktop.errands.to_the_bench import ToTheBench
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.deck import Deck
from gavotte.desktop.playback.hearing import Hearing
from gavotte.desktop.playback.playing import Playing
from gavotte.desktop.playback.sound_out import DEVICE
from gavotte.desktop.playback.transport import Transport
from gavotte.desktop.playback.transport_bar import TransportBar
from gavotte.desktop.shell.actions import Actions
from gavotte.desktop.shell.activity_bar import ActivityBar
from gavotte.desktop.shell.arrivals import Arrivals
from gavotte.desktop.shell.everywhere import commands_after, commands_before
from gavotte.desktop.shell.first_steps import FirstSteps
from gavotte.desktop.shell.guide_pages import INDEX, chapters, guide_folder
from gavotte.desktop.shell.key_map import KeyMap, groups_of, keys_in_short
from gavotte.desktop.shell.key_table import key_table
from gavotte.desktop.shell.last_time import LastTime, Place
from gavotte.desktop.shell.notice import Notice
from gavotte.desktop.shell.palette import CommandPalette
from gavotte.desktop.shell.preferences import PreferencesDialog
from gavotte.desktop.shell.rail import Rail
from gavotte.desktop.shell.rescue import Rescue, rescue_folders
from gavotte.desktop.shell.walking import Walking
from gavotte.desktop.solo.opening import Opening
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.solo.session import LABEL_AT_ONCE, SoloSession
from gavotte.desktop.solo.tape import Tape
from gavotte.desktop.solo.view import View
from gavotte.desktop.theme.icons import icon
from gavotte.desktop.theme.look import FOLLOW_SYSTEM, LOOKS, palette_for
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.stylesheet import style_sheet
from gavotte.desktop.translation import said, translate
from gavotte.desktop.undisturbed import Undisturbed
from gavotte.engraving.engraver import Engraver
from gavotte.formats.errors import FormatError
from gavotte.library.corrections import take_in_corrections
from gavotte.library.errors import LibraryError
from gavotte.library.schools import take_in_schools
from gavotte.library.store import Library
from gavotte.recording.decode import SUFFIXES

if TYPE_CHECKING:
    from gavotte.desktop.paper.dialog import PaperDialog
    from gavotte.desktop.shell.guide import GuideWindow
    from gavotte.desktop.shell.library_dialog import LibraryDialog

TELL_MS = 5000


def local_path(url: QUrl) -> Path:
    """The file a dropped address names, byte for byte: not every file name is text."""
    return Path(os.fsdecode(unquote_to_bytes(url.path(QUrl.ComponentFormattingOption.FullyEncoded))))


class MainWindow(QMainWindow):
    """Gavotte's window on one library. ``desks`` are the desks by their names, ``studio`` is what they work with."""

    def __init__(self, library: Library, settings: QSettings) -> None:
        super().__init__()
        self._settings = settings
        self.palette_in_use: Palette | None = None
        self._look = FOLLOW_SYSTEM
        self.setWindowTitle("Gavotte")
        self.setAcceptDrops(True)
        self.setMinimumSize(900, 600)
        self.notice = Notice()
        studio = self.studio = self._make_studio(library, settings)
        self.session, self.activities = studio.session, studio.activities
        folders = rescue_folders(Path(settings.fileName()).parent, library.folder)
        taken_back = partial(self._changed, Update.LIBRARY)
        self.rescue = Rescue(
            studio.saver, studio.session, studio.tape, studio.sheets, folders, self.notice.say, taken_back
        )
        self.undo = QUndoGroup(self)
        self._take_in_files(library, Path(settings.fileName()).parent)
        self.desks: dict[str, Desk] = {kind.kind.name: kind(studio) for kind in DESKS}
        self._last_time = LastTime(settings, studio, self.desks)
        self.arrivals = Arrivals(self.session, self.notice, self._tell)
        self.rail = Rail([desk.kind for desk in self.desks.values()])
        self.details_dialog: DetailsDialog | None = None
        self.preferences_dialog: PreferencesDialog | None = None
        self.library_dialog: LibraryDialog | None = None
        self.paper_dialog: PaperDialog | None = None
        self.guide: GuideWindow | None = None
        self.first_steps = FirstSteps(self, settings)
        self.what_button = QPushButton(translate("Gavotte", "What is this?"))
        self._states_soon = QTimer(self)
        self._states_soon.setSingleShot(True)
        self._states_soon.timeout.connect(self._show_states)
        self._lay_out()
        self.key_map = KeyMap(self)
        self.command_palette = CommandPalette(self)
        self.walking = Walking(self, lambda: self.desk)
        self._make_actions()
        self._connect()
        self.set_look(str(settings.value("look", FOLLOW_SYSTEM)))
        self._restore()

    # -- making -------------------------------------------------------------------------------------

    def _make_studio(self, library: Library, settings: QSettings) -> Studio:
        activities, asks, view = Activities(self), Asks(self), View(settings, self)
        engraver = Engraver()
        saver = Saver(library, activities, self)
        session = SoloSession(library, saver, view, activities, self)
        tape = Tape(library, saver, activities, self)
        deck = Deck(settings, self)
        transport = Transport(settings, activities, self)
        self.transport_bar = TransportBar(transport)
        edits = LibraryEdits(library, session, self)
        return Studio(
            library=library,
            settings=settings,
            engraver=engraver,
            activities=activities,
            asks=asks,
            view=view,
            saver=saver,
            session=session,
            opening=Opening(library, saver, session, activities, self),
            tape=tape,
            deck=deck,
            hearing=Hearing(session, tape, deck, self),
            transport=transport,
            playing=Playing(transport, self.transport_bar, self),
            beginning=Beginning(library, session, tape, settings, self),
            importer=Importer(library, settings, activities, self),
            exporter=Exporter(engraver, settings, activities, self),
            edits=edits,
            keeping=Keeping(library, session, tape, activities, edits, asks, self),
            bench=ToTheBench(asks, self),
            practice=ToPractise(library, edits, asks, self),
            sheets=OpenSheet(library, saver, activities, asks, self),
            indexer=Indexer(library, activities, self),
        )

    def _take_in_files(self, library: Library, folder: Path) -> None:
        """Schools and corrections lay in files beside the settings once; the library has them now."""
        try:
            take_in_schools(library, folder)
            take_in_corrections(library, folder)
        except (FormatError, LibraryError, OSError) as error:
            self.notice.say(str(error))

    def _lay_out(self) -> None:
        self._stack = QStackedWidget()
        for desk in self.desks.values():
            self._stack.addWidget(desk)
        right = QVBoxLayout()
        right.setContentsMargins(0, 0, 0, 0)
        right.setSpacing(0)
        right.addWidget(self.notice)
        right.addWidget(self.first_steps)
        right.addWidget(self._stack, 1)
        right.addWidget(self.transport_bar)
        self.what_button.setObjectName("corner")
        self.what_button.setToolTip(translate("Gavotte", "Read the guide’s chapter on this desk"))
        self.what_button.clicked.connect(lambda: self.show_chapter())
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.rail)
        row.addLayout(right, 1)
        self.setCentralWidget(whole)
        self._saved = QLabel()
        self._sound = QLabel()
        self.activity_bar = ActivityBar(self.activities)
        bar = self.statusBar()
        assert bar is not None
        bar.addWidget(self.activity_bar)
        bar.addPermanentWidget(self._sound)
        bar.addPermanentWidget(self._saved)
        # Not in the corner of the menu bar: keys of the desks would be heard there.
        bar.addPermanentWidget(self.what_button)

    def _make_actions(self) -> None:
        before, after = commands_before(self), commands_after(self)
        desks = {name: desk.commands() for name, desk in self.desks.items()}
        self.actions_of = Actions(self, before, desks, after, [desk.command_buttons() for desk in self.desks.values()])
        file = self.actions_of.menu(translate("Gavotte", "&File"))
        self.recent = self.actions_of.menu(translate("Gavotte", "&File"), translate("Gavotte", "&Recent solos"))
        file.aboutToShow.connect(self.list_recent)

    def _connect(self) -> None:
        studio, session = self.studio, self.studio.session
        QShortcut(QKeySequence(Qt.Key.Key_Escape), self).activated.connect(self.escape)
        self.rail.chosen.connect(self.show_desk)
        asks = studio.asks
        asks.telling.connect(self._tell)
        asks.noticing.connect(self.notice.say)
        asks.going.connect(self.show_desk)
        asks.opening.connect(lambda solo_id: self.open_solo(solo_id))
        for failing in (
            session, studio.opening, studio.saver, studio.tape, studio.deck, studio.transport, studio.beginning,
            studio.importer, studio.exporter, studio.edits,
        ):  # fmt: skip
            failing.failed.connect(self.notice.say)
        self._connect_errands()
        for signal, change in (
            (session.replaced, Update.REPLACED),
            (session.labelled, Update.LABELLED | Update.EDITED),
            (session.selection.changed, Update.SELECTION),
            (studio.view.changed, Update.VIEW),
            (studio.tape.loaded, Update.RECORDING),
            (studio.tape.changed, Update.RECORDING),
            (studio.edits.changed, Update.LIBRARY),
            (studio.keeping.kept, Update.LIBRARY),
            (studio.saver.saved, Update.LIBRARY),
        ):
            signal.connect(partial(self._changed, change))
        session.edited.connect(self._edited)
        session.replaced.connect(self._turn_to_solo)
        studio.saver.changed.connect(self._show_saved)
        for sound in (studio.transport.sound_changed, studio.deck.sound_changed):
            sound.connect(self._show_sound)
        for stack in dict.fromkeys(desk.undo_stack for desk in self.desks.values()):
            self.undo.addStack(stack)
        self.undo.indexChanged.connect(lambda _: self.actions_of.refresh())
        bar = self.statusBar()
        assert bar is not None
        self.actions_of.begun.connect(bar.clearMessage)
        for name, desk in self.desks.items():
            desk.state_changed.connect(partial(self._show_state, name))
        self._application().focusChanged.connect(self._keep_focus)
        hints = QGuiApplication.styleHints()
        assert hints is not None
        hints.colorSchemeChanged.connect(self._show_look)

    def _connect_errands(self) -> None:
        studio = self.studio
        studio.beginning.begun.connect(self._begun)
        studio.beginning.listening_wanted.connect(partial(self.show_desk, "listen"))
        studio.importer.imported.connect(self._imported)
        studio.exporter.exported.connect(self._tell_of_export)
        undo = studio.edits.undo_stack.undo
        gone = studio.edits.undo_stack.indexChanged
        studio.edits.deleted.connect(lambda words: self.notice.say(words, translate("Gavotte", "Undo"), undo, gone))

    def _turn_to_solo(self) -> None:
        """Another solo is open: it is heard at its own tempo, and the recording as it is."""
        if self.session.solo_id is not None:
            self.studio.deck.turn_to(self.session.solo_id)
            self.studio.transport.turn_to(self.session.solo_id)

    @staticmethod
    def _application() -> QApplication:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        return app

    def _keep_focus(self, _: QWidget | None, now: QWidget | None) -> None:
        """Where what had the keys has gone, they go to the page."""
        if now is None and self.isActiveWindow() and QApplication.activeModalWidget() is None:
            QTimer.singleShot(0, self._find_focus)

    def _find_focus(self) -> None:
        if self.isActiveWindow() and QApplication.focusWidget() is None and QApplication.activePopupWidget() is None:
            self.desk.focus().setFocus()

    # -- what changed -------------------------------------------------------------------------------

    def _changed(self, change: Update, *_: object) -> None:
        """Have every desk follow, now or when it is shown."""
        for desk in self.desks.values():
            desk.note(change)
        if change & (Update.REPLACED | Update.LABELLED | Update.EDITED) and self.studio.session.shown is not None:
            self.studio.playing.music_changed()
        solo = self.session.solo
        if change is Update.SELECTION or (solo is not None and len(solo.notes) > LABEL_AT_ONCE):
            # How far a long solo is can wait until the page has been painted.
            self._states_soon.start()
            self.actions_of.refresh()
        else:
            self._show_states()

    def _edited(self) -> None:
        """The solo has another value. Where its labels are there too, both are shown together."""
        self._show_saved()
        if not self.session.is_labelled:
            self._changed(Update.EDITED)

    @Undisturbed()
    def _show_states(self) -> None:
        for name in self.desks:
            self.rail.show_state(name, self.desks[name].state())
        self._show_title()
        self.actions_of.refresh()

    def _show_state(self, name: str) -> None:
        self.rail.show_state(name, self.desks[name].state())
        self.actions_of.refresh()

    def _show_title(self) -> None:
        solo = self.session.solo
        title = solo.title if solo is not None and self.desk.kind.needs_solo else ""
        self.setWindowTitle(translate("Gavotte", "{title} – Gavotte").format(title=title) if title else "Gavotte")

    def _show_saved(self) -> None:
        saver = self.studio.saver
        words = translate("Gavotte", "Saving …")
        if saver.failing:
            words = translate("Gavotte", "Not saved: trying again")
        elif saver.is_saved:
            words = translate("Gavotte", "Saved")
        self._saved.setText(words)
        self._saved.setToolTip(saver.failing)

    def _show_sound(self) -> None:
        silent = translate("Gavotte", "No sound card: playing silently")
        words = self.studio.transport.sound_words
        self._sound.setText(words or ("" if self.studio.deck.is_heard else silent))

    def _tell(self, text: str) -> None:
        bar = self.statusBar()
        assert bar is not None
        bar.showMessage(text, TELL_MS)

    # -- desks --------------------------------------------------------------------------------------

    @property
    def desk(self) -> Desk:
        """The desk that is shown."""
        shown = self._stack.currentWidget()
        assert isinstance(shown, Desk)
        return shown

    def show_desk(self, name: str, item: str = "", view: str = "") -> None:
        """Go to a desk, to one of its items in one of its views where that is said."""
        self.studio.saver.hurry()
        before, desk = self.desk, self.desks[name]
        if desk is not before:
            self.notice.hide()
            before.leave()
        self.studio.deck.stop()
        if item or view:
            desk.arrive(item, view)
        self._stack.setCurrentWidget(desk)
        self.rail.show_current(name)
        self.undo.setActiveStack(desk.undo_stack)
        desk.focus().setFocus()
        if desk.kind.uses_recording:
            self.studio.tape.load(self.session.solo_id)
        self.studio.playing.at_desk(desk.played())
        desk.enter()
        self.actions_of.at_desk(name, desk)
        self._show_states()

    def escape(self) -> None:
        """Hide the message, else lift the selection, else go back to the page."""
        if self.notice.isVisible():
            self.notice.hide()
        elif not self.desk.escape():
            self.desk.focus().setFocus()

    def switch_focus(self) -> None:
        """From the page to what stands beside it, or back."""
        beside, page = self.desk.beside(), self.desk.focus()
        if beside is not None:
            (beside if page.hasFocus() else page).setFocus()

    def open_solo(self, solo_id: str, then: Callable[[], None] | None = None) -> None:
        """Open a solo at the Label desk, or to be written where nothing is; then do what follows."""

        def opened() -> None:
            remember(self._settings, solo_id)
            written = self.session.solo is not None and bool(self.session.solo.notes)
            self.show_desk("label" if written else "write")
            if then is not None:
                then()

        self.studio.opening.open(solo_id, opened)

    def set_speed(self, share: float) -> None:
        """Hear what this desk plays at a share of its tempo: the recording where it is listened to, else the page."""
        if self.desk.kind.uses_recording:
            self.studio.deck.change(speed=share)
        else:
            self.studio.transport.set_rate(share)

    def zoom(self, by: int) -> None:
        """Show what is at this desk larger (1), smaller (-1), or in its usual size (0)."""
        self.desk.zoom(by)

    # -- dialogs ------------------------------------------------------------------------------------

    def show_keys(self) -> None:
        """Lay the map of the keys that work now over the window."""
        heading, hints = self.desk.hints()
        keys = [desk.kind.key for desk in self.desks.values()]
        desks = (keys_in_short(keys), translate("Gavotte", "The desks, from the top of the rail"))
        groups = groups_of(self.actions_of.at_hand(), heading, hints, desks)
        self.key_map.show_groups(translate("Gavotte", "Keys at this desk"), groups)

    def keys_chapter(self) -> str:
        """The guide's chapter of all keys, made of the commands there are."""
        commands = self.actions_of
        desks = {
            name: (said(desk.kind.words), commands.desks[name], desk.hints()[1]) for name, desk in self.desks.items()
        }
        return key_table(commands.everywhere, desks)

    def show_palette(self) -> None:
        """Have a command found by a few letters."""
        self.command_palette.open_on(self.actions_of.at_hand())

    def show_preferences(self) -> None:
        """Show the preferences; what is changed there takes effect at once."""
        transport = self.studio.transport
        dialog = self.preferences_dialog = PreferencesDialog(self, self._settings, transport.sound_words)
        dialog.look_chosen.connect(self.set_look)
        dialog.reader_chosen.connect(self.studio.view.set_reader)
        dialog.soundfont_chosen.connect(transport.use_soundfont)
        dialog.device_chosen.connect(self.use_device)
        dialog.open()

    def choose_reader(self) -> None:
        """Ask which instrument everything is read for."""
        self.show_preferences()
        assert self.preferences_dialog is not None
        self.preferences_dialog.reader.setFocus()

    def use_device(self, name: str) -> None:
        """Let everything sound on another output; "" is the usual one."""
        self._settings.setValue(DEVICE, name)
        self.studio.transport.reopen()
        self.studio.deck.close()

    def show_library(self) -> None:
        """Show the library with its backups."""
        from gavotte.desktop.shell.library_dialog import LibraryDialog

        assert self.palette_in_use is not None
        self.studio.saver.save()
        dialog = self.library_dialog = LibraryDialog(self, self.studio.library, self.activities, self.palette_in_use)
        dialog.about_to_change.connect(self._close_everything)
        dialog.changed.connect(self._library_replaced)
        dialog.told.connect(self._tell)
        dialog.failed.connect(self.notice.say)
        dialog.open()

    def _close_everything(self) -> None:
        self.studio.transport.stop()
        self.studio.tape.put_down()
        self.session.close()
        self.studio.sheets.close()
        self.studio.edits.undo_stack.clear()

    def _library_replaced(self) -> None:
        self._changed(Update.LIBRARY)
        if self.session.solo is None:
            self.show_desk("shelf")

    def change_details(self) -> None:
        """Show the open solo's details and take what is changed as an edit."""
        if self.session.solo is None:
            return
        dialog = self.details_dialog = DetailsDialog(self, self.session.solo)
        dialog.accepted.connect(lambda: self.session.edit(translate("Gavotte", "Change the details"), dialog.solo))
        dialog.open()

    def sheet(self) -> Sheet | None:
        """What the current desk shows, for export."""
        return self.desk.sheet()

    def choose_export(self, wanted: ExportFormat | None = None) -> None:
        """Ask where to, and unless one is ``wanted`` as what, the music shown goes out, and write it."""
        if wanted is None and self.desk.hand_on():
            return
        sheet = self.sheet()
        if sheet is not None:
            self.studio.exporter.choose(sheet, wanted)

    def show_guide(self, file: str = INDEX) -> None:
        """Open the guide at a page."""
        folder = guide_folder()
        if folder is None:
            self.notice.say(translate("Gavotte", "The guide is not there. Install Gavotte again to have it."))
            return
        if self.guide is None:
            # Loaded with the first look: it would lengthen every start.
            from gavotte.desktop.shell.guide import GuideWindow

            self.guide = GuideWindow(self, folder)
            assert self.palette_in_use is not None
            self.guide.set_palette(self.palette_in_use)
        self.guide.read(file)
        self.guide.show()
        self.guide.raise_()
        self.guide.activateWindow()

    def show_chapter(self) -> None:
        """Open the chapter of the desk that is shown."""
        folder = guide_folder()
        about = next((c.file for c in chapters(folder) if c.desk == self.desk.kind.name), INDEX) if folder else INDEX
        self.show_guide(about)

    def show_paper(self) -> None:
        """Show the page setup of what is shown, with its pages; or print a desk's own pages."""
        if self.desk.print_out():
            return
        sheet = self.sheet()
        if sheet is None:
            return
        from gavotte.desktop.paper.dialog import PaperDialog

        studio = self.studio
        assert self.palette_in_use is not None
        dialog = self.paper_dialog = PaperDialog(
            self, sheet, studio.engraver, self._settings, studio.activities, self.palette_in_use
        )
        dialog.pdf_wanted.connect(partial(studio.exporter.choose, sheet, PAPER))
        dialog.told.connect(self._tell)
        dialog.failed.connect(self.notice.say)
        dialog.open()

    # -- files --------------------------------------------------------------------------------------

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
        return recent_solos(self._settings, self.studio.library)

    def list_recent(self) -> None:
        """Fill the menu of the solos opened last."""
        assert self.recent is not None
        self.recent.clear()
        entries = self.recent_solos()
        for solo_id, title in entries:
            action = self.recent.addAction(title.replace("&", "&&"))
            assert action is not None
            action.triggered.connect(partial(self.studio.asks.open_solo, solo_id))
        self.recent.setEnabled(bool(entries))

    def import_files(self, paths: list[Path]) -> None:
        """Take these files into the library; the last one that works is opened. A recording goes to the open solo."""
        recordings = [path for path in paths if path.suffix.lower() in SUFFIXES]
        scores = [path for path in paths if path not in recordings]
        if scores:
            self.studio.importer.take(scores)
        if recordings:
            self.use_recording(recordings[-1])

    def use_recording(self, path: Path) -> None:
        """A recording begins a new solo where none is worked on; elsewhere it is the open solo's."""
        if self.desk.kind.needs_solo:
            self.studio.beginning.use_recording(path)
        else:
            self.studio.beginning.new_solo(path)

    def _tell_of_export(self, path: Path) -> None:
        words = translate("Gavotte", "Exported as {name} in {folder}").format(name=path.name, folder=path.parent)
        show = partial(QDesktopServices.openUrl, QUrl.fromLocalFile(str(path.parent)))
        self.notice.say(words, translate("Gavotte", "Open the folder"), show)

    def _begun(self, solo_id: str) -> None:
        self._changed(Update.LIBRARY)
        self.open_solo(solo_id)

    def _imported(self, solo_id: str, title: str, remarks: tuple[str, ...]) -> None:
        self._changed(Update.LIBRARY)
        self.open_solo(solo_id, partial(self.arrivals.tell_of, title, remarks))

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        assert event is not None
        data = event.mimeData()
        if data is not None and any(url.isLocalFile() for url in data.urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        assert event is not None
        data = event.mimeData()
        if data is not None:
            self.import_files([local_path(url) for url in data.urls() if url.isLocalFile()])
            event.acceptProposedAction()

    # -- look ---------------------------------------------------------------------------------------

    def set_look(self, name: str) -> None:
        """Show everything in a theme, or with FOLLOW_SYSTEM in light and dark as the desktop has it."""
        self._look = name if name in {known for _, known in LOOKS} else FOLLOW_SYSTEM
        self._settings.setValue("look", self._look)
        self._show_look()
        self.actions_of.refresh()

    def has_look(self, name: str) -> bool:
        """Whether everything is shown in this theme."""
        return self._look == name

    def _show_look(self) -> None:
        palette = palette_for(self._look)
        if palette is not self.palette_in_use:
            self.set_theme(palette)

    def set_theme(self, palette: Palette) -> None:
        """Paint everything in a palette."""
        self.palette_in_use = palette
        self.studio.importer.palette_in_use = palette
        self.setStyleSheet(style_sheet(palette))
        if self.guide is not None:
            self.guide.set_palette(palette)
        self.setWindowIcon(icon("mark", palette.accent, 64))
        for desk in self.desks.values():
            if desk is self.desk:
                desk.set_palette(palette)
            else:
                # Nobody looks at it yet: one after the other, when this one has been painted.
                QTimer.singleShot(0, partial(desk.set_palette, palette))
        for part in (self.rail, self.transport_bar, self.key_map, self.command_palette):
            part.set_palette(palette)

    # -- from one start to the next -----------------------------------------------------------------

    def _restore(self) -> None:
        """Go back to the solo, note and desk of the last time, as far as they are still there."""
        geometry = self._last_time.geometry
        if geometry is not None:
            self.restoreGeometry(geometry)
        else:
            self.resize(1280, 800)
        self._last_time.recall()
        self._changed(Update.LIBRARY | Update.VIEW)
        place = self._last_time.place
        self.show_desk(next(iter(self.desks)))
        if any(entry.id == place.solo for entry in self.studio.library.solos()):
            self.open_solo(place.solo, partial(self._go_back, place))
        else:
            self._go_back(place)

    def _go_back(self, place: Place) -> None:
        """Go to the notes and the desk of the last time."""
        places = self.session.solo.places if self.session.solo is not None else {}
        if place.note in places:
            self.session.selection.select(place.anchor if place.anchor in places else place.note, place.note)
        if place.desk in self.desks:
            has_all = self.session.solo is not None or not self.desks[place.desk].kind.needs_solo
            self.show_desk(place.desk if has_all else next(iter(self.desks)))

    def greet(self) -> None:
        """Say at the start what the user should know: what can't be written; above all what was rescued."""
        if self.studio.library.without_backup:
            self.notice.say(self.studio.library.without_backup)
        if not self._settings.isWritable():
            words = translate(
                "Gavotte", "The settings can't be written to {file}: they will be forgotten. Allow writing there."
            )
            self.notice.say(words.format(file=self._settings.fileName()))
        self.rescue.offer()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        assert event is not None
        self.desk.finish()
        if not self.rescue.may_close(self):
            event.ignore()
            return
        self._last_time.keep(self.desk.kind.name, self.saveGeometry())
        self.activities.close()
        for desk in self.desks.values():
            desk.close_down()
        self.studio.deck.close()
        self.studio.transport.close()
        self._states_soon.stop()
        # Focus moves while it is taken apart, too; who closes twice has taken leave of it already.
        with suppress(TypeError):
            self._application().focusChanged.disconnect(self._keep_focus)
        # Its stacks take leave of it one by one while the window is taken apart: nobody is there to be told.
        self.undo.blockSignals(True)
        super().closeEvent(event)
