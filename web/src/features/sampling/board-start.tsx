/** A board at its start: put in now, or put in earlier and read now. What can only be known then is asked then. */
import { useState } from "react";
import { Choice } from "@/ui/choice";
import { Button } from "@/ui/button";
import { DateField } from "@/ui/date-field";
import { Notice } from "@/ui/page";
import { TimeField, asTime } from "@/ui/time-field";
import type { Answer } from "./jars";

/** "2031-08-02T10:30" of a moment, in the device's time. */
export function asLocal(iso: string): string {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

const THREE_DAYS_MS = 3 * 86_400_000;

export function BoardStart({
  now,
  onPlace,
  onRead,
}: {
  now: string;
  onPlace: (cleaned: Answer, greased: Answer) => void;
  onRead: (placedAt: string) => void;
}) {
  const [cleaned, setCleaned] = useState<Answer>("yes");
  const [greased, setGreased] = useState<Answer>("yes");
  const [usual] = useState(() => asLocal(new Date(Date.parse(now) - THREE_DAYS_MS).toISOString()));
  const [day, setDay] = useState(usual.slice(0, 10));
  const [time, setTime] = useState(usual.slice(11));
  const at = new Date(`${day}T${asTime(time)}`);
  const days = (Date.parse(now) - at.getTime()) / 86_400_000;
  const fault = Number.isNaN(days)
    ? "Give day and time, as 14:30."
    : days < 0.5
      ? "A board must lie for half a day at least."
      : days > 60
        ? "No board lies for longer than 60 days."
        : null;
  return (
    <div className="mt-4 grid gap-8 desk:grid-cols-2">
      <section aria-labelledby="lay" className="space-y-3">
        <h2 id="lay" className="border-b border-line pb-1 text-xl">
          Put a board in now
        </h2>
        <p className="font-semibold">The board is</p>
        <Choice
          label="The board is"
          value={cleaned}
          options={[
            ["yes", "clean"],
            ["no", "not cleaned"],
          ]}
          onChange={setCleaned}
        />
        <Choice
          label="Surface"
          value={greased}
          options={[
            ["yes", "greased or sticky"],
            ["no", "bare"],
          ]}
          onChange={setGreased}
        />
        {cleaned === "no" && (
          <Notice>Old mites would be counted with the new ones. Scrape it first: a dirty board is not judged.</Notice>
        )}
        {greased === "no" && (
          <Notice>On a bare board ants and the wind take mites: it can raise a level, never lower it.</Notice>
        )}
        <Button variant="main" big className="w-full" onClick={() => onPlace(cleaned, greased)}>
          Put the board in
        </Button>
        <p className="text-ink-2">Read it after 1 to 3 days. Today will remind you.</p>
      </section>
      <section aria-labelledby="read" className="space-y-3">
        <h2 id="read" className="border-b border-line pb-1 text-xl">
          Read a board
        </h2>
        <div className="grid grid-cols-[minmax(0,1fr)_6rem] items-start gap-3">
          <DateField label="Put in on" name="placed_on" max={asLocal(now).slice(0, 10)} value={day} onChange={setDay} />
          <TimeField label="at" name="placed_time" value={time} onChange={setTime} />
        </div>
        <p className={fault ? "font-semibold text-act" : "text-ink-2"} role={fault ? "alert" : undefined}>
          {fault ?? `${days.toFixed(1)} days ago${days > 3.05 ? ": longer than three days reads low" : ""}.`}
        </p>
        <Button
          variant="main"
          big
          className="w-full"
          disabled={fault !== null}
          onClick={() => onRead(at.toISOString())}>
          Count what fell
        </Button>
      </section>
    </div>
  );
}
