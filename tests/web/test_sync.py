"""The send queue at work: in the order of recording, one at a time, stopped by a lost signal and by nothing else."""

from __future__ import annotations

import unittest
from typing import Any

from tests.web.test_pure import run

HARNESS = """
const kept = [];            // the queue as it was kept on the device, state by state
const sent = [];            // what reached the server
const heard = [];           // what listeners heard
const answers = {};         // what the server does with an item: by key, else it takes it
let open = null;            // an item on its way, to be let go by hand
const gate = {};
const send = async (key, item) => {
    const what = answers[key];
    if (gate[key]) await gate[key];
    if (what === "lost") throw new Error("no signal");
    if (what) throw Object.assign(new Error(what), {});
    sent.push([key, item.content, item.base]);
    return { answer: "thanks for " + key, base: item.base + 1 };
};
const sync = module.createSync(START, (before, after) => kept.push(Object.keys(after).sort().join()), send);
const record = (key, content, base = 1) => sync.dispatch({ type: "recorded", key, kind: "count", scope: "bench", content, base });
const states = () => Object.fromEntries(Object.entries(sync.read()).map(([key, item]) => [key, item.state]));
"""


def at_work(script: str, start: str = "{}") -> Any:
    """What a script answers that works with a queue and a server of its own."""
    return run("sync/sync.ts", HARNESS.replace("START", start) + script)


