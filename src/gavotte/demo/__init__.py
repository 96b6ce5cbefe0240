"""The demo: tunes, players and lines invented for Gavotte, and the library built from them."""
