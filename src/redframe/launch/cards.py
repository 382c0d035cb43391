"""The cards of signs as they ship with the front end, drawn by the core."""

from __future__ import annotations

from redframe.launch.front_end import WEB
from redframe.launch.system import say

CARDS = WEB / "src" / "cards"


def write_cards() -> None:
    """Draw every card; commit them with the change of a look."""
    from redframe.outlets.sign_cards import all_cards

    made = all_cards()
    for old in CARDS.glob("*.svg"):
        if old.name not in made:
            old.unlink()
    for name, picture in made.items():
        (CARDS / name).write_text(picture, encoding="utf-8")
    say(f"written: {len(made)} cards in {CARDS.relative_to(WEB.parent)}")
