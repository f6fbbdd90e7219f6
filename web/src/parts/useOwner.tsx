import { type ReactNode, useCallback, useRef, useState } from "react";
import { client, Refused, take } from "../api/client.ts";
import { Dialog } from "../ui/Dialog.tsx";
import { Field } from "./Field.tsx";
import { useAsk } from "./useAsk.ts";

export type Owned = <T>(work: () => Promise<T>) => Promise<T>;
type Waits = { again: () => void; no: () => void };

/** What only an owner may do asks who it is again after some minutes; what was wanted is done once that is said. */
export function useOwner(): { owned: Owned; dialog: ReactNode } {
  const [open, setOpen] = useState(false);
  const waits = useRef<Waits[]>([]);
  const owned: Owned = useCallback(async (work) => {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Refused && error.problem.code === "confirm_first")) throw error;
      setOpen(true);
      await new Promise<void>((again, no) => waits.current.push({ again, no: () => no(error) }));
      return work();
    }
  }, []);
  const end = (how: keyof Waits) => {
    setOpen(false);
    for (const one of waits.current.splice(0)) one[how]();
  };
  return { owned, dialog: open && <SayWho onDone={() => end("again")} onClose={() => end("no")} /> };
}

function SayWho({ onDone, onClose }: { onDone: () => void; onClose: () => void }) {
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const { busy, refused, ask } = useAsk();
  const asksCode = refused.path === "/code" || code !== "";
  const go = async () => {
    if (await ask(async () => void (await take(client.POST("/api/session/confirm", { body: { password, code } })))))
      onDone();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Say once more who you are">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <p className="text-soft">Only the owner may do this, so your password is asked again.</p>
        <Field
          label="your password"
          type="password"
          autoComplete="current-password"
          autoFocus
          value={password}
          onChange={setPassword}
          problem={refused.path === "/password" ? refused.text : undefined}
        />
        {asksCode && (
          <Field
            label="code"
            value={code}
            onChange={setCode}
            hint={refused.path === "/code" ? refused.text : "The one your app shows now, or one from your paper."}
          />
        )}
        {refused.text && !["/password", "/code"].includes(refused.path) && (
          <p className="note stop" role="alert">
            {refused.text}
          </p>
        )}
        <button type="submit" className="btn go mt-3" disabled={busy}>
          Go on
        </button>
      </form>
    </Dialog>
  );
}
