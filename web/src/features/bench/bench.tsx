/**
 * The count bench: several jars in a row, a mite a key or tap, shake by shake. The rate rule moves as you count, from
 * marks that the server computed when the jar was set up, so that no signal is needed between setting up and sending.
 */
import { useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useEffect, useMemo, useRef, useState } from "react";
import { Problem, api, ask, type Schemas } from "@/client/api";
import { apiaryQuery, placesQuery, rulerQuery } from "@/client/queries";
import { RateRule } from "@/instruments/rate-rule";
import { Tally } from "@/instruments/tally";
import { useSession } from "@/features/session/use-session";
import { keepDraft, readDraft } from "@/ui/drafts";
import { moment } from "@/ui/clock";
import { useKeys } from "@/ui/keys";
import { Button, Empty, Key, LEVEL_TEXT, LevelMark, Page, Slow, Trouble } from "@/ui/parts";
import { chance, rate, volume, type Units } from "@/ui/units";
import { ADVICE, LEVEL, PLACE_OF_BEES, colonies } from "@/wording/words";
import { JarSetUp } from "./jar-set-up";
import { USUAL, addMite, asCount, asMeasure, mitesIn, newJar, nextShake, oneBack, type Jar, type SetUp } from "./jars";
import { Meaning } from "./meaning";

const CHUNK = 31;

export function Bench() {
  const { apiary, colonies: wanted } = useSearch({ from: "/in/bench" });
  const view = useQuery({ ...apiaryQuery(apiary ?? ""), enabled: apiary !== undefined });
  if (apiary === undefined) return <ChooseApiary />;
  if (view.isPending) return <Slow what="Setting out the jars …" />;
  if (view.isError) return <Trouble error={view.error} retry={() => void view.refetch()} />;
  const living = view.data.colonies.filter((one) => one.state === "alive" || one.state === "queenless");
  const sampled = wanted?.length ? living.filter((one) => wanted.includes(one.id)) : living;
  if (sampled.length === 0) {
    return (
      <Page>
        <h1 className="mb-5 text-3xl">{view.data.apiary.name}</h1>
        <Empty title="No living colonies to count">Add a colony to this apiary first.</Empty>
      </Page>
    );
  }
  return <JarRow key={`${apiary}-${sampled.map((one) => one.id).join()}`} view={view.data} sampled={sampled} />;
}

