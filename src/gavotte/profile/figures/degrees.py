"""Devices, degrees, what approaches lead to, and how changes are met."""

from __future__ import annotations

import numpy as np

from gavotte.profile.figures.kind import (
    FUNCTION_WORDS,
    QUALITY_WORDS,
    Chosen,
    Figure,
    all_notes,
    degree,
    named,
    over,
    share,
)
from gavotte.profile.seen import Flags, Seen
from gavotte.solo.label import DEVICES
from gavotte.vocabulary.corpus import DEGREES, DEVICE_NAMES

_ON_TIME, _LATE = 0.25, 0.45
_TARGETS = (("roots", ("1",)), ("3rds", ("3", "b3")), ("5ths", ("5", "b5")), ("7ths", ("7", "b7")))
_PREPARED = (("below", "from a half step below", 1), ("above", "from a half step above", -1),
             ("enclosure", "by an enclosure", None))  # fmt: skip


def devices() -> list[Figure]:
    """How often each device is used."""
    function_of = {device: function for function, names in DEVICES.items() for device in names}
    return [
        share(
            f"device {device}", "Devices", f"{device.replace('-', ' ')} ({FUNCTION_WORDS[function_of[device]]})",
            f"notes that are {device.replace('-', ' ')} / all notes",
            lambda seen, device=device: seen.is_device(device), all_notes,  # type: ignore[misc]
        )
        for device in DEVICE_NAMES
        if device != "plain"
    ]  # fmt: skip


def degrees() -> list[Figure]:
    """The degrees over each kind of chord."""
    return [
        share(
            f"degree {one} over {quality}", "Degrees", f"the {named(one)} over {chords}",
            f"notes that are the {named(one)} / notes over {chords}", degree(one), over(quality),
        )
        for quality, chords in QUALITY_WORDS.items()
        for one in DEGREES
    ]  # fmt: skip


def targets() -> list[Figure]:
    """What approaches lead to, and how often the tones of the chord are led to."""
    family = "Targets"

    def leads(seen: Seen) -> Flags:
        return np.asarray(seen.leads_to >= 0)

    def to(wanted: str) -> Chosen:
        def chosen(seen: Seen) -> Flags:
            led = seen.is_degree(wanted)
            return np.asarray(leads(seen) & led[np.maximum(0, seen.leads_to)])

        return chosen

    made = [
        share(
            f"approach to {one}", family, f"approaches that lead to the {named(one)}",
            f"approaches that lead to the {named(one)} of its chord / approaches that lead to a note", to(one), leads,
        )
        for one in DEGREES
    ]  # fmt: skip
    made += [
        share(
            f"led to {words}", family, f"{words} that an approach leads to",
            f"{words} that an approach leads to / {words}",
            lambda seen: seen.is_led_to,
            lambda seen, which=which: np.logical_or.reduce([seen.is_degree(one) for one in which]),  # type: ignore[misc]
        )
        for words, which in _TARGETS
    ]  # fmt: skip
    return made


def landings() -> list[Figure]:
    """The first note over each new chord: its degree, whether it was led to and how, and when it comes."""
    family = "Landings at changes"

    def arrives(seen: Seen) -> Flags:
        return seen.arrives

    made = [
        share(
            f"landing on {one}", family, f"the {named(one)} as the first note of a chord",
            f"first notes of a chord that are its {named(one)} / first notes of a chord", degree(one), arrives,
        )
        for one in DEGREES
    ]  # fmt: skip
    made.append(
        share(
            "landing prepared", family, "changes that are led to",
            "first notes of a chord that an approach leads to / first notes of a chord",
            lambda seen: seen.is_led_to, arrives,
        )
    )  # fmt: skip
    made += [
        share(
            f"landing prepared {name}", family, f"changes that are led to {words}",
            f"first notes of a chord led to {words} / first notes of a chord",
            lambda seen, step=step: _led_to_by(seen, step), arrives,  # type: ignore[misc]
        )
        for name, words, step in _PREPARED
    ]  # fmt: skip
    made += [
        share(
            f"landing {name}", family, words, f"{formula} / anticipations and first notes of a chord", chosen, _meets,
        )
        for name, words, formula, chosen in (
            ("early", "changes that are anticipated", "anticipations", _early),
            ("on time", "changes met on time", "first notes within a quarter of a beat after their chord", _on_time),
            ("late", "changes met late", "first notes half a beat or more after their chord", _late),
        )
    ]  # fmt: skip
    return made


def _led_to_by(seen: Seen, step: int | None) -> Flags:
    """The notes the note just before leads to by a half step of its own, or (None) by an enclosure."""
    encloses, places = seen.is_device("enclosure"), np.arange(seen.count)
    just_before = seen.leads_to == places + 1
    leading = encloses if step is None else ~encloses & (np.nan_to_num(seen.step) == step)
    found = np.zeros(seen.count, np.bool_)
    found[seen.leads_to[leading & just_before]] = True
    return found


def _early(seen: Seen) -> Flags:
    return seen.is_device("anticipation")


def _met(seen: Seen) -> Flags:
    """First notes of a chord that no anticipation went before."""
    before = np.zeros(seen.count, np.bool_)
    before[1:] = _early(seen)[:-1]
    return np.asarray(seen.arrives & ~before)


def _meets(seen: Seen) -> Flags:
    return np.asarray(_early(seen) | _met(seen))


def _on_time(seen: Seen) -> Flags:
    return np.asarray(_met(seen) & (seen.since < _ON_TIME))


def _late(seen: Seen) -> Flags:
    return np.asarray(_met(seen) & (seen.since >= _LATE))


def endings() -> list[Figure]:
    """The degrees phrases end on."""
    return [
        share(
            f"ending on {one}", "Phrases", f"phrases that end on the {named(one)}",
            f"phrases that end on the {named(one)} of their chord / phrases", degree(one),
            lambda seen: seen.ends & seen.over_chord,
        )
        for one in DEGREES
    ]  # fmt: skip
