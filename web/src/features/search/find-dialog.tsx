/** The search over any page, opened by its key or from the bar. */
import { useState } from "react";
import { Dialog } from "@/ui/dialog";
import { Find } from "./find";

export function FindDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title="Find">
      {open && <FindOnce onFound={onClose} />}
    </Dialog>
  );
}

/** Begins empty each time that the dialog opens. */
function FindOnce({ onFound }: { onFound: () => void }) {
  const [typed, setTyped] = useState("");
  return <Find typed={typed} onType={setTyped} onFound={onFound} />;
}