class AtWork(unittest.TestCase):
    def test_in_the_order_of_recording(self) -> None:
        """Three counts, sent one after the other as they were recorded; nothing is left, the device forgets them."""
        found = at_work("""
            record("c", 3); record("a", 1); record("b", 2);
            await sync.pump();
            return { sent, left: sync.read(), last: kept.at(-1) };
        """)
        self.assertEqual([key for key, _, _ in found["sent"]], ["c", "a", "b"])
        self.assertEqual((found["left"], found["last"]), ({}, ""))

    def test_a_lost_signal_stops_and_keeps_the_order(self) -> None:
        """The second does not get through: the third waits behind it; when the signal is back both go, in order."""
        found = at_work("""
            answers.b = "lost";
            record("a", 1); record("b", 2); record("c", 3);
            await sync.pump();
            const before = [sent.length, states()];
            delete answers.b;
            await sync.pump();
            return { before, sent: sent.map(([key]) => key), left: sync.read() };
        """)
        self.assertEqual(found["before"], [1, {"b": "queued", "c": "queued"}])
        self.assertEqual((found["sent"], found["left"]), (["a", "b", "c"], {}))

    def test_two_at_once_send_once(self) -> None:
        """The clock, the signal and a tap all pump at the same moment: every item goes once."""
        found = at_work("""
            record("a", 1); record("b", 2);
            await Promise.all([sync.pump(), sync.pump(), sync.pump()]);
            return sent.map(([key]) => key);
        """)
        self.assertEqual(found, ["a", "b"])

    def test_what_changes_on_its_way_is_sent_again_on_top(self) -> None:
        """Amended while it was being sent: the new content follows with the version that the first one made."""
        found = at_work("""
            let letGo; gate.a = new Promise((done) => { letGo = done; });
            record("a", "first");
            const pumping = sync.pump();
            await Promise.resolve();
            record("a", "second");
            gate.a = undefined; letGo();
            await pumping;
            return { sent, left: sync.read() };
        """)
        self.assertEqual(found["sent"], [["a", "first", 1], ["a", "second", 2]])
        self.assertEqual(found["left"], {})

    def test_a_reload_in_the_middle_sends_again(self) -> None:
        """What was on its way when the page was left is queued again: the server takes it once by its id."""
        start = '{"a": {"kind": "count", "scope": "bench", "content": 1, "base": 1, "state": "sending", "why": "", "field": "", "order": 1}}'
        found = at_work("const before = states(); await sync.pump(); return { before, sent };", start)
        self.assertEqual(found, {"before": {"a": "queued"}, "sent": [["a", 1, 1]]})

    def test_refused_and_conflicts_wait_for_the_person(self) -> None:
        """Neither is sent again by itself, and neither stops what was recorded behind it."""
        start = (
            '{"r": {"kind": "k", "scope": "s", "content": 1, "base": 1, "state": "refused", "why": "no", "field": "f", "order": 1},'
            ' "k": {"kind": "k", "scope": "s", "content": 2, "base": 1, "state": "conflict", "why": "", "field": "", "order": 2}}'
        )
        found = at_work("record('a', 3); await sync.pump(); return { sent, states: states() };", start)
        self.assertEqual(found, {"sent": [["a", 3, 1]], "states": {"r": "refused", "k": "conflict"}})

    def test_a_settled_conflict_goes_on_top_of_theirs(self) -> None:
        """Mine replaces what the other recorded, from the other's version; theirs drops mine without sending it."""
        start = '{"k": {"kind": "k", "scope": "s", "content": "mine", "base": 1, "state": "conflict", "why": "", "field": "", "order": 1}}'
        mine = at_work("sync.dispatch({ type: 'settled', key: 'k', mine: true, base: 7 }); await sync.pump(); return { sent, left: sync.read() };", start)  # fmt: skip
        self.assertEqual(mine, {"sent": [["k", "mine", 7]], "left": {}})
        theirs = at_work("sync.dispatch({ type: 'settled', key: 'k', mine: false, base: 7 }); await sync.pump(); return { sent, left: sync.read() };", start)  # fmt: skip
        self.assertEqual(theirs, {"sent": [], "left": {}})

    def test_withdrawn_is_never_sent(self) -> None:
        """Taken back before it went: the server never hears of it, and the device keeps nothing."""
        found = at_work(
            "record('a', 1); sync.dispatch({ type: 'withdrawn', key: 'a' }); await sync.pump(); return { sent, kept };"
        )
        self.assertEqual(found, {"sent": [], "kept": ["a", ""]})

    def test_listeners_hear_what_the_server_said(self) -> None:
        """With the item as it was and the answer to it; those who watch are called at every change and may leave."""
        found = at_work("""
            let changes = 0;
            const leave = sync.subscribe(() => { changes += 1; });
            const deaf = sync.listen((event, item, answer) => heard.push([event.type, item?.content ?? null, answer ?? null]));
            record("a", 5);
            await sync.pump();
            leave(); deaf();
            record("b", 6);
            await sync.pump();
            return { heard, changes };
        """)
        self.assertEqual(found["heard"], [["recorded", 5, None], ["taken", 5, None], ["sent", 5, "thanks for a"]])
        self.assertEqual(found["changes"], 3)

    def test_a_listener_that_fails_stops_nothing(self) -> None:
        """An error on the screen: what was recorded later is still sent."""
        found = at_work("""
            const deaf = sync.listen((event) => { if (event.type === "sent") throw new Error("screen"); });
            record("a", 1);
            await sync.pump().catch(() => undefined);
            deaf();
            record("b", 2);
            await sync.pump();
            return sent.map(([key]) => key);
        """)
        self.assertIn("b", found)

    def test_the_device_keeps_every_state(self) -> None:
        """After each change the items that wait are what is kept: nothing is lost by a page that is left at any moment."""
        found = at_work("""
            answers.b = "lost";
            record("a", 1); record("b", 2);
            await sync.pump();
            return kept;
        """)
        self.assertEqual(found[:2], ["a", "a,b"])
        self.assertEqual(found[-1], "b")
        self.assertNotIn("", found)

    def test_nothing_to_send_is_no_work(self) -> None:
        """An empty queue pumps at once, and events about items that are not there change nothing."""
        found = at_work("""
            await sync.pump();
            sync.dispatch({ type: "taken", key: "x" });
            sync.dispatch({ type: "sent", key: "x", content: 1, base: 2 });
            sync.dispatch({ type: "failed", key: "x", content: 1, failure: { kind: "lost", why: "", field: "" } });
            return { kept, sent };
        """)
        self.assertEqual(found, {"kept": [], "sent": []})
