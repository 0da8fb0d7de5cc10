"""What can be said of the sound of a workload: over its ceiling, or with a tone that the ear minds more than the meter."""

from collections.abc import Iterator
from typing import Final

from krill.prediction.answer.result import Notice, SoundResult
from krill.prediction.notices.notice import note, warning

#: where the ear is keenest, Hz, and what a tone there counts beside the level, dB (common practice: 0 to 6 more than +3)
KEENEST_HZ: Final = (800.0, 4000.0)
TONE_DB: Final = 5.0
#: a source this far below the total is not heard by itself
HEARD_DB: Final = 6.0


def sound_notices(sound: SoundResult) -> Iterator[Notice]:
    """Over the ceiling; blade tones that are heard."""
    yield from _ceiling(sound)
    for source in sound.sources:
        tone = source.tone_hz
        if tone is None or not KEENEST_HZ[0] <= tone <= KEENEST_HZ[1] or source.level_dba < sound.total_dba - HEARD_DB:
            continue
        yield note(
            source.address,
            f"{source.name}: blade tone of about {tone:.0f} Hz, where the ear is keenest: it counts as {TONE_DB:.0f} dB more "
            "than the meter reads (common practice).",
        )


def _ceiling(sound: SoundResult) -> Iterator[Notice]:
    ceiling, band = sound.ceiling_dba, sound.band_dba
    if ceiling is None:
        return
    level = f"{sound.total_dba:.1f} dBA at {sound.at_m:g} m"
    if (sound.total_dba if band is None else band.low) > ceiling:
        yield warning("sound", f"{level} is over the ceiling of {ceiling:g} dBA.")
    elif band is not None and band.high > ceiling:
        yield note(
            "sound", f"{level} may be over the ceiling of {ceiling:g} dBA: {band.low:.0f} to {band.high:.0f} dBA."
        )
