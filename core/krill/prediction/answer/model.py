"""A build prepared once and asked often: its figures, its graph and the pattern of its heat network."""

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.reading import digest
from krill.networks.pattern import ThermalPattern
from krill.networks.structure import Structure, structure_of

#: documents that are kept prepared
MAX_KEPT: Final = 24


@dataclass(frozen=True)
class Model:
    """What every question to a document starts from; nothing in it changes."""

    build: Build
    sha256: str
    table: FigureTable
    structure: Structure
    pattern: ThermalPattern

    @classmethod
    def of(cls, build: Build) -> "Model":
        """The model of a document; the same text meets the same model."""
        key = digest(build)
        with _LOCK:
            found = _KEPT.get(key)
            if found is not None:
                _KEPT.move_to_end(key)
        if found is None:
            table = FigureTable(build)
            structure = structure_of(build, table)
            found = cls(build, key, table, structure, ThermalPattern(structure))
            with _LOCK:
                _KEPT[key] = found
                while len(_KEPT) > MAX_KEPT:
                    _KEPT.popitem(last=False)
        return found


_KEPT: Final[OrderedDict[str, Model]] = OrderedDict()
_LOCK: Final = Lock()
