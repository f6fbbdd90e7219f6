import { useEffect, useRef, useState } from "react";
import { Refused } from "../../../api/client.ts";
import { NotDone, paperOf } from "../../../api/tasks.ts";
import { useJob } from "../../../job/context.ts";
import { PapersHere } from "./PapersHere.tsx";

/** Record, label and document: opened beside the job, never instead of it. */
export function Papers({ code }: { code: string }) {
  const base = `/api/jobs/${code}`;
  const { fromDevice, able } = useJob();
  if (fromDevice) return able ? <PapersHere /> : <p className="mt-3 text-soft">Record and label need signal.</p>;
  return (
    <div className="mt-3 flex flex-wrap gap-3">
      <a className="btn" href={`${base}/record`} target="_blank" rel="noreferrer">
        Record
      </a>
      <Paper code={code} paper="record" />
      <Paper code={code} paper="label" />
      <a className="btn" href={`${base}/document`} download>
        Data file
      </a>
    </div>
  );
}

type Making = { state: "none" | "asked" | "made"; where?: string; refused?: string };

/** A PDF for the printer: asked for, waited for, and then there to open. It shows the job as it was when it was asked for. */
function Paper({ code, paper }: { code: string; paper: "record" | "label" }) {
  const { sendNow } = useJob();
  const [made, setMade] = useState<Making>({ state: "none" });
  const open = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    // the button that had the focus became a link: whoever has not moved on goes on from there
    if (made.state === "made" && document.activeElement === document.body) open.current?.focus();
  }, [made.state]);
  const ask = async () => {
    setMade({ state: "asked" });
    try {
      await sendNow();
      setMade({ state: "made", where: await paperOf(code, paper) });
    } catch (error) {
      const said = error instanceof Refused || error instanceof NotDone ? error.message : "No answer from the server.";
      setMade({ state: "none", refused: said });
    }
  };
  if (made.state === "made")
    return (
      <a
        ref={open}
        className="btn go"
        href={made.where}
        target="_blank"
        rel="noreferrer"
        onClick={() => setMade({ state: "none" })}
      >
        Open the {paper}
      </a>
    );
  return (
    <>
      <button type="button" className="btn" aria-disabled={made.state === "asked"} onClick={() => void ask()}>
        {made.state === "asked" ? `Setting the ${paper}…` : `Print the ${paper}`}
      </button>
      {made.refused && (
        <p className="note stop" role="alert">
          {made.refused}
        </p>
      )}
    </>
  );
}
