"""Every kind of part by its name, and which of them have a trait."""

from functools import lru_cache
from typing import Final, get_args

from krill.document.part_base import Part
from krill.document.parts import AnyPart, Mover


@lru_cache(maxsize=1)
def part_models() -> dict[str, type[Part]]:
    """Kind -> its model, in the order of the document's union."""
    models: tuple[type[Part], ...] = get_args(get_args(AnyPart)[0])
    return {get_args(model.model_fields["kind"].annotation)[0]: model for model in models}


def kinds_with(trait: str) -> tuple[str, ...]:
    """Kinds of which a class variable of ``Part`` is true."""
    return tuple(kind for kind, model in part_models().items() if getattr(model, trait))


MOVER_KINDS: Final = tuple(kind for kind, model in part_models().items() if model in get_args(Mover))
