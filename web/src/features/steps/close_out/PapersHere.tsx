import face from "@fontsource-variable/archivo/files/archivo-latin-wght-normal.woff2?url";
import { useRef, useState } from "react";
import { useSession } from "../../../app/session.ts";
import { ask } from "../../../engine/engine.ts";
import { useJob } from "../../../job/context.ts";
import { Dialog } from "../../../ui/Dialog.tsx";

const PAPERS = { record: "Print the record", label: "Print the label" } as const;

/** Record, label and document without signal: made on this device, of all that is entered here, and printed from the browser. */
export function PapersHere() {
  const { question, answer } = useJob();
  const { me, system } = useSession();
  const [page, setPage] = useState<{ name: keyof typeof PAPERS; html: string } | null>(null);
  const [refused, setRefused] = useState("");
  const frame = useRef<HTMLIFrameElement>(null);
  const make = async (paper: keyof typeof PAPERS) => {
    setRefused("");
    const source = `url(${new URL(face, window.location.href).href}) format("woff2")`;
    const asked = { ...(await question()), ask: "paper", paper, shop: me.shop, units: system, face: source };
    await ask<string>(asked).then(
      (html) => setPage({ name: paper, html }),
      (error: Error) => setRefused(error.message),
    );
  };
  const save = async () => {
    setRefused("");
    const text = await ask<string>({ ...(await question()), ask: "export" }).catch((error: Error) => {
      setRefused(error.message);
      return null;
    });
    if (text === null) return;
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
    link.download = `${answer.code}.yoshi-job.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  return (
    <div className="mt-3">
      <p className="flex flex-wrap gap-3">
        {(Object.keys(PAPERS) as (keyof typeof PAPERS)[]).map((paper) => (
          <button key={paper} type="button" className="btn" onClick={() => void make(paper)}>
            {PAPERS[paper]}
          </button>
        ))}
        <button type="button" className="btn" onClick={() => void save()}>
          Data file
        </button>
      </p>
      <p className="mt-1 text-[14px] text-soft">Made on this device; what waits to go out is in it.</p>
      {refused && (
        <p className="note stop mt-2" role="alert">
          {refused}
        </p>
      )}
      <Dialog
        open={page !== null}
        onOpenChange={(open) => !open && setPage(null)}
        title={page ? PAPERS[page.name] : ""}
      >
        <iframe ref={frame} title={page?.name ?? "paper"} srcDoc={page?.html} className="h-[60vh] w-full bg-white" />
        <button type="button" className="btn go mt-3" onClick={() => frame.current?.contentWindow?.print()}>
          Print
        </button>
      </Dialog>
    </div>
  );
}
