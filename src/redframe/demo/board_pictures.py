"""Pictures of insert boards as they come out of hives, drawn: mites among wax crumbs, pollen, legs and dirt, under
uneven light, with glare, tilted and blurred. For the demo and for tests; every mite's place is known.

Lengths in millimetres, colours in 8-bit RGB. Difficulty runs from a clean, even board to one that is hard to read.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy import ndimage
from skimage import transform

Canvas = npt.NDArray[np.float64]
Difficulty = Literal["clean", "usual", "hard"]


@dataclass(frozen=True, slots=True)
class Look:
    """What makes a board easy or hard: pieces per 100 cm2, and how the picture was taken."""

    crumbs: float
    dark_crumbs: float
    pollen: float
    legs: float
    glare: float
    tilt: float
    blur_mm: float
    noise: float
    pale_mites: float


LOOKS: dict[Difficulty, Look] = {
    "clean": Look(10, 1, 3, 2, 0.0, 0.0, 0.06, 2.0, 0.0),
    "usual": Look(60, 8, 12, 8, 0.5, 0.03, 0.09, 4.0, 0.05),
    "hard": Look(140, 35, 30, 25, 1.0, 0.07, 0.14, 7.0, 0.15),
}


@dataclass(frozen=True, slots=True)
class BoardPicture:
    """A picture, shape (height, width, 3), and where its mites are, as shares of width and height, shape (mites, 2)."""

    pixels: npt.NDArray[np.uint8]
    mites: npt.NDArray[np.float64]

    def jpeg(self, quality: int = 88) -> bytes:
        """The picture as a JPEG file."""
        out = io.BytesIO()
        Image.fromarray(self.pixels).save(out, "JPEG", quality=quality)
        return out.getvalue()


def draw_board(
    generator: np.random.Generator, mites: int, difficulty: Difficulty, *, width_mm: float = 200.0,
    height_mm: float = 140.0, px_per_mm: float = 6.0,
) -> BoardPicture:  # fmt: skip
    """Draw a board with so many mites, in stripes as they fall under the seams of bees."""
    look, scale = LOOKS[difficulty], px_per_mm
    shape = (round(height_mm * scale), round(width_mm * scale))
    canvas = _board(generator, shape, scale)
    hundreds = width_mm * height_mm / 10_000
    for _ in range(generator.poisson(look.crumbs * hundreds)):
        _crumb(generator, canvas, scale, dark=False)
    for _ in range(generator.poisson(look.dark_crumbs * hundreds)):
        _crumb(generator, canvas, scale, dark=True)
    for _ in range(generator.poisson(look.pollen * hundreds)):
        _pollen(generator, canvas, scale)
    for _ in range(generator.poisson(look.legs * hundreds)):
        _leg(generator, canvas, scale)
    places = np.array(
        [_mite(generator, canvas, scale, pale=generator.random() < look.pale_mites) for _ in range(mites)]
    )
    canvas = _light(generator, canvas, look.glare)
    canvas = ndimage.gaussian_filter(canvas, (look.blur_mm * scale, look.blur_mm * scale, 0))
    canvas, places = _tilted(generator, canvas, places.reshape(-1, 2), look.tilt)
    canvas += generator.normal(0, look.noise, canvas.shape)
    shares = places / np.array([canvas.shape[1], canvas.shape[0]])
    return BoardPicture(np.clip(canvas, 0, 255).astype(np.uint8), shares)


def _board(generator: np.random.Generator, shape: tuple[int, int], scale: float) -> Canvas:
    """Off-white plastic with faint stains and a printed grid of 50 mm."""
    canvas: Canvas = np.ones((*shape, 3)) * np.array([236.0, 231.0, 217.0])
    stains = ndimage.gaussian_filter(generator.normal(0, 1, shape), 9 * scale)
    canvas += (stains / stains.std() * 3.5)[..., None]
    thick = max(1, round(0.3 * scale))
    for line in np.arange(50 * scale, shape[0] - 2, 50 * scale).astype(int):
        canvas[line : line + thick] -= 38
    for line in np.arange(50 * scale, shape[1] - 2, 50 * scale).astype(int):
        canvas[:, line : line + thick] -= 38
    return canvas


def _stamp(
    canvas: Canvas,
    x: float,
    y: float,
    half: tuple[float, float],
    angle: float,
    colour: npt.ArrayLike,
    alpha: float = 1.0,
) -> None:
    """Lay a soft-edged ellipse on the canvas (pixels)."""
    reach = int(max(half) + 3)
    rows = slice(max(0, int(y) - reach), min(canvas.shape[0], int(y) + reach + 1))
    columns = slice(max(0, int(x) - reach), min(canvas.shape[1], int(x) + reach + 1))
    v, u = np.mgrid[rows, columns].astype(float)
    if v.size == 0:
        return
    u, v = u - x, v - y
    along, across = u * np.cos(angle) + v * np.sin(angle), -u * np.sin(angle) + v * np.cos(angle)
    radius = np.hypot(along / half[0], across / half[1])
    cover = alpha / (1 + np.exp((radius - 1) * min(half) * 2.5))
    canvas[rows, columns] += cover[..., None] * (np.asarray(colour, float) - canvas[rows, columns])


def _anywhere(generator: np.random.Generator, canvas: Canvas, margin: float) -> tuple[float, float]:
    x = generator.uniform(margin, canvas.shape[1] - margin)
    return float(x), float(generator.uniform(margin, canvas.shape[0] - margin))


def _mite(generator: np.random.Generator, canvas: Canvas, scale: float, *, pale: bool) -> tuple[float, float]:
    x, y = _anywhere(generator, canvas, 2 * scale)
    pitch = 35 * scale
    y = float(
        np.clip(round(y / pitch) * pitch + generator.normal(0, 7 * scale), 2 * scale, canvas.shape[0] - 2 * scale)
    )
    colour = np.array([196.0, 142.0, 96.0] if pale else [128.0, 58.0, 34.0]) * generator.normal(1, 0.12)
    half = (generator.normal(0.85, 0.05) * scale, generator.normal(0.575, 0.04) * scale)
    angle = generator.uniform(0, np.pi)
    _stamp(canvas, x + 0.12 * scale, y + 0.18 * scale, half, angle, [150, 140, 125], 0.35)
    _stamp(canvas, x, y, half, angle, colour)
    _stamp(canvas, x - 0.2 * scale, y - 0.2 * scale, (0.22 * scale, 0.14 * scale), angle, colour + 70, 0.6)
    return x, y


def _crumb(generator: np.random.Generator, canvas: Canvas, scale: float, *, dark: bool) -> None:
    x, y = _anywhere(generator, canvas, scale)
    base = np.array([132.0, 92.0, 52.0] if dark else [214.0, 186.0, 122.0]) * generator.normal(1, 0.1)
    size = generator.lognormal(-0.55, 0.5)
    for _ in range(generator.integers(2, 6)):
        off = generator.normal(0, 0.5 * size, 2) * scale
        half = tuple(np.maximum(0.15, generator.normal(0.5, 0.2, 2) * size) * scale)
        _stamp(canvas, x + off[0], y + off[1], half, generator.uniform(0, np.pi), base * generator.normal(1, 0.06))


def _pollen(generator: np.random.Generator, canvas: Canvas, scale: float) -> None:
    x, y = _anywhere(generator, canvas, scale)
    colours = [[226, 158, 40], [214, 120, 44], [168, 84, 52], [120, 116, 96], [232, 204, 90]]
    half = generator.normal(0.8, 0.15) * scale
    _stamp(canvas, x, y, (half, half * generator.uniform(0.82, 1.0)), 0.0, colours[generator.integers(len(colours))])


def _leg(generator: np.random.Generator, canvas: Canvas, scale: float) -> None:
    x, y = _anywhere(generator, canvas, 4 * scale)
    angle = generator.uniform(0, 2 * np.pi)
    for _ in range(int(generator.integers(6, 16))):
        _stamp(canvas, x, y, (0.26 * scale, 0.13 * scale), angle, [62, 48, 38], 0.9)
        angle += generator.normal(0, 0.25)
        x, y = x + np.cos(angle) * 0.22 * scale, y + np.sin(angle) * 0.22 * scale


def _light(generator: np.random.Generator, canvas: Canvas, glare: float) -> Canvas:
    """Light that falls off to one side, and spots of glare."""
    rows, columns = np.mgrid[0 : canvas.shape[0], 0 : canvas.shape[1]]
    slope = generator.normal(0, 0.12, 2)
    lit = 1 + slope[0] * (rows / canvas.shape[0] - 0.5) + slope[1] * (columns / canvas.shape[1] - 0.5)
    canvas = canvas * lit[..., None]
    for _ in range(generator.poisson(2 * glare)):
        y, x = generator.uniform(0, 1, 2) * canvas.shape[:2]
        spread = generator.uniform(0.04, 0.12) * canvas.shape[1]
        spot = 0.75 * np.exp(-((rows - y) ** 2 + (columns - x) ** 2) / (2 * spread**2))
        canvas = canvas + spot[..., None] * (255 - canvas)
    return canvas


def _tilted(
    generator: np.random.Generator, canvas: Canvas, places: npt.NDArray[np.float64], tilt: float
) -> tuple[Canvas, npt.NDArray[np.float64]]:
    if tilt == 0:
        return canvas, places
    height, width = canvas.shape[:2]
    corners = np.array([[0, 0], [width, 0], [width, height], [0, height]], float)
    inward = generator.uniform(0, tilt, (4, 2)) * [width, height] * [[1, 1], [-1, 1], [-1, -1], [1, -1]]
    moved = transform.ProjectiveTransform.from_estimate(corners, corners + inward)
    turned = transform.warp(canvas, moved.inverse, cval=90.0, preserve_range=True)
    return turned, (moved(places) if len(places) else places)
