/** The disease examination as a walk with gloves on: a step a screen, each to be left out, resumed at any time. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { clsx } from "clsx";
import { examinationQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Notice } from "@/ui/page";
import type { SetAfter } from "./after-set";
import { fullExamination, EMPTY, type SetExamination } from "./examination";
import { BeesStep, CellsStep, CombsStep, KitStep, NotSeenStep, QueenStep } from "./examination-steps";
import { SignsStep } from "./examination-signs";
import type { After, View } from "./visit-queue";

const STEPS = [
  ["queen", "Queen"],
  ["combs", "Combs"],
  ["cells", "Cells"],
  ["signs", "Signs"],
  ["bees", "Bees"],
  ["kit", "Kit"],
  ["not_seen", "Not seen"],
] as const;

type Fault = { field: string; message: string };
type Props = {
  open: boolean;
  onClose: () => void;
  view: View;
  content: After;
  fault: Fault | null;
  onChange: SetAfter;
};

export function ExaminationDialog({ open, onClose, view, content, fault, onChange }: Props) {
  const words = useQuery(examinationQuery);
  const [step, setStep] = useState<(typeof STEPS)[number][0]>("queen");
  const one = content.examination ?? EMPTY;
  const set: SetExamination = (part) => onChange({ examination: { ...one, ...part } });
  const at = (name: string) => (fault?.field.includes(`examination.${name}`) ? fault.message : undefined);
  const following = STEPS[STEPS.findIndex(([id]) => id === step) + 1];
  const own = fault?.field.includes("examination") ?? false;
  return (
    <Dialog open={open} onClose={onClose} title="Disease examination" wide>
      <nav aria-label="Steps" className="mb-4 grid grid-cols-4 gap-px border border-ink bg-ink desk:grid-cols-7">
        {STEPS.map(([id, name]) => (
          <button
            key={id}
            type="button"
            aria-current={id === step ? "step" : undefined}
            onClick={() => setStep(id)}
            className={clsx(
              "min-h-14 px-1 font-semibold desk:min-h-10",
              id === step ? "bg-ink text-sheet" : "bg-sheet text-ink",
            )}>
            {name}
          </button>
        ))}
        <span aria-hidden="true" className="bg-paper desk:hidden" />
      </nav>
      <div className="space-y-5">
        {step === "queen" && (
          <QueenStep
            content={content}
            set={onChange}
            known={one.brood_combs ?? view.assessment.brood_combs}
            onDone={(combs) => {
              if (words.data) onChange({ examination: fullExamination(one, combs, words.data.groups) });
              setStep("not_seen");
            }}
          />
        )}
        {step === "combs" && <CombsStep one={one} set={set} at={at} known={view.assessment.brood_combs} />}
        {step === "cells" && <CellsStep one={one} set={set} at={at} />}
        {step === "signs" && <SignsStep one={one} set={set} at={at} />}
        {step === "bees" && <BeesStep one={one} set={set} at={at} />}
        {step === "kit" && <KitStep one={one} set={set} at={at} />}
        {step === "not_seen" && words.data && <NotSeenStep one={one} set={set} words={words.data} />}
        {own && fault && <Notice tone="act">{fault.message}</Notice>}
        <Button variant="main" big className="w-full" onClick={() => (following ? setStep(following[0]) : onClose())}>
          {following ? `Next: ${following[1].toLowerCase()}` : "Done"}
        </Button>
      </div>
    </Dialog>
  );
}
