"""Board pictures by another hand than the demo's: the candidates of the application are measured on these.

Everything is drawn otherwise: polygons at four times the size with Pillow in place of soft ellipses, mites with legs and
a rim, wax as flakes and sawdust, boards of cardboard, wood or coloured plastic, colour casts, vignettes, motion blur and
JPEG.
"""

from __future__ import annotations

import io
import math
import sys
import time
from collections.abc import Sequence
from typing import Any

import numpy as np
from PIL import Image, ImageDraw, ImageEnhance, ImageFilter

from redframe.core.sampling.board_marks import Candidate
from redframe.core.sampling.board_picture import find_candidates

OVER = 4
WIDTH_MM, HEIGHT_MM = 180, 130
NEAR_MM = 1.0
GRADES = {"clean": 0, "usual": 1, "hard": 2}


def draw(random: np.random.Generator, mites: int, grade: int, px_per_mm: float) -> tuple[Any, Any]:
    """A picture, shape (height, width, 3), and the places of its mites as shares, shape (mites, 2)."""
    scale = px_per_mm * OVER
    size = (round(WIDTH_MM * scale), round(HEIGHT_MM * scale))
    ground = [(243, 240, 232), (228, 214, 184), (205, 214, 222)][int(random.integers(0, 3)) if grade else 0]
    image = Image.new("RGB", size, ground)
    pen = ImageDraw.Draw(image)
    _surface(random, pen, size, ground, scale, grade)
    for _ in range(int(random.poisson((12, 90, 200)[grade]))):
        _flake(random, pen, size, scale, grade)
    for _ in range(int(random.poisson((4, 25, 60)[grade]))):
        _pellet(random, pen, size, scale)
    for _ in range(int(random.poisson((2, 14, 45)[grade]))):
        _bee_part(random, pen, size, scale)
    places = [_mite(random, pen, size, scale) for _ in range(mites)]
    image = image.resize((size[0] // OVER, size[1] // OVER), Image.Resampling.LANCZOS)
    image = _photographed(random, image, grade, px_per_mm)
    return np.asarray(image), np.array(places).reshape(-1, 2)


def _outline(
    random: np.random.Generator, x: float, y: float, a: float, b: float, turn: float, rough: float
) -> list[Any]:
    angles = np.linspace(0, 2 * math.pi, 28, endpoint=False)
    reach = 1 + random.normal(0, rough, 28)
    u, v = a * np.cos(angles) * reach, b * np.sin(angles) * reach
    return list(
        zip(x + u * math.cos(turn) - v * math.sin(turn), y + u * math.sin(turn) + v * math.cos(turn), strict=True)
    )


def _shade(random: np.random.Generator, colour: Sequence[int], spread: float) -> tuple[int, int, int]:
    red, green, blue = np.clip(np.array(colour) * random.normal(1, spread) + random.normal(0, 5, 3), 0, 255).astype(int)
    return int(red), int(green), int(blue)


def _surface(random: np.random.Generator, pen: Any, size: Any, ground: Any, scale: float, grade: int) -> None:
    """Grain of cardboard or wood, smears of propolis."""
    for _ in range((20, 120, 200)[grade]):
        y, dark = random.uniform(0, size[1]), random.uniform(0, (4, 9, 14)[grade])
        line = [(x, y + random.normal(0, scale)) for x in np.linspace(0, size[0], 9)]
        pen.line(line, fill=tuple(int(part - dark) for part in ground), width=int(random.uniform(0.2, 0.9) * scale))
    for _ in range((0, 4, 14)[grade]):
        x, y = random.uniform(0, size[0]), random.uniform(0, size[1])
        smear = _outline(
            random, x, y, random.uniform(3, 9) * scale, random.uniform(0.5, 1.6) * scale, random.uniform(0, 3), 0.1
        )
        pen.polygon(smear, fill=_shade(random, (188, 150, 104), 0.07))


def _flake(random: np.random.Generator, pen: Any, size: Any, scale: float, grade: int) -> None:
    x, y = random.uniform(0, size[0]), random.uniform(0, size[1])
    colours = [(222, 196, 132), (198, 160, 92), (240, 226, 188), (146, 104, 60)]
    colour = colours[int(random.choice(4, p=[0.45, 0.25, 0.2, 0.1] if grade else [0.5, 0.2, 0.29, 0.01]))]
    a = random.gamma(2.2, 0.35) * scale
    pen.polygon(
        _outline(random, x, y, a, a * random.uniform(0.35, 1), random.uniform(0, 3), 0.22),
        fill=_shade(random, colour, 0.08),
    )


def _pellet(random: np.random.Generator, pen: Any, size: Any, scale: float) -> None:
    x, y = random.uniform(0, size[0]), random.uniform(0, size[1])
    colour = [(238, 172, 30), (222, 132, 38), (150, 60, 58), (96, 104, 84), (244, 220, 110)][int(random.integers(0, 5))]
    a = random.uniform(0.6, 1.15) * scale
    pen.polygon(
        _outline(random, x, y, a, a * random.uniform(0.75, 1), random.uniform(0, 3), 0.05),
        fill=_shade(random, colour, 0.06),
    )


def _bee_part(random: np.random.Generator, pen: Any, size: Any, scale: float) -> None:
    x, y, turn = random.uniform(0, size[0]), random.uniform(0, size[1]), random.uniform(0, 6)
    if random.random() < 0.25:
        pen.polygon(
            _outline(random, x, y, 3.4 * scale, 1.1 * scale, turn, 0.03),
            outline=(150, 140, 128),
            width=int(0.12 * scale) + 1,
        )
        return
    line = [(x, y)]
    for _ in range(int(random.integers(2, 5))):
        turn += random.normal(0, 0.5)
        x, y = x + math.cos(turn) * 0.9 * scale, y + math.sin(turn) * 0.9 * scale
        line.append((x, y))
    pen.line(line, fill=_shade(random, (52, 40, 30), 0.2), width=int(random.uniform(0.18, 0.4) * scale), joint="curve")


def _mite(random: np.random.Generator, pen: Any, size: Any, scale: float) -> tuple[float, float]:
    x, y = random.uniform(0.015, 0.985) * size[0], random.uniform(0.02, 0.98) * size[1]
    a, b, turn = random.normal(0.84, 0.05) * scale, random.normal(0.57, 0.04) * scale, random.uniform(0, math.pi)
    body = _shade(random, (138, 66, 40) if random.random() < 0.9 else (176, 108, 66), 0.14)
    for side in (-0.5, -0.17, 0.17, 0.5):
        foot = (
            x + a * 1.5 * side * math.cos(turn) - b * 1.15 * math.sin(turn),
            y + a * 1.5 * side * math.sin(turn) + b * 1.15 * math.cos(turn),
        )
        pen.line([(x, y), foot], fill=tuple(max(0, part - 20) for part in body), width=int(0.11 * scale) + 1)
    pen.polygon(_outline(random, x, y, a, b, turn, 0.015), fill=body, outline=tuple(max(0, part - 34) for part in body))
    shine = tuple(min(255, part + 48) for part in body)
    pen.polygon(_outline(random, x - 0.15 * scale, y - 0.12 * scale, a * 0.4, b * 0.35, turn, 0.02), fill=shine)
    return x / size[0], y / size[1]


def _photographed(random: np.random.Generator, image: Any, grade: int, px_per_mm: float) -> Any:
    """Colour cast, vignette, glare, motion, noise and JPEG."""
    pixels = np.asarray(image).astype(float) * random.normal(1, (0.01, 0.04, 0.08)[grade], 3)
    rows, columns = np.mgrid[-1 : 1 : pixels.shape[0] * 1j, -1 : 1 : pixels.shape[1] * 1j]
    pixels *= (1 - (0.05, 0.15, 0.3)[grade] * random.uniform(0.5, 1) * (rows**2 + columns**2) / 2)[..., None]
    for _ in range((0, 1, 3)[grade]):
        y, x = random.uniform(-1, 1, 2)
        spot = np.exp(-((rows - y) ** 2 + (columns - x) ** 2) / random.uniform(0.01, 0.06))
        pixels += (0.8 * spot)[..., None] * (250 - pixels)
    pixels += random.normal(0, (1.5, 4, 9)[grade], pixels.shape)
    taken = Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8))
    taken = taken.filter(ImageFilter.BoxBlur((0.04, 0.07, 0.12)[grade] * px_per_mm))
    taken = ImageEnhance.Contrast(taken).enhance(random.uniform(0.85, 1.15))
    out = io.BytesIO()
    taken.save(out, "JPEG", quality=(92, 82, 65)[grade])
    return Image.open(io.BytesIO(out.getvalue()))


