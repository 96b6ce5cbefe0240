"""The frame of a note: what the ear knows about it before it decides what the note does.

For each note: the chord in force and its local scale, the beat, how it is reached and left, and whether it
is held. All distances are in semitones, all lengths in quarter notes.
"""

from __future__ import annotations

import copy
import itertools
import math
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from typing import NamedTuple

from gavotte.giving_way import give_way
from gavotte.harmony.ground import ground_of
from gavotte.labelling.centre import Centres
from gavotte.labelling.chords_in_force import ChordSpan, chord_spans
from gavotte.labelling.framed_note import FramedNote, spliced
from gavotte.labelling.tensions import is_blue, is_clash, is_tension
from gavotte.solo.differences import differing, number_alike
from gavotte.solo.document import KeyRegion, Note, Solo
from gavotte.solo.school import LINEAR, School, StartsFrom
from gavotte.theory.scale import Scale


class _Time(NamedTuple):
    """When a note sounds, in quarter notes, and the beat it falls in."""

    onset: float
    end: float
    length: float
    beat: float
    strong: bool
    place: str


_NEXT_BUT_ONE = 2
TOLERANCE = 1e-9
"""Room for rounding, in quarter notes. Lengths are compared as floats for speed: exact fractions turn into the same
float every time, and only sums and differences of them need it.
"""


