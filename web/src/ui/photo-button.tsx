/** Takes a picture and sends it; the same file sent again is the same photo. */
import { clsx } from "clsx";
import { useMutation } from "@tanstack/react-query";
import { useRef } from "react";
import { buttonClass } from "./button";

const MOST_BYTES = 12_000_000;

type Props = { label: string; send: (id: string, file: File) => Promise<unknown>; onSent: () => Promise<void> };

export function PhotoButton({ label, send, onSent }: Props) {
  const ids = useRef(new WeakMap<File, string>());
  const add = useMutation({
    mutationFn: async (file: File) => {
      if (!["image/jpeg", "image/png"].includes(file.type)) throw new Error("Choose a JPEG or PNG picture.");
      if (file.size > MOST_BYTES) throw new Error("The picture is larger than 12 MB.");
      const id = ids.current.get(file) ?? crypto.randomUUID();
      ids.current.set(file, id);
      return send(id, file);
    },
    onSuccess: onSent,
  });
  return (
    <>
      <label
        className={clsx(buttonClass("plain"), "cursor-pointer focus-within:outline-3 focus-within:outline-course")}>
        {add.isPending ? "Sending the photo …" : label}
        <input
          type="file"
          accept="image/jpeg,image/png"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) add.mutate(file);
          }}
        />
      </label>
      {add.error && (
        <p role="alert" className="font-semibold text-act">
          {add.error.message}
        </p>
      )}
    </>
  );
}
