"""The queue of what has not been sent, as a table of events: nothing is lost, nothing is sent twice, nothing is overwritten."""

from __future__ import annotations

import random
import unittest
from typing import Any

from tests.web.test_pure import calls

Queue = dict[str, dict[str, Any]]
LOST = {"kind": "lost", "why": "The server cannot be reached.", "field": ""}
CONFLICT = {"kind": "conflict", "why": "somebody else changed it meanwhile", "field": ""}
REFUSED = {"kind": "refused", "why": "more than 100 %", "field": "a"}


def after(events: list[dict[str, Any]], queue: Queue | None = None) -> Queue:
    """The queue after events in their order."""
    state = queue or {}
    for event in events:
        [state] = calls("sync/queue.ts", ["reduce", state, event])
    return state


def recorded(key: str, content: object, base: int = 1) -> dict[str, Any]:
    """The person records something."""
    return {"type": "recorded", "key": key, "kind": "visit_piece", "scope": "visit:1", "content": content, "base": base}


def sent(key: str, content: object, base: int) -> dict[str, Any]:
    """The server has it."""
    return {"type": "sent", "key": key, "content": content, "base": base}


def failed(key: str, content: object, failure: dict[str, Any]) -> dict[str, Any]:
    """It did not reach the server, or the server refused it."""
    return {"type": "failed", "key": key, "content": content, "failure": failure}


