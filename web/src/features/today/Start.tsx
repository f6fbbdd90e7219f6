import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { client, NoAnswer, newIds, saidOf, take } from "../../api/client.ts";
import type { JobState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { JobNaming, namingBody } from "../../parts/JobNaming.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { useOpenFile } from "../jobs/useOpenFile.tsx";

const NEEDS_SIGNAL = "No answer from the server, and the rules are not on this device: a new job needs signal.";

/** New job, quick total, or a job from a file. */
export function Start() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { me } = useSession();
  const [open, setOpen] = useState(false);
  const [naming, setNaming] = useState({ title: "", circuit: "" });
  const [refused, setRefused] = useState("");
  const { openFile, said } = useOpenFile();
  const file = useRef<HTMLInputElement>(null);
  const [ids, setIds] = useState(newIds);

  const goTo = ({ code, kind }: JobState) => navigate(`/job/${code}${kind === "quick" ? "" : "/identify"}`);
  const make = async (kind: "service" | "charge" | "quick") => {
    setRefused("");
    try {
      const body = { ...ids, kind, ...namingBody(naming) };
      const state = await take(client.POST("/api/jobs", { body }));
      setIds(newIds());
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      goTo(state);
    } catch (error) {
      if (!(error instanceof NoAnswer)) return setRefused(saidOf(error, NEEDS_SIGNAL));
      const { beginHere } = await import("../../job/begin.ts"); // of no use while there is a server
      await beginHere({ kind, ...namingBody(naming) }, me, ids).then(goTo, () => setRefused(NEEDS_SIGNAL));
    }
  };
  return (
    <div className="flex flex-wrap gap-3">
      <button type="button" className="btn flex-1 whitespace-nowrap" onClick={() => void make("quick")}>
        Quick total
      </button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="New job"
        trigger={
          <button type="button" className="btn flex-1 text-copper" style={{ borderColor: "var(--copper)" }}>
            New job
          </button>
        }
      >
        <JobNaming value={naming} onChange={setNaming} />
        <p className="mt-5 flex flex-wrap gap-3">
          <button type="button" className="btn go" onClick={() => void make("service")}>
            Whole job: gauges on first
          </button>
          <button type="button" className="btn" onClick={() => void make("charge")}>
            Charge only: it is empty already
          </button>
        </p>
        <p className="mt-6 border-t border-rule pt-3 text-soft">
          From another Yoshi:{" "}
          <button type="button" className="btn quiet" onClick={() => file.current?.click()}>
            Open a job file
          </button>
        </p>
        {refused && (
          <p className="note stop mt-4" role="alert">
            {refused}
          </p>
        )}
      </Dialog>
      <input
        ref={file}
        type="file"
        aria-label="Job file to open"
        className="hidden"
        accept=".json,application/json"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = "";
          setOpen(false);
          setRefused("");
          if (chosen) void openFile(chosen);
        }}
      />
      {said}
      {refused && !open && (
        <p className="note stop w-full" role="alert">
          {refused}
        </p>
      )}
    </div>
  );
}
