"""What was played into a MIDI file, as it was played: seconds and keys, nothing written."""

from __future__ import annotations

from collections import defaultdict

from gavotte.formats.errors import FormatError
from gavotte.formats.midi_read import parsed_midi

_DRUMS = 9

PlayedKey = tuple[float, float, int]
"""Seconds at which a key went down and came up, and its MIDI number."""


def played_keys(data: bytes) -> list[PlayedKey]:
    """The keys of the channel on which most was played (drums left out), in order.

    Raises FormatError where the file can't be read.
    """
    file = parsed_midi(data)
    try:
        messages = list(file)
    except (ValueError, TypeError) as error:
        # Tracks that are independent of each other have no common time.
        raise FormatError(f"The file is no readable MIDI ({error}). Export it as type 1.") from error
    now = 0.0
    down: dict[tuple[int, int], float] = {}
    channels: dict[int, list[PlayedKey]] = defaultdict(list)
    for message in messages:
        now += message.time
        if message.type not in ("note_on", "note_off") or message.channel == _DRUMS:
            continue
        key = (message.channel, message.note)
        if key in down:
            channels[message.channel].append((down.pop(key), now, message.note))
        if message.type == "note_on" and message.velocity > 0:
            down[key] = now
    for (channel, note), start in down.items():
        channels[channel].append((start, now, note))
    most: list[PlayedKey] = []
    for keys in channels.values():
        most = keys if len(keys) > len(most) else most
    return sorted(most)
