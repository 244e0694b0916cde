"""Signing in, roles and share links through the real page, on an installation where people sign in."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from reticula.launch.client import Client
from tests.browser.conftest import launched
from tests.helpers import PATIENCE
from tools.choosing import choose

PASSWORD = "corals like calm water"
OTHER = "corals like warm water"


class Place:
    """The installation, its accounts, and pages in browsers of their own."""

    def __init__(self, var: Path, address: str, browser: Browser) -> None:
        self.var, self.address, self.browser = var, address, browser

    def command(self, *words: str, said: str = "") -> str:
        command = [sys.executable, "-m", "reticula.cli", *words, "--var", str(self.var)]
        return subprocess.run(command, input=said, capture_output=True, text=True, check=True).stdout

    def visit(self, path: str = "") -> Page:
        context = self.browser.new_context(viewport={"width": 1280, "height": 800}, color_scheme="light")
        context.add_init_script("localStorage.setItem('reticula toured', 'yes')")
        page = context.new_page()
        page.set_default_timeout(1000 * PATIENCE)
        page.goto(f"{self.address}/{path}")
        return page


@pytest.fixture(scope="module")
def place(tmp_path_factory: pytest.TempPathFactory, browser: Browser) -> Iterator[Place]:
    var = tmp_path_factory.mktemp("people")
    with launched(var, {**os.environ, "RETICULA_SIGN_IN": "always", "RETICULA_BUILD": "off"}) as address:
        made = Place(var, address, browser)
        assert "an administrator's" in made.command("user", "add", "mara", said=f"{PASSWORD}\n")
        made.command("user", "add", "ines", said=f"{PASSWORD}\n")
        yield made


def sign_in(page: Page, name: str, password: str = PASSWORD) -> None:
    page.fill("#sign-in-name", name)
    page.fill("#sign-in-password", password)
    page.keyboard.press("Enter")


def in_the_bench(page: Page) -> None:
    page.wait_for_selector("[data-ready=true]")
    expect(page.locator("[data-test=save-state]")).to_have_text("saved")
    page.wait_for_selector(".bench[aria-busy=false]")


def turn(page: Page, value: str) -> None:
    """Type a value into the first dial."""
    field = page.locator("[data-test^=dial-] input").first
    field.fill(value)
    field.press("Enter")


def test_one_signs_in_shares_and_others_look(place: Place) -> None:
    mara = place.visit()
    mara.wait_for_selector("[data-test=sign-in]")
    sign_in(mara, "mara", "a wrong password")
    expect(mara.locator("[data-test=sign-in]")).to_contain_text("not the name and password of an account")
    sign_in(mara, "mara")
    in_the_bench(mara)
    expect(mara.locator("[data-test=account]")).to_have_text("mara")

    ines = place.visit()
    ines.wait_for_selector("[data-test=sign-in]")
    sign_in(ines, "ines")
    in_the_bench(ines)
    expect(ines.locator("[data-test=project]")).not_to_contain_text("Reef studio")

    mara.click("[data-test=share]")
    mara.click("[data-test=who]")
    mara.locator(".el-select-dropdown__item:visible", has_text="ines").click()
    mara.click("[data-test=role]")
    mara.locator(".el-select-dropdown__item:visible", has_text="may look").click()
    mara.click("[data-test=add-member]")
    expect(mara.locator("[data-test=members]")).to_contain_text("ines")
    mara.click("[data-test=make-link]")
    link = mara.get_by_label("Link for looking").input_value()

    guest = place.visit(link.removeprefix(f"{place.address}/"))
    in_the_bench(guest)
    ines.reload()
    in_the_bench(ines)
    choose(ines, "[data-test=project]", label="Reef studio")
    in_the_bench(ines)
    for page in (guest, ines):
        expect(page.locator("[data-test=look-only]")).to_be_visible()
        turn(page, "0.05")
        expect(page.locator(".trouble")).to_contain_text("You may look at this project, not change it")
        in_the_bench(page)
    expect(guest.locator("[data-test=share]")).to_have_count(0)

    guest.locator(".card [data-test^=look-]").first.dispatch_event("click")
    expect(guest.locator(".card").first).to_have_class(re.compile("looking"))
    in_the_bench(guest)
    mara.keyboard.press("Escape")
    mara.click("[data-test=share]")
    mara.get_by_role("button", name="Take back").click()
    guest.reload()
    guest.wait_for_selector("[data-test=sign-in]")


def test_who_was_signed_out_signs_in_again_and_loses_nothing(place: Place) -> None:
    mara = place.visit()
    mara.wait_for_selector("[data-test=sign-in]")
    sign_in(mara, "mara")
    in_the_bench(mara)
    place.command("user", "password", "mara", said=f"{OTHER}\n")
    turn(mara, "0.021")
    expect(mara.locator("[data-test=sign-in]")).to_contain_text("your work goes on where it was")
    sign_in(mara, "mara", OTHER)
    expect(mara.locator("[data-test=sign-in]")).to_have_count(0)
    in_the_bench(mara)
    token = place.command("token", "add", "mara", "--title", "test").strip()
    client = Client(place.address, token)
    graph = mara.url.rpartition("#")[2]
    assert 0.021 in [dial["value"] for dial in client.get(f"/api/graphs/{graph}")["document"]["dials"].values()]
    mara.click("[data-test=account]")
    mara.click("[data-test=sign-out]")
    mara.wait_for_selector("[data-test=sign-in]")
