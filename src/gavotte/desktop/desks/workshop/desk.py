"""The Workshop desk: what can be made of a line? A source, a chain of steps, and what comes out of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction
from functools import partial

from PyQt6.QtGui import QUndoStack
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.desk.desk import Desk, DeskKind, Hint, Walked, page_hints
from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desk.updates import Update
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.desks.workshop.bench_store import BenchStore
from gavotte.desktop.desks.workshop.bench_view import BenchView
from gavotte.desktop.desks.workshop.commands import workshop_commands
from gavotte.desktop.desks.workshop.lick_lines import LickLines, Stocked
from gavotte.desktop.desks.workshop.proposals_panel import ProposalsPanel
from gavotte.desktop.desks.workshop.recipe_box import RecipeBox
from gavotte.desktop.desks.workshop.results import Results
from gavotte.desktop.desks.workshop.side import WorkshopSide
from gavotte.desktop.desks.workshop.sources import Sources
from gavotte.desktop.desks.workshop.working import Working
from gavotte.desktop.errands.open_sheet import ToBePutOn
from gavotte.desktop.errands.to_practise import ToBePractised
from gavotte.desktop.errands.to_the_bench import TAKEN
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.playback.playing import Played
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, translate
from gavotte.desktop.widgets.header import Header, rule
from gavotte.desktop.widgets.nothing_here import NothingHere
from gavotte.desktop.words import counted
from gavotte.library.reader import LickEntry
from gavotte.practice.item import Kind
from gavotte.sheets.pieces import Licks
from gavotte.sheets.sheet import new_id
from gavotte.solo.document import Solo
from gavotte.workshop.operation import Around, Step, Value, Values
from gavotte.workshop.operations import OPERATIONS
from gavotte.workshop.operations.etudes import ETUDE, read_held, written_held
from gavotte.workshop.proposals import MOST_VARIED, Proposal
from gavotte.workshop.stacked import Block, stacked
from gavotte.writing.placing import first_note_from

_FOLLOWED = Update.VIEW | Update.LIBRARY | Update.REPLACED | Update.EDITED | Update.SELECTION
_AROUND = Update.LIBRARY | Update.REPLACED | Update.EDITED
_SOON_MS = 800
_TURNS = 2
"""How often source and result are heard in turn."""


class WorkshopDesk(Desk):
    """``bench`` is what lies there, ``working`` makes something of it, ``view`` shows both, ``side`` has the steps."""

    kind = DeskKind("workshop", QT_TRANSLATE_NOOP("Gavotte", "Workshop"), "F7", follows=_FOLLOWED)

    def __init__(self, studio: Studio) -> None:
        super().__init__(studio)
        self.bench = Bench(self)
        self.working = Working(studio.activities, self.bench, studio.view.shown, self)
        self.view = BenchView(studio.engraver)
        self.side = WorkshopSide()
        self.store = BenchStore(studio.library, self.bench, studio.asks, self)
        self.sources = Sources(studio, self.bench, self.store, self)
        self.results = Results(studio, self.bench, self.view, self)
        self.recipes = RecipeBox(studio.library, self.bench, studio.asks, self)
        self._stock = Stocked(studio.library)
        self._licks: tuple[LickEntry, ...] = ()
        self.source = QPushButton(translate("Gavotte", "Source"))
        self.source.setToolTip(translate("Gavotte", "Take something else to work on"))
        self._sources = QMenu(self)
        self.source.setMenu(self._sources)
        self.hear_a = QPushButton(translate("Gavotte", "Hear source"))
        self.hear_ab = QPushButton(translate("Gavotte", "In turn"))
        self.keep = QPushButton(translate("Gavotte", "Keep as lick…"))
        self.keep.setObjectName("primary")
        self.keep_as_solo = QPushButton(translate("Gavotte", "On the shelf"))
        self._head = Header(self.source, self.hear_a, self.hear_ab, self.keep_as_solo, self.keep)
        self.from_selection = QPushButton(translate("Gavotte", "Take the open solo’s selection"))
        self.from_lick = QPushButton(translate("Gavotte", "Take a lick…"))
        self.from_line = QPushButton(translate("Gavotte", "Write a line…"))
        self._body = QWidget()
        self._nothing = NothingHere(
            translate("Gavotte", "Nothing lies on the bench."),
            translate("Gavotte", "Take a line: move it, turn it, put it over other chords, join it to another."),
            self.from_lick,
            self.from_selection,
            self.from_line,
        )
        self._lay_out()
        self._connect()
        self._show_bench()

    def _lay_out(self) -> None:
        row = QHBoxLayout(self._body)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.view, 1)
        row.addWidget(self.side)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._head)
        layout.addWidget(rule())
        layout.addWidget(self._body, 1)
        layout.addWidget(self._nothing, 1)

    def _connect(self) -> None:
        bench, working, chain = self.bench, self.working, self.side.chain
        bench.changed.connect(self._bench_changed)
        bench.chosen_changed.connect(self._show_chain)
        bench.chosen_changed.connect(self._propose_if_shown)
        working.done.connect(self._worked)
        working.proposed.connect(self._show_choices)
        working.varied.connect(self._show_variations)
        working.failed.connect(self.studio.asks.notice)
        chain.chosen.connect(bench.choose)
        chain.wanted.connect(self.add_step)
        chain.form.changed.connect(self._set_value)
        chain.keep_wanted.connect(self.recipes.keep)
        chain.recipe_wanted.connect(bench.add_all)
        chain.forget_wanted.connect(self.recipes.forget)
        self.recipes.changed.connect(lambda: chain.show_recipes(self.recipes.recipes))
        self.side.variations.wanted.connect(working.vary)
        self.side.bits.held_wanted.connect(self._hold)
        self.side.bits.chosen.connect(self._go_to)
        for rows in (self.side.choices.list, self.side.variations.list, self.side.bits.rows):
            rows.currentRowChanged.connect(lambda _: self.state_changed.emit())
        self.side.left.connect(self.view.page.setFocus)
        for name, button in self.side.tabs.items():
            button.toggled.connect(lambda on, n=name: self._page_shown(n) if on else None)
        self.view.selection_changed.connect(self.state_changed)
        for part in (self.view.page, self.view.source):
            part.zoom_wanted.connect(self.studio.view.zoom_by)
        for pressed, act in (
            (self.from_selection, self.sources.take_selection),
            (self.from_lick, self.sources.choose_lick),
            (self.from_line, self.sources.write_line),
            (self.hear_a, self.hear_source),
            (self.hear_ab, self.hear_both),
            (self.keep, self.results.keep_lick),
            (self.keep_as_solo, self.results.keep_solo),
            (chain.on, bench.switch),
            (chain.remove, bench.remove),
            (chain.earlier, partial(bench.move, -1)),
            (chain.later, partial(bench.move, 1)),
            (self.side.choices.hear, self.hear_proposal),
            (self.side.choices.take, self.take_proposal),
            (self.side.variations.hear, self.hear_proposal),
            (self.side.variations.take, self.take_proposal),
            (self.side.variations.sheet, self.keep_variations),
        ):
            pressed.clicked.connect(lambda _, run=act: run())
        for button, run in (
            (self.from_selection, self.sources.take_selection),
            (self.from_lick, self.sources.choose_lick),
            (self.from_line, self.sources.write_line),
        ):
            action = self._sources.addAction(button.text())
            assert action is not None
            action.triggered.connect(lambda _, r=run: r())

    # -- as a desk ----------------------------------------------------------------------------------

    def commands(self) -> tuple[Command, ...]:
        return workshop_commands(self)

    def focus(self) -> QWidget:
        return self.view.page if self.view.concert is not None else self.from_lick

    def beside(self) -> QWidget:
        return self.side.place_for_keys()

    def escape(self) -> bool:
        return self.view.lift()

    @property
    def undo_stack(self) -> QUndoStack:
        return self.bench.undo_stack

    def played(self) -> Played:
        lists = (self.side.chain.steps, self.side.choices.list, self.side.variations.list)
        return Played(self.view.page, lambda: self.view.concert, lambda: self.view.selected, (self.view.source, *lists))

    def pages(self) -> tuple[QWidget, ...]:
        return (self.view.page,)

    def walked(self) -> Walked | None:
        made = self.view.made
        if made is None or not made.result.solo.notes:
            return None
        shown, selected = made.result.solo, self.view.selected
        here = selected[-1] if selected else shown.notes[0].id
        return Walked(shown, shown.note(here).onset, self._go_to)

    def _go_to(self, onset: Fraction) -> None:
        made = self.view.made
        note = first_note_from(made.result.solo, onset) if made is not None else None
        if note is not None:
            self.view.select(note.id, note.id)

    def state(self) -> str:
        steps = self.bench.there.steps
        return counted(len(steps), "step") if self.bench.there.source is not None and steps else ""

    def sheet(self) -> Sheet | None:
        return self.results.sheet()

    @property
    def has_sheet(self) -> bool:
        return self.view.made is not None

    @property
    def has_to_practise(self) -> bool:
        return self.view.concert is not None

    def to_practise(self) -> ToBePractised | None:
        made = self.view.concert
        return None if made is None else ToBePractised(self.bench.there.name, Kind.EXERCISE, made)

    def to_sheet(self) -> ToBePutOn | None:
        """What was made, or what is selected of it, with what was done in words."""
        lick = self.results.lick()
        if lick is None:
            return None
        words = self.results.made_words()
        return ToBePutOn(lick.name, (Licks(id=new_id(), heading=lick.name, licks=(lick,), words=words),))

    def hints(self) -> tuple[str, tuple[Hint, ...]]:
        return page_hints()

    def zoom(self, by: int) -> None:
        self.studio.view.zoom_by(by)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.view.set_palette(palette)
        self.side.set_palette(palette)
        self.sources.palette_in_use = palette

    def arrive(self, item: str, view: str) -> None:
        """Take a lick (its id), a line that is on its way here, or the selection of the open solo."""
        if item:
            self.sources.take_lick(item)
        elif view == TAKEN:
            self.sources.take_what_arrived()
        elif view == "selection":
            self.sources.take_selection()

    def enter(self) -> None:
        self.store.lay_what_was()
        self.recipes.read()

    def leave(self) -> None:
        self.store.keep_now()

    def close_down(self) -> None:
        self.store.keep_now()

    def remembered(self) -> str:
        return self.side.page_shown

    def recall(self, remembered: str) -> None:
        if remembered in self.side.tabs:
            self.side.show_page(remembered)

    def show_updates(self, changes: Update) -> None:
        self.store.lay_what_was()
        if changes & Update.LIBRARY:
            self._stock = Stocked(self.studio.library)
            self._licks = tuple(self.studio.library.licks())
        if changes & _AROUND:
            licks = self._licks
            self.working.around = Around(LickLines(self.studio.library, licks, self.studio.session.solo), self._stock)
            self._show_chain()
        if changes & Update.VIEW:
            self.view.set_zoom(self.studio.view.zoom)
            self.view.set_numerals(self.studio.view.numerals)
            self.view.set_tablature(self.studio.view.tablature)
        if changes & (Update.VIEW | _AROUND):
            self.working.work()
        self.state_changed.emit()

    # -- what is shown ------------------------------------------------------------------------------

    def _bench_changed(self) -> None:
        self._show_bench()
        self.working.work()

    def _show_bench(self) -> None:
        there = self.bench.there
        has_source = there.source is not None
        self._head.setVisible(has_source)
        self._body.setVisible(has_source)
        self._nothing.setVisible(not has_source)
        self._head.title.setText(there.name)
        self._head.about.setText(there.comes)
        self._show_chain()
        self.state_changed.emit()

    def _show_chain(self) -> None:
        made = self.working.made if self.working.is_current else None
        stages = made.worked.stages if made is not None else ()
        lines = tuple(self.working.around.lines)
        self.side.chain.show_steps(self.bench.there.steps, self.bench.chosen, stages, lines)
        self.state_changed.emit()

    def _worked(self) -> None:
        before = self.view.concert
        self.view.show_made(self.working.made)
        if self.view.concert is not before:
            self.studio.playing.music_changed()
        self._show_chain()
        self._show_bits()
        self._page_shown(self.side.page_shown)

    def _etude_place(self) -> int | None:
        """The place of the last étude in the chain."""
        steps = self.bench.there.steps
        return next((k for k in reversed(range(len(steps))) if steps[k].operation == ETUDE.name), None)

    def _show_bits(self) -> None:
        """Show what an étude in the chain is put together of."""
        place, made = self._etude_place(), self.working.made
        stage = (
            made.worked.stages[place] if place is not None and made is not None and self.working.is_current else None
        )
        there = stage is not None and not stage.problem and bool(stage.piece.bits)
        self.side.show_bits(there)
        if stage is not None and there and place is not None:
            self.side.bits.show_piece(stage.piece, _held(self.bench.there.steps[place]))

    def _hold(self, onset: Fraction, what: str | None) -> None:
        """Hold a lick, nothing, or the bench's line at a place of the étude; or, for None, hold nothing there."""
        place = self._etude_place()
        if place is None:
            return
        self.bench.choose(place)
        step = self.bench.there.steps[place]
        held = _held(step)
        held.pop(onset, None)
        if what is not None:
            held[onset] = what
        words = translate("Gavotte", "Exchange a lick of the étude")
        self.bench.exchange(step.with_value("held", written_held(held)), words)

    def _page_shown(self, name: str) -> None:
        """Work out what the panel that is shown tells."""
        if name == "choices":
            self._propose()
        elif name == "variations":
            self.working.vary(int(self.side.variations.seed.value()))

    def _propose_if_shown(self) -> None:
        if self.side.page_shown == "choices":
            self._propose()

    def _propose(self) -> None:
        step = self.bench.step
        if step is None:
            self.side.choices.show_proposals((), translate("Gavotte", "Choose a step to see what it could make."))
        else:
            self.working.propose(step, self.bench.chosen)

    def _show_choices(self, proposals: tuple[Proposal, ...]) -> None:
        step = self.bench.step
        operation = OPERATIONS.get(step.operation) if step is not None else None
        if step is None or operation is None:
            return
        names = [name for name in (operation.choosing, operation.and_choosing) if name]

        def values(of: Step) -> list[Value]:
            given = Values(operation, dict(of.values))
            return [given.value(name) for name in names]

        chosen = next((k for k, one in enumerate(proposals) if values(one.steps[0]) == values(step)), -1)
        words = (
            translate("Gavotte", "{step}: what each choice makes").format(step=operation.words)
            if proposals
            else translate("Gavotte", "This step has nothing to choose from here.")
        )
        self.side.choices.show_proposals(proposals, words, chosen)
        self.side.show_number("choices", len(proposals))
        self.state_changed.emit()

    def _show_variations(self, proposals: tuple[Proposal, ...]) -> None:
        words = (
            translate("Gavotte", "The best explained first")
            if proposals
            else translate("Gavotte", "No variation was found. Try another seed.")
        )
        concert = self.view.concert
        if concert is not None and len(concert.notes) > MOST_VARIED:
            words = translate("Gavotte", "Variations are made of lines of up to {most} notes: take a part of it.")
            words = words.format(most=MOST_VARIED)
        self.side.variations.show_proposals(proposals, words, 0 if proposals else -1)
        self.state_changed.emit()

    # -- sources ------------------------------------------------------------------------------------

    def has_licks(self) -> bool:
        """Whether there is a lick to take."""
        return len(self.working.around.lines) > 0

    def take_result(self) -> None:
        """Take what was made as the source of what follows: its steps are done then."""
        solo, there = self.view.concert, self.bench.there
        if solo is not None:
            comes = translate("Gavotte", "made of {name}").format(name=there.name)
            self.bench.undo_stack.beginMacro(translate("Gavotte", "Work on with the result"))
            self.bench.take(solo, there.name, comes)
            self.bench.clear()
            self.bench.undo_stack.endMacro()

    # -- steps --------------------------------------------------------------------------------------

    def add_step(self, name: str) -> None:
        """Add a step of an operation."""
        operation = OPERATIONS[name]
        self.bench.add(Step(name), translate("Gavotte", "Add “{step}”").format(step=operation.words.lower()))
        self.side.show_page("steps")
        first = self.side.chain.form.first()
        if first is not None:
            first.setFocus()

    def _set_value(self, name: str, value: Value) -> None:
        step = self.bench.step
        operation = OPERATIONS.get(step.operation) if step is not None else None
        if operation is not None:
            words = translate("Gavotte", "Change “{option}”").format(option=operation.option(name).words.lower())
            self.bench.set_value(name, value, words)

    def step_value(self, by: int) -> None:
        """Give the step the next (1) or the last (−1) of the values it is chosen by."""
        step = self.bench.step
        operation = OPERATIONS.get(step.operation) if step is not None else None
        if step is None or operation is None or not operation.choosing:
            return
        option = operation.option(operation.choosing)
        own = dict(step.values).get(option.name, option.default)
        if option.choices:
            values: list[Value] = [value for value, _ in option.choices]
        elif option.of_lines:
            values = list(self.working.around.lines)
        else:
            values = list(range(option.lowest, option.highest + 1))
        if values:
            place = values.index(own) if own in values else -1
            self._set_value(option.name, values[(place + by) % len(values)])

    # -- proposals ----------------------------------------------------------------------------------

    @property
    def _proposals(self) -> ProposalsPanel | None:
        return {"choices": self.side.choices, "variations": self.side.variations}.get(self.side.page_shown)

    @property
    def proposal(self) -> Proposal | None:
        """The proposal that is chosen on the panel that is shown."""
        panel = self._proposals
        return None if panel is None else panel.list.current()

    def hear_proposal(self) -> None:
        """Let the chosen proposal sound."""
        if self.proposal is not None:
            self.studio.playing.play_apart(self.proposal.piece.solo)

    def take_proposal(self) -> None:
        """Take the chosen proposal over into the chain."""
        proposal = self.proposal
        if proposal is None:
            return
        words = translate("Gavotte", "Take “{words}”").format(words=proposal.words)
        if self.side.page_shown == "choices":
            self.bench.exchange(proposal.steps[0], words)
        else:
            self.bench.add_steps(proposal.steps, words)

    def keep_variations(self) -> None:
        """Put the variations that are listed on the shelf as one sheet."""
        self.results.keep_variations(self.side.variations.list.proposals)

    # -- hearing ------------------------------------------------------------------------------------

    def hear_note(self) -> None:
        """Let the note where the user is sound."""
        solo, selected = self.view.concert, self.view.selected
        if solo is not None and selected:
            self.studio.playing.preview(solo.note(selected[-1]), solo)

    def hear_source(self) -> None:
        """Let the source sound, or stop it."""
        if self.working.made is not None:
            self._play_or_stop(lambda source, _: source)

    def hear_both(self) -> None:
        """Let source and result sound in turn, in time."""

        def in_turn(source: Solo, result: Solo) -> Solo:
            blocks = [Block(source, (), ""), Block(replace(result, tempo=source.tempo), (), "")]
            return stacked(blocks * _TURNS, "")[0]

        self._play_or_stop(in_turn)

    def _play_or_stop(self, music: Callable[[Solo, Solo], Solo]) -> None:
        made, transport = self.working.made, self.studio.transport
        if transport.is_playing:
            transport.stop()
        elif made is not None:
            self.studio.playing.play_apart(music(made.worked.source.solo, made.worked.result.solo))


def _held(step: Step) -> dict[Fraction, str]:
    """What is held in a step that makes an étude."""
    return read_held(Values(ETUDE, dict(step.values)).text("held"))
