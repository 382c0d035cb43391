/**
 * The pattern of every form: a draft of its fields, one act that saves it, each error at its field, and nothing lost.
 */
import { useMutation } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState, type ReactNode } from "react";
import { Problem } from "@/client/types";
import { Button } from "./button";
import { dropDraft, keepDraft, readDraft } from "./drafts";
import { FormError } from "./field";

/** A form that was begun and left: whether there is something of it, and the ways out. */
export type Kept = { begun: boolean; forget: () => void; restart: () => void };

/**
 * What is being entered: the fields, and a setter that takes some of them. With a name to keep it under, what was begun
 * is still there after Escape, back or a reload, until it is saved or begun afresh. The name holds the version of what
 * is changed, so that nothing begun on an older one comes back.
 */
export function useDraft<T extends object>(initial: T | (() => T), keptAs?: string) {
  const key = keptAs && `form:${keptAs}`;
  const fresh = () => (typeof initial === "function" ? initial() : initial);
  const [found] = useState(() => (key ? readDraft<Partial<T>>(key, sessionStorage) : null));
  const [draft, setDraft] = useState<T>(() => ({ ...fresh(), ...found }));
  const [begun, setBegun] = useState(found !== null);
  const touched = useRef(false);
  useEffect(() => {
    if (key && touched.current) keepDraft(key, draft, sessionStorage);
  }, [key, draft]);
  const set = useCallback((part: Partial<T>) => {
    touched.current = true;
    setDraft((now) => ({ ...now, ...part }));
  }, []);
  const forget = () => {
    touched.current = false;
    setBegun(false);
    if (key) dropDraft(key, sessionStorage);
  };
  const restart = () => {
    forget();
    setDraft(fresh());
  };
  return [draft, set, { begun, forget, restart }] as const;
}

type Faults = Record<string, string | false | undefined>;
type Act<Given, Answer> = {
  act: (given: Given) => Promise<Answer>;
  done: (answer: Answer) => unknown;
  /** What can be said before anything is sent, by field; a field without a fault is false. */
  check?: (given: Given) => Faults;
  /** The draft that is done with once it is saved. */
  kept?: Kept;
};

export type Save<Given = void> = {
  send: (given: Given) => void;
  isSending: boolean;
  /** What was found here, and what the server said; both new at each attempt. */
  faults: Faults;
  error: Error | null;
  problem: Problem | null;
  /** What is wrong with a field, as found here or as the server said. */
  at: (field: string) => string | undefined;
};

/** Sends a draft, once at a time. */
export function useSave<Answer, Given = void>({ act, done, check, kept }: Act<Given, Answer>): Save<Given> {
  const [faults, setFaults] = useState<Faults>({});
  const saving = useMutation({
    mutationFn: act,
    onSuccess: (answer) => {
      kept?.forget();
      return done(answer);
    },
  });
  const problem = saving.error instanceof Problem ? saving.error : null;
  return {
    send: (given) => {
      const found = check?.(given) ?? {};
      setFaults(found);
      if (!saving.isPending && !Object.values(found).some(Boolean)) saving.mutate(given);
    },
    isSending: saving.isPending,
    faults,
    error: saving.error,
    problem,
    at: (field) => faults[field] || problem?.at(field),
  };
}

/**
 * What ties a field to the draft: `{...field("why")}`. A second name where the server calls the field otherwise; `name`
 * after it where the page has a field of that name already.
 */
export function bindFields<T extends object>(
  draft: T,
  set: (part: Partial<T>) => void,
  save: { at: (field: string) => string | undefined },
) {
  return <K extends keyof T & string>(key: K, field: string = key) => ({
    name: key,
    error: save.at(field),
    value: draft[key],
    onChange: (value: T[K]) => set({ [key]: value } as unknown as Partial<T>),
  });
}

type Props = {
  save: Save;
  kept?: Kept;
  /** Fields that show their own errors. */
  fields: string[];
  /** What the button does, and says while it does it. */
  label: string;
  sending?: string;
  disabled?: boolean;
  big?: boolean;
  /** Further acts next to the button. */
  more?: ReactNode;
  className?: string;
  children: ReactNode;
};

/** A form that is sent by its button or by Return; a fault takes the focus to its field. */
export function SaveForm({
  save,
  kept,
  fields,
  label,
  sending,
  disabled = false,
  big = false,
  more,
  className = "space-y-4",
  children,
}: Props) {
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector<HTMLElement>("[aria-invalid=true]")?.focus(), [save.faults, save.error]);
  const button = (
    <Button
      type="submit"
      variant="main"
      big={big}
      className={more ? "" : "w-full"}
      disabled={save.isSending || disabled}>
      {save.isSending && sending ? sending : label}
    </Button>
  );
  return (
    <form
      ref={form}
      noValidate
      className={className}
      onSubmit={(event) => {
        event.preventDefault();
        save.send();
      }}>
      {kept?.begun && (
        <p role="status" className="flex flex-wrap items-baseline gap-x-3 text-sm">
          What you had begun is still here.
          <button type="button" className="underline underline-offset-4" onClick={kept.restart}>
            Begin afresh
          </button>
        </p>
      )}
      {children}
      <FormError error={save.error} fields={fields} />
      {more ? (
        <div className="flex flex-wrap gap-3">
          {button}
          {more}
        </div>
      ) : (
        button
      )}
    </form>
  );
}
