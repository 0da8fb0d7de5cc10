"""People of a workshop: administrators, links, groups, templates, builds that pass on, sessions, quotas, who did what."""

import json
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.auth.models import Group, User
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone
from test_users import can_sign_in, users

from accounts.models import OneTimeLink, SignedIn
from accounts.sessions import forget_ended
from accounts.tasks import tidy
from builds.actions import create_build, take_over
from builds.models import Access, Build
from krill.document.reading import read_text
from krill.recipes.water_loop import water_loop

GOOD = "heron-on-the-jetty"


@pytest.fixture
def administrator(people: dict[str, User]) -> Client:
    chief = User.objects.create_user("chief", password="chief-long-enough", is_staff=True)
    client = Client()
    client.force_login(chief)
    return client


def send(client: Client, method: str, path: str, body: Any = None, **headers: str) -> Any:
    return client.generic(method, path, json.dumps(body), content_type="application/json", headers=headers)


def anonymous() -> tuple[Client, dict[str, str]]:
    client = Client()
    client.get("/api/session")
    return client, {"X-CSRFToken": client.cookies["csrftoken"].value}


def invited(administrator: Client, **told: Any) -> str:
    answer = send(administrator, "POST", "/api/invitations", told)
    assert answer.status_code == 201
    token: str = answer.json()["token"]
    return token


def take(token: str, username: str = "", password: str = GOOD) -> Any:
    client, csrf = anonymous()
    return send(client, "POST", "/api/link/take", {"token": token, "username": username, "password": password}, **csrf)


# links


def test_an_invitation_lets_one_person_in_once(administrator):
    Group.objects.create(name="workshop")
    token = invited(administrator, note="the new one", groups=["workshop", "nowhere"])
    client, csrf = anonymous()
    looked = send(client, "POST", "/api/link", {"token": token}, **csrf)
    assert looked.json() == {"kind": "invitation", "username": None}
    let_in = send(client, "POST", "/api/link/take", {"token": token, "username": "mira", "password": GOOD}, **csrf)
    assert let_in.json() == {"username": "mira", "administrator": False, "groups": ["workshop"]}
    assert client.get("/api/builds").status_code == 200
    assert can_sign_in("mira", GOOD)
    assert take(token, "another").status_code == 404
    assert not User.objects.filter(username="another").exists()


def test_of_a_token_only_a_hash_is_kept(administrator):
    token = invited(administrator)
    link = OneTimeLink.objects.get()
    assert token not in json.dumps([str(value) for value in vars(link).values()])
    assert len(token) >= 32


@pytest.mark.parametrize(
    ("username", "password", "says"),
    [
        ("owner", GOOD, "already"),
        ("OWNER", GOOD, "already"),
        ("a b", GOOD, "is no name"),
        ("mira", "short", "too short"),
        ("mira", "password123", "too common"),
        ("mirabelle-long", "mirabelle-long", "similar"),
    ],
)
def test_a_name_or_password_that_cannot_be_leaves_the_link_good(administrator, username, password, says):
    token = invited(administrator)
    refused = take(token, username, password)
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
    assert take(token, "mira").status_code == 200


def test_a_link_ends_after_a_week(administrator):
    token = invited(administrator)
    OneTimeLink.objects.update(ends=timezone.now() + timedelta(seconds=30))
    client, csrf = anonymous()
    assert send(client, "POST", "/api/link", {"token": token}, **csrf).status_code == 200
    OneTimeLink.objects.update(ends=timezone.now() - timedelta(seconds=1))
    assert take(token, "mira").status_code == 404
    assert administrator.get("/api/invitations").json() == []


def test_it_is_good_for_seven_days(administrator):
    invited(administrator)
    left = OneTimeLink.objects.get().ends - timezone.now()
    assert timedelta(days=6, hours=23) < left <= timedelta(days=7)


def test_an_invitation_can_be_taken_back(administrator):
    token = invited(administrator, note="a mistake")
    (listed,) = administrator.get("/api/invitations").json()
    assert (listed["note"], listed["made_by"]) == ("a mistake", "chief")
    assert administrator.delete(f"/api/invitations/{listed['id']}").status_code == 204
    assert administrator.delete(f"/api/invitations/{listed['id']}").status_code == 404
    assert take(token, "mira").status_code == 404


