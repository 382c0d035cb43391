/** The scribe's line: one line of text a frame, read back as it is typed, with what was not understood marked. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { inWords } from "@/instruments/plan-slot";
import { Button } from "@/ui/button";
import { Form } from "@/ui/fields";
import type { FrameRecord } from "./visit-queue";

export function LineEntry({
  onTake,
  onClose,
  previousAt,
}: {
  onTake: (box: number, slot: number, record: FrameRecord) => string | null;
  onClose: () => void;
  previousAt: (box: number, slot: number) => FrameRecord | null;
}) {
  const [text, setText] = useState("");
  const [said, setSaid] = useState("");
  const read = useQuery({
    queryKey: ["frame-line", text],
    enabled: text.trim() !== "",
    staleTime: Infinity,
    placeholderData: (old) => old,
    queryFn: () => ask(api.POST("/api/v1/frame-lines", { body: { text } })),
  });
  const line = text.trim() === "" ? undefined : read.data;
  const current = line !== undefined && !read.isPlaceholderData;
  const take = async () => {
    const found = current ? line : await ask(api.POST("/api/v1/frame-lines", { body: { text } }));
    if (found.slot === null || found.not_understood.length > 0) return setSaid("Not taken yet: see what is marked.");
    const box = found.box ?? 1;
    const record = found.same ? previousAt(box, found.slot) : found.record;
    if (!record) return setSaid("Nothing is known of this frame from last time.");
    const refused = onTake(box, found.slot, record);
    setSaid(refused ?? `Frame ${box > 1 ? `${box}.` : ""}${found.slot} taken.`);
    if (!refused) setText("");
  };
  const parts: { text: string; why: string | null }[] = [];
  let from = 0;
  for (const wrong of line?.not_understood ?? []) {
    parts.push(
      { text: text.slice(from, wrong.start), why: null },
      { text: text.slice(wrong.start, wrong.end), why: wrong.why },
    );
    from = wrong.end;
  }
  parts.push({ text: text.slice(from), why: null });
  return (
    <section aria-label="Write as a line" className="border-4 border-ink bg-sheet p-3">
      <Form className="flex gap-2" onSubmit={() => void take()}>
        <input
          autoFocus
          className="input font-mono"
          aria-label="One frame as a line"
          placeholder="4 c7 o2 e b9 / c6 o3 h1 b8 Q"
          autoCapitalize="off"
          autoCorrect="off"
          spellCheck={false}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setSaid("");
          }}
          onKeyDown={(event) => event.key === "Escape" && onClose()}
        />
        <Button type="submit" variant="main">
          Take
        </Button>
        <Button onClick={onClose}>Close</Button>
      </Form>
      <div className="mt-2 min-h-12" aria-live="polite">
        {line && line.not_understood.length > 0 && (
          <p>
            {parts.map((part, index) =>
              part.why ? (
                <mark key={index} className="bg-act-wash font-bold text-act" title={part.why}>
                  {part.text || " "}
                </mark>
              ) : (
                <span key={index}>{part.text}</span>
              ),
            )}{" "}
            <span className="text-act">{line.not_understood.map((one) => one.why).join("; ")}</span>
          </p>
        )}
        {line?.slot != null && (
          <p className="text-ink-2">
            Frame {line.box && line.box > 1 ? `${line.box}.` : ""}
            {line.slot}:{" "}
            {line.same
              ? "as last time"
              : line.record
                ? inWords({
                    record: line.record,
                    previous: null,
                    kind: "comb",
                    brood: null,
                    news: false,
                    conflict: false,
                    suspect: false,
                  })
                : ""}
          </p>
        )}
        {said && <p className="font-semibold">{said}</p>}
      </div>
      <details>
        <summary className="min-h-8 text-sm underline underline-offset-4">How to write it</summary>
        <p className="mt-1 text-sm text-ink-2">
          Frame number first, with its box from the second on (2.4). Covers in tenths: c sealed (capped), o open, e eggs
          (alone: seen), d drone, h honey, n nectar, p pollen, b bees. Before the slash side a, behind it side b;
          without a slash both are alike. Then cup, egg, larva, sealed, hatched, torn with their number (f: on the
          face), Q for the queen, new drawn old damaged foundation mould, !sign with few, some, many or a number, and a
          “note” in quotes. <em>same</em> is last time, <em>stores</em> stores only.
        </p>
      </details>
    </section>
  );
}
