import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import { useSession } from "../../app/session.ts";
import { useJob } from "../../job/context.ts";
import { Select } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

/** For the lead: give a job, with the others of its work order, to somebody else. */
export function HandOn({ className }: { className: string }) {
  const { answer, link } = useJob();
  const { me } = useSession();
  const [open, setOpen] = useState(false);
  if (me.role === "technician" || answer.closed) return null;
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Hand this job on"
      trigger={
        <button type="button" className={`btn quiet ${className}`} disabled={link === "offline"}>
          Hand this job on
          <WhyNot unless={link !== "offline"}>needs signal</WhyNot>
        </button>
      }
    >
      <Form onDone={() => setOpen(false)} />
    </Dialog>
  );
}

function Form({ onDone }: { onDone: () => void }) {
  const { answer, refresh } = useJob();
  const { data } = useQuery(peopleQuery);
  const [to, setTo] = useState("");
  const [stays, setStays] = useState(false);
  const { busy, refused, wrong, ask } = useAsk();
  const open = (data?.people ?? []).filter((person) => person.active);
  const go = async () => {
    const params = { path: { code: answer.code } };
    const body = { key: newKey(), to, stays };
    if (await ask(async () => refresh(await take(client.POST("/api/jobs/{code}/hand-on", { params, body }))))) onDone();
  };
  return (
    <>
      <p>
        Named on it now: {answer.people.join(", ") || "nobody"}.
        {answer.siblings.length > 0 && " The other jobs of its work order go with it."}
      </p>
      <Select
        label="to"
        value={to}
        options={{ "": "choose", ...Object.fromEntries(open.map((person) => [person.username, person.name])) }}
        onChange={setTo}
        problem={wrong("to")}
      />
      <label className="mt-2 flex min-h-[44px] items-center gap-3">
        <input type="checkbox" checked={stays} onChange={(event) => setStays(event.target.checked)} />
        Those named on it now stay on it
      </label>
      {refused.text && refused.path !== "/to" && (
        <p className="note stop" role="alert">
          {refused.text}
        </p>
      )}
      <button type="button" className="btn go mt-3" disabled={busy || !to} onClick={() => void go()}>
        Hand it on
      </button>{" "}
      <WhyNot unless={to !== ""}>Choose to whom first.</WhyNot>
    </>
  );
}
