/** How many colonies to count, and which: for the mean of the apiary, or to find one that is over. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { samplingPlanQuery } from "@/client/queries";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { colonies } from "@/wording/words";

type View = Schemas["ApiaryView"];

const WHY: Record<Schemas["ChosenColony"]["why"], string> = {
  over_last_time: "over last time",
  signs: "mites seen in brood",
  strongest: "the strongest",
  close_call: "hard to guess",
  never_counted: "nothing known",
  drawn: "at random",
};

export function ChooseToSample({
  view,
  living,
  onClose,
  onSelect,
}: {
  view: View;
  living: Schemas["ColonyOverview"][];
  onClose: () => void;
  onSelect: (ids: string[]) => void;
}) {
  const navigate = useNavigate();
  const [aim, setAim] = useState<"find" | "mean">("mean");
  const [width, setWidth] = useState<"0.3" | "0.4" | "0.5">("0.4");
  const plan = useQuery(samplingPlanQuery(view.apiary.id, Number(width), aim === "find"));
  const label = (id: string) => living.find((one) => one.id === id)?.label ?? "?";
  const needed = (aim === "mean" ? plan.data?.for_mean : (plan.data?.to_find ?? plan.data?.colonies)) ?? 0;
  const ids = plan.data?.chosen.map((one) => one.colony_id) ?? [];
  const purpose = plan.data?.chosen.filter((one) => one.targeted).map((one) => one.colony_id) ?? [];
  return (
    <Dialog open onClose={onClose} title="Choose colonies to sample">
      <div className="space-y-4">
        <Choice
          label="What for"
          value={aim}
          options={[
            ["mean", "to know its mean"],
            ["find", "to find one that is over"],
          ]}
          onChange={setAim}
        />
        {aim === "mean" && (
          <Choice
            label="How close"
            value={width}
            options={[
              ["0.3", "within 30 %"],
              ["0.4", "within 40 %"],
              ["0.5", "within half"],
            ]}
            onChange={setWidth}
          />
        )}
        {plan.isError && (
          <p role="alert" className="font-semibold text-act">
            {plan.error.message}
          </p>
        )}
        {plan.data && (
          <>
            <p className="flex items-end gap-3">
              <span className="figure text-5xl">{needed}</span>
              <span className="pb-1 text-ink-2">
                of {colonies(plan.data.colonies)}
                {aim === "find" &&
                  (plan.data.to_find === null
                    ? ": even all find one in ten over with only " +
                      `${Math.round(100 * plan.data.found_with)} %, as a count can miss`
                    : `: finds one if ${plan.data.over} ${plan.data.over === 1 ? "is" : "are"} over, ` +
                      `with ${Math.round(100 * plan.data.found_with)} %`)}
                {ids.length > needed && `; ${ids.length} with those that are never left out`}
              </span>
            </p>
            <ul className="max-h-72 overflow-y-auto border-y border-line">
              {plan.data.chosen.map((one) => (
                <li key={one.colony_id} className="flex justify-between border-b border-line py-1.5 last:border-b-0">
                  <strong>{label(one.colony_id)}</strong> <span className="text-ink-2">{WHY[one.why]}</span>
                </li>
              ))}
            </ul>
            <p className="text-sm text-ink-2">
              {aim === "mean"
                ? "Chosen at random, so that the mean is honest. Those over, with signs, and the " +
                  "strongest are added in any case: they are judged, and left out of the mean."
                : "Those over, with signs, and the strongest first, then those whose count tells most. " +
                  "Chosen because of it, they are judged, and left out of the mean unless all are " +
                  "counted."}
            </p>
            <div className="grid grid-cols-2 gap-2">
              <Button
                onClick={() => {
                  onSelect(ids);
                  onClose();
                }}>
                Pick them here
              </Button>
              <Button
                variant="main"
                onClick={() =>
                  void navigate({
                    to: "/bench",
                    search: {
                      apiary: view.apiary.id,
                      colonies: ids,
                      purpose: purpose.length > 0 ? purpose : undefined,
                    },
                  })
                }>
                Count these {ids.length}
              </Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