def test_a_new_password_by_link_signs_out_and_ends_older_links(administrator, people, signed_in):
    owner = signed_in("owner")
    owner.get("/api/builds")
    first = send(administrator, "POST", f"/api/people/{people['owner'].pk}/reset").json()["token"]
    second = send(administrator, "POST", f"/api/people/{people['owner'].pk}/reset").json()["token"]
    assert can_sign_in("owner", "owner-long-enough")  # good until the link is taken
    assert take(first).status_code == 404
    assert take(second).json()["username"] == "owner"
    assert owner.get("/api/builds").status_code == 401
    assert can_sign_in("owner", GOOD)
    assert not can_sign_in("owner", "owner-long-enough")


def test_a_link_of_somebody_who_is_kept_out_lets_nobody_in(administrator, people):
    token = send(administrator, "POST", f"/api/people/{people['owner'].pk}/reset").json()["token"]
    users("deactivate", "owner")
    assert take(token).status_code == 404


def test_a_link_needs_the_browser_s_token():
    client = Client(enforce_csrf_checks=True)
    assert send(client, "POST", "/api/link/take", {"token": "x", "password": GOOD}).status_code in (401, 403)


def test_an_invitation_by_command(db):
    (line,) = users("invite", "the new one", "--at", "https://krill.example/")
    link = line.split()[0]
    assert link.startswith("https://krill.example/#/link/")
    assert take(link.rsplit("/", 1)[1], "mira").status_code == 200


# people


def test_an_administrator_sees_and_changes_people(administrator, people):
    listed = {one["name"]: one for one in administrator.get("/api/people").json()}
    assert set(listed) == {"chief", "owner", "editor", "reader", "stranger"}
    assert listed["chief"]["administrator"]
    assert not listed["owner"]["administrator"]
    assert send(administrator, "PATCH", f"/api/people/{people['owner'].pk}", {"active": False}).status_code == 204
    assert not can_sign_in("owner", "owner-long-enough")
    send(administrator, "PATCH", f"/api/people/{people['owner'].pk}", {"active": True})
    assert can_sign_in("owner", "owner-long-enough")
    assert send(administrator, "PATCH", "/api/people/999999", {"active": True}).status_code == 404


@pytest.mark.parametrize("change", [{"active": False}, {"administrator": False}])
def test_the_last_administrator_stays(administrator, people, change):
    chief = User.objects.get(username="chief")
    refused = send(administrator, "PATCH", f"/api/people/{chief.pk}", change)
    assert refused.status_code == 422
    assert "last administrator" in refused.json()["detail"]
    users("administrator", "owner")
    assert send(administrator, "PATCH", f"/api/people/{chief.pk}", change).status_code == 204


def test_one_who_is_kept_out_does_not_count_as_an_administrator(administrator, people):
    users("administrator", "owner")
    users("deactivate", "owner")
    with pytest.raises(CommandError, match="last administrator"):
        users("no-administrator", "chief")


# groups


def test_a_group_shares_builds_with_all_its_members(administrator, people, build, signed_in):
    assert send(administrator, "PUT", "/api/groups/workshop", {"members": ["owner", "stranger"]}).status_code == 204
    owner, stranger = signed_in("owner"), signed_in("stranger")
    path = f"/api/builds/{build.pk}"
    assert stranger.get(path).status_code == 404
    assert send(owner, "PUT", f"{path}/group-access", {"group": "workshop", "role": "reader"}).status_code == 204
    assert stranger.get(path).json()["role"] == "reader"
    assert [one["role"] for one in stranger.get("/api/builds").json()] == ["reader"]
    assert send(stranger, "PUT", f"{path}/name", {"name": "Theirs"}).status_code == 403
    send(owner, "PUT", f"{path}/group-access", {"group": "workshop", "role": "editor"})
    assert send(stranger, "PUT", f"{path}/name", {"name": "Theirs"}).status_code == 200
    send(administrator, "PUT", "/api/groups/workshop", {"members": ["owner"]})
    assert stranger.get(path).status_code == 404


