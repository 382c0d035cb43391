/** Which school judges, with which levels; when a count is too old; who is treated. */
import { Term } from "@/features/help/term";
import { Choice, ChoiceField } from "@/ui/choice";
import { SectionHeading } from "@/ui/page";
import { Stepper } from "@/ui/stepper";
import { useDesk } from "@/ui/use-desk";
import { LevelsEditor, type OwnLevels } from "./levels-editor";
import { LevelsOfYear } from "./levels-of-year";
import type { PolicyDraft } from "./use-policy-draft";

/** Own levels of a school among those of all; none are kept where it is back at its defaults. */
function withOwn(all: Record<string, OwnLevels>, scheme: string, own: OwnLevels): Record<string, OwnLevels> {
  const others = Object.fromEntries(Object.entries(all).filter(([id]) => id !== scheme));
  return Object.keys(own).length > 0 ? { ...others, [scheme]: own } : others;
}

export function SchemePart({ editing }: { editing: PolicyDraft }) {
  const { policy, draft, scheme, set, at, maySet, setLit } = editing;
  const isDesk = useDesk();
  return (
    <section aria-labelledby="scheme" className="space-y-3">
      <SectionHeading id="scheme">Treat when the threshold is passed</SectionHeading>
      <p className="text-sm">
        <Term id="school">What a school is</Term>; <Term id="phase">what the phases are</Term>;{" "}
        <Term id="missed">what a wash misses</Term>; <Term id="too_old">when a count is too old</Term>
      </p>
      <Choice
        label="School"
        value={draft.scheme}
        columns={2}
        options={policy.schemes.map((one) => [one.id, one.name] as const)}
        onChange={(id) => set({ scheme: id })}
      />
      <p className="text-ink-2">{scheme?.says}</p>
      {scheme && (
        <LevelsEditor
          school={scheme}
          own={draft.levels?.[scheme.id] ?? {}}
          disabled={!maySet}
          errorAt={at}
          fieldOf={(phase, level) => `levels.${scheme.id}.${phase}.${level}`}
          onPhase={setLit}
          onChange={(own) => set({ levels: withOwn(draft.levels ?? {}, scheme.id, own) })}
        />
      )}
      {!isDesk && <LevelsOfYear editing={editing} />}
      <Habits editing={editing} />
    </section>
  );
}

function Habits({ editing: { draft, set, maySet } }: { editing: PolicyDraft }) {
  return (
    <>
      <Stepper
        label="Counts are too old after"
        value={draft.stale_after_days ?? 21}
        least={7}
        most={120}
        start={21}
        shown={(value) => `${value} days`}
        onChange={(value) => maySet && set({ stale_after_days: value ?? 21 })}
      />
      <Stepper
        label="In the dormant time after"
        value={draft.stale_after_days_dormant ?? 90}
        least={7}
        most={200}
        start={90}
        step={5}
        shown={(value) => `${value} days`}
        onChange={(value) => maySet && set({ stale_after_days_dormant: value ?? 90 })}
      />
      <ChoiceField
        label="Change what colonies are judged by"
        value={draft.threshold_basis ?? "corrected"}
        options={[
          ["corrected", "with what a wash misses"],
          ["as_counted", "as counted"],
        ]}
        onChange={(threshold_basis) => set({ threshold_basis })}
      />
      <ChoiceField
        label="Who is treated"
        value={draft.scope ?? "whole_apiary"}
        options={[
          ["whole_apiary", "the whole apiary once one is over"],
          ["single_colony", "only those over"],
        ]}
        onChange={(scope) => set({ scope })}
      />
    </>
  );
}
