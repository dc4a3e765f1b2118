import { useMutation } from "@tanstack/react-query";
import type { ChangeEvent } from "react";
import { sayError } from "../api/client";

type Props = { send: (file: File) => Promise<unknown>; onSent: () => void };

/** Sends a picture from the phone or the disk, and says why where it is not taken. */
export function AddPicture({ send, onSent }: Props) {
  const adding = useMutation({ mutationFn: send, onSuccess: onSent });
  const pick = (e: ChangeEvent<HTMLInputElement>) => {
    const file = e.target.files?.[0];
    if (file) adding.mutate(file);
    e.target.value = "";
  };
  return (
    <>
      <label className="plain-button flex cursor-pointer items-center justify-self-start focus-within:outline-3 focus-within:outline-accent">
        {adding.isPending ? "Sending the picture…" : "Add a picture"}
        <input
          type="file"
          accept="image/jpeg,image/png"
          className="sr-only"
          onChange={pick}
          disabled={adding.isPending}
        />
      </label>
      {adding.error && (
        <p role="alert" className="text-loud">
          {sayError(adding.error)}
        </p>
      )}
    </>
  );
}