@pytest.mark.parametrize(("own", "of_group", "role"), [("editor", "reader", "editor"), ("reader", "editor", "editor")])
def test_the_higher_role_counts(people, build, signed_in, own, of_group, role):
    group = Group.objects.create(name="workshop")
    people["stranger"].groups.add(group)
    Access.objects.create(build=build, name="stranger", user=people["stranger"], role=own)
    build.group_access.create(group=group, role=of_group)
    stranger = signed_in("stranger")
    assert stranger.get(f"/api/builds/{build.pk}").json()["role"] == role
    (card,) = stranger.get("/api/builds").json()
    assert card["role"] == role


def test_one_shares_with_one_s_own_groups_alone(people, build, signed_in):
    Group.objects.create(name="others")
    answers = [
        send(signed_in("owner"), "PUT", f"/api/builds/{build.pk}/group-access", {"group": name, "role": "reader"})
        for name in ("others", "nowhere")
    ]
    assert [answer.status_code for answer in answers] == [422, 422]
    assert answers[0].json()["detail"].replace("others", "nowhere") == answers[1].json()["detail"]
    assert signed_in("owner").get("/api/groups").json() == []


def test_a_group_that_is_dropped_shares_nothing_any_more(administrator, people, build, signed_in):
    send(administrator, "PUT", "/api/groups/workshop", {"members": ["stranger"]})
    build.group_access.create(group=Group.objects.get(), role="editor")
    assert administrator.delete("/api/groups/workshop").status_code == 204
    assert signed_in("stranger").get(f"/api/builds/{build.pk}").status_code == 404
    assert administrator.delete("/api/groups/workshop").status_code == 422


def test_parts_of_the_shelf_are_shown_to_a_group(people, signed_in):
    group = Group.objects.create(name="workshop")
    for name in ("owner", "editor"):
        people[name].groups.add(group)
    owner, editor, stranger = (signed_in(name) for name in ("owner", "editor", "stranger"))
    made = send(owner, "POST", "/api/shelf", {"name": "Quiet fan", "part": {"id": "x", "kind": "fan"}}).json()
    path = f"/api/shelf/{made['id']}"
    assert send(owner, "PUT", f"{path}/groups", {"groups": ["nowhere"]}).status_code == 422
    assert send(owner, "PUT", f"{path}/groups", {"groups": ["workshop"]}).json()["groups"] == ["workshop"]

    def seen(client: Client) -> list[Any]:
        return [(one["own"], one["by"]) for one in client.get("/api/shelf").json() if one["name"] == "Quiet fan"]

    assert (seen(owner), seen(editor), seen(stranger)) == ([(True, "")], [(False, "owner")], [])
    assert send(editor, "PUT", path, {"name": "Mine", "part": {"id": "x", "kind": "fan"}}).status_code == 404
    send(owner, "PUT", f"{path}/groups", {"groups": []})
    assert seen(editor) == []


# sharing reveals nobody


def test_a_grant_does_not_tell_whether_there_is_somebody_of_that_name(people, build, signed_in):
    owner, path = signed_in("owner"), f"/api/builds/{build.pk}/access"
    answers = [send(owner, "PUT", path, {"username": name, "role": "reader"}) for name in ("stranger", "nobody-here")]
    assert {(answer.status_code, answer.content) for answer in answers} == {(204, b"")}
    shown = owner.get(path).json()["people"]
    assert {"name": "stranger", "role": "reader"} in shown
    assert {"name": "nobody-here", "role": "reader"} in shown
    assert signed_in("stranger").get(f"/api/builds/{build.pk}").status_code == 200


def test_who_comes_later_under_a_name_that_was_typed_has_no_access(administrator, people, build, signed_in):
    send(signed_in("owner"), "PUT", f"/api/builds/{build.pk}/access", {"username": "mira", "role": "editor"})
    client, csrf = anonymous()
    token = invited(administrator)
    send(client, "POST", "/api/link/take", {"token": token, "username": "mira", "password": GOOD}, **csrf)
    assert client.get(f"/api/builds/{build.pk}").status_code == 404
    assert client.get("/api/builds").json() == []


def test_a_build_is_shared_with_so_many_names(people, build, signed_in, monkeypatch):
    monkeypatch.setattr("builds.actions.MAX_SHARED", 3)
    owner, path = signed_in("owner"), f"/api/builds/{build.pk}/access"
    assert send(owner, "PUT", path, {"username": "third", "role": "reader"}).status_code == 204
    assert send(owner, "PUT", path, {"username": "fourth", "role": "reader"}).status_code == 422
    assert send(owner, "PUT", path, {"username": "third", "role": "editor"}).status_code == 204


