"""The Phrases desk: how is the solo built, and what lies under it? Phrases, their cards, motifs, the arc."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import DeskKind
from gavotte.desktop.desk.solo_desk import SoloDesk
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.phrases.builder import Builder
from gavotte.desktop.desks.phrases.commands import phrases_commands
from gavotte.desktop.desks.phrases.deciding import Deciding
from gavotte.desktop.desks.phrases.in_turn import InTurn
from gavotte.desktop.desks.phrases.layers import GUIDE_TONES, LayerChoice
from gavotte.desktop.desks.phrases.motif_panel import Theme, themes_of
from gavotte.desktop.desks.phrases.phrase_page import PhrasePage
from gavotte.desktop.desks.phrases.ridge import Ridge
from gavotte.desktop.desks.phrases.side import PhrasesSide
from gavotte.desktop.page.breath_item import Breath, Breaths, Knot, breaths_of
from gavotte.desktop.page.spoken import spoken_selection
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.elided import ElidedLabel
from gavotte.desktop.widgets.header import Header, rule
from gavotte.phrasing.arc import compared_words
from gavotte.phrasing.arrivals import arrival_lines
from gavotte.phrasing.decisions import words_of
from gavotte.phrasing.motifs import Instance
from gavotte.phrasing.phrases import Phrase
from gavotte.phrasing.relations import where_else
from gavotte.phrasing.shapes import shape_of
from gavotte.phrasing.skeleton import Level, kept_notes, reduced
from gavotte.phrasing.structure import Structure
from gavotte.phrasing.telling import (
    bars_words,
    card_lines,
    chosen_from,
    chosen_words,
    counted,
    featured_words,
    sentence,
)
from gavotte.solo.document import Solo

_SEEN = Update.REPLACED | Update.EDITED | Update.LABELLED | Update.VIEW | Update.SELECTION
_MOST_CHOSEN = 3
_AT_ONCE = 2000
"""Notes up to which what is left of a line is put together at once."""


class PhrasesDesk(SoloDesk):
    """The open solo's page with its phrases; ``side`` says what there is to say, the ``ridge`` shows the whole."""

    kind = DeskKind("phrases", QT_TRANSLATE_NOOP("Gavotte", "Phrases"), "F5", needs_solo=True, follows=_SEEN)

    def __init__(self, studio: Studio) -> None:
        page = PhrasePage(studio.engraver)
        super().__init__(studio, page)
        self.page: PhrasePage = page
        self.builder = Builder(studio.session, studio.activities, self)
        self.deciding = Deciding(studio.session, self.builder, studio.asks)
        self.side = PhrasesSide()
        self.ridge = Ridge()
        self.in_turn = InTurn(studio.session, studio.transport, studio.playing, self)
        self.is_folded = False
        self._themes: list[Theme] = []
        self._searched: Theme | None = None
        self._chosen, self._place = 0, 0
        self._kept: frozenset[str] | None = None
        self._music: tuple[object, Solo] | None = None
        self._music_for = object()
        self._card_of: tuple[Structure, int, Phrase] | None = None
        self._arc_of: Structure | None = None
        self._breaths_of: tuple[Structure | None, tuple[Breath, ...]] = (None, ())
        self.keep = QPushButton(translate("Gavotte", "Keep as lick…"))
        self.keep.setObjectName("primary")
        self.keep.setToolTip(translate("Gavotte", "Keep the selected notes, or the whole phrase, as a lick"))
        self.layers = LayerChoice()
        head = Header(self.layers, self.keep)
        self.title, self.about = head.title, head.about
        self._head = head
        self._arc_words = ElidedLabel()
        self._arc_words.setObjectName("quiet")
        self._body = QWidget()
        self._lay_out()
        self._connect()
        self.show_updates(_SEEN)

    def _lay_out(self) -> None:
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        words = QHBoxLayout()
        words.setContentsMargins(20, 4, 16, 4)
        words.addWidget(self._arc_words)
        left = QVBoxLayout()
        left.setSpacing(0)
        left.addWidget(self.page, 1)
        left.addWidget(rule())
        left.addLayout(words)
        left.addWidget(self.ridge)
        row = QHBoxLayout(self._body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(left, 1)
        row.addWidget(self.side)
        layout.addWidget(self._head)
        layout.addWidget(rule())
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)

    def _connect(self) -> None:
        session, studio, motifs = self._session, self.studio, self.side.motifs
        self.page.phrase_wanted.connect(lambda number: self._select_phrase(number - 1))
        self.page.start_dragged.connect(self.deciding.move_start)
        self.page.group_wanted.connect(lambda _: self.page.setFocus())
        self.builder.changed.connect(self._built)
        self.builder.failed.connect(studio.asks.notice)
        self.layers.currentIndexChanged.connect(self._show_layers)
        self.side.left.connect(self.page.setFocus)
        self.side.card.words_written.connect(self.deciding.say)
        session.leaving.connect(self.side.card.keep)
        self.side.page_changed.connect(self._show_breaths)
        motifs.theme_chosen.connect(self._choose_theme)
        motifs.place_chosen.connect(self._choose_place)
        motifs.motifs_wanted.connect(self._all_motifs)
        motifs.pair_wanted.connect(self.play_pair)
        self.ridge.time_chosen.connect(self.go_to_bar)
        self.keep.clicked.connect(self.keep_lick)
        studio.transport.playhead_moved.connect(self._follow)
        studio.transport.playing_changed.connect(lambda playing: None if playing else self.ridge.show_playhead(None))

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return phrases_commands(self)

    def beside(self) -> QWidget:
        return self.side.place_for_keys()

    def phrase_starts(self) -> Sequence[Fraction]:
        structure = self.builder.structure
        if structure is None:
            return ()
        return [structure.found.solo.notes[phrase.first].onset for phrase in structure.phrases]

    def state(self) -> str:
        structure = self.builder.structure
        if self._session.solo is None or structure is None:
            return ""
        return counted(len(structure.phrases), "phrase")

    def remembered(self) -> str:
        return self.side.page_shown

    def recall(self, remembered: str) -> None:
        if remembered in self.side.tabs:
            self.side.show_page(remembered)

    def enter(self) -> None:
        self.builder.want(True)

    def leave(self) -> None:
        self.side.card.keep()
        self.in_turn.stop()
        self.builder.want(False)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.side.motifs.set_palette(palette)
        self.ridge.set_palette(palette)
        self.page.set_palette(palette)
        self._show_breaths()

    def show_updates(self, changes: Update) -> None:
        session = self._session
        solo = session.shown if session.solo is not None else None
        for widget in (self._head, self._body):
            widget.setVisible(session.solo is not None)
        self._nothing.setVisible(session.solo is None)
        if changes & Update.REPLACED:
            self.page.clear()
            self._searched = None
            self._chosen = self._place = 0
        if changes & Update.VIEW:
            self.page.set_zoom(self.studio.view.zoom)
            self.page.set_numerals(self.studio.view.numerals)
            self.page.set_tablature(self.studio.view.tablature)
        if solo is None:
            return
        if changes & ~(Update.SELECTION | Update.LIBRARY):
            self.title.setText(solo.title)
            self.page.update_solo(solo, session.labels)
            self._show_layers()
        self._show_selection()

    # -- what is built ------------------------------------------------------------------------------

    @property
    def theme(self) -> Theme | None:
        """What comes back and is looked at."""
        if self._searched is not None:
            return self._searched
        return self._themes[self._chosen] if 0 <= self._chosen < len(self._themes) else None

    def _built(self) -> None:
        """There is another structure: show it."""
        structure = self.builder.structure
        before = [theme.first for theme in self._themes]
        self._themes = themes_of(structure) if structure is not None else []
        if [theme.first for theme in self._themes] != before:
            self._chosen = self._place = 0
            self._searched = None
        if structure is not None:
            self._show_arc(structure)
        self._show_motifs()
        self._show_layers()
        self._show_selection()
        self.state_changed.emit()

    def _show_arc(self, structure: Structure) -> None:
        if structure is self._arc_of:
            return
        self._arc_of = structure
        self.ridge.show_arc(structure.arc, structure.found.solo.notes)
        number = counted(len(structure.phrases), "phrase")
        motifs = counted(len(structure.motifs), "motif")
        self.about.setText(f"{number} · {motifs}" if structure.motifs else number)

    # -- showing ------------------------------------------------------------------------------------

    def _show_selection(self) -> None:
        selection = self._session.selection
        self.page.set_selection(selection.anchor, selection.current, frozenset(selection.notes()))
        self._show_breaths()
        self._show_card()
        solo, chosen = self._session.shown, selection.notes()
        self.ridge.show_here(None)
        if solo is not None and chosen:
            self.ridge.show_here((solo.note(chosen[0]).onset, solo.note(chosen[-1]).end))
        self._speak()

    def _show_breaths(self) -> None:
        structure, found = self.builder.structure, self.builder.phrase()
        if structure is None or found is None:
            self.page.show_breaths(Breaths())
            return
        theme = self.theme if self.side.page_shown == "motifs" else None
        knots = () if theme is None else tuple(
            Knot(place.first, place.last, None if k == 0 else theme.others[k - 1][1].kind)
            for k, place in enumerate(theme.places)
        )  # fmt: skip
        if structure is not self._breaths_of[0]:
            self._breaths_of = structure, breaths_of(structure)
        breaths = Breaths(self._breaths_of[1], found[1] + 1, knots)
        self.page.show_breaths(breaths)
        self.ridge.land.show_breaths(breaths)

    def _show_card(self) -> None:
        found = self.builder.phrase()
        self.side.card.widget().setVisible(found is not None)  # type: ignore[union-attr]
        if found is None:
            self._arc_words.setText("")
            return
        structure, number = found
        chosen = self._chosen_stretch(structure, structure.phrases[number])
        key = (structure, number, chosen)
        if key == self._card_of:
            return
        self._card_of = key
        self._fill_card(structure, number, chosen)
        self._say_arc(structure, number)

    def _chosen_stretch(self, structure: Structure, phrase: Phrase) -> Phrase:
        """The stretch whose notes are asked about: what is selected, where that is several notes, else the phrase."""
        places = structure.found.solo.places
        chosen = [places[note] for note in self._session.selection.notes() if note in places]
        return Phrase(min(chosen), max(chosen)) if len(chosen) > 1 else phrase

    def _fill_card(self, structure: Structure, number: int, chosen: Phrase) -> None:
        card, built = self.side.card, structure.found
        phrase = structure.phrases[number]
        heading = translate("Gavotte", "Phrase {number} of {count}").format(
            number=number + 1, count=len(structure.phrases)
        )
        parts = structure.gestures[number]
        place = bars_words(built, phrase.first, phrase.last)
        if len(parts) > 1:
            place += " · " + translate("Gavotte", "{number} gestures").format(number=len(parts))
        proposed = sentence(built, structure.cards, number, structure.recalls[number])
        note = built.solo.notes[phrase.first].id
        card.show_phrase(note, heading, place, proposed, words_of(built.solo, note))
        lines_of_card = card_lines(built, structure.cards, number, structure.kept_in(phrase))
        card.show_lines(lines_of_card, arrival_lines(built, phrase))
        likely = chosen_from(built, chosen)[:_MOST_CHOSEN]
        lines = [f"{known.name}: {chosen_words(built, known)}" for known in likely]
        shape = shape_of(built, chosen.first, chosen.last)
        if shape is not None:
            lines = [shape.name, *lines[: _MOST_CHOSEN - 1]]
        whole = chosen == phrase
        card.show_chosen(
            translate("Gavotte", "Chosen from") if whole else translate("Gavotte", "The selection is chosen from"),
            lines or [translate("Gavotte", "No one collection: the notes follow the chords.")],
        )

    def _say_arc(self, structure: Structure, number: int) -> None:
        """The climax, and what sets the part of the form apart where the phrase is."""
        arc, phrase = structure.arc, structure.phrases[number]
        words = [arc.climax_words]
        bar = structure.found.frame.grid.index_at(structure.found.solo.notes[phrase.first].onset)
        part = next((part for part in arc.parts if part.first <= bar <= part.last), None)
        if part is not None and (apart := compared_words(arc, part)):
            words.append(f"{part.name}: {apart}")
        featured = featured_words(structure.found, structure.cards)
        self._arc_words.setText(" · ".join(filter(None, (*words, featured))))

    def _show_motifs(self) -> None:
        structure, panel = self.builder.structure, self.side.motifs
        themes = self._themes if self._searched is None else [self._searched]
        chosen = self._chosen if self._searched is None else 0
        panel.show_themes(structure, themes, chosen, self._searched is not None)
        if structure is not None:
            panel.show_places(structure, self.theme, self._place)
        self.side.show_number("motifs", len(self._themes))

    def _show_layers(self) -> None:
        structure, level = self.builder.structure, self.layers.level
        threads: tuple[tuple[str, ...], ...] = ()
        kept: frozenset[str] | None = None
        if structure is not None:
            notes = structure.found.solo.notes
            if self.layers.wanted == GUIDE_TONES:
                threads = tuple(tuple(notes[i].id for i in thread.notes) for thread in structure.threads)
                kept = frozenset(note for thread in threads for note in thread)
            elif level is not Level.ALL:
                kept = kept_notes(structure.found, structure.levels, level)
        self.page.set_kept(kept)
        self.page.show_threads(threads)
        self._kept = kept
        if self.isVisible():
            self.studio.playing.refresh()

    def music(self) -> Solo | None:
        """What is played: the solo, or what is left of it."""
        solo, structure, kept = self._session.solo, self.builder.structure, self._kept
        if solo is None or structure is None or kept is None or not self.builder.is_shown:
            return solo
        key = (solo, kept, self.is_folded)
        if self._music is not None and self._music[0] == key:
            return self._music[1]
        phrases, folded = structure.phrases, self.is_folded
        if len(solo.notes) <= _AT_ONCE:
            self._music = key, reduced(solo, phrases, kept, folded)
            return self._music[1]
        # Of a long solo it is put together beside; until then all of it is there.
        self.studio.activities.cancel(self._music_for)
        self.studio.activities.beside(
            self._music_for,
            lambda: reduced(solo, phrases, kept, folded),
            lambda music: self._take_music(key, music),
            lambda error: self.studio.asks.notice(str(error)),
        )
        return solo

    def _take_music(self, key: tuple[object, ...], music: Solo) -> None:
        self._music = key, music
        if self.isVisible():
            self.studio.playing.refresh()

    def _speak(self) -> None:
        session = self._session
        selected, current = session.selection.notes(), session.selection.current
        if session.shown is None or session.frame is None or current is None or current not in session.shown.places:
            self.page.setAccessibleName(translate("Gavotte", "The page"))
            return
        words = spoken_selection(session.shown, session.frame.grid, session.labels, selected, current)
        self.page.setAccessibleName(words)
        self.page.setAccessibleDescription(f"{self.side.card.heading.text()}. {self.side.card.field.toPlainText()}")

    def _follow(self, time: float) -> None:
        if self.isVisible():
            self.ridge.show_playhead(time)

    # -- going through ------------------------------------------------------------------------------

    def step_phrase(self, by: int) -> None:
        """Go to the next phrase (1) or the one before (-1); where one is not selected as a whole, to that one first."""
        found = self.builder.phrase()
        if found is None:
            return
        structure, number = found
        phrase, notes = structure.phrases[number], structure.found.solo.notes
        ends = {notes[phrase.first].id, notes[phrase.last].id}
        is_whole = {self._session.selection.anchor, self._session.selection.current} == ends
        self._select_phrase((number + by) % len(structure.phrases) if is_whole else number)

    def _select_phrase(self, number: int) -> None:
        structure = self.builder.structure
        if structure is None or not 0 <= number < len(structure.phrases):
            return
        phrase, notes = structure.phrases[number], structure.found.solo.notes
        self._select(Instance(phrase.first, phrase.last))
        if self.side.page_shown != "phrase":
            self.side.show_page("phrase")
            self._show_breaths()
        self.studio.asks.tell(f"{number + 1}: {notes[phrase.first].pitch.shown} … {notes[phrase.last].pitch.shown}")

    def _select(self, place: Instance) -> None:
        """Select notes by their places in what is built, where they are still there."""
        structure, shown = self.builder.structure, self._session.shown
        if structure is None or shown is None:
            return
        first, last = (structure.found.solo.notes[index].id for index in (place.first, place.last))
        if first in shown.places and last in shown.places:
            # From the last note to the first: so the beginning is what is looked at.
            self._session.selection.select(last, first)

    def keep_lick(self) -> None:
        """Keep the selected notes, or where that is one the phrase around it, as a lick."""
        found = self.builder.phrase()
        if found is not None and len(self._session.selection.notes()) < 2:
            self._select_phrase(found[1])
        self.studio.keeping.keep()

    # -- layers -------------------------------------------------------------------------------------

    def peel(self, by: int) -> None:
        """Take another layer of notes away (1), or lay one back (-1)."""
        self.layers.step(by)
        self.studio.asks.tell(self.layers.currentText())

    def toggle_threads(self) -> None:
        """Show the guide tones alone, or all notes again."""
        self.layers.toggle_guide_tones()
        structure = self.builder.structure
        if self.layers.wanted == GUIDE_TONES and structure is not None and not structure.threads:
            self.studio.asks.tell(translate("Gavotte", "No guide tone leads on over three chords here"))

    def toggle_folded(self) -> None:
        """Play what is left with its octave leaps folded, so that it can be sung, or as it is."""
        self.is_folded = not self.is_folded
        self.studio.playing.refresh()
        self.studio.asks.tell(
            translate("Gavotte", "What is left is played within an octave")
            if self.is_folded
            else translate("Gavotte", "What is left is played where it lies")
        )

    # -- what comes back ----------------------------------------------------------------------------

    def where_else(self) -> None:
        """Look where the selected notes come back, in whatever shape."""
        structure = self.builder.structure
        if structure is None:
            return
        places = structure.found.solo.places
        chosen = [places[note] for note in self._session.selection.notes() if note in places]
        if len(chosen) < 3:
            self.studio.asks.tell(translate("Gavotte", "Select three notes or more to see where else they are"))
            return
        first, last = min(chosen), max(chosen)
        self._searched = Theme(Instance(first, last), where_else(structure.line, first, last))
        self._place = 0
        self.side.show_page("motifs")
        self._show_motifs()
        self._show_breaths()
        self.studio.asks.tell(self.side.motifs.about.text())

    def _all_motifs(self) -> None:
        self._searched, self._place = None, 0
        self._show_motifs()
        self._show_breaths()
        self.side.motifs.themes.setFocus()

    def _choose_theme(self, index: int) -> None:
        self._chosen, self._searched, self._place = index, None, 0
        self._go_to_place()

    def _choose_place(self, index: int) -> None:
        self._place = index
        self._go_to_place()

    def step_place(self, by: int) -> None:
        """Go to the next place of the motif (1) or the one before (-1)."""
        theme = self.theme
        if theme is not None:
            self.side.show_page("motifs")
            self._place = (self._place + by) % len(theme.places)
            self._go_to_place()

    def _go_to_place(self) -> None:
        theme, structure = self.theme, self.builder.structure
        if theme is None or structure is None:
            return
        self._select(theme.places[self._place])
        self.side.motifs.show_places(structure, theme, self._place)
        self._show_breaths()

    def play_pair(self) -> None:
        """Play the first place of the motif, then the one that is looked at, or the next."""
        theme, structure = self.theme, self.builder.structure
        if theme is None or structure is None or not theme.others:
            return
        notes = structure.found.solo.notes
        pair = (theme.places[0], theme.places[self._place or 1])
        self.in_turn.play([(notes[place.first].id, notes[place.last].id) for place in pair])