def matched(found: Sequence[Candidate], places: Any) -> int:
    """Mites with a candidate within a millimetre, each candidate used once, the likeliest first."""
    free = np.ones(len(places), dtype=bool)
    hits = 0
    for one in found:
        if not free.any():
            break
        away = np.hypot((places[:, 0] - one.x) * WIDTH_MM, (places[:, 1] - one.y) * HEIGHT_MM)
        away[~free] = np.inf
        nearest = int(away.argmin())
        if away[nearest] <= NEAR_MM:
            free[nearest] = False
            hits += 1
    return hits


def measure(pictures: int = 12) -> list[dict[str, Any]]:
    """Precision and recall by difficulty and coarseness of the picture, of all candidates shown and of the sure ones."""
    rows = []
    for name, grade in GRADES.items():
        for px_per_mm in (9.0, 6.0, 4.0):
            shown = sure = hits = sure_hits = mites = 0
            seconds = 0.0
            for number in range(pictures):
                random = np.random.default_rng([grade, round(px_per_mm * 10), number])
                picture, places = draw(random, int(random.integers(3, 80)), grade, px_per_mm)
                began = time.perf_counter()
                found = find_candidates(picture, float(WIDTH_MM))
                seconds += time.perf_counter() - began
                firm = [one for one in found if one.score >= 0.5]
                shown, sure, mites = shown + len(found), sure + len(firm), mites + len(places)
                hits, sure_hits = hits + matched(found, places), sure_hits + matched(firm, places)
            rows.append({
                "board": name, "px_per_mm": px_per_mm, "mites": mites, "recall": hits / mites, "precision": hits / shown,
                "sure_recall": sure_hits / mites, "sure_precision": sure_hits / sure, "seconds": seconds / pictures,
            })  # fmt: skip
    return rows


if __name__ == "__main__":
    for row in measure(int(sys.argv[1]) if len(sys.argv) > 1 else 12):
        print({key: round(value, 3) if isinstance(value, float) else value for key, value in row.items()})
