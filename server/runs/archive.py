"""A build with its revisions, runs, logs and pictures as one archive, and back: open files in a zip."""

import io
import json
import zipfile
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from builds.actions import create_build, keep_revision, save_draft
from builds.models import Build
from krill.document.reading import read_text
from krill.errors import KrillError
from krill.runs.run_document import read_run, write_run
from runs.actions import add_run_file
from runs.queries import original_of, picture_of, whole_file_of
from sheets.archive import MARKS, PICTURES, marks_file, picture_files, take_marks, take_pictures
from wire.faults import ApiFault

LIST, DRAFT = "archive.json", "build.json"
#: what an archive may unpack to
MAX_UNPACKED = 400 * 2**20
MAX_FILES = 2_000


def archive_of(build: Build) -> bytes:
    """``archive.json`` says what the files are; revisions and runs in their order, each log once by its hash."""
    revisions = list(build.revisions.all())
    runs = list(build.runs.select_related("revision"))
    told: dict[str, Any] = {
        "format": "krill-archive",
        "version": 1,
        "draft": DRAFT,
        "revisions": [{"file": f"revisions/{r.number:04d}.json", "why": r.why} for r in revisions],
        "runs": [f"runs/{number:04d}.json" for number in range(1, len(runs) + 1)],
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(LIST, json.dumps(told, indent=2))
        packed.writestr(DRAFT, build.text)
        marks = marks_file(build)
        if marks is not None:
            packed.writestr(MARKS, marks)
        for name, content in picture_files(build).items():
            packed.writestr(name, content)
        for revision, row in zip(revisions, told["revisions"], strict=True):
            packed.writestr(row["file"], revision.text)
        for run, name in zip(runs, told["runs"], strict=True):
            document = whole_file_of(run)
            packed.writestr(name, write_run(document))
            if document.log is not None:
                log = f"logs/{document.log.sha256}"
                if log not in packed.namelist():
                    packed.writestr(log, original_of(run))
            for picture in document.pictures:
                name = f"pictures/{picture.sha256}"
                if name not in packed.namelist():
                    packed.writestr(name, picture_of(run, picture.sha256))
    return out.getvalue()


@transaction.atomic
def read_archive(user: User, content: bytes) -> Build:
    """A new build of one's own from an archive; refused as a whole where any of its files is."""
    files = _unpacked(content)
    told = _json(files, LIST)
    try:
        revisions, runs = told["revisions"], told["runs"]
        named = [told["draft"], *(row["file"] for row in revisions), *runs]
    except (KeyError, TypeError):
        raise ApiFault(422, LIST, "does not list draft, revisions and runs", "an archive that Krill wrote") from None
    for name in named:
        if name not in files:
            raise ApiFault(422, str(name), "is missing from the archive", "every file that archive.json lists")
    documents = [_read(files, row["file"]) for row in revisions]
    draft = _read(files, told["draft"])
    build = create_build(user, documents[0] if documents else draft)
    for number, (document, row) in enumerate(zip(documents, revisions, strict=True)):
        if number:
            build = save_draft(user, build.pk, build.sequence, document, str(row.get("why", ""))[:200])
        keep_revision(user, build.pk, str(row.get("why", "")))
    for name in runs:
        document = read_run(files[name].decode())
        log = None
        if document.log is not None and f"logs/{document.log.sha256}" in files:
            log = (document.log.name, files[f"logs/{document.log.sha256}"])
        pictures = {
            p.sha256: files[f"pictures/{p.sha256}"] for p in document.pictures if f"pictures/{p.sha256}" in files
        }
        add_run_file(user, build.pk, document, log, pictures)
    if MARKS in files:
        take_marks(user, build, _json(files, MARKS))
    if PICTURES in files:
        take_pictures(build, _json(files, PICTURES), files)
    build.refresh_from_db()
    return save_draft(user, build.pk, build.sequence, draft, "draft of the archive")


def _unpacked(content: bytes) -> dict[str, bytes]:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            listed = packed.infolist()
            if len(listed) > MAX_FILES or sum(item.file_size for item in listed) > MAX_UNPACKED:
                allowed = f"up to {MAX_FILES} files of {MAX_UNPACKED // 2**20} MB together"
                raise ApiFault(413, "file", f"{len(listed)} files", allowed)
            return {item.filename: packed.read(item) for item in listed if not item.is_dir()}
    except (zipfile.BadZipFile, EOFError, NotImplementedError, RuntimeError):
        raise ApiFault(422, "file", "is no zip archive, or a damaged one", "an archive that Krill wrote") from None


def _json(files: dict[str, bytes], name: str) -> Any:
    try:
        return json.loads(files[name])
    except (KeyError, ValueError):
        raise ApiFault(422, name, "is missing or no JSON", "an archive that Krill wrote") from None


def _read(files: dict[str, bytes], name: str) -> Any:
    try:
        return read_text(files[name].decode())
    except (KrillError, UnicodeDecodeError) as wrong:
        raise ApiFault(422, name, str(wrong)[:300], "a build document") from None
