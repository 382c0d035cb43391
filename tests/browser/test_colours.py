"""Marks and covers as those see them who see colours otherwise, in both themes: told apart by colour and without it."""

from __future__ import annotations

import io
import re
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from playwright.sync_api import Page

from redframe.demo.scenario import made_id
from tests.browser.pages import FIELD, BrowserTest
from tests.support import Server

Array = NDArray[np.float64]
COVERS = ("capped", "open", "eggs", "drone", "honey", "nectar", "pollen")
LEVELS = ("clear", "watch", "ink", "act", "ink-3")
SIDE = 48
LEAST_DIFFERENCE = 10.0
# Machado, Oliveira and Fernandes 2009, severity 1, on linear RGB.
SEEN_AS: dict[str, Array] = {
    "as most do": np.eye(3),
    "without long waves": np.array(
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]]
    ),
    "without middle waves": np.array(
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]]
    ),
    "without short waves": np.array(
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]]
    ),
}
XYZ: Array = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)


def linear(rgb: Array) -> Array:
    """Linear light of sRGB values from 0 to 255."""
    share = rgb / 255
    return np.where(share <= 0.04045, share / 12.92, ((share + 0.055) / 1.055) ** 2.4)


def lab(light: Array) -> Array:
    """CIELAB (D65) of linear RGB."""
    ratio = np.clip(light, 0, 1) @ XYZ.T / np.array([0.95047, 1, 1.08883])
    f = np.where(ratio > 0.008856, np.cbrt(ratio), 7.787 * ratio + 16 / 116)
    return np.stack([116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])], -1)


def spectrum(lightness: Array) -> Array:
    """The pattern of a swatch: the size of each wave in it but the even one, as a direction in space."""
    waves = np.abs(np.fft.fft2(lightness - lightness.mean()))
    return waves / max(float(np.linalg.norm(waves)), 1e-9)


class Colours(BrowserTest):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)

    def swatches(self, page: Page, names: tuple[str, ...]) -> dict[str, Array]:
        """What the browser draws of each token, as linear light."""
        page.evaluate(
            """([names, side]) => {
                document.body.replaceChildren(...names.map((name) => {
                    const swatch = document.createElement("div");
                    swatch.style.cssText = `position:fixed;top:0;left:${names.indexOf(name) * side}px;` +
                        `width:${side}px;height:${side}px;background:var(--${name})`;
                    return swatch;
                }));
            }""",
            [list(names), SIDE],
        )
        clip = {"x": 0, "y": 0, "width": SIDE * len(names), "height": SIDE}
        shot = Image.open(io.BytesIO(page.screenshot(clip=clip))).convert("RGB")
        light = linear(np.asarray(shot, dtype=np.float64))
        return {name: light[:, SIDE * at : SIDE * (at + 1)] for at, name in enumerate(names)}

    def test_everybody_can_tell_them_apart(self) -> None:
        """Levels by colour, however colours are seen; covers by lightness or pattern alone, as on a grey print."""
        page = self.open("/account", who="inspector@corrane.example")
        for theme in ("light", "dark"):
            page.reload()
            page.get_by_role("heading", name="Units and theme").wait_for()
            page.evaluate("theme => { document.documentElement.dataset.theme = theme }", theme)
            covers = self.swatches(page, COVERS)
            levels = {name: light.mean((0, 1)) for name, light in self.swatches(page, LEVELS).items()}
            for seen, matrix in SEEN_AS.items():
                for a, b in combinations(LEVELS, 2):
                    apart = float(np.linalg.norm(lab(levels[a] @ matrix.T) - lab(levels[b] @ matrix.T)))
                    with self.subTest(theme=theme, seen=seen, levels=(a, b)):
                        self.assertGreaterEqual(apart, LEAST_DIFFERENCE)
            grey = {name: lab(light)[..., 0] for name, light in covers.items()}
            for a, b in combinations(COVERS, 2):
                lighter = abs(float(grey[a].mean() - grey[b].mean()))
                alike = float((spectrum(grey[a]) * spectrum(grey[b])).sum())
                with self.subTest(theme=theme, covers=(a, b), lighter=round(lighter, 1), alike=round(alike, 2)):
                    self.assertTrue(lighter >= 2 * LEAST_DIFFERENCE or alike < 0.5)


FIGURES = """() => {
    const behind = (e) => {
        for (let one = e; one; one = one.parentElement) {
            const colour = getComputedStyle(one).backgroundColor;
            if (!/, 0\\)$|transparent/.test(colour)) return colour;
        }
        return getComputedStyle(document.documentElement).backgroundColor;
    };
    return [...document.querySelectorAll('main .figure')]
        .filter((e) => e.getBoundingClientRect().width > 0 && e.innerText.trim() !== '' && !e.closest(':disabled'))
        .map((e) => [e.innerText.slice(0, 20), getComputedStyle(e).color, behind(e)]);
}"""
RING = """() => {
    const one = document.activeElement;
    const drawn = getComputedStyle(one);
    return [drawn.outlineColor, parseFloat(drawn.outlineWidth), getComputedStyle(one.closest('header, nav')).backgroundColor];
}"""


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two CSS colours as WCAG has it; both opaque."""
    lights = []
    for colour in (one, other):
        rgb = np.array([float(part) for part in re.findall(r"[\d.]+", colour)[:3]])
        lights.append(float(linear(rgb) @ np.array([0.2126, 0.7152, 0.0722])))
    return (max(lights) + 0.05) / (min(lights) + 0.05)


class InTheSun(BrowserTest):
    def test_figures_are_read_in_the_field(self) -> None:
        """7 to 1 for every figure of the screens that are used at the hive, by day and in the evening."""
        kettle = made_id("corrane", "apiary", "Kettle Wood")
        ids = f'"{made_id("corrane", "Lower Fenn", "L1")}"'
        lower = made_id("corrane", "apiary", "Lower Fenn")
        page = self.open("/", view=FIELD)
        for address in (
            "/",
            f"/apiaries/{kettle}",
            f"/colonies/{made_id('corrane', 'Lower Fenn', 'L1')}",
            f"/bench?apiary={lower}&colonies=[{ids}]",
            f"/treat?apiary={lower}",
        ):
            page.goto(address)
            page.locator("h1").first.wait_for()
            page.wait_for_load_state("networkidle")
            for scheme in ("light", "dark"):
                page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
                page.locator(f"html[data-theme={scheme}]").wait_for(state="attached")
                found = page.evaluate(FIGURES)
                for text, colour, ground in found:
                    with self.subTest(address=address, scheme=scheme, figure=text):
                        self.assertGreaterEqual(round(contrast(colour, ground), 2), 7.0, (colour, ground))

    def test_the_ring_is_seen_on_the_bar(self) -> None:
        """What has the focus in the dark bar is ringed in a colour that stands out from it, in both themes."""
        page = self.open("/")
        page.get_by_role("link", name="Apiaries", exact=True).focus()
        page.keyboard.press("Shift+Tab")
        for scheme in ("light", "dark"):
            page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
            page.locator(f"html[data-theme={scheme}]").wait_for(state="attached")
            colour, width, ground = page.evaluate(RING)
            self.assertGreaterEqual(width, 2)
            self.assertGreaterEqual(contrast(colour, ground), 3.0, (colour, ground))
