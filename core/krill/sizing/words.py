"""Sentences of sizing: what a designer would say who looked at the figures."""

from krill.in_time.aims import AimKind
from krill.in_time.bursts import LOOKED_S
from krill.in_time.words import minutes_of
from krill.prediction.answer.result import PlaceResult
from krill.sizing.result import Aimed, NextChange

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


#: of a figure in time a step that adds less is called worth nothing: s of a burst, K after minutes, % of the time
WORTH_IN_TIME: dict[AimKind, float] = {"burst": 1.0, "after": WORTH_K, "held_back": 1.0}


def aimed_sentence(ranked: list[NextChange], aim: Aimed) -> str:
    """How the figure aimed at stands, and the best steps with what each does to it."""
    better = 1.0 if aim.more_is_better else -1.0
    worth = [change for change in ranked if better * (change.gained or 0.0) >= WORTH_IN_TIME[aim.kind]]
    stands = _stands(aim)
    if not worth:
        return f"{stands}; no step here changes that for the better."
    return f"{stands}; " + "; ".join(f"{change.label} {_by(change.gained or 0.0, aim)}" for change in worth[:3]) + "."


def _stands(aim: Aimed) -> str:
    if aim.kind == "burst":
        if aim.now >= LOOKED_S:
            return f"The burst of {aim.name} holds for as long as was looked, {LOOKED_S / 60:.0f} min"
        return f"The burst of {aim.name} holds {aim.now:.0f} s"
    if aim.kind == "after":
        return f"{aim.name} stands at {aim.now:.1f} °C after {minutes_of(aim.minutes)}"
    if aim.now <= 0.0:
        return f"{aim.name} never gives up watts in {minutes_of(aim.minutes)}"
    return f"{aim.name} gives up watts for {aim.now:.0f} % of {minutes_of(aim.minutes)}"


def _by(gained: float, aim: Aimed) -> str:
    sign = "+" if gained > 0 else "−"
    unit, digits = {"burst": ("s", 0), "after": ("K", 1), "held_back": ("% of the time", 0)}[aim.kind]
    return f"{sign}{abs(gained):.{digits}f} {unit}"


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
