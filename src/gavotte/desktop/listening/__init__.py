"""Hearing a solo's recording: the wave, the loop, the beat map, and what plays them."""
