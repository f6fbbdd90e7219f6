import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { newKey, Refused, refusalOf } from "../../api/client.ts";

/** Sends a write of the book and brings every list up to date; what is refused stays on the form with its field. */
export function useBooking() {
  const queries = useQueryClient();
  const [refused, setRefused] = useState({ path: "", text: "" });
  const [busy, setBusy] = useState(false);
  const [key, setKey] = useState(newKey);
  const send = async (write: (key: string) => Promise<unknown>): Promise<boolean> => {
    setBusy(true);
    setRefused({ path: "", text: "" });
    try {
      await write(key);
      setKey(newKey());
      await Promise.all([
        queries.invalidateQueries({ queryKey: ["cylinders"] }),
        queries.invalidateQueries({ queryKey: ["cylinder"] }),
        queries.invalidateQueries({ queryKey: ["systems"] }),
      ]);
      return true;
    } catch (error) {
      if (error instanceof Refused) setKey(newKey());
      setRefused(refusalOf(error));
      return false;
    } finally {
      setBusy(false);
    }
  };
  const wrong = (name: string) => (refused.path === `/${name}` ? refused.text : undefined);
  return { send, refused, busy, wrong };
}

export function Form({
  children,
  go,
  busy,
  refused,
}: {
  children: ReactNode;
  go: string;
  busy: boolean;
  refused: string;
}) {
  return (
    <>
      {children}
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      <button type="submit" className="btn go mt-4" disabled={busy}>
        {go}
      </button>
    </>
  );
}
