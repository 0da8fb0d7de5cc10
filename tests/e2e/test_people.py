"""People of a workshop in the browser: invited by a link, in a group, a template, a build that passes on, sessions."""

from collections.abc import Callable, Iterator
from typing import Any

import pytest
from django.contrib.auth.models import User
from playwright.sync_api import Browser, Page, expect
from test_main_job import stage

WORDS = "mooring-buoy-seven"


@pytest.fixture
def another(browser: Browser, browser_context_args: dict[str, Any], page: Page) -> Iterator[Callable[[], Page]]:
    """Browsers of other people; what they are refused is part of these tests, so their consoles are not watched."""
    contexts = []

    def opened() -> Page:
        contexts.append(browser.new_context(**browser_context_args))
        return contexts[-1].new_page()

    yield opened
    page.wait_for_timeout(1500)  # a write under way would block the emptying of the database
    for context in contexts:
        context.close()


def come_in(page: Page, link: str, name: str = "") -> None:
    page.goto(link)
    if name:
        page.get_by_label("User name").fill(name)
    page.get_by_label("Password").fill(WORDS)
    page.get_by_role("button", name="Come in").click()
    expect(page.get_by_role("heading", name="Builds")).to_be_visible()


def test_a_workshop_is_set_up_by_hand(recipe_build: Page, another: Callable[[], Page]):
    """Group, invitation, a shared build, a template, a build that passes on: all that an owner and a newcomer do."""
    page, built = recipe_build, recipe_build.url
    address = built.split("#")[0]
    User.objects.filter(username="mara").update(is_staff=True)
    page.goto(f"{address}#/people")
    page.reload()
    page.get_by_label("Name of a new group").fill("workshop")
    page.get_by_role("button", name="Make a group").click()
    page.get_by_role("region", name="Groups").get_by_role("checkbox", name="mara").check()
    page.get_by_label("For whom, in your words").fill("Ravi of the boat shed")
    page.get_by_role("region", name="Invite somebody").get_by_role("checkbox", name="workshop").check()
    page.get_by_role("button", name="Make a link").click()
    link = page.get_by_label("Link", exact=True).input_value()
    expect(page.get_by_text("Ravi of the boat shed by mara")).to_be_visible()

    ravi = another()
    come_in(ravi, link, "ravi")
    expect(ravi.get_by_text("No build yet.")).to_be_visible()
    late = another()
    late.goto(link)
    expect(late.get_by_role("alert")).to_contain_text("this link was used")

    page.reload()
    expect(page.get_by_role("row", name="ravi")).to_contain_text("workshop")
    page.goto(built)
    page.reload()
    stage(page, "Logbook")
    page.get_by_label("User name or group").fill("group:workshop")
    page.get_by_role("button", name="Share").click()
    sharing = page.get_by_role("region", name="Who may see it")
    expect(sharing.get_by_text("group, readers")).to_be_visible()
    ravi.goto(built)
    expect(ravi.get_by_test_id("saved")).to_have_text("read only")

    sharing.get_by_role("button", name="Make it a template").click()
    expect(page.get_by_test_id("saved")).to_have_text("read only")
    ravi.goto(address)
    ravi.get_by_role("button", name="Begin with").click()
    expect(ravi.get_by_test_id("saved")).to_have_text("saved")

    sharing.get_by_role("button", name="Take it off the templates").click()
    expect(page.get_by_test_id("saved")).to_have_text("saved")
    page.get_by_label("Who may take it over").fill("ravi")
    page.get_by_role("button", name="Pass it on").click()
    expect(sharing).to_contain_text("Offered to ravi")
    ravi.goto(address)
    ravi.get_by_role("button", name="Take it over").click()
    expect(ravi.get_by_text("would pass")).to_have_count(0)
    page.reload()
    expect(sharing.get_by_text("mara editor")).to_be_visible()
    page.get_by_text("Who did what").click()
    expect(page.get_by_role("cell", name="took it over")).to_be_visible()
    expect(page.get_by_role("cell", name="shared with the group workshop as reader")).to_be_visible()


def test_a_session_elsewhere_is_ended_from_the_account(recipe_build: Page, another: Callable[[], Page]):
    page, address = recipe_build, recipe_build.url.split("#")[0]
    phone = another()
    phone.goto(address)
    phone.get_by_label("User name").fill("mara")
    phone.get_by_label("Password").fill("saltmarsh-station")
    phone.get_by_role("button", name="Sign in").click()
    expect(phone.get_by_role("heading", name="Builds")).to_be_visible()
    page.goto(f"{address}#/account")
    region = page.get_by_role("region", name="Signed in")
    expect(region.get_by_role("row")).to_have_count(3)
    region.get_by_role("button", name="Sign out", exact=True).click()
    expect(region.get_by_role("row")).to_have_count(2)
    phone.reload()
    expect(phone.get_by_role("button", name="Sign in")).to_be_visible()


def test_a_forgotten_password_is_chosen_anew_by_link(recipe_build: Page, another: Callable[[], Page]):
    page, address = recipe_build, recipe_build.url.split("#")[0]
    User.objects.filter(username="mara").update(is_staff=True)
    User.objects.create_user("ravi", password="forgotten-long-ago")
    page.goto(f"{address}#/people")
    page.reload()
    page.get_by_role("button", name="New password for ravi").click()
    link = page.get_by_label("Link", exact=True).input_value()
    come_in(another(), link)
    ravi = another()
    ravi.goto(address)
    ravi.get_by_label("User name").fill("ravi")
    ravi.get_by_label("Password").fill(WORDS)
    ravi.get_by_role("button", name="Sign in").click()
    expect(ravi.get_by_role("heading", name="Builds")).to_be_visible()
