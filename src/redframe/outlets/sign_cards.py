"""Cards of signs as SVG: each look of a cell once, placed where it stands."""

from __future__ import annotations

from redframe.core.combs.cards import HEIGHT_MM, WIDTH_MM, cards, laid_out, look
from redframe.core.combs.pen import Ellipse, Polygon, Shape
from redframe.core.combs.sound_cells import WALL

CLOSE = 0.5
"""The part of its width and height that a close card shows."""


def card_svg(card_id: str) -> str:
    """A card as a picture of its own, in mm."""
    cells = laid_out(card_id)
    names = {key: f"c{at}" for at, key in enumerate(dict.fromkeys((one.cell, one.variant) for one in cells))}
    looks = "".join(f'<g id="{name}">{"".join(map(_shape, look(*key)))}</g>' for key, name in names.items())
    placed = "".join(
        f'<use href="#{names[one.cell, one.variant]}" x="{_number(one.x)}" y="{_number(one.y)}"/>' for one in cells
    )
    part = CLOSE if cards().cards[card_id].close else 1.0
    left, top = WIDTH_MM * (1 - part) / 2, HEIGHT_MM * (1 - part) / 2
    box = " ".join(_number(one) for one in (left, top, WIDTH_MM * part, HEIGHT_MM * part))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">'
        f'<rect x="{_number(left)}" y="{_number(top)}" width="100%" height="100%" fill="{WALL}"/>'
        f"<defs>{looks}</defs>{placed}</svg>\n"
    )


def all_cards() -> dict[str, str]:
    """Every card by its file name."""
    return {f"{one}.svg": card_svg(one) for one in cards().cards}


def _shape(shape: Shape) -> str:
    alpha = "" if shape.alpha >= 1 else f' opacity="{_number(shape.alpha)}"'
    if isinstance(shape, Ellipse):
        x, y = _number(shape.x), _number(shape.y)
        turn = f' transform="rotate({shape.turn:.0f} {x} {y})"' if shape.turn else ""
        return (
            f'<ellipse cx="{x}" cy="{y}" rx="{_number(shape.rx)}" ry="{_number(shape.ry)}" fill="{shape.fill}"'
            f"{alpha}{turn}/>"
        )
    points = " ".join(f"{_number(x)},{_number(y)}" for x, y in shape.points)
    if isinstance(shape, Polygon):
        return f'<polygon points="{points}" fill="{shape.fill}"{alpha}/>'
    return (
        f'<polyline points="{points}" fill="none" stroke="{shape.colour}" stroke-width="{_number(shape.width)}" '
        f'stroke-linecap="round"{alpha}/>'
    )


def _number(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
