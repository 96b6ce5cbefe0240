"""The ground of a solo: its bars, its changes in time, the keys heard behind them, and where it ends.

It is worked out once for as long as chords, keys and meters stay the same, and handed to whoever needs it: labelling,
progressions, the page.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property

from gavotte.harmony.changes import Change, changes_of
from gavotte.harmony.home import home_of
from gavotte.harmony.keys import HeardKey, hear_keys, key_heard_at, spans_of
from gavotte.harmony.numerals import Numbered, numeral
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, KeyRegion, MeterRegion, OddBar, Solo
from gavotte.theory.key import Key


@dataclass(frozen=True)
class Ground:
    """What the notes of a solo stand on. ``written`` are the keys of its signatures, ``set_by_hand`` those its user
    hears instead; times are in quarter notes.
    """

    chords: tuple[ChordEvent, ...]
    written: tuple[KeyRegion, ...]
    set_by_hand: tuple[KeyRegion, ...]
    meters: tuple[MeterRegion, ...]
    odd_bars: tuple[OddBar, ...]
    pickup: Fraction
    end: Fraction

    @cached_property
    def _solo(self) -> Solo:
        """A solo with this ground and nothing on it."""
        return Solo(
            "",
            pickup=self.pickup,
            meters=self.meters,
            odd_bars=self.odd_bars,
            keys=self.written,
            chords=self.chords,
            heard_keys=self.set_by_hand,
            form_end=self.end,
        )

    @cached_property
    def grid(self) -> BarGrid:
        """The bars."""
        return BarGrid(self._solo)

    @cached_property
    def changes(self) -> tuple[Change, ...]:
        """Every chord that can be read, with how long it lasts."""
        return changes_of(self._solo)

    @cached_property
    def keys(self) -> tuple[HeardKey, ...]:
        """The keys heard, in order and at least one: those set by hand, else those heard from the chords."""
        return spans_of(self.set_by_hand, self.end) if self.set_by_hand else self.keys_from_chords

    @cached_property
    def keys_from_chords(self) -> tuple[HeardKey, ...]:
        """The keys heard from the chords, whatever was set by hand."""
        home = home_of(self.changes, self.bar_roots, self.written[0]) if len(self.written) == 1 else None
        if home is None:
            return hear_keys(self._solo, self.changes)
        keys = hear_keys(replace(self._solo, keys=(home.region,)), self.changes)
        return tuple(key if key.why else replace(key, why=home.why) for key in keys)

    @cached_property
    def numbered(self) -> tuple[Numbered, ...]:
        """Every chord with its roman numeral in the key it is heard in."""
        result: list[Numbered] = []
        before: Key | None = self.keys[0].key if len(self.keys) == 1 else None
        for change in self.changes:
            key = self.key_at(change.onset).key
            result.append(Numbered(change, numeral(change.chord, key), key if key != before else None))
            before = key
        return tuple(result)

    @cached_property
    def bar_roots(self) -> tuple[frozenset[int], ...]:
        """For each numbered bar the roots (pitch classes) of the chords that sound in it."""
        bars = [bar for bar in self.grid.bars if bar.number > 0]
        roots: list[set[int]] = [set() for _ in bars]
        index = 0
        for change in self.changes:
            while index < len(bars) and bars[index].end <= change.onset:
                index += 1
            for place in range(index, len(bars)):
                if bars[place].onset >= change.end:
                    break
                roots[place].add(change.chord.root.pitch_class)
        return tuple(map(frozenset, roots))

    def key_at(self, onset: Fraction) -> HeardKey:
        """The key heard at a time: before the first, the first."""
        return key_heard_at(self.keys, onset)

    def is_of(self, solo: Solo) -> bool:
        """Whether a solo stands on this ground. An edit keeps what it does not touch, so identity tells quickly."""
        return (
            self.chords is solo.chords
            and self.written is solo.keys
            and self.set_by_hand is solo.heard_keys
            and self.meters is solo.meters
            and self.odd_bars is solo.odd_bars
            and self.pickup == solo.pickup
            and self.end == solo.end
        )


_KNOWN: deque[Ground] = deque(maxlen=8)


def ground_of(solo: Solo) -> Ground:
    """The ground of a solo; the same value as long as it stays the same."""
    for known in tuple(_KNOWN):
        if known.is_of(solo):
            return known
    ground = Ground(solo.chords, solo.keys, solo.heard_keys, solo.meters, solo.odd_bars, solo.pickup, solo.end)
    # An edit elsewhere may have made equal values anew: what was worked out for them still holds.
    same = next((known for known in tuple(_KNOWN) if known == ground), None)
    if same is not None:
        for name in ("changes", "keys", "keys_from_chords", "grid", "numbered", "bar_roots"):
            if name in same.__dict__:
                ground.__dict__[name] = same.__dict__[name]
    _KNOWN.append(ground)
    return ground


def with_key_heard(solo: Solo, start: Fraction, end: Fraction, key: Key, blues: bool = False) -> Solo:
    """The solo with a key its user hears from ``start`` up to ``end``; the keys about it stay as they are heard now."""
    pieces: list[KeyRegion] = []
    for heard in ground_of(solo).keys:
        if heard.onset < start:
            pieces.append(heard.region)
        if heard.end > end:
            pieces.append(KeyRegion(max(heard.onset, end), heard.key, heard.blues))
    pieces.append(KeyRegion(start, key, blues))
    regions: list[KeyRegion] = []
    for piece in sorted(pieces, key=lambda region: region.onset):
        if not regions or (regions[-1].key, regions[-1].blues) != (piece.key, piece.blues):
            regions.append(piece)
    return replace(solo, heard_keys=tuple(regions))
