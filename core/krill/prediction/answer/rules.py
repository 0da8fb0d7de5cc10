"""Rules of thumb beside the model: a sanity line, and where the two part."""

from typing import Final

from krill.prediction.answer.result import LoopResult, Rules, Terrace
from krill.prediction.answer.solving import Solved, room_of

#: watts a section of 120 mm (common practice: 100 to 150) and coolant over the room, K (5 lavish, 10 good, 15 tight)
SECTION_W: Final = (100.0, 150.0)
OVER_ROOM_K: Final = (5.0, 10.0, 15.0)
COMMON_SECTION_MM: Final = 120.0


def rules_of_thumb(solved: Solved, index: int, loops: list[LoopResult], shared: list[Terrace]) -> Rules:
    """Watts per section, coolant over room, and what the order of the loop makes of the coolant temperature."""
    row = solved.central(index)
    radiators = [link.part for link in solved.network.pattern.radiators]
    sections = sum(part.sections for part in radiators)
    equal = sum(part.sections * (float(part.section_mm) / COMMON_SECTION_MM) ** 2 for part in radiators)
    watts = sum(terrace.watts for terrace in shared if terrace.kind == "coolant")
    over = max(loop.highest_c for loop in loops) - room_of(solved, row) if loops else None
    per_section = watts / equal if equal else None
    return Rules(
        sections=sections,
        watts_per_section=per_section,
        coolant_over_room_k=over,
        loop_order_k=max((loop.highest_c - loop.lowest_c for loop in loops), default=None),
        note="" if per_section is None or over is None else _note(per_section, over, _speed(solved, row)),
    )


def _speed(solved: Solved, row: int) -> float:
    """Mean share of their rated speed of the fans."""
    fans = [speed[row] for mover, speed in solved.solution.speeds.items() if solved.build.part(mover).kind == "fan"]
    return float(sum(fans) / len(fans)) if fans else 0.0


def _note(per_section: float, over: float, speed: float) -> str:
    """Whether the rule of watts per section and the solved coolant say the same."""
    enough_by_rule, enough_by_model = per_section <= SECTION_W[1], over <= OVER_ROOM_K[2]
    if enough_by_rule and enough_by_model:
        word = "lavish" if over <= OVER_ROOM_K[0] else "good" if over <= OVER_ROOM_K[1] else "tight"
        return f"Rule of thumb and model agree: enough radiator ({word} by coolant over room)."
    if not enough_by_rule and not enough_by_model:
        return "Rule of thumb and model agree: too little radiator."
    if enough_by_rule:
        return (
            "The rule of thumb and the model disagree: by watts per section there is radiator enough, yet the coolant "
            f"stands {over:.0f} K over the room; the rule supposes brisk fans in free room air, these turn at {100 * speed:.0f} %."
        )
    return (
        "The rule of thumb and the model disagree: by watts per section there is too little radiator, yet the coolant "
        f"stands only {over:.0f} K over the room; the fans ({100 * speed:.0f} %) move more air than the rule supposes."
    )
