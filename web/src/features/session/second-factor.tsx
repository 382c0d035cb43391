/** The second factor of an account: turning it on with a device, its recovery codes, turning it off. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { beginSecondFactor, confirmSecondFactor, endSecondFactor, makeRecoveryCodes } from "@/client/commands/session";
import { secondFactorQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });

type Step = "look" | "begin" | "codes" | "end";

export function SecondFactor() {
  const client = useQueryClient();
  const found = useQuery(secondFactorQuery);
  const [step, setStep] = useState<Step>("look");
  const [begun, setBegun] = useState<Schemas["BegunSecondFactor"]>();
  const [codes, setCodes] = useState<readonly string[]>();
  const again = () => client.invalidateQueries({ queryKey: ["account"] });
  const shown = async (made: Schemas["RecoveryCodes"]) => {
    setBegun(undefined);
    setStep("look");
    setCodes(made.recovery_codes);
    await again();
  };
  const now = found.data;
  return (
    <section aria-labelledby="second-factor" className="space-y-4">
      <h2 id="second-factor" className="border-b-2 border-ink pb-1 text-xl">
        Second factor
      </h2>
      {codes && <Codes codes={codes} onDone={() => setCodes(undefined)} />}
      {begun && <Confirm begun={begun} onShown={shown} onLeft={() => setBegun(undefined)} />}
      {step !== "look" && (
        <Again
          key={step}
          step={step}
          onBegun={setBegun}
          onMade={shown}
          onEnded={again}
          onLeft={() => setStep("look")}
        />
      )}
      {now && !codes && !begun && step === "look" && <Present now={now} onStep={setStep} />}
    </section>
  );
}

function Present({ now, onStep }: { now: Schemas["SecondFactorView"]; onStep: (step: Step) => void }) {
  if (now.since === null)
    return (
      <>
        <p className="text-ink-2">
          Off. With it, signing in asks for six figures from an authenticator app after the password: a password that
          somebody else knows opens nothing.
        </p>
        <Button onClick={() => onStep("begin")}>Turn on</Button>
      </>
    );
  return (
    <>
      <p>
        On since {DAY.format(new Date(now.since))}, <strong>{now.codes_left}</strong> of 10 recovery codes left.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => onStep("codes")}>New recovery codes</Button>
        <Button onClick={() => onStep("end")}>Turn off</Button>
      </div>
    </>
  );
}

const ASKS: Record<Exclude<Step, "look">, string> = {
  begin: "Go on",
  codes: "Make new recovery codes",
  end: "Turn the second factor off",
};

type AgainProps = {
  step: Exclude<Step, "look">;
  onBegun: (begun: Schemas["BegunSecondFactor"]) => void;
  onMade: (made: Schemas["RecoveryCodes"]) => unknown;
  onEnded: () => unknown;
  onLeft: () => void;
};

/** The password again, before what guards the account is changed. */
function Again({ step, onBegun, onMade, onEnded, onLeft }: AgainProps) {
  const [draft, set] = useDraft({ present: "" });
  const save = useSave({
    act: async () => {
      if (step === "begin") onBegun(await beginSecondFactor(draft));
      else if (step === "codes") await onMade(await makeRecoveryCodes(draft));
      else await endSecondFactor(draft);
    },
    done: async () => {
      onLeft();
      if (step === "end") await onEnded();
    },
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm
      save={save}
      fields={["present"]}
      label={ASKS[step]}
      disabled={!draft.present}
      more={<Button onClick={onLeft}>Back</Button>}>
      <TextField
        label="Your password"
        type="password"
        autoComplete="current-password"
        {...field("present")}
        name="second-factor-present"
      />
    </SaveForm>
  );
}

type ConfirmProps = {
  begun: Schemas["BegunSecondFactor"];
  onShown: (made: Schemas["RecoveryCodes"]) => unknown;
  onLeft: () => void;
};

function Confirm({ begun, onShown, onLeft }: ConfirmProps) {
  const [draft, set] = useDraft({ code: "" });
  const save = useSave({ act: () => confirmSecondFactor(draft), done: onShown });
  const field = bindFields(draft, set, save);
  const groups = begun.secret.match(/.{1,4}/g) ?? [];
  return (
    <SaveForm
      save={save}
      fields={["code"]}
      label="Turn on"
      disabled={!draft.code}
      more={<Button onClick={onLeft}>Back</Button>}>
      <ol className="list-decimal space-y-3 pl-5">
        <li>
          Take this up in the authenticator app of your telephone.
          <img src={begun.picture} alt="Square code with the secret that stands under it" className="my-2 block w-44" />
          <span className="block text-sm text-ink-2">Or type the secret:</span>
          <span className="figure block">{groups.join(" ")}</span>
        </li>
        <li>Enter the six figures that it shows.</li>
      </ol>
      <TextField label="Code" autoComplete="one-time-code" inputMode="numeric" maxLength={7} {...field("code")} />
    </SaveForm>
  );
}

function Codes({ codes, onDone }: { codes: readonly string[]; onDone: () => void }) {
  const copy = useMutation({ mutationFn: () => navigator.clipboard.writeText(codes.join("\n")) });
  return (
    <div className="space-y-3">
      <p>
        <strong>Write these down and keep them away from the telephone.</strong> Each signs you in once in the place of
        a code. They are not shown again; codes made before open nothing any more.
      </p>
      <ul className="figure grid grid-cols-2 gap-x-6 gap-y-1 border-l-4 border-ink bg-sheet p-4">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button variant="main" onClick={onDone}>
          I have them
        </Button>
        <Button onClick={() => copy.mutate()}>{copy.isSuccess ? "Copied" : "Copy"}</Button>
      </div>
    </div>
  );
}
