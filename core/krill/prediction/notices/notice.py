"""One notice: how grave it is, what it is about, and the sentence."""

from krill.prediction.answer.result import Notice


def warning(address: str, text: str) -> Notice:
    return Notice(level="warning", address=address, text=text)


def note(address: str, text: str) -> Notice:
    return Notice(level="note", address=address, text=text)
