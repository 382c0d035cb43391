"""A person's account: the second factor is turned on, asked for, and got round with a recovery code when it is lost."""

from __future__ import annotations

import time

import pyotp
from playwright.sync_api import Page, expect

from redframe.demo.scenario import PASSWORD
from tests.browser.pages import BrowserTest

MENTOR = "mentor@corrane.example"


class SecondFactor(BrowserTest):
    def sign_in(self, page: Page) -> None:
        """Address and password entered and sent."""
        page.goto("/sign-in")
        page.get_by_label("E-mail").fill(MENTOR)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()

    def test_on_asked_for_and_lost(self) -> None:
        """With a wrong password, a wrong code, back and forth; nothing that was entered is lost."""
        page = self.open("/account")
        self.expected = ("401", "422")
        part = page.get_by_role("region", name="Second factor")
        part.get_by_role("button", name="Turn on").click()
        part.get_by_label("Your password").fill("not the password")
        part.get_by_role("button", name="Go on").click()
        expect(part.get_by_text("is not your current password")).to_be_visible()
        part.get_by_label("Your password").fill(PASSWORD)
        part.get_by_role("button", name="Go on").click()
        secret = part.locator("li .figure").inner_text().replace(" ", "")
        device = pyotp.TOTP(secret)
        part.get_by_label("Code").fill("12")
        part.get_by_role("button", name="Turn on").click()
        expect(part.get_by_text("is not the code of this moment")).to_be_visible()
        part.get_by_label("Code").fill(device.at(time.time() - 30))
        part.get_by_role("button", name="Turn on").click()
        expect(part.get_by_text("They are not shown again")).to_be_visible()
        codes = part.get_by_role("listitem").all_inner_texts()
        self.assertEqual(len(codes), 10)
        part.get_by_role("button", name="I have them").click()
        expect(part.get_by_text("10 of 10 recovery codes left")).to_be_visible()
        expect(page.get_by_role("region", name="What happened to this account")).to_contain_text(
            "Second factor turned on"
        )

        page = self.open("/sign-in", who=None)
        self.expected = ("401",)
        self.sign_in(page)
        code = page.get_by_label("Code")
        expect(code).to_be_focused()
        expect(code).not_to_have_attribute("aria-invalid", "true")
        code.fill("12")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("not the code of this moment, or used already")).to_be_visible()
        expect(page.get_by_label("Password")).to_have_value(PASSWORD)
        code.fill(device.now())
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Saturday").wait_for()

        page = self.open("/sign-in", who=None)
        self.expected = ("401",)
        self.sign_in(page)
        page.get_by_label("Code").fill(codes[0].lower())
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("heading", name="Saturday").wait_for()
        page.goto("/account")
        part = page.get_by_role("region", name="Second factor")
        expect(part.get_by_text("9 of 10 recovery codes left")).to_be_visible()
        part.get_by_role("button", name="Turn off").click()
        part.get_by_role("button", name="Back").click()
        part.get_by_role("button", name="Turn off").click()
        part.get_by_label("Your password").fill(PASSWORD)
        part.get_by_role("button", name="Turn the second factor off").click()
        expect(part.get_by_role("button", name="Turn on")).to_be_visible()
