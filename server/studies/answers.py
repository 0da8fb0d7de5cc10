"""Studies as they go over the wire."""

from typing import Any

from studies.models import Study


def study_out(study: Study) -> dict[str, Any]:
    """How far a study is and what it asks, without its result."""
    return {
        "id": study.pk,
        "name": study.name,
        "state": study.state,
        "size": study.size,
        "solved": study.solved,
        "failure": study.failure,
        "author": study.author.username if study.author else "",
        "created": study.created,
        "finished": study.finished,
        "question": study.question,
        "of_draft": study.sha256 == study.build.sha256,
    }
