"""What becomes of a result: kept as a lick, put on the shelf as a solo or as a sheet, taken out as it is shown."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import QObject
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.workshop.bench import Bench
from gavotte.desktop.desks.workshop.bench_view import BenchView
from gavotte.desktop.errands.lick_dialog import LickDialog
from gavotte.desktop.paper.sheet import Sheet
from gavotte.desktop.translation import said, translate
from gavotte.solo.document import Solo
from gavotte.vocabulary.lick import Lick, Source, keep_lick
from gavotte.workshop.operations import OPERATIONS
from gavotte.workshop.proposals import Proposal
from gavotte.workshop.sheet import key_sheet
from gavotte.workshop.stacked import Block, stacked


class Results(QObject):
    """Keeps what the ``view`` shows. ``dialog`` asked last what a lick is called."""

    def __init__(self, studio: Studio, bench: Bench, view: BenchView, desk: QWidget) -> None:
        super().__init__(desk)
        self._studio, self._bench, self._view, self._desk = studio, bench, view, desk
        self.dialog: LickDialog | None = None

    def made_words(self) -> str:
        """What was done, in words."""
        told = []
        for step in self._bench.there.steps:
            operation = OPERATIONS.get(step.operation)
            if step.is_on and operation is not None:
                summary = operation.summary(dict(step.values))
                words = said(operation.words).lower()
                told.append(f"{words} ({summary})" if summary else words)
        made_of = translate("Gavotte", "Made of “{name}”").format(name=self._bench.there.name)
        return f"{made_of}: {', '.join(told)}" if told else made_of

    def sheet(self) -> Sheet | None:
        """The result as it is shown, for export and paper."""
        made = self._view.made
        if made is None:
            return None
        piece, title = made.worked.result, self._bench.there.name
        concert = (replace(piece.solo, title=title), {label.note: label for label in piece.labelled.labels})
        shown = replace(made.result.solo, title=title)
        written = concert if self._studio.view.written else None
        return Sheet(shown, made.result.labels, self.made_words(), concert=written, selected=self._view.selected)

    def lick(self) -> Lick | None:
        """What was made, or what is selected of it, as a lick."""
        made, selected = self._view.made, self._view.selected
        if made is None or not made.worked.result.solo.notes:
            return None
        piece = made.worked.result
        notes = piece.solo.notes
        first, last = (selected[0], selected[-1]) if len(selected) > 1 else (notes[0].id, notes[-1].id)
        lick = keep_lick(piece.solo, "", piece.labelled.labels, first, last)
        title = translate("Gavotte", "Workshop: {name}").format(name=self._bench.there.name)
        source = Source("", title, "", lick.source.first_bar, lick.source.last_bar)
        return replace(lick, source=source, words=self.made_words())

    def keep_lick(self) -> None:
        """Keep what was made, or what is selected of it, as a lick."""
        lick = self.lick()
        if lick is None:
            return
        dialog = self.dialog = LickDialog(self._desk.window() or self._desk, lick)
        dialog.accepted.connect(lambda: self._put_lick(dialog))
        dialog.open()

    def _put_lick(self, dialog: LickDialog) -> None:
        stack = self._bench.undo_stack
        lick_id = self._studio.edits.keep_lick(dialog.lick, stack)
        if lick_id is None:
            # What was typed is still there, for another try.
            dialog.open()
            return
        self._studio.asks.notice(
            translate("Gavotte", "Kept “{name}”.").format(name=dialog.lick.name),
            translate("Gavotte", "See it in all keys"),
            lambda: self._studio.asks.go("vocabulary", lick_id, "keys"),
            stack.indexChanged,
        )

    def keep_solo(self) -> None:
        """Put what was made on the shelf."""
        solo = self._view.concert
        if solo is not None:
            title = translate("Gavotte", "{name}, worked on").format(name=self._bench.there.name)
            self._put_on_shelf(replace(solo, title=title))

    def keep_sheet(self) -> None:
        """Put a sheet of what was made in all twelve keys on the shelf."""
        lick = self.lick()
        if lick is not None:
            title = translate("Gavotte", "{name}, all keys").format(name=self._bench.there.name)
            self._put_on_shelf(key_sheet(lick.renamed(title))[0])

    def keep_variations(self, proposals: tuple[Proposal, ...]) -> None:
        """Put variations on the shelf as one sheet, numbered, behind what they are made of."""
        solo = self._view.concert
        if solo is None or not proposals:
            return
        blocks = [Block(solo, (), translate("Gavotte", "As it was"))]
        blocks += [Block(one.piece.solo, (), f"{number}") for number, one in enumerate(proposals, 1)]
        title = translate("Gavotte", "{name}, variations").format(name=self._bench.there.name)
        self._put_on_shelf(stacked(blocks, title)[0])

    def _put_on_shelf(self, solo: Solo) -> None:
        stack = self._bench.undo_stack
        # Whoever played the source did not play this.
        solo_id = self._studio.edits.keep_solo(replace(solo, player=""), stack)
        if solo_id is not None:
            self._studio.asks.notice(
                translate("Gavotte", "“{title}” is on the shelf.").format(title=solo.title),
                translate("Gavotte", "Open it"),
                lambda: self._studio.asks.open_solo(solo_id),
                stack.indexChanged,
            )
