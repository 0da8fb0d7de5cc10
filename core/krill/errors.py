"""Every failure that the core reports. The message of each is a sentence for the person at the bench."""

from dataclasses import dataclass


class KrillError(Exception):
    """Krill could not do what was asked."""


@dataclass(frozen=True)
class Problem:
    """One thing wrong in a document: where it stands, what is wrong, what would be allowed."""

    where: str
    what: str
    allowed: str

    def sentence(self) -> str:
        return f"{self.where}: {self.what}; allowed: {self.allowed}"


class DocumentRefused(KrillError):
    """The build document holds something that cannot be."""

    def __init__(self, problems: list[Problem]) -> None:
        self.problems = problems
        super().__init__("; ".join(problem.sentence() for problem in problems))

    def __reduce__(self) -> tuple[type["DocumentRefused"], tuple[list[Problem]]]:
        return type(self), (self.problems,)


class NotConverged(KrillError):
    """A network did not settle; the message names the worst element and no numbers are returned."""


class LogRefused(KrillError):
    """The file is not a log that can be read; the message says why and what would be."""


class ClockUnknown(LogRefused):
    """No column of a log tells the time, and nobody said how far its rows lie apart."""


class UnknownSource(KrillError):
    """A correlation or table names a source that the bibliography does not hold."""


class UnknownMaterial(KrillError):
    """A material that no table holds."""