function ChooseApiary() {
  const places = useQuery(placesQuery);
  if (places.isPending) return <Slow what="Fetching the apiaries …" />;
  if (places.isError) return <Trouble error={places.error} retry={() => void places.refetch()} />;
  return (
    <Page>
      <h1 className="text-4xl">Count bench</h1>
      <p className="mt-1 text-ink-2">Which apiary is being counted?</p>
      <ul className="mt-5 grid gap-px border border-line bg-line desk:grid-cols-3">
        {places.data.apiaries.filter((one) => one.colonies > 0).map((one) => (
          <li key={one.id}>
            <Link to="/bench" search={{ apiary: one.id }} className="flex min-h-16 items-center justify-between gap-3 bg-sheet px-4 py-2 hover:bg-paper">
              <span>
                <span className="block font-head text-lg font-semibold leading-tight">{one.name}</span>
                <span className="text-sm text-ink-2">{one.keeper}, {colonies(one.colonies)}</span>
              </span>
              {one.worst && <LevelMark level={one.worst} />}
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
}

type Draft = { jars: Jar[]; current: number };

function JarRow({ view, sampled }: { view: Schemas["ApiaryView"]; sampled: Schemas["ColonyRow"][] }) {
  const session = useSession();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { course, step } = useSearch({ from: "/in/bench" });
  const draftKey = `bench:${session.person.id}:${view.apiary.id}:${view.today}`;
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = readDraft<Draft>(draftKey);
    const usual = readDraft<SetUp>("bench-usual") ?? USUAL;
    const jars = sampled.map((one) => {
      const old = kept?.jars.find((jar) => jar.colonyId === one.id && jar.sending.state !== "kept");
      return old ? { ...old, label: one.label, sending: old.sending.state === "sending" ? ({ state: "waiting", why: "" } as const) : old.sending } : newJar(one.id, one.label, usual);
    });
    return { jars, current: 0 };
  });
  const [setUp, setSetUp] = useState(false);
  const [results, setResults] = useState<Record<string, Schemas["CountMeaning"]>>({});
  const latest = useRef(draft);
  useEffect(() => {
    latest.current = draft;
    keepDraft(draftKey, draft);
  }, [draft, draftKey]);

  const jar = draft.jars[draft.current] ?? draft.jars[0];
  const change = (index: number, next: (jar: Jar) => Jar) =>
    setDraft((old) => ({ ...old, jars: old.jars.map((one, at) => (at === index ? next(one) : one)) }));
  const choose = (index: number) => setDraft((old) => ({ ...old, current: index }));
  const onJar = (next: (jar: Jar) => Jar) => {
    if (jar && (jar.sending.state === "open" || jar.sending.state === "refused" || jar.sending.state === "waiting")) {
      change(draft.current, (one) => ({ ...next(one), sending: { state: "open" } }));
    }
  };
  const now = moment;

  const send = async (index: number) => {
    const one = latest.current.jars[index];
    if (!one || one.sending.state === "sending" || one.sending.state === "kept") return;
    change(index, (old) => ({ ...old, takenAt: old.takenAt ?? now(), sending: { state: "sending" } }));
    try {
      const meaning = await ask(api.POST("/api/v1/counts", { body: asCount(one) }));
      setResults((old) => ({ ...old, [one.id]: meaning }));
      change(index, (old) => ({ ...old, sending: { state: "kept" } }));
      void client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "ruler" && query.queryKey[0] !== "session" && query.queryKey[0] !== "apiary" });
      // The last jar of a proof leads back to its course, where the counts are waiting.
      const alone = latest.current.jars.length === 1;
      const done = latest.current.jars.every((each) => each.id === one.id || each.sending.state === "kept");
      if (course && step && done) void navigate({ to: "/courses/$id", params: { id: course }, search: { step, ...(alone ? { count: meaning.count.id } : {}) } });
    } catch (error) {
      const problem = error instanceof Problem ? error : null;
      const waits = problem === null || problem.status === 0 || problem.status >= 500;
      const why = problem?.faults[0]?.message ?? problem?.message ?? "It could not be sent.";
      change(index, (old) => ({ ...old, sending: waits ? { state: "waiting", why } : { state: "refused", why } }));
    }
  };

  // A count that found no connection is sent again, under the same id, as soon as there is one.
  useEffect(() => {
    const again = () => latest.current.jars.forEach((one, index) => one.sending.state === "waiting" && void send(index));
    window.addEventListener("online", again);
    const timer = window.setInterval(again, 15_000);
    return () => {
      window.removeEventListener("online", again);
      window.clearInterval(timer);
    };
  });

  const move = (by: number) => choose(Math.min(Math.max(draft.current + by, 0), draft.jars.length - 1));
  const counting = jar !== undefined && jar.sending.state !== "kept" && jar.sending.state !== "sending";
  useKeys([
    { key: " ", shown: "Space", says: "one mite", run: () => onJar((one) => addMite(one, now())) },
    { key: "Backspace", shown: "Backspace", says: "one step back", run: () => onJar(oneBack) },
    { key: "s", says: "shake again", run: () => onJar((one) => nextShake(one, now())) },
    { key: "r", says: "record the wash", run: () => void send(draft.current) },
    { key: "ArrowRight", shown: "→", says: "next jar", run: () => move(1) },
    { key: "ArrowLeft", shown: "←", says: "jar before", run: () => move(-1) },
    { key: "b", says: "set up the jar", run: () => setSetUp(true) },
  ]);
  if (!jar) return null;
  const kept = draft.jars.filter((one) => one.sending.state === "kept").length;
  const meaning = results[jar.id];
  return (
    <main id="main" className="mx-auto flex w-full max-w-[1400px] flex-1 flex-col">
      <div className="items-baseline justify-between gap-4 px-4 pt-3 desk:flex desk:px-7">
        <h1 className={view.apiary.name.length > 40 ? "text-lg" : "text-2xl desk:text-3xl"}>
          <Link to="/places/$id" params={{ id: view.apiary.id }} className="hover:underline">{view.apiary.name}</Link>
        </h1>
        <p className="shrink-0 text-sm text-ink-2" role="status">
          {draft.jars.length === 1 ? "1 jar" : `${draft.jars.length} jars`}, {kept} recorded
          {draft.jars.some((one) => one.sending.state === "waiting") ? ", waiting for a connection" : ", all kept here"}
        </p>
      </div>
      <JarTabs jars={draft.jars} current={draft.current} onChoose={choose} results={results} />
      <div className="grid flex-1 gap-x-12 px-4 desk:grid-cols-[minmax(0,1fr)_24rem] desk:px-7">
        <JarSheet jar={jar} meaning={meaning} units={session.person} today={view.today} onSetUp={() => setSetUp(true)} />
        <div className="sticky bottom-0 -mx-4 mt-auto border-t border-line bg-paper p-3 desk:static desk:mx-0 desk:mt-5 desk:border-0 desk:p-0">
          {meaning ? (
            <div className="grid gap-2">
              {draft.current < draft.jars.length - 1 ? (
                <Button look="main" big className="min-h-20" onClick={() => move(1)}>Next jar: {draft.jars[draft.current + 1]?.label}</Button>
              ) : (
                <Link to="/places/$id" params={{ id: view.apiary.id }} className="inline-flex min-h-20 items-center justify-center bg-ink px-4 text-lg font-semibold text-sheet">Back to {view.apiary.name}</Link>
              )}
            </div>
          ) : (
            <div className="grid grid-cols-[1fr_1.4fr_1fr] gap-2">
              <button
                type="button"
                data-keys="through"
                disabled={!counting}
                onClick={() => onJar((one) => addMite(one, now()))}
                className="figure col-span-3 min-h-28 touch-manipulation rounded-[2px] bg-ink text-3xl text-sheet select-none active:bg-ink-2 disabled:bg-ink-3 desk:min-h-40"
              >
                + mite
                <span className="mt-1 hidden font-sans text-base font-normal desk:block">press space, or tap</span>
              </button>
              <Button data-keys="through" className="min-h-16 leading-tight" onClick={() => onJar(oneBack)} disabled={!counting || (mitesIn(jar) === 0 && jar.shakes.length === 1)}>one back</Button>
              <Button data-keys="through" className="min-h-16 leading-tight" onClick={() => onJar((one) => nextShake(one, now()))} disabled={!counting || jar.shakes.length >= 8}>Shake again</Button>
              <Button className="min-h-16 leading-tight" onClick={() => move(1)} disabled={draft.current >= draft.jars.length - 1}>next jar</Button>
              <Button look="main" className="col-span-3 min-h-16" onClick={() => void send(draft.current)} disabled={!counting}>
                {jar.sending.state === "sending" ? "Recording …" : "Record the wash"}
              </Button>
            </div>
          )}
          {(jar.sending.state === "waiting" || jar.sending.state === "refused") && jar.sending.why && (
            <p role="alert" className="mt-2 font-semibold text-act">
              {jar.sending.why} {jar.sending.state === "waiting" && "It is kept on this device and sent again."}
            </p>
          )}
          <p className="mt-3 hidden flex-wrap gap-x-4 gap-y-1 text-sm text-ink-2 desk:flex">
            {[["Space", "mite"], ["Backspace", "one back"], ["s", "shake again"], ["r", "record"], ["← →", "jar"], ["b", "set up"]].map(([key, says]) => (
              <span key={key}><Key>{key}</Key> {says}</span>
            ))}
          </p>
        </div>
      </div>
      {setUp && (
        <JarSetUp
          jar={jar}
          units={session.person}
          onClose={() => setSetUp(false)}
          onKeep={(next, all) => {
            keepDraft("bench-usual", { ...next, queen: "not_looked" });
            if (all) {
              const { queen, ...rest } = next;
              setDraft((old) => ({ ...old, jars: old.jars.map((one, at) => (one.sending.state === "open" ? { ...one, ...rest, ...(at === old.current ? { queen } : {}) } : one)) }));
            } else change(draft.current, (one) => ({ ...one, ...next, sending: one.sending.state === "refused" ? { state: "open" } : one.sending }));
            setSetUp(false);
          }}
        />
      )}
    </main>
  );
}

