"""Pictures of runs: drawn anew, kept in blocks, named by hash in the run's file, gone with the run, along in the archive."""

import io
import json
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from runs.archive import archive_of
from runs.models import PictureBlock, Run
from wire.pictures import LONGEST, MAX_BYTES, drawn_anew


def picture(kind="JPEG", size=(640, 480), exif=False, mode="RGB"):
    image = Image.linear_gradient("L").resize(size).convert(mode)
    out = io.BytesIO()
    more = {}
    if exif:
        told = Image.Exif()
        told[0x0110] = "a camera of some make"
        told[0x0112] = 6  # lying on its side
        more = {"exif": told}
    image.save(out, format=kind, **more)
    return out.getvalue()


@pytest.fixture
def run(signed_in, build):
    body = {"workload": "both", "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 75}]}
    answer = signed_in("owner").post(
        f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json"
    )
    return answer.json()


def add(client, run, content, caption="", name="photo.jpg"):
    form = {"file": SimpleUploadedFile(name, content), "caption": caption}
    return client.post(f"/api/runs/{run['id']}/pictures", form)


@pytest.mark.parametrize(("kind", "media"), [("PNG", "image/png"), ("JPEG", "image/jpeg"), ("WEBP", "image/webp")])
def test_a_picture_is_kept_under_its_hash(signed_in, run, kind, media):
    client = signed_in("editor")
    answer = add(client, run, picture(kind), "paste print")
    assert answer.status_code == 201, answer.content
    [told] = answer.json()["document"]["pictures"]
    assert (told["media_type"], told["width"], told["height"], told["caption"]) == (media, 640, 480, "paste print")
    got = client.get(f"/api/runs/{run['id']}/pictures/{told['sha256']}")
    assert got["Content-Type"] == media
    assert Image.open(io.BytesIO(got.content)).size == (640, 480)


def test_what_a_camera_wrote_is_gone_and_the_picture_stands_upright(signed_in, run):
    content = picture(exif=True)
    assert b"a camera of some make" in content
    kept = drawn_anew(content)
    assert b"a camera of some make" not in kept.content
    assert not Image.open(io.BytesIO(kept.content)).getexif()
    assert (kept.width, kept.height) == (480, 640)


def test_a_large_picture_is_drawn_smaller_and_a_clear_one_stays_clear():
    assert drawn_anew(picture(size=(4000, 1000))).width == LONGEST
    clear = drawn_anew(picture("PNG", mode="LA"))
    assert Image.open(io.BytesIO(clear.content)).mode == "RGBA"


@pytest.mark.parametrize(
    ("content", "status"),
    [
        (b"no picture", 422),
        (picture()[:400], 422),
        (b"GIF89a" + bytes(40), 422),
        (b"\xff" * (MAX_BYTES + 1), 413),
        (picture("PNG", size=(7200, 7200), mode="1"), 413),
    ],
)
def test_what_is_no_picture_or_too_large_is_refused_with_what_is_allowed(signed_in, run, content, status):
    answer = add(signed_in("editor"), run, content)
    assert answer.status_code == status
    assert "PNG, JPEG or WebP of up to 8 MB" in answer.json()["errors"][0]["allowed"]
    assert not PictureBlock.objects.exists()


def test_the_same_picture_again_changes_its_caption(signed_in, run):
    client = signed_in("editor")
    add(client, run, picture(), "before")
    pictures = add(client, run, picture(), "after").json()["document"]["pictures"]
    assert [p["caption"] for p in pictures] == ["after"]
    assert PictureBlock.objects.count() == 1


def test_a_picture_is_removed_alone_or_with_its_run(signed_in, run):
    client = signed_in("editor")
    add(client, run, picture())
    [told] = add(client, run, picture("PNG")).json()["document"]["pictures"][1:]
    left = client.delete(f"/api/runs/{run['id']}/pictures/{told['sha256']}").json()["document"]["pictures"]
    assert len(left) == 1
    assert client.get(f"/api/runs/{run['id']}/pictures/{told['sha256']}").status_code == 404
    assert client.delete(f"/api/runs/{run['id']}/pictures/{told['sha256']}").status_code == 404
    client.delete(f"/api/runs/{run['id']}")
    assert not PictureBlock.objects.exists()


def archived(signed_in, build, run):
    add(signed_in("editor"), run, picture("PNG"), "seen from above")
    return archive_of(build)


def test_pictures_go_out_and_in_with_the_archive(signed_in, build, run):
    packed = archived(signed_in, build, run)
    answer = signed_in("owner").post("/api/archives", {"file": SimpleUploadedFile("a.zip", packed)})
    assert answer.status_code == 201, answer.content
    back = Run.objects.get(build_id=answer.json()["id"])
    [told] = json.loads(back.text)["pictures"]
    assert told["caption"] == "seen from above"
    assert signed_in("owner").get(f"/api/runs/{back.pk}/pictures/{told['sha256']}").status_code == 200


@pytest.mark.parametrize("other", [picture("PNG", size=(20, 20)), b"no picture"])
def test_an_archive_with_another_picture_is_refused_as_a_whole(signed_in, build, run, other):
    packed = archived(signed_in, build, run)
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(packed)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            new.writestr(name, other if name.startswith("pictures/") else old.read(name))
    count = Run.objects.count()
    answer = signed_in("owner").post("/api/archives", {"file": SimpleUploadedFile("a.zip", out.getvalue())})
    assert answer.status_code == 422
    assert Run.objects.count() == count


def test_a_caption_can_be_changed_but_no_picture_made_up(signed_in, run):
    client = signed_in("editor")
    [told] = add(client, run, picture()).json()["document"]["pictures"]
    url = f"/api/runs/{run['id']}"
    answer = client.patch(
        url, json.dumps({"pictures": [told | {"caption": "rim of 5 mm"}]}), content_type="application/json"
    )
    assert answer.json()["document"]["pictures"][0]["caption"] == "rim of 5 mm"
    for wrong in ([], [told | {"sha256": "0" * 64}]):
        assert client.patch(url, json.dumps({"pictures": wrong}), content_type="application/json").status_code == 422
