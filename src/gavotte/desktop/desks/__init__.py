"""The desks, one module each, in the order of a transcriber's work."""