function JarTabs({ jars, current, onChoose, results }: { jars: Jar[]; current: number; onChoose: (index: number) => void; results: Record<string, Schemas["CountMeaning"]> }) {
  return (
    <div role="tablist" aria-label="Jars" className="mt-2 grid auto-cols-[minmax(5.5rem,1fr)] grid-flow-col overflow-x-auto border-y border-line bg-paper desk:mx-7 desk:border-x">
      {jars.map((jar, index) => {
        const level = results[jar.id]?.judgement?.level;
        const said =
          jar.sending.state === "kept" ? (level ? LEVEL[level] : "kept") : jar.sending.state === "waiting" ? "waiting" : jar.sending.state === "refused" ? "look again" : mitesIn(jar) > 0 || jar.shakes.length > 1 ? `${mitesIn(jar)} mites` : "not yet";
        return (
          <button
            key={jar.id}
            type="button"
            role="tab"
            id={`tab-${jar.id}`}
            ref={index === current ? (tab) => tab?.scrollIntoView({ block: "nearest", inline: "nearest" }) : null}
            aria-selected={index === current}
            aria-controls="jar"
            tabIndex={index === current ? 0 : -1}
            data-keys="through"
            onClick={() => onChoose(index)}
            className={`min-h-16 border-r border-line px-2 py-1 text-center last:border-r-0 ${index === current ? "bg-sheet shadow-[inset_0_4px_0_var(--ink)]" : "text-ink-2"}`}
          >
            <span className={`figure block ${jar.label.length > 8 ? "text-base" : "text-xl"}`}>{jar.label}</span>
            <span className={`text-sm ${level ? LEVEL_TEXT[level] : ""}`}>{said}</span>
          </button>
        );
      })}
    </div>
  );
}

