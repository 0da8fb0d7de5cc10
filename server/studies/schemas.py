"""What studies send and receive."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field, Schema

from wire.text import Text


class StudyIn(Schema):
    """``question`` as the core's schema of questions says; ``document`` in place of the draft."""

    name: Annotated[Text, Field(max_length=120)] = ""
    question: dict[str, Any]
    document: dict[str, Any] | None = None


class StudyOut(Schema):
    id: UUID
    name: str
    state: Literal["waiting", "running", "done", "failed", "cancelled"]
    size: int
    solved: int
    failure: str
    author: str
    created: datetime
    finished: datetime | None
    question: dict[str, Any]
    of_draft: bool


class TakeIn(Schema):
    base: int = Field(ge=0)
    why: Annotated[Text, Field(min_length=1, max_length=300)]
