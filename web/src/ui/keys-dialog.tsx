/** The keys that are in force on the screen, asked for by "?". */
import { Dialog } from "./dialog";
import { Key } from "./key-bar";
import { keysInForce } from "./keys";

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title="Keys on this screen">
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-2">
        {open &&
          keysInForce().map((one) => (
            <div key={`${one.shown}-${one.says}`} className="contents">
              <dt>
                <Key>{one.shown}</Key>
              </dt>
              <dd>{one.says}</dd>
            </div>
          ))}
      </dl>
    </Dialog>
  );
}
