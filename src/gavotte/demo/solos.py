"""The demo solos. Tunes, players and every line are invented for Gavotte."""

from __future__ import annotations

from fractions import Fraction

from gavotte.demo.bucket import bucket
from gavotte.demo.cinder import cinder
from gavotte.demo.ferry import ferry
from gavotte.demo.quarry import quarry
from gavotte.demo.wheel import wheel

DEMO_SOLOS = (ferry, bucket, cinder, quarry, wheel)
"""What makes the demo's solos, in the order of the shelf."""

DEMO_LICKS = (
    (0, Fraction(16), Fraction(24)),
    (1, Fraction(76), Fraction(80)),
    (2, Fraction(57), Fraction(60)),
    (4, Fraction(69), Fraction(72)),
)
"""Licks kept in the demo: which solo, and the onsets its first and last notes lie between."""
