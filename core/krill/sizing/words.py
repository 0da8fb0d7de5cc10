"""Sentences of sizing: what a designer would say who looked at the figures."""

from krill.prediction.answer.result import PlaceResult
from krill.sizing.result import NextChange

#: below this a step is called worth nothing (common practice: about 1 K is no difference; half of it for one step)
WORTH_K = 0.5


def ranked_sentence(ranked: list[NextChange], place: PlaceResult) -> str:
    """The best steps with what they win on which part; or where the kelvins lie, where no step is worth it."""
    worth = [change for change in ranked if change.won_k >= WORTH_K]
    if not worth:
        return f"No step here wins {WORTH_K:g} K on {place.name}: {rest_lies(place)}."
    first, then = worth[0], worth[1:3]
    text = f"{first.label} wins {first.won_k:.1f} K on {place.name}{_and_others(first)}"
    for change in then:
        text += f"; {change.label} {change.won_k:.1f} K"
    weak = [change for change in ranked if 0 <= change.won_k < WORTH_K]
    if weak:
        text += f". {weak[0].label}: no real gain ({weak[0].won_k:.1f} K)"
    return text + "."


def _and_others(change: NextChange) -> str:
    """What the step wins on other parts, and what it costs them: the most of each by name, the rest counted."""
    won = sorted((other for other in change.others if other.won_k >= WORTH_K), key=lambda o: -o.won_k)
    harmed = sorted((other for other in change.others if other.won_k <= -WORTH_K), key=lambda o: o.won_k)
    text = ""
    if won:
        text += f" and {won[0].won_k:.1f} K on {won[0].name}{_and_more(len(won) - 1)}"
    if harmed:
        text += f", but costs {harmed[0].name}{_and_more(len(harmed) - 1)} {-harmed[0].won_k:.1f} K"
    return text


def _and_more(count: int) -> str:
    return f" ({count} more alike)" if count else ""


def rest_lies(place: PlaceResult) -> str:
    """Which hop most of a place's kelvins lie in."""
    most = max(place.hops, key=lambda hop: hop.drop_k, default=None)
    if most is None or place.over_room_k <= 0:
        return "it is no warmer than the room"
    return f"{most.drop_k:.0f} of its {place.over_room_k:.0f} K over the room lie in '{most.name}'"
