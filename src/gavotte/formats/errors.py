"""The one error every reader raises."""


class FormatError(ValueError):
    """A file that can't be read. The message says what is wrong, where, and what to do."""
