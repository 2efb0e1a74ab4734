"""The one root of everything Chapto says went wrong."""


class ChaptoError(Exception):
    """A sentence for the creator: what is wrong, where, and what to do.

    Each package derives one exception from it; the interface and the command line show its text as it is.
    """


class Cancelled(Exception):
    """Raised inside long work when it was stopped."""
