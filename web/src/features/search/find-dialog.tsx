/** The search over any page, opened by its key or from the bar. */
import { useState } from "react";
import { Dialog } from "@/ui/dialog";
import { Find } from "./find";

export default function FindDialog({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState("");
  return (
    <Dialog open onClose={onClose} title="Find">
      <Find typed={typed} onType={setTyped} onFound={onClose} />
    </Dialog>
  );
}
