"""Another class of a part as figures alone, so that it is a row of a batch and not a document of its own."""

from typing import Final

from krill.catalogue.classes import classes
from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.parts import Fan, Pump, Radiator
from krill.document.quantities import figures_of

#: kinds whose class is more than figures: a curve, a core
CURVED: Final = (Fan, Pump, Radiator)


def class_rows(build: Build, table: FigureTable, owner: str, class_id: str) -> dict[str, float] | None:
    """Figures (SI) of another class of a part, where its class is nothing but figures and both state the same ones."""
    part = next((part for part in build.parts if part.id == owner), None)
    now, new = classes().get(getattr(part, "class_", None) or ""), classes().get(class_id)
    if part is None or now is None or new is None or isinstance(part, CURVED):
        return None
    if now.kind != new.kind or set(now.figures) != set(new.figures) or now.extra != new.extra:
        return None
    stated = figures_of(type(part))
    own = [field for field in new.figures if getattr(part, field, None) is None]
    return {
        f"{owner}/{field}": new.figures[field][0] * stated[field].factor
        for field in own
        if f"{owner}/{field}" in table.figures
    }