class Frame:
    """All notes of a solo in their frames.

    With ``like``, the frame of nearly the same solo, only notes whose surroundings changed are framed anew: those from
    ``changed[0]`` up to ``changed[1]``, which begin and end at rests. Before and after them stand the notes of
    ``like``, which counts ``moved`` notes fewer.
    """

    def __init__(self, solo: Solo, school: School = LINEAR, like: Frame | None = None) -> None:
        self.solo = solo
        self.school = school
        self.ground = ground_of(solo)
        self.grid = self.ground.grid
        self.spans: tuple[ChordSpan, ...]
        self._span_onsets: list[float]
        self._last_of_phrase: set[str]
        if like is not None and school.labels_like(like.school) and _stand_on_the_same(solo, like.solo):
            self.spans, self._span_onsets = like.spans, like._span_onsets
        else:
            self.spans = chord_spans(solo, school, self.ground)
            self._span_onsets = [float(span.onset) for span in self.spans]
        self.centres = Centres(solo, school, self.ground)
        self._places: dict[tuple[object, ...], tuple[float, bool, str]] = {} if like is None else like._places
        self._onsets: list[float] | None = None
        self._times: dict[tuple[int, int, int, int], _Time] = {}
        if like is not None and solo.phrases is like.solo.phrases:
            self._last_of_phrase = like._last_of_phrase
        else:
            self._last_of_phrase = {phrase.last for phrase in solo.phrases}
        self.changed, self.moved = (0, len(solo.notes)), 0
        self.notes: Sequence[FramedNote]
        if like is None or not _can_follow(self, like):
            self.notes = self._framed(0, len(solo.notes))
        else:
            self.notes = self._framed_like(like)

    def _framed_like(self, like: Frame) -> Sequence[FramedNote]:
        """The notes in their frames, those of ``like`` wherever nothing around them changed."""
        notes, old = self.solo.notes, like.solo.notes
        first, last = _changed_notes(notes, old)
        moved = len(notes) - len(old)
        if self.spans is not like.spans:
            low, high = _changed_time(self.spans, like.spans)
            if low < high:
                onsets = [note.onset for note in notes]
                low_note, high_note = bisect_left(onsets, low), bisect_left(onsets, high)
                nothing = first == last and not moved
                first, last = (low_note, high_note) if nothing else (min(first, low_note), max(last, high_note))
        first, last = self._out_to_rests(first, last)
        self.changed, self.moved = (first, last), moved
        shift = len(self.spans) - len(like.spans)
        return spliced(like.notes, (first, last - moved), self._framed(first, last), shift)

    def _out_to_rests(self, first: int, last: int) -> tuple[int, int]:
        """A stretch of notes with what repeats them, two more on either side, and on to where a rest parts the line."""
        notes = self.solo.notes
        while 0 < first < len(notes) and _repeats(notes, first):
            first -= 1
        while 0 < last < len(notes) and _repeats(notes, last):
            last += 1
        first, last = max(0, first - 2), min(len(notes), last + 2)
        while first > 0 and not self._rest_between(first - 1):
            first -= 1
        while last < len(notes) and not self._rest_between(last - 1):
            last += 1
        return first, last

    def _rest_between(self, i: int) -> bool:
        """Whether a rest lies between the note at ``i`` and the next."""
        note, following = self._time(self.solo.notes[i]), self._time(self.solo.notes[i + 1])
        return _is_rest(note, following)

    def with_note(self, index: int, note: Note, reach: int) -> tuple[Frame, int, int]:
        """The frame with another note at ``index``, and the notes whose frames are new: ``reach`` to each side of it.

        They end earlier at a rest. What lies farther off is taken to be untouched, and ``solo`` stays what it was:
        this is for asking what would be, quickly.
        """
        first, last = self._about(index, index, reach)
        near_first, near_last = self._about(index, index, _NEXT_BUT_ONE)
        other = copy.copy(self)
        notes = (*self.solo.notes[:index], note, *self.solo.notes[index + 1 :])
        framed = other._framed(near_first, near_last, notes)
        other.notes = spliced(self.notes, (near_first, near_last), framed)
        return other, first, last

    def by_school(self, school: School, about: Sequence[int]) -> tuple[Frame, list[tuple[int, int]]]:
        """The frame in another school, and what was framed anew: the stretches about some notes, from rest to rest."""
        other = copy.copy(self)
        other.school = school
        mine = self.school
        if (school.sixth_is_tone, school.ninth_is_tone) != (mine.sixth_is_tone, mine.ninth_is_tone):
            other.spans = chord_spans(self.solo, school, self.ground)
        other.centres = Centres(self.solo, school, self.ground)
        anew = list(self.notes)
        stretches: list[tuple[int, int]] = []
        for index in sorted(about):
            if stretches and index < stretches[-1][1]:
                continue
            first, last = self._out_to_rests(index, index + 1)
            first = max(first, stretches[-1][1]) if stretches else first
            anew[first:last] = other._framed(first, last)
            stretches.append((first, last))
        other.notes = anew
        return other, stretches

    def with_span_at(self, span: int, onset: Fraction, reach: int) -> tuple[Frame, int, int]:
        """The frame with a chord in force from another time on, as ``with_note`` has it with another note."""
        times = sorted((float(self.spans[span].onset), float(onset)))
        low, high = self.notes_between(*times)
        # No note may begin in between, least of all where the chord stands behind the last.
        low = min(low, len(self.notes) - 1)
        first, last = self._about(low, max(low, high - 1), reach)
        other = copy.copy(self)
        moved = replace(self.spans[span], onset=onset)
        other.spans = (*self.spans[:span], moved, *self.spans[span + 1 :])
        other._span_onsets = self._span_onsets.copy()
        other._span_onsets[span] = float(onset)
        other.notes = spliced(self.notes, (first, last), other._framed(first, last))
        return other, first, last

    def notes_between(self, start: float, end: float) -> tuple[int, int]:
        """The notes that begin from ``start`` up to ``end`` (not included), as indexes."""
        if self._onsets is None:
            self._onsets = [note.onset.numerator / note.onset.denominator for note in self.solo.notes]
        return bisect_left(self._onsets, start), bisect_left(self._onsets, end)

    def _about(self, low: int, high: int, reach: int) -> tuple[int, int]:
        """From ``reach`` notes before ``low`` up to as many after ``high``, not over a rest."""
        first, last = low, high
        while first > 0 and low - first < reach and not self.notes[first].rest_before:
            first -= 1
        while last + 1 < len(self.notes) and last - high < reach and not self.notes[last].rest_after:
            last += 1
        return first, last + 1

    def span_of(self, note: FramedNote) -> ChordSpan:
        """The chord in force under a note."""
        return self.spans[note.span]

    def following_span(self, note: FramedNote) -> ChordSpan | None:
        """The next chord, if it differs."""
        index = note.span + 1
        return self.spans[index] if index < len(self.spans) else None

    def is_resting_point(self, index: int) -> bool:
        """Whether a line can lead into this note: a chord tone, or a colour that is held."""
        note = self.notes[index]
        return not note.note.grace and (note.is_tone or self.is_held_colour(index))

    def is_held_colour(self, index: int) -> bool:
        """Whether the note is an available tension (or blue note) that is held."""
        note = self.notes[index]
        return (
            not note.is_tone and not note.note.grace and note.dwells and (note.tension or note.blue or note.in_centre)
        )

    def on_chord_change(self, note: FramedNote) -> bool:
        """Whether a new chord starts at or since the previous note's onset, at this note."""
        return note.index > 0 and self.spans[note.span].onset == note.note.onset

    def _framed(self, first: int, last: int, notes: tuple[Note, ...] | None = None) -> list[FramedNote]:
        """The frames of the notes (the solo's own, if none are given) from ``first`` up to ``last``."""
        notes = self.solo.notes if notes is None else notes
        low, high = max(0, first - 1), min(len(notes), last + 1)
        while low > 0 and _repeats(notes, low):
            low -= 1
        while high < len(notes) and _repeats(notes, high):
            high += 1
        near = notes[low:high]
        times = [self._time(note) for note in near]
        pitches = [note.pitch.midi for note in near]
        rests = [_is_rest(a, b) for a, b in itertools.pairwise(times)]
        again = self._struck_again(near, times, pitches, rests)
        return [self._frame(i - low, low, near, times, pitches, rests, again) for i in range(first, last)]

    def _struck_again(
        self, near: tuple[Note, ...], times: list[_Time], pitches: list[int], rests: list[bool]
    ) -> list[tuple[int, int, float]]:
        """For each note the first and last of those that strike its pitch again over one chord, and their length."""
        groups: list[tuple[int, int, float]] = []
        first = 0
        for i in range(1, len(near) + 1):
            if i < len(near) and pitches[i] == pitches[first] and not rests[i - 1] and not near[i].grace:
                spans = (bisect_right(self._span_onsets, times[k].onset) for k in (i - 1, i))
                if len(set(spans)) == 1 and not near[i - 1].grace:
                    continue
            length = sum(time.length for time in times[first:i])
            groups += [(first, i - 1, length)] * (i - first)
            first = i
        return groups

    def _time(self, note: Note) -> _Time:
        # Plain numbers make quicker keys than fractions do.
        above, below = note.onset.numerator, note.onset.denominator
        long, part = note.duration.numerator, note.duration.denominator
        known = self._times.get((above, below, long, part))
        if known is not None:
            return known
        bar, above_in_bar, below_in_bar = self.grid.place_of(above, below)
        meter = bar.meter
        # Few places recur in every bar.
        key = (meter.count, meter.unit, meter.grouping, above_in_bar, below_in_bar)
        place = self._places.get(key)
        if place is None:
            offset = Fraction(above_in_bar, below_in_bar)
            _, beat = meter.beat_at(offset)
            strong = beat.strong and beat.offset == offset
            place = self._places[key] = (float(beat.length), strong, meter.place_name(offset))
        onset, length = above / below, long / part
        time = self._times[above, below, long, part] = _Time(onset, onset + length, length, *place)
        return time

    def _frame(
        self,
        i: int,
        low: int,
        near: tuple[Note, ...],
        times: list[_Time],
        pitches: list[int],
        rests: list[bool],
        again: list[tuple[int, int, float]],
    ) -> FramedNote:
        """The frame of ``near[i]``; ``low`` is how many notes of the solo stand before ``near``."""
        give_way()
        note, index = near[i], low + i
        time = times[i]
        rest_before = i == 0 or rests[i - 1]
        rest_after = i + 1 == len(times) or rests[i]
        phrase_end = note.id in self._last_of_phrase
        pitch, pitch_class = pitches[i], pitches[i] % 12
        # Mostly the neighbours are other pitches.
        is_beside = not rest_before and pitches[i - 1] != pitch
        before = i - 1 if is_beside else _nearest_other_pitch(pitches, rests, i, -1)
        is_beside = not rest_after and pitches[i + 1] != pitch
        after = i + 1 if is_beside else _nearest_other_pitch(pitches, rests, i, 1)
        span_index = max(0, bisect_right(self._span_onsets, time.onset) - 1)
        span = self.spans[span_index]
        change = self._span_onsets[span_index + 1] if span_index + 1 < len(self.spans) else math.inf
        chord, scale = span.chord, span.scale
        centre = self.centres.at(index)
        is_tone = pitch_class in span.tones
        degree = chord.degree_of(pitch_class)
        # A note struck again is heard as one that lasts, by the notes about it.
        head, tail, together = again[i]
        length_before = again[head - 1][2] if head > 0 else math.inf
        length_after = again[tail + 1][2] if tail + 1 < len(times) else math.inf

        def lasts(length: float, silent_after: bool) -> bool:
            longer = length_before <= length > length_after > 0
            return not note.grace and (length >= time.beat or longer or silent_after or phrase_end)

        return FramedNote(
            index=index,
            note=note,
            pitch=pitch,
            span=span_index,
            degree=degree,
            is_tone=is_tone,
            in_scale=pitch_class in scale.pitch_classes,
            tension=not is_tone and is_tension(chord, degree, scale),
            clash=not is_tone and is_clash(chord, degree),
            blue=is_blue(chord, pitch_class, span.key),
            strong=time.strong,
            length=time.length,
            beat_length=time.beat,
            place=time.place,
            until_change=change - time.onset,
            sounds_on=time.end > change + TOLERANCE,
            held=lasts(time.length, rest_after),
            dwells=lasts(together, tail + 1 == len(times) or rests[tail]),
            rest_before=rest_before,
            rest_after=rest_after,
            before=None if before is None else low + before,
            after=None if after is None else low + after,
            move_in=None if before is None else pitch - pitches[before],
            move_out=None if after is None else pitches[after] - pitch,
            steps_in=before is not None and _is_step(pitches[before], pitch, scale),
            steps_out=after is not None and _is_step(pitch, pitches[after], scale),
            centre=centre,
            in_centre=centre is not None and pitch_class in centre.pitch_classes,
        )


