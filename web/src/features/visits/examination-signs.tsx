/** Signs of the hive and of combs that are not named: seen to an extent, or doubtful. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { signsQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import type { StepProps } from "./examination-steps";
import { SignDialog } from "./sign-dialog";

export function SignsStep({ one, set, at }: StepProps) {
  const [adding, setAdding] = useState(false);
  const signs = useQuery(signsQuery);
  const of = (id: string) => signs.data?.find((sign) => sign.id === id);
  const put = (sign: string, part: { seen: "seen" | "cannot_tell"; extent?: "few" | "some" | "many" | null }) =>
    set({
      signs: [
        ...one.signs.filter((seen) => seen.sign !== sign),
        { sign, extent: null, number: null, of: null, ...part },
      ],
    });
  return (
    <>
      <p>
        Signs on a comb are best recorded at its frame. Here: those of the hive as a whole, and what you cannot tell.
      </p>
      {one.signs.length > 0 && (
        <ul className="border-t border-line">
          {one.signs.map((seen) => (
            <li key={seen.sign} className="flex items-center justify-between gap-3 border-b border-line py-1">
              <span>
                <strong className={of(seen.sign)?.suspicious && seen.seen === "seen" ? "text-act" : ""}>
                  {of(seen.sign)?.name ?? seen.sign}
                </strong>
                , {seen.seen === "cannot_tell" ? "cannot tell" : (seen.number ?? seen.extent ?? "seen")}
              </span>
              <span className="flex shrink-0">
                {seen.seen === "seen" && (
                  <Button variant="quiet" onClick={() => put(seen.sign, { seen: "cannot_tell" })}>
                    Cannot tell
                  </Button>
                )}
                <Button
                  variant="quiet"
                  aria-label={`Remove: ${of(seen.sign)?.name ?? seen.sign}`}
                  onClick={() => set({ signs: one.signs.filter((each) => each.sign !== seen.sign) })}>
                  Remove
                </Button>
              </span>
            </li>
          ))}
        </ul>
      )}
      {at("signs") && (
        <p role="alert" className="font-semibold text-act">
          {at("signs")}
        </p>
      )}
      <Button className="w-full" onClick={() => setAdding(true)}>
        Add a sign
      </Button>
      <SignDialog
        open={adding}
        onClose={() => setAdding(false)}
        signs={signs.data ?? []}
        ofComb={false}
        onAdd={(seen) => put(seen.sign, { seen: "seen", extent: seen.extent ?? null })}
      />
    </>
  );
}
