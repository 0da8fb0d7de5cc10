"""Pictures of steps: drawn anew, one a step and hash, gone with the build, along in the archive, counted with what is held."""

import io
import json
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from test_pictures import picture

from runs.archive import archive_of, read_archive
from runs.queries import bytes_held
from sheets.models import StepPicture
from wire.faults import ApiFault
from wire.pictures import LONGEST


def add(client, build, content, about="gate-bench-start", name="photo.jpg"):
    form = {"file": SimpleUploadedFile(name, content), "about": about}
    return client.post(f"/api/builds/{build.pk}/step-pictures", form)


def test_a_picture_of_a_step_is_kept_bare_upright_and_no_larger_than_a_page(signed_in, build):
    client = signed_in("owner")
    answer = add(client, build, picture(size=(4000, 3000), exif=True))
    assert answer.status_code == 201
    [kept] = answer.json()
    assert (kept["about"], kept["who"]) == ("gate-bench-start", "owner")
    assert max(kept["width"], kept["height"]) == LONGEST
    assert kept["height"] > kept["width"]  # it lay on its side
    shown = client.get(f"/api/builds/{build.pk}/step-pictures/{kept['sha256']}")
    assert shown.headers["Content-Type"] == "image/jpeg"
    assert "immutable" in shown.headers["Cache-Control"]
    with Image.open(io.BytesIO(shown.content)) as seen:
        assert not seen.getexif()
        assert seen.size == (kept["width"], kept["height"])


def test_the_same_picture_is_there_once_a_step(signed_in, build):
    client = signed_in("owner")
    add(client, build, picture())
    assert len(add(client, build, picture()).json()) == 1
    both = add(client, build, picture(), about="fans").json()
    assert [one["about"] for one in both] == ["gate-bench-start", "fans"]
    removed = client.delete(f"/api/builds/{build.pk}/step-pictures/{both[0]['sha256']}")
    assert removed.json() == []
    again = client.delete(f"/api/builds/{build.pk}/step-pictures/{both[0]['sha256']}")
    assert again.status_code == 404


@pytest.mark.parametrize(("content", "status"), [(b"no picture", 422), (b"x" * (8 * 2**20 + 1), 413)])
def test_what_is_no_picture_or_too_large_is_refused(signed_in, build, content, status):
    answer = add(signed_in("owner"), build, content)
    assert answer.status_code == status
    assert "PNG, JPEG or WebP" in answer.json()["errors"][0]["allowed"]
    assert not StepPicture.objects.exists()


def test_a_build_keeps_so_many(signed_in, build, monkeypatch):
    monkeypatch.setattr("sheets.actions.MOST_PICTURES", 1)
    client = signed_in("owner")
    assert add(client, build, picture()).status_code == 201
    assert add(client, build, picture(), about="fans").status_code == 422


def test_they_count_with_what_somebody_holds(signed_in, people, build):
    before = bytes_held(people["owner"])
    add(signed_in("owner"), build, picture())
    assert bytes_held(people["owner"]) == before + len(bytes(StepPicture.objects.get().data))


def test_an_archive_takes_them_along(signed_in, people, build):
    client = signed_in("owner")
    add(client, build, picture())
    add(client, build, picture(kind="PNG"), about="fans", name="photo.png")
    content = archive_of(build)
    new = read_archive(people["editor"], content)
    told = [(one.about, one.sha256, one.media_type, one.who, bytes(one.data)) for one in new.step_pictures.all()]
    assert told == [
        (one.about, one.sha256, one.media_type, one.who, bytes(one.data)) for one in build.step_pictures.all()
    ]
    assert {one[3] for one in told} == {"owner"}


def changed(content, name, new):
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as packed, zipfile.ZipFile(out, "w") as other:
        for item in packed.namelist():
            if item != name or new is not None:
                other.writestr(item, new if item == name else packed.read(item))
    return out.getvalue()


@pytest.mark.parametrize("new", [None, b"another", "exif"])
def test_an_archive_with_another_picture_than_it_names_is_refused_as_a_whole(signed_in, people, build, new):
    add(signed_in("owner"), build, picture())
    name = f"step-pictures/{build.step_pictures.get().sha256}"
    content = changed(archive_of(build), name, picture(exif=True) if new == "exif" else new)
    with pytest.raises(ApiFault, match="picture"):
        read_archive(people["editor"], content)
    assert StepPicture.objects.count() == 1


@pytest.mark.parametrize("told", [{}, [{"about": "fans", "sha256": "short", "at": "2026-01-01T00:00:00Z"}]])
def test_a_list_that_is_none_is_refused(signed_in, people, build, told):
    add(signed_in("owner"), build, picture())
    content = changed(archive_of(build), "step-pictures.json", json.dumps(told).encode())
    with pytest.raises(ApiFault, match="should") as refused:
        read_archive(people["editor"], content)
    assert refused.value.fault.where == "step-pictures.json"
