"""What was played into a MIDI file, as it was played: seconds and keys, nothing written."""

from __future__ import annotations

import io
from collections import defaultdict

import mido

from gavotte.formats.errors import FormatError

_DRUMS = 9

PlayedKey = tuple[float, float, int]
"""Seconds at which a key went down and came up, and its MIDI number."""


def played_keys(data: bytes) -> list[PlayedKey]:
    """The keys of the channel on which most was played (drums left out), in order.

    Raises FormatError where the file can't be read.
    """
    try:
        file = mido.MidiFile(file=io.BytesIO(data), clip=True)
        messages = list(file)
    except (OSError, EOFError, ValueError, KeyError, IndexError, TypeError, mido.KeySignatureError) as error:
        why = str(error) or "it ends too early"
        raise FormatError(f"The file is no readable MIDI ({why}). It may be cut off; export it again.") from error
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