class SendQueue(unittest.TestCase):
    def states(self, queue: Queue) -> dict[str, str]:
        """The state of each item."""
        return {key: item["state"] for key, item in queue.items()}

    def test_recorded_taken_sent_gone(self) -> None:
        """The plain way of one item."""
        queue = after([recorded("a", 1)])
        self.assertEqual((queue["a"]["state"], queue["a"]["base"], queue["a"]["content"]), ("queued", 1, 1))
        queue = after([{"type": "taken", "key": "a"}], queue)
        self.assertEqual(self.states(queue), {"a": "sending"})
        self.assertEqual(after([sent("a", 1, 2)], queue), {})

    def test_what_changes_while_it_is_sent_follows_on_top(self) -> None:
        """The second content is queued again, made from the version that the first became."""
        queue = after([recorded("a", 1), {"type": "taken", "key": "a"}, recorded("a", 2), sent("a", 1, 5)])
        self.assertEqual((queue["a"]["state"], queue["a"]["content"], queue["a"]["base"]), ("queued", 2, 5))

    def test_changed_before_it_was_sent_keeps_its_version(self) -> None:
        """Two changes in a row are one item, made from the version that the first saw."""
        queue = after([recorded("a", 1, base=3), recorded("a", 2, base=9)])
        self.assertEqual((queue["a"]["content"], queue["a"]["base"]), (2, 3))

    def test_each_failure_leads_to_its_state(self) -> None:
        """No answer: sent again. Somebody else's change: a conflict. Refused: said at its field, until it is changed."""
        begun = [recorded("a", 1), {"type": "taken", "key": "a"}]
        for failure, state in ((LOST, "queued"), (CONFLICT, "conflict"), (REFUSED, "refused")):
            with self.subTest(failure=failure["kind"]):
                queue = after([*begun, failed("a", 1, failure)])
                self.assertEqual((queue["a"]["state"], queue["a"]["why"]), (state, failure["why"]))
                self.assertEqual(queue["a"]["content"], 1)
        changed = after([*begun, recorded("a", 2), failed("a", 1, REFUSED)])
        self.assertEqual(self.states(changed), {"a": "queued"}, "what was refused is not what is there now")

    def test_a_refused_item_is_queued_again_when_it_is_changed(self) -> None:
        """The correction goes out, and what was said against the first is forgotten."""
        queue = after([recorded("a", 1), {"type": "taken", "key": "a"}, failed("a", 1, REFUSED), recorded("a", 2)])
        self.assertEqual((queue["a"]["state"], queue["a"]["why"], queue["a"]["field"]), ("queued", "", ""))

    def test_a_conflict_waits_for_the_person(self) -> None:
        """Recording on does not send it; mine goes out over theirs, theirs lets mine go."""
        conflict = after([recorded("a", 1), {"type": "taken", "key": "a"}, failed("a", 1, CONFLICT), recorded("a", 2)])
        self.assertEqual(self.states(conflict), {"a": "conflict"})
        self.assertIsNone(calls("sync/queue.ts", ["nextKey", conflict])[0])
        mine = after([{"type": "settled", "key": "a", "mine": True, "base": 7}], conflict)
        self.assertEqual((mine["a"]["state"], mine["a"]["content"], mine["a"]["base"]), ("queued", 2, 7))
        self.assertEqual(after([{"type": "settled", "key": "a", "mine": False, "base": 7}], conflict), {})

    def test_a_reload_sends_again_what_was_under_way(self) -> None:
        """Whether the server had it is not known: it is queued; the rest stays as it was."""
        queue = after(
            [
                recorded("a", 1),
                recorded("b", 1),
                {"type": "taken", "key": "a"},
                {"type": "taken", "key": "b"},
                failed("b", 1, REFUSED),
                {"type": "restored"},
            ]
        )
        self.assertEqual(self.states(queue), {"a": "queued", "b": "refused"})

    def test_the_first_recorded_goes_first(self) -> None:
        """In the order of recording, whatever became of others; changing one does not move it back."""
        queue = after([recorded("b", 1), recorded("a", 1), recorded("b", 2)])
        self.assertEqual(calls("sync/queue.ts", ["nextKey", queue]), ["b"])
        queue = after([{"type": "taken", "key": "b"}, failed("b", 2, REFUSED)], queue)
        self.assertEqual(calls("sync/queue.ts", ["nextKey", queue]), ["a"])

    def test_events_about_nothing_change_nothing(self) -> None:
        """Answers that come late for what was withdrawn are ignored."""
        queue = after([recorded("a", 1)])
        for event in (
            sent("z", 1, 2),
            failed("z", 1, LOST),
            {"type": "taken", "key": "z"},
            {"type": "withdrawn", "key": "z"},
            {"type": "settled", "key": "z", "mine": True, "base": 1},
        ):
            with self.subTest(event=event["type"]):
                self.assertEqual(after([event], queue), queue)
        self.assertEqual(after([{"type": "withdrawn", "key": "a"}], queue), {})

    def test_whatever_happens_the_last_content_is_there_or_was_sent(self) -> None:
        """Random days: each key's last recorded content is in the queue, or the server has it, or the person let it go."""
        chance = random.Random(20310802)
        for day in range(25):
            queue: Queue = {}
            server: dict[str, int] = {}
            last: dict[str, int] = {}
            under_way: dict[str, int] = {}
            for number in range(40):
                key = chance.choice("abc")
                act = chance.choice(
                    ("record", "record", "take", "send", "lose", "conflict", "refuse", "settle", "reload")
                )
                if act == "record":
                    queue, last[key] = after([recorded(key, number)], queue), number
                elif act == "take" and queue.get(key, {}).get("state") == "queued" and key not in under_way:
                    queue, under_way[key] = after([{"type": "taken", "key": key}], queue), queue[key]["content"]
                elif act == "reload":
                    queue, under_way = after([{"type": "restored"}], queue), {}
                elif act == "settle" and queue.get(key, {}).get("state") == "conflict":
                    queue = after([{"type": "settled", "key": key, "mine": True, "base": number}], queue)
                elif key in under_way and act in ("send", "lose", "conflict", "refuse"):
                    content = under_way.pop(key)
                    if act == "send":
                        server[key] = content
                        queue = after([sent(key, content, number)], queue)
                    else:
                        failure = {"lose": LOST, "conflict": CONFLICT, "refuse": REFUSED}[act]
                        queue = after([failed(key, content, failure)], queue)
            for key, content in last.items():
                with self.subTest(day=day, key=key):
                    self.assertEqual(queue[key]["content"] if key in queue else server.get(key), content)
