"""Reads of studies, with the permission of their build."""

import uuid
from typing import Final

from django.contrib.auth.models import User
from pydantic import TypeAdapter

from builds.queries import Need, build_for
from krill.document.reading import read_text
from krill.sizing.candidates import Study as Solver
from krill.sizing.question import read_question
from krill.sizing.result import StudyResult
from studies.models import Study
from wire.faults import ApiFault

_RESULT: Final = TypeAdapter(StudyResult)


def study_for(user: User, study_id: uuid.UUID, need: Need = "reader") -> Study:
    """The study if the user may do what is needed with its build."""
    study = Study.objects.select_related("build", "author").filter(pk=study_id).first()
    if study is None:
        raise ApiFault(404, f"studies/{study_id}", "there is no such study")
    build_for(user, study.build_id, need)
    return study


def solver_of(study: Study) -> Solver:
    """The study as the core solves it: its question on the document as it stood."""
    return Solver(read_text(study.text), read_question(study.question))


def result_of(study: Study) -> StudyResult:
    """What came of a study; 422 while it is not done."""
    if study.state != "done" or study.result is None:
        raise ApiFault(422, f"studies/{study.pk}", f"the study is {study.state}", "a study that is done")
    return _RESULT.validate_python(study.result)
