import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, take } from "../../api/client.ts";
import { useJob } from "../../job/context.ts";
import { Field } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

/** Call a job otherwise, or discard one that was begun for nothing. */
export function TidyJob({ className }: { className: string }) {
  const { answer, link } = useJob();
  const [open, setOpen] = useState(false);
  if (answer.closed && !answer.discarded) return null;
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={answer.title}
      trigger={
        <button type="button" className={`btn quiet ${className}`} disabled={link === "offline"}>
          Rename or discard
          <WhyNot unless={link !== "offline"}>needs signal</WhyNot>
        </button>
      }
    >
      {open && <Forms onDone={() => setOpen(false)} />}
    </Dialog>
  );
}

function Forms({ onDone }: { onDone: () => void }) {
  const { answer } = useJob();
  const [was] = useState(answer.title);
  const [title, setTitle] = useState(answer.title);
  const { busy, refused, wrong, ask } = useAsk();
  const { refresh } = useJob();
  const queries = useQueryClient();
  const [key] = useState(newKey);
  const params = { path: { code: answer.code } };
  const rename = async () => {
    const body = { key: newKey(), was, title };
    if (await ask(async () => refresh(await take(client.POST("/api/jobs/{code}/rename", { params, body }))))) onDone();
  };
  const discard = async () => {
    const body = { key, discarded: true };
    const done = await ask(async () => refresh(await take(client.POST("/api/jobs/{code}/discard", { params, body }))));
    await queries.invalidateQueries({ queryKey: ["jobs"] });
    if (done) onDone();
  };
  return (
    <div className="grid gap-6">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void rename();
        }}
      >
        <Field label="name of the job" value={title} onChange={setTitle} problem={wrong("title")} />
        <button type="submit" className="btn go mt-2" disabled={busy || title.trim() === was}>
          Rename it
        </button>{" "}
        <WhyNot unless={title.trim() !== was}>It is called that now.</WhyNot>
      </form>
      <section className="border-t border-rule pt-4" aria-label="Discard">
        <h3>Begun for nothing?</h3>
        <p className="text-[15px] text-soft">
          A job in which nothing was done leaves the lists. What was typed and its history stay, and it can be taken
          back.
        </p>
        {refused.text && refused.path !== "/title" && (
          <p className="note stop mt-2" role="alert">
            {refused.text}
          </p>
        )}
        <button type="button" className="btn mt-3" disabled={busy} onClick={() => void discard()}>
          Discard this job
        </button>
      </section>
    </div>
  );
}

/** Over a job that was discarded: what that means, and the way back. */
export function DiscardedNote() {
  const { answer, refresh } = useJob();
  const { busy, refused, ask } = useAsk();
  if (!answer.discarded) return null;
  const params = { path: { code: answer.code } };
  const back = () =>
    ask(async () =>
      refresh(
        await take(client.POST("/api/jobs/{code}/discard", { params, body: { key: newKey(), discarded: false } })),
      ),
    );
  return (
    <div className="note mb-4">
      This job was discarded: it is in no list, and nothing can be entered.{" "}
      <button type="button" className="btn ml-2" disabled={busy} onClick={() => void back()}>
        Take it back
      </button>
      {refused.text && <p role="alert">{refused.text}</p>}
    </div>
  );
}
