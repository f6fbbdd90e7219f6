import { useState } from "react";
import { refusalOf } from "../api/client.ts";

type Refusal = { path: string; text: string };
const NONE: Refusal = { path: "", text: "" };

/** A request of a form: whether it is under way, and what was refused, with the field it is about. */
export function useAsk(): {
  busy: boolean;
  refused: Refusal;
  wrong: (field: string) => string | undefined;
  ask: (work: () => Promise<void>) => Promise<boolean>;
} {
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState(NONE);
  const ask = async (work: () => Promise<void>) => {
    setBusy(true);
    setRefused(NONE);
    try {
      await work();
      return true;
    } catch (error) {
      setRefused(refusalOf(error));
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { busy, refused, wrong: (field) => (refused.path === `/${field}` ? refused.text : undefined), ask };
}
