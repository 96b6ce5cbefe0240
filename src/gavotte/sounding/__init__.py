"""Sound: a solo and its band as timed events, and the engine that plays them through a synthesiser."""
