/** Undo of what was recorded a short while ago; what stands against it is said where the button is. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button } from "./button";
import { ErrorText } from "./field";

/** What an undo does not change; two counts compared are asked for by their ids, and one of them may be gone. */
const STAYS = new Set(["session", "comparison"]);

type Props = {
  /** What is undone, as a button says it: "Undo the wash". */
  label: string;
  /** A shorter text, where its row names the record. */
  text?: string;
  undo: () => Promise<unknown>;
  onUndone?: () => void;
};

export function Undo({ label, text, undo, onUndone }: Props) {
  const client = useQueryClient();
  const undone = useMutation({
    mutationFn: undo,
    onSuccess: async () => {
      onUndone?.();
      await client.invalidateQueries({ predicate: (query) => !STAYS.has(String(query.queryKey[0])) });
    },
  });
  const button = { onClick: () => undone.mutate(), disabled: undone.isPending || undone.isSuccess };
  return (
    <>
      {text ? (
        <button
          type="button"
          aria-label={label}
          className="min-h-14 px-1 underline underline-offset-4 desk:min-h-7 print:hidden"
          {...button}>
          {text}
        </button>
      ) : (
        <Button {...button}>{label}</Button>
      )}
      <ErrorText error={undone.error} />
    </>
  );
}
