"""What tapes, glues, clips, ties, inserts and threads carry, and what warmth takes of it."""

from dataclasses import dataclass
from functools import lru_cache

from krill.catalogue.table import table
from krill.document.holding import Beside


@dataclass(frozen=True, slots=True)
class JointClass:
    """Newtons for years at 25 °C: of each piece, or per cm² pulling and shearing; half of it is left at ``half_at_c``, nothing
    at ``lets_go_c``; a sudden load may be ``sudden`` times that of years."""

    name: str
    each_n: float | None
    pull_n_cm2: float | None
    shear_n_cm2: float | None
    half_at_c: float | None
    lets_go_c: float | None
    sudden: float
    note: str


@lru_cache(maxsize=1)
def joint_classes() -> dict[str, JointClass]:
    """Every class of joint by its id."""
    return {
        key: JointClass(
            row["name"],
            row.get("each_n"),
            row.get("pull_n_cm2"),
            row.get("shear_n_cm2"),
            row["half_at_c"],
            row["lets_go_c"],
            row["sudden"],
            row.get("note", ""),
        )
        for key, row in table("joints")["joints"].items()
    }


def stays_under_c(what: Beside) -> float:
    """What wood, card, cloth, foam and felt stay under for years, C."""
    return float(table("joints")["beside_c"][what])


def far_enough_mm() -> float:
    """From so far away, or behind a metal sheet with air between, hot surfaces harm none of them."""
    return float(table("joints")["far_enough_mm"])