# templates


def test_a_template_is_read_and_copied_by_everybody_and_changed_by_nobody(people, build, signed_in):
    owner, stranger, path = signed_in("owner"), signed_in("stranger"), f"/api/builds/{build.pk}"
    assert send(owner, "PUT", f"{path}/template", {"template": True}).status_code == 204
    (listed,) = stranger.get("/api/templates").json()
    assert (listed["name"], listed["owner"]) == ("Bench build", "owner")
    assert stranger.get(path).json()["role"] == "reader"
    copied = send(stranger, "POST", f"{path}/copy", {"name": "Mine"}).json()
    assert copied["role"] == "owner"
    assert not copied["template"]
    for name in ("owner", "editor", "stranger"):
        refused = send(signed_in(name), "PUT", f"{path}/name", {"name": "Changed"})
        assert refused.status_code == 403
    assert "template" in send(owner, "PUT", f"{path}/name", {"name": "Changed"}).json()["detail"]
    assert stranger.get("/api/builds").json()[0]["name"] == "Mine"
    send(owner, "PUT", f"{path}/template", {"template": False})
    assert send(owner, "PUT", f"{path}/name", {"name": "Changed"}).status_code == 200
    assert stranger.get(path).status_code == 404
    assert stranger.get("/api/templates").json() == []


# ownership


def test_a_build_passes_on_to_whom_it_was_offered_once_they_take_it(people, build, signed_in):
    owner, editor, path = signed_in("owner"), signed_in("editor"), f"/api/builds/{build.pk}"
    assert send(owner, "PUT", f"{path}/offer", {"username": "editor"}).status_code == 204
    assert owner.get(f"{path}").json()["role"] == "owner"
    assert [one["name"] for one in editor.get("/api/offered").json()] == ["Bench build"]
    assert send(signed_in("reader"), "POST", f"{path}/take-over").status_code == 404
    assert send(editor, "POST", f"{path}/take-over").json()["role"] == "owner"
    assert owner.get(path).json()["role"] == "editor"
    assert send(editor, "POST", f"{path}/take-over").status_code == 404
    assert editor.get(f"{path}/access").json()["offered_to"] == ""


def test_an_offer_can_be_declined_or_taken_back_and_tells_of_nobody(people, build, signed_in):
    owner, editor, path = signed_in("owner"), signed_in("editor"), f"/api/builds/{build.pk}"
    answers = [send(owner, "PUT", f"{path}/offer", {"username": name}) for name in ("nobody-here", "editor")]
    assert {(answer.status_code, answer.content) for answer in answers} == {(204, b"")}
    assert send(editor, "POST", f"{path}/decline").status_code == 204
    assert send(editor, "POST", f"{path}/take-over").status_code == 404
    send(owner, "PUT", f"{path}/offer", {"username": "editor"})
    send(owner, "PUT", f"{path}/offer", {"username": ""})
    assert editor.get("/api/offered").json() == []
    assert send(owner, "PUT", f"{path}/offer", {"username": "owner"}).status_code == 422


def test_who_has_left_passes_everything_on(people, build, signed_in):
    create_build(people["owner"], read_text(build.text))
    out = call_command("krill_pass_on", "owner", "editor")
    assert out is None
    assert Build.objects.filter(owner=people["editor"]).count() == 2
    assert not Access.objects.filter(user=people["editor"]).exists()
    with pytest.raises(CommandError, match="nobody called"):
        call_command("krill_pass_on", "owner", "nowhere")
    with pytest.raises(CommandError, match="one person"):
        call_command("krill_pass_on", "owner", "owner")


# sessions