def _repeats(notes: Sequence[Note], i: int) -> bool:
    """Whether the note at ``i`` strikes the pitch of the one before again."""
    return notes[i].pitch.midi == notes[i - 1].pitch.midi


def _is_rest(note: _Time, following: _Time) -> bool:
    """Whether silence lies between two notes: half a beat or more; anything shorter is articulation."""
    return following.onset - note.end >= note.beat / 2 - TOLERANCE


def _stand_on_the_same(solo: Solo, other: Solo) -> bool:
    """Whether chords, keys and readings are the same (readings hang on notes, so there must be none)."""
    if solo.readings or other.readings:
        return False
    if not solo.chords and (solo.notes[:1] != other.notes[:1]):
        return False
    if solo.chords != other.chords or solo.keys != other.keys or solo.heard_keys != other.heard_keys:
        return False
    # Where the last chord ends does not matter to a label, but it may to how a key is heard.
    return solo.end == other.end or _heard(solo) == _heard(other)


def _heard(solo: Solo) -> list[KeyRegion]:
    return [heard.region for heard in ground_of(solo).keys]


def barred_and_phrased_alike(solo: Solo, other: Solo) -> bool:
    """Whether bars and phrases of two solos are the same and both are read by their chords, whatever the notes."""
    return (
        solo.meters == other.meters
        and solo.odd_bars == other.odd_bars
        and solo.pickup == other.pickup
        and solo.phrases == other.phrases
        and not solo.readings
        and not other.readings
    )


