"""What people call parts and quantities, in English, German, French, Spanish and Polish, with common abbreviations."""

import json
import re
import unicodedata
from importlib.resources import files
from typing import Final

_NO_MARK: Final = str.maketrans({"ł": "l", "Ł": "L", "ß": "ss", "œ": "oe", "Œ": "Oe", "’": "'"})


def plain(text: str) -> str:
    """Lower-case words parted by blanks, without accents: "CPUTemp_2" is "cpu temp 2"."""
    text = re.sub(r"(?<=[a-z])(?=[A-Z])|(?<=[A-Z])(?=[A-Z][a-z]{2})", " ", text)
    text = unicodedata.normalize("NFKD", text.translate(_NO_MARK))
    text = "".join(sign for sign in text if not unicodedata.combining(sign)).lower()
    text = re.sub(r"(?<=[a-z])(?=\d)", " ", text)
    return " ".join(re.sub(r"[_\-:;,/|()\[\]#\"'=]+", " ", text).split())


def _pattern(words: list[str]) -> re.Pattern[str]:
    """Whole words; a star stands for what a word may go on or begin with."""
    forms = []
    for word in words:
        bare = plain(word.strip("*"))
        head = "" if word.startswith("*") else r"(?<!\w)"
        tail = "" if word.endswith("*") else r"(?!\w)"
        forms.append(f"{head}{re.escape(bare)}{tail}")
    return re.compile("|".join(forms))


_SAID: Final[dict[str, re.Pattern[str]]] = {
    kind: _pattern(words)
    for kind, words in json.loads(files("krill.logs").joinpath("words.json").read_text(encoding="utf-8")).items()
}


def says(kind: str, text: str) -> bool:
    """Whether a plain text has a word of a kind."""
    return _SAID[kind].search(text) is not None