def test_sessions_are_listed_and_ended(people):
    here, there = Client(headers={"User-Agent": "Lectern browser"}), Client()
    for client in (here, there):
        client.get("/api/session")
        token = {"X-CSRFToken": client.cookies["csrftoken"].value}
        send(client, "POST", "/api/login", {"username": "owner", "password": "owner-long-enough"}, **token)
    listed = here.get("/api/sessions").json()
    assert sorted(one["current"] for one in listed) == [False, True]
    current = next(one for one in listed if one["current"])
    other = next(one for one in listed if not one["current"])
    assert (current["browser"], current["address"]) == ("Lectern browser", "127.0.0.1")
    assert not {"key", "session_key"} & set(current)
    assert here.delete(f"/api/sessions/{other['id']}").status_code == 204
    assert there.get("/api/builds").status_code == 401
    assert here.get("/api/builds").status_code == 200
    assert here.delete(f"/api/sessions/{other['id']}").status_code == 404


def test_nobody_ends_the_session_of_somebody_else(people, signed_in):
    owner, stranger = signed_in("owner"), signed_in("stranger")
    owner.get("/api/builds")
    (theirs,) = owner.get("/api/sessions").json()
    assert stranger.delete(f"/api/sessions/{theirs['id']}").status_code == 404
    assert owner.get("/api/builds").status_code == 200


def test_a_new_password_ends_the_other_sessions_and_keeps_this_one(people, signed_in):
    here, there = signed_in("owner"), signed_in("owner")
    assert len(here.get("/api/sessions").json()) == 2
    changed = send(here, "POST", "/api/password", {"old": "owner-long-enough", "new": GOOD})
    assert changed.status_code == 204
    (left,) = here.get("/api/sessions").json()
    assert left["current"]
    assert there.get("/api/builds").status_code == 401


def test_all_other_sessions_end_at_once(people, signed_in):
    here, others = signed_in("owner"), [signed_in("owner") for _ in range(3)]
    assert send(here, "POST", "/api/end-other-sessions").json() == {"ended": 3}
    assert {client.get("/api/builds").status_code for client in others} == {401}
    assert here.get("/api/builds").status_code == 200


def test_when_a_session_was_seen_is_written_now_and_then(people, signed_in, django_assert_num_queries):
    client = signed_in("owner")
    client.get("/api/builds")
    SignedIn.objects.update(seen=timezone.now() - timedelta(hours=1))
    client.get("/api/builds")
    assert SignedIn.objects.get().seen < timezone.now() - timedelta(minutes=50)  # seen a moment ago: not written again
    session = client.session
    session["seen"] = (timezone.now() - timedelta(minutes=6)).timestamp()
    session.save()
    client.get("/api/builds")
    assert SignedIn.objects.get().seen > timezone.now() - timedelta(minutes=1)


def test_rows_of_ended_sessions_are_forgotten_at_night(people, signed_in):
    client = signed_in("owner")
    client.get("/api/builds")
    client.logout()
    signed_in("editor").get("/api/builds")
    forget_ended()
    assert [one.person.username for one in SignedIn.objects.all()] == ["editor"]
    tidy(0)


# quotas


def test_one_has_so_many_builds(people, build, signed_in, settings):
    settings.MOST_BUILDS = 2
    owner = signed_in("owner")
    assert send(owner, "POST", "/api/builds/recipe", {"recipe": "small_blower"}).status_code == 201
    refused = send(owner, "POST", f"/api/builds/{build.pk}/copy", {"name": "Third"})
    assert refused.status_code == 422
    assert "you have 2 builds" in refused.json()["detail"]
    build.offered_to = people["stranger"]
    build.save()
    settings.MOST_BUILDS = 0
    with pytest.raises(Exception, match="you have 0 builds"):
        take_over(people["stranger"], build.pk)