def _can_follow(frame: Frame, like: Frame) -> bool:
    """Whether the notes of another frame can stand in this one."""
    return (
        barred_and_phrased_alike(frame.solo, like.solo)
        and frame.school.says_like(like.school)
        and frame.school.starts_from is StartsFrom.CHORD
        and bool(frame.solo.notes)
        and bool(like.solo.notes)
    )


def _changed_notes(notes: tuple[Note, ...], old: tuple[Note, ...]) -> tuple[int, int]:
    """The notes between the longest common beginning and the longest common end."""
    # Told apart by identity first, which is quick; then values made anew that are the same.
    first, old_stop, stop = differing(old, notes)
    while first < min(old_stop, stop) and notes[first] == old[first]:
        first += 1
    while min(old_stop, stop) > first and notes[stop - 1] == old[old_stop - 1]:
        old_stop, stop = old_stop - 1, stop - 1
    return first, stop


def _changed_time(spans: tuple[ChordSpan, ...], old: tuple[ChordSpan, ...]) -> tuple[Fraction, Fraction]:
    """The time over which the chords in force differ, with the chord before, whose way on has changed."""
    shorter = min(len(spans), len(old))
    first = number_alike(spans, old)
    same_end = 0
    while same_end < shorter - first and spans[-1 - same_end] == old[-1 - same_end]:
        same_end += 1
    if first == len(spans) == len(old):
        return Fraction(0), Fraction(0)
    always = Fraction(10**9)
    start = -always if first <= 1 else spans[first - 1].onset
    return start, spans[len(spans) - same_end].onset if same_end else always


def _nearest_other_pitch(pitches: list[int], rests: list[bool], i: int, direction: int) -> int | None:
    j = i + direction
    while 0 <= j < len(pitches):
        if rests[min(j, j - direction)]:
            return None
        if pitches[j] != pitches[i]:
            return j
        j += direction
    return None


def _is_step(low: int, high: int, scale: Scale) -> bool:
    distance = abs(high - low)
    return distance in (1, 2) or (distance == 3 and scale.are_neighbours(low, high))
