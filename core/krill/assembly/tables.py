"""Parts and leads as tables for a spreadsheet."""

from collections.abc import Sequence

from krill.assembly.lead_list import LeadRow
from krill.assembly.parts_list import PartRow
from krill.records import as_csv

_PARTS = ("part", "class", "kind", "step", "tool", "price", "mass_g", "stock", "due_on", "assumed", "note")
_LEADS = ("lead", "class", "from", "to", "order_mm", "stated_mm", "reaches", "socket", "bend", "step")


def parts_csv(rows: Sequence[PartRow]) -> str:
    """One row a part; what is unknown is empty."""
    table = [
        (
            row.name,
            row.of_class,
            row.kind,
            row.step_name,
            row.tool,
            int(row.price) if row.price is not None and row.price.is_integer() else row.price,
            None if row.mass_g is None else round(row.mass_g),
            row.stock,
            row.due_on,
            ", ".join(row.assumed),
            row.note,
        )
        for row in rows
    ]
    return as_csv([_PARTS, *table])


def leads_csv(rows: Sequence[LeadRow]) -> str:
    """One row a lead."""
    table = [
        (
            row.name,
            row.of_class,
            row.from_name,
            row.to_name,
            None if row.order_mm is None else round(row.order_mm),
            None if row.stated_mm is None else round(row.stated_mm),
            {True: "yes", False: "no", None: ""}[row.reaches],
            row.socket,
            row.bend,
            row.step_name,
        )
        for row in rows
    ]
    return as_csv([_LEADS, *table])
