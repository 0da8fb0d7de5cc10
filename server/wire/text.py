"""Text that a person sends and that can be stored."""

from typing import Annotated

from pydantic import AfterValidator


def _storable(value: str) -> str:
    if "\x00" in value or any("\ud800" <= c <= "\udfff" for c in value):
        raise ValueError("holds characters that cannot be stored")
    return value


Text = Annotated[str, AfterValidator(_storable)]
