/** A draft of the policy: changed field by field, tried out on every colony as it stands, put in force as a whole. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { previewPolicy, replacePolicy } from "@/client/commands/policy";
import { Problem, type Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";

export type Policy = Schemas["PolicyView"];
export type Phase = Schemas["PhaseBand"]["phase"];
export type Draft = Schemas["PolicyInput"];

function asDraft(policy: Policy): Draft {
  return {
    scheme: policy.scheme,
    threshold_basis: policy.threshold_basis,
    scope: policy.scope,
    calendar: policy.calendar,
    levels: policy.own_levels,
    stale_after_days: policy.stale_after_days,
    stale_after_days_dormant: policy.stale_after_days_dormant,
    scoops: policy.scoops,
    treatment_rules: policy.treatment_rules,
    disease_region: policy.disease_region,
  };
}

export function usePolicyDraft(policy: Policy) {
  const client = useQueryClient();
  const maySet = useMay("set_policy");
  const before = asDraft(policy);
  const [draft, setDraft] = useState<Draft>(before);
  const [lit, setLit] = useState<Phase | null>(null);
  const preview = useQuery({
    queryKey: ["policy-preview", draft],
    queryFn: () => previewPolicy(draft),
    enabled: maySet,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => replacePolicy(draft, policy.version),
    onSuccess: () => client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "session" }),
  });
  const fault = [save.error, preview.error].find((one) => one instanceof Problem);
  return {
    policy,
    draft,
    maySet,
    preview,
    save,
    isChanged: JSON.stringify(draft) !== JSON.stringify(before),
    scheme: policy.schemes.find((one) => one.id === draft.scheme),
    at: (field: string) => fault?.at(field),
    set: (part: Partial<Draft>) => {
      save.reset();
      setDraft((old) => ({ ...old, ...part }));
    },
    reset: () => setDraft(before),
    /** The phase whose levels are being edited. */
    lit,
    setLit,
  };
}

export type PolicyDraft = ReturnType<typeof usePolicyDraft>;
