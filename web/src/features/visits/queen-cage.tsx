/** Whether the queen was caged at the visit, and is free again: no visit is closed with her in the cage. */
import { Checkbox } from "@/ui/checkbox";
import type { SetAfter } from "./after-set";
import type { After } from "./visit-queue";

export function QueenCage({ content, set }: { content: After; set: SetAfter }) {
  return (
    <>
      <Checkbox
        label="The queen was caged"
        checked={content.queen_caged}
        onChange={(caged) => set({ queen_caged: caged, queen_released: caged && content.queen_released })}
      />
      {content.queen_caged && (
        <Checkbox
          label="She is free again, between brood frames"
          checked={content.queen_released}
          onChange={(released) => set({ queen_released: released })}
        />
      )}
    </>
  );
}
