"""The menus: every command with its words and its key. What a command does is the window's affair."""

from __future__ import annotations

from collections.abc import Callable
from fractions import Fraction
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, Qt
from PyQt6.QtGui import QAction, QActionGroup, QKeySequence, QUndoGroup
from PyQt6.QtWidgets import QMenu, QWidget

from gavotte.desktop.desks.write.key_pad import ROWS
from gavotte.desktop.desks.write.marks_panel import MARKS, PICKS
from gavotte.desktop.page.page_view import PageView
from gavotte.desktop.shell.help import show_about
from gavotte.desktop.shell.key_map import IN_SHORT
from gavotte.desktop.shell.rail import DESKS
from gavotte.desktop.theme.look import LOOKS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.words import FUNCTION_KEYS, FUNCTION_WORDS
from gavotte.writing.entry import TUPLETS, Way

if TYPE_CHECKING:
    from gavotte.desktop.shell.window import MainWindow


class Menus(QObject):
    """Builds the menus of a window and knows which of its actions can be used when."""

    def __init__(self, window: MainWindow, undo: QUndoGroup) -> None:
        super().__init__(window)
        self._window, self._undo = window, undo
        bar = window.menuBar()
        assert bar is not None
        self.bar = bar
        self._at_label = self._at_vocabulary = self._at_listen = self._at_write = False
        self._file_menu(self._menu(translate("Gavotte", "&File")))
        self._edit_menu(self._menu(translate("Gavotte", "&Edit")))
        self._listen_menu(self._menu(translate("Gavotte", "L&isten")))
        self._write_menu(self._menu(translate("Gavotte", "&Write")))
        self._label_menu(self._menu(translate("Gavotte", "&Label")))
        self._play_menu(self._menu(translate("Gavotte", "&Play")))
        self._view_menu(self._menu(translate("Gavotte", "&View")))
        self._help_menu(self._menu(translate("Gavotte", "&Help")))

    def _menu(self, text: str) -> QMenu:
        menu = self.bar.addMenu(text)
        assert menu is not None
        return menu

    def _action(
        self, menu: QMenu, text: str, keys: str, then: Callable[[], object], scope: QWidget | None = None
    ) -> QAction:
        """A menu entry; with ``scope`` its shortcut works only there."""
        action = QAction(text, self._window)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda: then())
        menu.addAction(action)
        if scope is not None:
            action.setShortcutContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
            scope.addAction(action)
        return action

    def _file_menu(self, menu: QMenu) -> None:
        window = self._window
        self._action(menu, translate("Gavotte", "New solo…"), "Ctrl+N", lambda: window.beginning.new_solo())
        self.import_action = self._action(menu, translate("Gavotte", "Import a solo…"), "Ctrl+I", window.choose_files)
        recent = menu.addMenu(translate("Gavotte", "Recent solos"))
        assert recent is not None
        self.recent = recent
        menu.addSeparator()
        self.export_action = self._action(menu, translate("Gavotte", "Export…"), "Ctrl+E", window.choose_export)
        self.print_action = self._action(
            menu, translate("Gavotte", "Page setup and print…"), "Ctrl+P", window.show_paper
        )
        menu.addSeparator()
        self._action(menu, translate("Gavotte", "The library…"), "Ctrl+L", window.show_library)
        self._action(menu, translate("Gavotte", "Preferences…"), "Ctrl+,", window.show_preferences)
        menu.addSeparator()
        self._action(menu, translate("Gavotte", "Quit"), "Ctrl+Q", window.close)
        menu.aboutToShow.connect(self._show_recent)

    def _show_recent(self) -> None:
        self.recent.clear()
        entries = self._window.recent_solos()
        for solo_id, title in entries:
            self._action(self.recent, title.replace("&", "&&"), "", partial(self._window.open_solo, solo_id))
        self.recent.setEnabled(bool(entries))

    def _edit_menu(self, menu: QMenu) -> None:
        undo = self._undo.createUndoAction(self._window, translate("Gavotte", "Undo"))
        redo = self._undo.createRedoAction(self._window, translate("Gavotte", "Redo"))
        assert undo is not None
        assert redo is not None
        undo.setShortcut(QKeySequence("Ctrl+Z"))
        redo.setShortcuts([QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")])
        # The group hands these over: without a reference of our own they would be gone.
        self._undo_actions = (undo, redo)
        menu.addActions([undo, redo])
        menu.addSeparator()
        self.details_action = self._action(
            menu, translate("Gavotte", "Details of the solo…"), "Ctrl+D", self._window.change_details
        )
        self.delete_action = self._action(menu, translate("Gavotte", "Delete"), "", self._window.delete_current)

    def _listen_menu(self, menu: QMenu) -> None:
        window, desk = self._window, self._window.listen
        self.recording_action = self._action(
            menu, translate("Gavotte", "Open a recording…"), "Ctrl+R", window.beginning.choose_recording
        )
        self.no_recording_action = self._action(
            menu, translate("Gavotte", "Take the recording away"), "", window.tape.remove
        )
        self.listen_actions: list[QAction] = [self.no_recording_action]
        groups: tuple[tuple[tuple[str, str, Callable[[], object]], ...], ...] = (
            (
                (translate("Gavotte", "Play or stop"), "Space", desk.toggle),
                (translate("Gavotte", "Slower"), "[", desk.bar.slower),
                (translate("Gavotte", "Faster"), "]", desk.bar.faster),
                (translate("Gavotte", "Full speed"), "=", desk.bar.full),
            ),
            (
                (translate("Gavotte", "Loop on or off"), "L", desk.bar.loop.toggle),
                (translate("Gavotte", "Loop this bar, then a bar more"), "B", desk.loop_bar),
                (translate("Gavotte", "Loop on by its length"), "Shift+Right", partial(desk.shift_loop, 1)),
                (translate("Gavotte", "Loop back by its length"), "Shift+Left", partial(desk.shift_loop, -1)),
                (translate("Gavotte", "Loop longer"), "Alt+Right", partial(desk.grow_loop, 1)),
                (translate("Gavotte", "Loop shorter"), "Alt+Left", partial(desk.grow_loop, -1)),
                (translate("Gavotte", "No loop"), "N", desk.choose_nothing),
            ),
            (
                (translate("Gavotte", "Pedal: again from the start"), "7", desk.again),
                (translate("Gavotte", "Pedal: play or stop"), "8", desk.toggle),
                (translate("Gavotte", "Pedal: on to the next stretch"), "9", partial(desk.shift_loop, 1)),
            ),
            (
                (translate("Gavotte", "Tap a beat"), "T", desk.tap),
                (translate("Gavotte", "Find the beats"), "F", desk.find_beats),
                (translate("Gavotte", "Begin bar 1 here"), "D", desk.begin_here),
                (translate("Gavotte", "Delete the beat"), "Delete", desk.remove_beat),
                (translate("Gavotte", "Twice as many beats"), "", desk.double_beats),
                (translate("Gavotte", "Half as many beats"), "", desk.halve_beats),
                (translate("Gavotte", "Carry the beats on to the end"), "E", desk.carry_on),
            ),
            (
                (translate("Gavotte", "Measure the tuning"), "U", desk.finder.measure_tuning),
                (translate("Gavotte", "What sounds in the chosen stretch"), "W", desk.weigh_stretch),
            ),
        )
        for group in groups:
            menu.addSeparator()
            self.listen_actions += [self._action(menu, words, keys, then, desk) for words, keys, then in group]
        menu.addSeparator()
        # On the page the arrows go from note to note.
        self.listen_actions += [
            self._action(menu, translate("Gavotte", "Two seconds on"), "Right", partial(desk.jump, 1), desk.wave),
            self._action(menu, translate("Gavotte", "Two seconds back"), "Left", partial(desk.jump, -1), desk.wave),
        ]

    def _write_menu(self, menu: QMenu) -> None:
        window, desk, page = self._window, self._window.write, self._window.write.page
        writer = desk.writer
        self.write_actions: list[QAction] = []

        def add(where: QMenu, rows: tuple[tuple[str, str, Callable[[], object]], ...], in_short: bool = False) -> None:
            made = [self._action(where, words, keys, then, page) for words, keys, then in rows]
            for action in made:
                action.setData(IN_SHORT if in_short else None)
            self.write_actions += made

        def submenu(words: str) -> QMenu:
            made = menu.addMenu(words)
            assert made is not None
            return made

        values = submenu(translate("Gavotte", "Values"))
        add(
            values,
            tuple(
                (said(cap.tip), cap.key, partial(writer.choose_value, Fraction(4, int(cap.what)))) for cap in ROWS[0]
            ),
            in_short=True,
        )
        values.addSeparator()
        add(
            values,
            (
                (translate("Gavotte", "Dot"), "V", writer.dot),
                (translate("Gavotte", "Triplet"), "Z", partial(writer.tuplet, TUPLETS[0])),
                (translate("Gavotte", "Other tuplets"), "Shift+Z", writer.next_tuplet),
                (translate("Gavotte", "Rest"), "R", writer.write_rest),
                (translate("Gavotte", "Tie: hold the note before"), "T", writer.write_tie),
            ),
        )
        pitches = submenu(translate("Gavotte", "Pitches"))
        word = translate("Gavotte", "Write {letter}")
        add(
            pitches,
            tuple((word.format(letter=letter), letter, partial(writer.write_letter, letter)) for letter in "CDEFGAB"),
            in_short=True,
        )
        pitches.addSeparator()
        add(
            pitches,
            (
                (translate("Gavotte", "Sharper"), "S", partial(writer.accidental, 1)),
                (translate("Gavotte", "Flatter"), "X", partial(writer.accidental, -1)),
                (translate("Gavotte", "An octave higher"), "W", partial(writer.octave, 1)),
                (translate("Gavotte", "An octave lower"), "Q", partial(writer.octave, -1)),
                (translate("Gavotte", "A semitone up"), "Alt+Up", partial(writer.semitone, 1)),
                (translate("Gavotte", "A semitone down"), "Alt+Down", partial(writer.semitone, -1)),
                (translate("Gavotte", "A scale step up"), "Alt+Shift+Up", partial(writer.scale_step, 1)),
                (translate("Gavotte", "A scale step down"), "Alt+Shift+Down", partial(writer.scale_step, -1)),
                (translate("Gavotte", "Spell otherwise"), "N", writer.respell),
            ),
        )
        marks = submenu(translate("Gavotte", "Marks"))
        add(marks, tuple((said(words), keys, partial(writer.mark, mark)) for mark, words, keys in MARKS))
        add(marks, tuple((said(words), keys, partial(writer.pick, pick)) for pick, words, keys in PICKS))
        add(marks, ((translate("Gavotte", "Not sure of it"), "U", writer.doubt),))
        menu.addSeparator()
        add(
            menu,
            (
                (translate("Gavotte", "Take back what stands before"), "Backspace", writer.take_back),
                (translate("Gavotte", "Delete, leaving silence"), "Delete", writer.delete),
                (translate("Gavotte", "Delete and close up"), "Shift+Delete", partial(writer.delete, True)),
                (translate("Gavotte", "Cut"), "Ctrl+X", writer.cut),
                (translate("Gavotte", "Copy"), "Ctrl+C", writer.copy),
                (translate("Gavotte", "Paste"), "Ctrl+V", writer.paste),
                (translate("Gavotte", "Cut the note in two"), "K", writer.cut_in_two),
                (translate("Gavotte", "Join the notes"), "J", writer.join),
                (translate("Gavotte", "Later by the chosen value"), "Alt+Right", partial(writer.shift, 1)),
                (translate("Gavotte", "Earlier by the chosen value"), "Alt+Left", partial(writer.shift, -1)),
            ),
        )
        lengths = submenu(translate("Gavotte", "Length of the selected notes"))
        add(
            lengths,
            tuple(
                (said(cap.tip), f"Alt+{cap.key}", partial(writer.set_length, Fraction(4, int(cap.what))))
                for cap in ROWS[0]
            ),
            in_short=True,
        )
        menu.addSeparator()
        add(
            menu,
            (
                (translate("Gavotte", "Select the bar"), "M", writer.select_bar),
                (translate("Gavotte", "Select the phrase"), "P", writer.select_phrase),
                (translate("Gavotte", "Select everything"), "Ctrl+A", writer.select_all),
            ),
        )
        add(
            menu,
            (
                (translate("Gavotte", "One note more to the right"), "Shift+Right", partial(writer.extend, 1)),
                (translate("Gavotte", "One note more to the left"), "Shift+Left", partial(writer.extend, -1)),
            ),
            in_short=True,
        )
        menu.addSeparator()
        add(
            menu,
            (
                (translate("Gavotte", "On"), "Right", partial(writer.step, 1)),
                (translate("Gavotte", "Back"), "Left", partial(writer.step, -1)),
                (translate("Gavotte", "To the next bar"), "Ctrl+Right", partial(writer.step_bar, 1)),
                (translate("Gavotte", "To the bar before"), "Ctrl+Left", partial(writer.step_bar, -1)),
                (translate("Gavotte", "Line below"), "Down", partial(desk.change_line, 1)),
                (translate("Gavotte", "Line above"), "Up", partial(desk.change_line, -1)),
                (translate("Gavotte", "To the start"), "Home", writer.go_to_start),
                (translate("Gavotte", "Behind the last note"), "End", writer.go_to_end),
            ),
            in_short=True,
        )
        menu.addSeparator()
        add(
            menu,
            (
                (translate("Gavotte", "Write before what is there"), "I", writer.toggle_insert),
                (translate("Gavotte", "Write notes"), "F7", partial(writer.set_way, Way.NOTES)),
                (translate("Gavotte", "Write rhythm"), "F8", partial(writer.set_way, Way.RHYTHM)),
                (translate("Gavotte", "Write pitches"), "F9", partial(writer.set_way, Way.PITCHES)),
                (translate("Gavotte", "Tap the rhythm of notes"), "Y", desk.tap),
                (translate("Gavotte", "Hear the recording"), "H", window.hear_recording),
                (translate("Gavotte", "Take the drafted phrase"), "Ctrl+Return", desk.take_phrase),
                (translate("Gavotte", "Leave the drafted phrase"), "Ctrl+Backspace", desk.leave_phrase),
                (
                    translate("Gavotte", "Chord a beat later"),
                    "Ctrl+Alt+Right",
                    partial(desk.panel.chords.move_chord, 1),
                ),
                (
                    translate("Gavotte", "Chord a beat earlier"),
                    "Ctrl+Alt+Left",
                    partial(desk.panel.chords.move_chord, -1),
                ),
            ),
        )

    def _label_menu(self, menu: QMenu) -> None:
        window, session = self._window, self._window.session
        self.label_actions: list[QAction] = [
            self._action(
                menu,
                translate("Gavotte", "Call it {function}").format(function=said(word).lower()),
                FUNCTION_KEYS[function],
                partial(session.decide, function),
                window.label,
            )
            for function, word in FUNCTION_WORDS.items()
        ]
        self.label_actions.append(
            self._action(
                menu, translate("Gavotte", "Take the decision back"), "Backspace", session.take_back, window.label
            )
        )
        menu.addSeparator()
        page = window.label.page
        self.label_actions += [
            self._action(
                menu, translate("Gavotte", "Next thing to look at"), "Tab", partial(window.label.step_queue, 1), page
            ),
            self._action(
                menu,
                translate("Gavotte", "Previous thing to look at"),
                "Shift+Tab",
                partial(window.label.step_queue, -1),
                page,
            ),
            self._action(
                menu, translate("Gavotte", "Go beside the page"), "F6", window.label.switch_focus, window.label
            ),
        ]
        # Qt has a key of its own for Tab with Shift.
        self.label_actions[-2].setShortcuts([QKeySequence("Shift+Tab"), QKeySequence("Shift+Backtab")])
        desk = window.label
        answers: tuple[tuple[str, str, Callable[[], object]], ...] = (
            (translate("Gavotte", "Take the suggestion"), "A", partial(desk.answer, True)),
            (translate("Gavotte", "Leave it as it is"), "X", partial(desk.answer, False)),
            (translate("Gavotte", "Take all plain labels"), "Shift+A", desk.review.take_plain),
        )
        figures: tuple[tuple[str, str, Callable[[], object]], ...] = (
            (translate("Gavotte", "Play the figure"), "G", desk.play_figure),
            (translate("Gavotte", "Skeleton, or all notes"), "V", desk.toggle_skeleton),
            (translate("Gavotte", "Read the selection…"), "R", desk.set_reading),
        )
        for rows in (answers, figures):
            self.label_actions += [self._action(menu, text, keys, then, page) for text, keys, then in rows]
            menu.addSeparator()
        self.numerals_action = QAction(translate("Gavotte", "Roman numerals"), window)
        self.numerals_action.setCheckable(True)
        self.numerals_action.setShortcut(QKeySequence("Ctrl+M"))
        self.numerals_action.toggled.connect(window.set_numerals)
        menu.addAction(self.numerals_action)
        for name, words in (
            ("note", translate("Gavotte", "Note card")),
            ("queue", translate("Gavotte", "Queue")),
            ("harmony", translate("Gavotte", "Harmony")),
            ("text", translate("Gavotte", "Analysis as text")),
            ("school", translate("Gavotte", "School")),
        ):
            self.label_actions.append(self._action(menu, words, "", partial(desk.side.show_page, name)))
        menu.addSeparator()
        self.keep_action = self._action(
            menu, translate("Gavotte", "Keep as lick…"), "K", window.keep_lick, window.label
        )
        self.label_actions.append(self.keep_action)

    def _play_menu(self, menu: QMenu) -> None:
        window, bar = self._window, self._window.transport_bar
        self.play_actions: list[QAction] = []
        for text, keys, then in (
            (translate("Gavotte", "Play or stop"), "Space", window.playing.toggle),
            (translate("Gavotte", "Loop"), "L", bar.loop.toggle),
            (translate("Gavotte", "Slower"), "[", bar.slower),
            (translate("Gavotte", "Faster"), "]", bar.faster),
            (translate("Gavotte", "Tempo as it is"), "=", bar.as_it_is),
        ):
            action = self._action(menu, text, keys, then, window.label.page)
            window.vocabulary.page.addAction(action)
            window.write.page.addAction(action)
            self.play_actions.append(action)
        # The list of licks has no use for the space bar of its own.
        window.vocabulary.licks.addAction(self.play_actions[0])
        menu.addSeparator()
        page = window.label.page
        self.note_actions = [
            self._action(menu, translate("Gavotte", "Hear the note"), "Return", window.hear_note, page),
            self._action(menu, translate("Gavotte", "A semitone up"), "Alt+Up", partial(window.move_notes, 1), page),
            self._action(
                menu, translate("Gavotte", "A semitone down"), "Alt+Down", partial(window.move_notes, -1), page
            ),
        ]
        self.play_actions += self.note_actions

    def _view_menu(self, menu: QMenu) -> None:
        window = self._window
        for name, word, keys in DESKS:
            self._action(menu, said(word), keys, partial(window.show_desk, name))
        menu.addSeparator()
        larger = self._action(menu, translate("Gavotte", "Larger"), "Ctrl++", partial(window.on_page, PageView.zoom_in))
        larger.setShortcuts([QKeySequence("Ctrl++"), QKeySequence("Ctrl+=")])
        self._action(menu, translate("Gavotte", "Smaller"), "Ctrl+-", partial(window.on_page, PageView.zoom_out))
        self._action(
            menu, translate("Gavotte", "Fit the width"), "Ctrl+0", partial(window.on_page, PageView.zoom_to_fit)
        )
        menu.addSeparator()
        self.written_action = QAction(translate("Gavotte", "Written pitch"), window)
        self.written_action.setCheckable(True)
        self.written_action.setShortcut(QKeySequence("Ctrl+T"))
        self.written_action.toggled.connect(window.set_written)
        menu.addAction(self.written_action)
        menu.addSeparator()
        group = QActionGroup(window)
        self.look_actions: dict[str, QAction] = {}
        for about, name in LOOKS:
            action = self._action(menu, said(about), "", partial(window.set_look, name))
            action.setCheckable(True)
            group.addAction(action)
            self.look_actions[name] = action

    def _help_menu(self, menu: QMenu) -> None:
        keys = self._action(menu, translate("Gavotte", "Map of the keys"), "?", self._window.show_keys)
        keys.setShortcuts([QKeySequence("?"), QKeySequence("Ctrl+/")])
        self._action(menu, translate("Gavotte", "About Gavotte"), "", partial(show_about, self._window))

    def belongs_here(self, action: QAction) -> bool:
        """Whether an action is one of the desk that is shown, even if just now there is nothing to do it to."""
        if action is self.details_action:
            return self._at_label or self._at_write
        if action in self.label_actions or action in self.note_actions:
            return self._at_label
        if action in self.write_actions:
            return self._at_write
        if action in self.play_actions:
            return self._at_label or self._at_vocabulary or self._at_write
        if action in self.listen_actions:
            return self._at_listen
        return True

    def enable(self, desk: str, has_lick: bool, has_recording: bool) -> None:
        """Let what can be done at a desk be done, and nothing else."""
        session = self._window.session
        at_label = self._at_label = desk == "label" and session.solo is not None
        at_write = self._at_write = desk == "write" and session.solo is not None
        at_vocabulary = self._at_vocabulary = desk == "vocabulary"
        self._at_listen = desk == "listen"
        for action in self.listen_actions:
            action.setEnabled(self._at_listen and has_recording)
        self.recording_action.setEnabled(session.solo is not None)
        for action in self.label_actions:
            action.setEnabled(at_label)
        for action in self.write_actions:
            action.setEnabled(at_write)
        shows_music = has_lick if at_vocabulary else session.solo is not None
        self.export_action.setEnabled(shows_music)
        self.print_action.setEnabled(shows_music)
        self.keep_action.setEnabled(at_label and len(session.selected()) > 1)
        self.details_action.setEnabled(at_label or at_write)
        self.delete_action.setEnabled(desk in ("shelf", "vocabulary"))
        for action in self.play_actions:
            action.setEnabled(at_label or at_write or (at_vocabulary and has_lick))
        for action in self.note_actions:
            action.setEnabled(at_label and session.current is not None)
