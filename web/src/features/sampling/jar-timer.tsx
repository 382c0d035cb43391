/**
 * The timer of a jar: two minutes of rest for sugared bees, one minute of shaking for a wash. It runs on through a
 * reload.
 */
import { clsx } from "clsx";
import { useEffect, useState } from "react";
import { moment } from "@/ui/clock";
import { Button } from "@/ui/button";
import { REST_S, WASH_S, secondsLeft, type Jar } from "./jars";

/** The moment, again each second while something runs. */
export function useTicking(runs: boolean): string {
  const [now, setNow] = useState(moment);
  useEffect(() => {
    if (!runs) return;
    const timer = window.setInterval(() => setNow(moment()), 1000);
    return () => window.clearInterval(timer);
  }, [runs]);
  return runs ? now : moment();
}

export function minutes(seconds: number): string {
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}

export function JarTimer({
  jar,
  now,
  onStart,
  onEnd,
}: {
  jar: Jar;
  now: string;
  onStart: () => void;
  onEnd: () => void;
}) {
  const sugar = jar.method === "sugar";
  const whole = sugar ? REST_S : WASH_S;
  const left = secondsLeft(jar, now);
  const over = left === 0;
  useEffect(() => {
    if (over) navigator.vibrate?.([200, 100, 200]);
  }, [over]);
  if (left === null) {
    const rested = jar.restedS === null ? null : `rested ${minutes(jar.restedS)}`;
    return (
      <div className="mt-3 flex items-center gap-3">
        <Button onClick={onStart}>
          {sugar ? (rested ? "Rest again 2:00" : "Start the rest, 2:00") : "Time the shaking, 1:00"}
        </Button>
        <span className="text-ink-2">
          {rested ?? (sugar ? "Roll to coat them, then let them rest." : "Shake a full minute.")}
        </span>
      </div>
    );
  }
  return (
    <div className="mt-3" role="timer" aria-label={sugar ? "rest" : "shaking"}>
      <div className="flex items-center gap-4">
        <span className={clsx("figure text-4xl", over && "text-clear")}>{minutes(left)}</span>
        <Button variant={over ? "main" : "plain"} onClick={onEnd}>
          {over ? (sugar ? "Rested: shake and count" : "Drain and count") : "Stop early"}
        </Button>
        <span className="sr-only" role="status">
          {over ? "Time is up" : ""}
        </span>
      </div>
      <div className="mt-2 h-2 bg-line" aria-hidden="true">
        <div className="h-2 bg-ink" style={{ width: `${(100 * (whole - left)) / whole}%` }} />
      </div>
    </div>
  );
}