def test_runs_and_their_bytes_are_bounded(people, build, signed_in, settings):
    owner, path = signed_in("owner"), f"/api/builds/{build.pk}/runs/readings"
    reading = {"workload": "both", "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 75}]}
    settings.MOST_RUNS = 1
    assert send(owner, "POST", path, reading).status_code == 201
    assert send(owner, "POST", path, reading).status_code == 422
    settings.MOST_RUNS, settings.MOST_MB = 100, 0
    from django.core.files.uploadedfile import SimpleUploadedFile

    log = SimpleUploadedFile("a.csv", b"Time [s],Processor temperature [C]\n0,40\n1,41\n2,42\n")
    refused = owner.post(f"/api/builds/{build.pk}/runs/log", {"workload": "both", "file": log})
    assert refused.status_code == 422
    assert "up to 0 MB" in refused.json()["detail"]


def test_usage_counts_what_there_is(people, build, signed_in):
    from runs.actions import add_log
    from runs.schemas import RunIn

    log = b"Time [s],Processor temperature [C]\n" + b"".join(b"%d,%d\n" % (t, 40 + t // 60) for t in range(900))
    add_log(people["editor"], build.pk, RunIn(workload="both"), "a.csv", log)
    told = signed_in("owner").get("/api/usage").json()
    assert (told["builds"], told["runs"]) == (1, 1)
    assert told["mb"] == round(len(log) / 2**20, 1)
    assert signed_in("editor").get("/api/usage").json()["runs"] == 0


def test_so_many_studies_of_one_person_are_under_way(people, build, signed_in, settings):
    settings.MOST_STUDIES = 1
    question = {"vary": [{"address": "movers/fans", "options": [{"value": 0.4}, {"value": 0.9}]}]}
    owner, path = signed_in("owner"), f"/api/builds/{build.pk}/studies"
    assert send(owner, "POST", path, {"question": question}).status_code == 202
    refused = send(owner, "POST", path, {"question": question})
    assert "1 studies of yours" in refused.json()["detail"]
    assert send(signed_in("editor"), "POST", path, {"question": question}).status_code == 202


# who did what


def test_every_act_on_a_build_has_its_line(people, build, signed_in):
    owner, editor, path = signed_in("owner"), signed_in("editor"), f"/api/builds/{build.pk}"
    send(owner, "PUT", f"{path}/access", {"username": "stranger", "role": "reader"})
    send(editor, "PUT", f"{path}/name", {"name": "Renamed"})
    send(editor, "POST", f"{path}/revisions", {"why": "a better name"})
    send(owner, "PUT", f"{path}/archived", {"archived": True})
    owner.delete(path)
    send(owner, "POST", f"{path}/restore")
    told = [(one["who"], one["did"]) for one in signed_in("reader").get(f"{path}/events").json()]
    assert told == [
        ("owner", "brought it back"),
        ("owner", "deleted it"),
        ("owner", "archived it"),
        ("editor", "kept revision 2: a better name"),
        ("editor", "rename to Renamed"),
        ("owner", "shared with stranger as reader"),
        ("owner", "made it"),
    ]


def test_typing_in_one_go_is_one_line(people, build, signed_in):
    owner, path = signed_in("owner"), f"/api/builds/{build.pk}/draft"
    for base, (name, merge) in enumerate([("H", False), ("He", True), ("Her", True), ("Hero", False)]):
        patch = [{"op": "replace", "path": "/name", "value": name}]
        send(owner, "PATCH", path, {"base": base, "patch": patch, "label": f"name {name}", "merge": merge})
    told = [one["did"] for one in owner.get(f"/api/builds/{build.pk}/events").json()]
    assert told == ["name Hero", "name H", "made it"]


def test_what_was_refused_leaves_no_line(people, build, signed_in):
    before = signed_in("owner").get(f"/api/builds/{build.pk}/events").json()
    send(signed_in("reader"), "PUT", f"/api/builds/{build.pk}/name", {"name": "Changed"})
    send(signed_in("owner"), "POST", f"/api/builds/{build.pk}/revisions", {"why": "nothing changed"})
    assert signed_in("owner").get(f"/api/builds/{build.pk}/events").json() == before


def test_a_demo_build_that_was_deleted_stays_deleted(db, settings, tmp_path, monkeypatch):
    from runs.management.commands import load_demo

    settings.RUN = tmp_path
    made: list[User] = []

    for name in ("load_heron", "load_limpet", "load_sandpiper"):
        monkeypatch.setattr(load_demo, name, made.append)
    call_command("load_demo")
    assert len(made) == 3
    call_command("load_demo")  # none of them is there, as if each had been deleted
    assert len(made) == 3


def test_demo_builds_of_before_are_not_loaded_twice(db, settings, tmp_path, monkeypatch):
    from runs.management.commands import load_demo

    settings.RUN = tmp_path
    made: list[User] = []
    create_build(User.objects.create_user("demo"), water_loop(125, 220, 30, 24, "Heron"))
    for name in ("load_heron", "load_limpet", "load_sandpiper"):
        monkeypatch.setattr(load_demo, name, made.append)
    call_command("load_demo")
    assert len(made) == 2
