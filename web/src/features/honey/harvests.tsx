/** The honey taken from a colony, newest first; what was recorded by mistake is withdrawn with a reason. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { withdrawHarvest } from "@/client/commands/honey";
import { harvestsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSession } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { weight } from "@/ui/units";

type Props = { colonyId: string; apiaryId: string; today: string; mayRecord: boolean };

export function Harvests({ colonyId, apiaryId, today, mayRecord }: Props) {
  const query = useQuery(harvestsQuery(colonyId));
  const { person } = useSession();
  const [withdrawing, setWithdrawing] = useState<Schemas["Harvest"] | null>(null);
  return (
    <Loaded query={query} what="Looking up the honey …">
      {(found) => (
        <>
          {found.length === 0 && <p className="py-2 text-ink-2">No honey taken on record.</p>}
          <ul>
            {found.map((one) => (
              <li key={one.id} className="grid grid-cols-[5rem_1fr_auto] gap-x-3 border-b border-line py-1.5">
                <span className="text-ink-2">{shortDay(one.harvested_on, today)}</span>
                <span className={one.withdrawn_why ? "line-through decoration-2" : ""}>
                  <strong>{one.honey_kg === null ? "not weighed" : weight(one.honey_kg, person)}</strong>
                  {one.honey_for === "bees" && ", for bees"}
                  {one.batch && `, batch ${one.batch}`}
                  {one.note && `. ${one.note}`}
                  <span className="text-ink-2"> {one.by_name}</span>
                </span>
                {mayRecord && !one.withdrawn_why && (
                  <Button
                    variant="quiet"
                    aria-label={`It was not so: ${one.harvested_on}`}
                    onClick={() => setWithdrawing(one)}>
                    It was not so
                  </Button>
                )}
                {(one.override_why || one.withdrawn_why) && (
                  <span className="col-span-2 col-start-2 text-sm">
                    {one.override_why && `Not clear: taken on by ${one.override_by}, ${one.override_why}. `}
                    {one.withdrawn_why && `Withdrawn: ${one.withdrawn_why}.`}
                  </span>
                )}
              </li>
            ))}
          </ul>
          {mayRecord && (
            <TextLink
              to="/honey"
              search={{ apiary: apiaryId, colonies: [colonyId] }}
              className="mt-2 inline-flex min-h-14 items-center desk:min-h-8">
              Record honey taken
            </TextLink>
          )}
          {withdrawing && <Withdraw id={withdrawing.id} onClose={() => setWithdrawing(null)} />}
        </>
      )}
    </Loaded>
  );
}

function Withdraw({ id, onClose }: { id: string; onClose: () => void }) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "" });
  const save = useSave({ kept, act: () => withdrawHarvest(id, draft.why), done });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open onClose={onClose} title="It was not so">
      <SaveForm save={save} kept={kept} fields={["why"]} label="Withdraw it">
        <TextField label="Why" maxLength={400} {...field("why")} />
      </SaveForm>
    </Dialog>
  );
}
