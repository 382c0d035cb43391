/** A sign on a frame, from the fixed vocabulary: which, on which side, how much. */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { LookAlikes, SignFace } from "./look-alikes";

type Sign = Schemas["Sign"];
type Props = {
  open: boolean;
  onClose: () => void;
  signs: Sign[];
  /** Of the frame in hand: with its sides, and only what can be seen on a comb. */
  ofComb?: boolean;
  onAdd: (sign: Schemas["SignSeen"]) => void;
};

const GROUP: Record<string, string> = {
  cappings: "Cappings and pattern",
  larvae: "Larvae, pupae, remains",
  tests: "Tests and smell",
  mites_and_bees: "Mites and bees",
  queen_and_food: "Eggs, cells, food",
  pests: "Pests",
};

/** What few, some and many are, by what is counted. */
const HOW_MUCH: Record<string, string> = {
  cells: "few: to 10 cells; some: to 100; many: more.",
  bees: "few: to 5 bees; some: to 50; many: more.",
  extent: "few: under 100 dead bees; some: to 1000; many: more.",
  number: "few: to 5; some: to 50; many: more.",
};

export function SignDialog({ open, onClose, signs, ofComb = true, onAdd }: Props) {
  const [chosen, setChosen] = useState<Sign | null>(null);
  const close = () => {
    setChosen(null);
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} title={chosen ? chosen.name : "Which sign?"} wide>
      {chosen ? (
        <HowMuch
          chosen={chosen}
          ofComb={ofComb}
          onBack={() => setChosen(null)}
          onAdd={(part) => {
            onAdd({ sign: chosen.id, extent: null, number: null, side: null, ...part });
            close();
          }}
        />
      ) : (
        <WhichSign signs={ofComb ? signs.filter((one) => one.on_frame) : signs} onChoose={setChosen} />
      )}
    </Dialog>
  );
}

type HowMuchProps = {
  chosen: Sign;
  ofComb: boolean;
  onBack: () => void;
  onAdd: (part: Partial<Schemas["SignSeen"]>) => void;
};

function HowMuch({ chosen, ofComb, onBack, onAdd }: HowMuchProps) {
  const [side, setSide] = useState<"both" | "a" | "b">("both");
  const add = (part: Partial<Schemas["SignSeen"]>) => onAdd({ side: side === "both" ? null : side, ...part });
  return (
    <div className="space-y-4">
      <p>{chosen.definition}.</p>
      {chosen.examined.some((how) => how === "S" || how === "U") && (
        <p className="border-l-4 border-watch pl-3">
          Seen with the bees off the comb. Before you shake: is the queen found, and caged or on a frame put to one
          side? Brush a frame with queen cells, never shake it.
        </p>
      )}
      {ofComb && (
        <Choice
          label="Side"
          value={side}
          options={[
            ["both", "both or not recorded"],
            ["a", "side a"],
            ["b", "side b"],
          ]}
          onChange={setSide}
        />
      )}
      <p className="font-semibold">How much? {HOW_MUCH[chosen.scale] ?? HOW_MUCH["cells"]}</p>
      <div className="grid grid-cols-3 gap-2">
        {(["few", "some", "many"] as const).map((extent) => (
          <Button key={extent} big onClick={() => add({ extent })}>
            {extent}
          </Button>
        ))}
      </div>
      {chosen.suspicious && (
        <p className="border-l-4 border-act pl-3">
          While this is not explained, no comb leaves the hive. Photograph it; open cells and draw a match through them.
          Report a suspicion to the competent authority as local law asks.
        </p>
      )}
      <LookAlikes sign={chosen.id} />
      <Button variant="quiet" onClick={onBack}>
        Another sign
      </Button>
    </div>
  );
}

function WhichSign({ signs, onChoose }: { signs: Sign[]; onChoose: (sign: Sign) => void }) {
  const [find, setFind] = useState("");
  const found = signs.filter((one) => `${one.name} ${one.definition}`.toLowerCase().includes(find.toLowerCase()));
  return (
    <>
      <input
        className="input"
        placeholder="Find a sign"
        aria-label="Find a sign"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      {Object.entries(GROUP).map(([group, title]) => {
        const here = found.filter((one) => one.group === group);
        return (
          here.length > 0 && (
            <section key={group} className="mt-4">
              <h3 className="mb-1 text-lg">{title}</h3>
              <div className="grid grid-cols-2 gap-1 desk:grid-cols-3">
                {here.map((one) => (
                  <Button key={one.id} className="justify-start text-left leading-tight" onClick={() => onChoose(one)}>
                    <SignFace sign={one.id} name={one.name} />
                  </Button>
                ))}
              </div>
            </section>
          )
        );
      })}
    </>
  );
}
