/** The row of jars, one a colony sampled, each with what is known of it. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { LEVEL_TEXT } from "@/ui/level";
import { levelWord } from "@/wording/words";
import { minutes } from "./jar-timer";
import { begun, mitesIn, onBoard, secondsLeft, type CountState, type Jar } from "./jars";
import type { BenchState } from "./use-bench";

export function JarTabs({ bench, now }: { bench: BenchState; now: string }) {
  return (
    <div
      role="tablist"
      aria-label="Jars"
      className={clsx(
        "mt-2 grid auto-cols-[minmax(5.5rem,1fr)] grid-flow-col overflow-x-auto border-y border-line bg-paper",
        "desk:mx-7 desk:border-x",
      )}>
      {bench.jars.map((jar, index) => {
        const chosen = index === bench.current;
        const judged = bench.results[jar.id]?.judgement;
        const state = bench.states[index] ?? { state: "open", why: "" };
        return (
          <button
            key={jar.id}
            type="button"
            role="tab"
            id={`tab-${jar.id}`}
            ref={chosen ? (tab) => tab?.scrollIntoView({ block: "nearest", inline: "nearest" }) : null}
            aria-selected={chosen}
            aria-controls="jar"
            tabIndex={chosen ? 0 : -1}
            data-keys="through"
            onClick={() => bench.choose(index)}
            className={clsx(
              "min-h-16 border-r border-line px-2 py-1 text-center last:border-r-0",
              chosen ? "bg-sheet shadow-[inset_0_4px_0_var(--ink)]" : "text-ink-2",
            )}>
            <span className={clsx("figure block", jar.label.length > 8 ? "text-base" : "text-xl")}>{jar.label}</span>
            <span className={clsx("text-sm", judged && LEVEL_TEXT[judged.level])}>
              {bench.already[index] ? "counted today" : describe(jar, state, judged ?? undefined, now)}
            </span>
          </button>
        );
      })}
    </div>
  );
}

function describe(jar: Jar, state: CountState, judged: Schemas["Judgement"] | undefined, now: string): string {
  if (state.state === "recorded") return judged ? levelWord(judged.level, judged.scheme) : "recorded";
  if (state.state === "queued") return "not sent";
  if (state.state === "refused") return "look again";
  const left = secondsLeft(jar, now);
  if (left !== null) return left === 0 ? "time is up" : `${jar.method === "sugar" ? "rest" : "shake"} ${minutes(left)}`;
  if (jar.method === "drone_brood" && jar.opened > 0) return `${jar.infested} of ${jar.opened}`;
  if (begun(jar)) return `${mitesIn(jar)} mites`;
  if (onBoard(jar.method)) return jar.placedAt ? "board is in" : "no board";
  return "not yet";
}