function measured(jar: Jar, units: Units): string {
  switch (jar.knownBy) {
    case "counted":
      return `${jar.bees ?? 0} bees counted`;
    case "photo":
      return `${jar.bees ?? 0} bees by photo`;
    case "mass_dry":
      return `${jar.massG ?? 0} g of dry bees`;
    case "not_recorded":
      return "bees not recorded";
    default:
      return `${volume(jar.volumeMl ?? 0, units)} ${jar.knownBy === "volume_heaped" ? "heaped" : "level"}`;
  }
}

function JarSheet({ jar, meaning, units, today, onSetUp }: { jar: Jar; meaning: Schemas["CountMeaning"] | undefined; units: Units; today: string; onSetUp: () => void }) {
  const mites = mitesIn(jar);
  const chunk = Math.floor(mites / CHUNK);
  const measure = useMemo(() => asMeasure(jar), [jar]);
  const ask1 = (part: number) => rulerQuery({ ...measure, mites_from: part * CHUNK, mites_to: part * CHUNK + CHUNK - 1 });
  const [here, ahead] = useQueries({ queries: [ask1(chunk), ask1(chunk + 1)] });
  const removal = useQuery({
    queryKey: ["removal", jar.shakes],
    enabled: jar.shakes.length > 1 && jar.sending.state !== "kept",
    staleTime: Infinity,
    queryFn: () => ask(api.POST("/api/v1/calculators/removal", { body: { shakes: jar.shakes } })),
  });
  void ahead;
  const ruler = here.data?.ruler ?? null;
  const left = removal.data?.["share_left"] as number | null | undefined;
  const careful = jar.shakes.length < 2 || (left != null && ruler !== null && left > ruler.incomplete_share);
  const mark = (careful ? ruler?.one_shake : ruler?.more_shakes)?.find((one) => one.mites === mites);
  const begun = mites > 0 || jar.shakes.length > 1;
  const reading = meaning?.reading ?? mark ?? null;
  const level = meaning?.judgement?.level ?? mark?.level;
  const again = meaning ? null : jar.shakes.length === 1 ? "One shake finds about 85 in 100 of the mites: shake again." : removal.data?.["shake_again"] ? `The last shake still brought mites down: about ${Math.max(1, Math.round(100 * (left ?? 0)))} % may be left. Shake again.` : null;
  return (
    <section id="jar" role="tabpanel" aria-labelledby={`tab-${jar.id}`} className="min-w-0 pb-4 pt-3 desk:pt-5">
      <div className="flex items-start justify-between gap-4">
        <p className="text-ink-2">
          Wash, {measured(jar, units)}
          {ruler && jar.knownBy !== "counted" ? `, about ${Math.round(ruler.bees_mean)} bees (${Math.round(ruler.bees_low)} to ${Math.round(ruler.bees_high)})` : ""}
          <br />
          {PLACE_OF_BEES[jar.place]}; queen {jar.queen === "yes" ? "seen safe" : jar.queen === "no" ? "NOT seen" : "not looked for"}
        </p>
        {!meaning && <Button onClick={onSetUp} className="shrink-0">Set up</Button>}
      </div>
      <ol className="mt-3 border-t border-line">
        {jar.shakes.map((count, index) => (
          <li key={index} className={`grid grid-cols-[5rem_1fr_3rem] items-center border-b border-line py-1.5 ${index === jar.shakes.length - 1 && !meaning ? "font-bold" : "text-ink-2"}`}>
            <span>Shake {index + 1}</span>
            <span className="text-right"><Tally count={count} /></span>
            <span className="figure text-right text-xl">{count}</span>
          </li>
        ))}
      </ol>
      {ruler === null && here.isSuccess && <p className="mt-4 text-ink-2">Bees not recorded: the mites are kept, no rate follows.</p>}
      {here.isError && !meaning && <p className="mt-4 text-ink-2">No connection: go on counting. What it means follows when the wash is recorded.</p>}
      {ruler && (
        <div className="mt-4">
          <div className="flex items-end gap-4" aria-live="polite">
            <span className={`figure text-[4.2rem] ${begun && (level === "act" || level === "urgent") ? "text-act" : ""}`}>{begun && reading ? rate(reading.median) : "–"}</span>
            <p className="pb-1.5 text-ink-2">
              mites per 100 bees
              <br />
              {begun && reading ? (
                <strong className="text-ink">{rate(reading.low)} to {rate(reading.high)}, 95 % interval</strong>
              ) : (
                "nothing counted yet"
              )}
            </p>
          </div>
          <div className="mt-2">
            <RateRule levels={ruler} reading={begun ? reading : null} label={`Jar of ${jar.label}`} />
          </div>
        </div>
      )}
      <div className="mt-3 min-h-28">
        {meaning ? (
          <Meaning meaning={meaning} today={today} />
        ) : (
          begun &&
          mark && (
            <>
              <p className={`flex items-center gap-2 font-head text-2xl font-semibold ${mark.advice === "treat" ? "text-act" : ""}`}>
                <LevelMark level={mark.level} size={20} />
                {ADVICE[mark.advice]}
              </p>
              <p className="mt-1 text-ink-2">
                {chance(mark.p_act)} that it is at or over {ruler?.act} per 100. {again}
              </p>
            </>
          )
        )}
      </div>
    </section>
  );
}
