/**
 * The policy: school, calendar of the place, and rules of treating; what a change would do is shown before it is made.
 */
import { useQuery } from "@tanstack/react-query";
import { policyQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { FormError } from "@/ui/field";
import { Form } from "@/ui/fields";
import { Loaded } from "@/ui/loaded";
import { Notice } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { useHash } from "@/ui/use-hash";
import { CALENDAR_FIELDS, CalendarPart } from "./calendar-part";
import { DiseaseRegion } from "./disease-region";
import { LevelsOfYear } from "./levels-of-year";
import { EffectOnColonies } from "./policy-effect";
import { EffectOnVisits, isOther } from "./region-effect";
import { SchemePart } from "./scheme-part";
import { Scoops } from "./scoops";
import { RULE_FIELDS, TreatmentRules } from "./treatment-rules";
import { usePolicyDraft, type Policy, type PolicyDraft } from "./use-policy-draft";

const OWN_FIELDS = ["levels", "scoops", ...CALENDAR_FIELDS, ...RULE_FIELDS];

export function PolicySheet() {
  const query = useQuery(policyQuery);
  return (
    <Loaded query={query} what="Opening the policy …">
      {(policy) => <PolicyForm key={policy.version} policy={policy} />}
    </Loaded>
  );
}

function PolicyForm({ policy }: { policy: Policy }) {
  const editing = usePolicyDraft(policy);
  const { draft, set, at, maySet, preview } = editing;
  const region = draft.disease_region ?? policy.disease_region;
  const isDesk = useDesk();
  useHash();
  return (
    <Form
      className="mt-6 grid items-start gap-x-14 gap-y-8 desk:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]"
      onSubmit={() => editing.save.mutate()}>
      <fieldset disabled={!maySet} className="min-w-0 space-y-8">
        <legend className="sr-only">Policy</legend>
        <SchemePart editing={editing} />
        <Scoops
          scoops={draft.scoops ?? []}
          found={(preview.data ?? policy).scoop}
          disabled={!maySet}
          errorAt={at}
          onChange={(scoops) => set({ scoops })}
        />
        <CalendarPart editing={editing} />
        <TreatmentRules
          rules={draft.treatment_rules ?? policy.treatment_rules}
          catalogue={policy.catalogue}
          disabled={!maySet}
          errorAt={at}
          onChange={(treatment_rules) => set({ treatment_rules })}
        />
        <DiseaseRegion region={region} disabled={!maySet} onChange={(disease_region) => set({ disease_region })} />
      </fieldset>
      <aside className="min-w-0 space-y-6 desk:sticky desk:top-16" aria-label="What it means">
        {isDesk && <LevelsOfYear editing={editing} />}
        {maySet && <EffectOnColonies editing={editing} />}
        {maySet && <EffectOnVisits region={region} changed={isOther(region, policy.disease_region)} />}
        {maySet ? (
          <PutInForce editing={editing} />
        ) : (
          <p className="text-ink-2">
            Version {policy.version} is in force. An administrator of the association can change it.
          </p>
        )}
      </aside>
    </Form>
  );
}

function PutInForce({ editing }: { editing: PolicyDraft }) {
  const { policy, save, preview } = editing;
  return (
    <section className="space-y-3">
      {editing.isChanged && (
        <>
          <Notice>
            Every counted colony is judged again. Decisions taken before keep the version they were taken under.
          </Notice>
          <div className="flex flex-wrap gap-3">
            <Button type="submit" variant="main" big disabled={save.isPending || preview.isError}>
              {save.isPending ? "Judging every colony …" : `Put version ${policy.version + 1} in force`}
            </Button>
            <Button onClick={editing.reset}>Leave it as it was</Button>
          </div>
        </>
      )}
      <p className="text-sm text-ink-2">Version {policy.version} is in force.</p>
      <FormError error={save.error ?? preview.error} fields={OWN_FIELDS} />
    </section>
  );
}
