import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";
import { circuitsQuery } from "../../api/queries.ts";
import type { BookRow, BookState } from "../../api/types.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Field, Select } from "../../parts/Field.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

const NO_ANSWER = "No answer from the server. Nothing was booked; try again when there is signal.";

/** Sends a write of the book and brings every list up to date; what is refused stays on the form with its field. */
function useBooking() {
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
      setRefused(
        error instanceof Refused ? { path: error.problem.path, text: error.message } : { path: "", text: NO_ANSWER },
      );
      return false;
    } finally {
      setBusy(false);
    }
  };
  const wrong = (name: string) => (refused.path === `/${name}` ? refused.text : undefined);
  return { send, refused, busy, wrong };
}

function Form({ children, go, busy, refused }: { children: ReactNode; go: string; busy: boolean; refused: string }) {
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

const EMPTY = {
  code: "",
  kind: "recovery" as "recovery" | "new",
  refrigerant: "",
  owner: "",
  tare: "",
  water_capacity: "",
  retest: "",
  gross: "",
};

export function AddCylinder() {
  const [open, setOpen] = useState(false);
  const [facts, setFacts] = useState(EMPTY);
  const [evacuated, setEvacuated] = useState(false);
  const { send, refused, busy, wrong } = useBooking();
  const navigate = useNavigate();
  const field = (name: keyof typeof EMPTY, label: string, hint = "") => (
    <Field
      label={label}
      hint={hint}
      value={facts[name]}
      problem={wrong(name)}
      onChange={(value) => setFacts({ ...facts, [name]: value })}
    />
  );
  const go = async () => {
    const done = await send((key) =>
      take(client.POST("/api/cylinders", { body: { key, ...facts, evacuated, oily: false } })),
    );
    if (done) {
      setOpen(false);
      navigate(`/cylinders/${encodeURIComponent(facts.code.trim())}`);
      setFacts(EMPTY);
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Add a cylinder"
      trigger={
        <button type="button" className="btn go">
          Add a cylinder
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Add it" busy={busy} refused={refused.path ? "" : refused.text}>
          <div className="grid grid-cols-2 gap-x-5">
            {field("code", "number or name on it")}
            <Select
              label="kind"
              value={facts.kind}
              options={{ recovery: "refillable, recovery", new: "one-way, new refrigerant" }}
              onChange={(kind) => setFacts({ ...facts, kind: kind as "new" | "recovery" })}
            />
            {field("refrigerant", "refrigerant in it", "empty if nothing is")}
            {field("owner", "owner of what is in it")}
            {field("tare", "tare", "stamped TW, 26 lb 11 oz")}
            {field("water_capacity", "water capacity", "stamped WC, 47.7 lb")}
            {field("retest", "retest due", "2029-03")}
            {field("gross", "scale reads now", "empty if it is empty")}
          </div>
          <label className="flex min-h-[44px] items-center gap-3 text-[15px]">
            <input
              type="checkbox"
              className="h-5 w-5 accent-[var(--copper)]"
              checked={evacuated}
              onChange={(event) => setEvacuated(event.target.checked)}
            />
            evacuated and purged, ready for its first use
          </label>
        </Form>
      </form>
    </Dialog>
  );
}

export function WeighAgain({ code, gross }: { code: string; gross: string }) {
  const [open, setOpen] = useState(false);
  const [reading, setReading] = useState("");
  const [reason, setReason] = useState("");
  const { send, refused, busy, wrong } = useBooking();
  const go = async () => {
    const params = { path: { code } };
    const done = await send((key) =>
      take(client.POST("/api/cylinders/{code}/weigh", { params, body: { key, gross: reading, reason } })),
    );
    if (done) {
      setOpen(false);
      setReading("");
      setReason("");
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`Weigh ${code}`}
      trigger={
        <button type="button" className="btn go">
          Weigh now
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Book the reading" busy={busy} refused={refused.path ? "" : refused.text}>
          <p className="text-[15px]">
            By the book it reads <b>{gross}</b>. The scale counts; a difference is booked and named.
          </p>
          <Field
            label="the scale reads, gross"
            value={reading}
            problem={wrong("gross")}
            onChange={setReading}
            autoFocus
          />
          <Field
            label="why it differs"
            hint="only asked when it does"
            value={reason}
            problem={wrong("reason")}
            onChange={setReason}
          />
        </Form>
      </form>
    </Dialog>
  );
}

const WHERE = {
  cylinder: "into another cylinder",
  circuit: "into a circuit of its owner",
  reclaim: "sent for reclaim",
  lost: "lost",
};

export function MoveOut({ from, rows }: { from: BookState; rows: BookRow[] }) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<keyof typeof WHERE>("cylinder");
  const [texts, setTexts] = useState({ to: "", mass: "", gross_after: "", reason: "" });
  const { send, refused, busy, wrong } = useBooking();
  const { data: circuits } = useQuery(circuitsQuery);
  const go = async () => {
    const params = { path: { code: from.code } };
    const done = await send((key) =>
      take(client.POST("/api/cylinders/{code}/move", { params, body: { key, to_kind: kind, ...texts } })),
    );
    if (done) {
      setOpen(false);
      setTexts({ to: "", mass: "", gross_after: "", reason: "" });
    }
  };
  const field = (name: keyof typeof texts, label: string, hint = "") => (
    <Field
      label={label}
      hint={hint}
      value={texts[name]}
      problem={wrong(name)}
      onChange={(value) => setTexts({ ...texts, [name]: value })}
    />
  );
  const into = Object.fromEntries(
    rows
      .filter((row) => row.kind === "recovery" && row.code !== from.code)
      .map((row) => [row.code, `${row.code} · ${row.refrigerant || "empty"} · ${row.account.badge}`]),
  );
  const circuitsOf = Object.fromEntries(
    (circuits?.data ?? []).map((circuit) => [circuit.code, `${circuit.site}: ${circuit.name}`]),
  );
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`Move out of ${from.code}`}
      trigger={
        <button type="button" className="btn">
          Move
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Book it" busy={busy} refused={refused.path ? "" : refused.text}>
          <Select
            label="where it goes"
            value={kind}
            options={WHERE}
            onChange={(next) => setKind(next as keyof typeof WHERE)}
          />
          {(kind === "cylinder" || kind === "circuit") && (
            <Select
              label={kind}
              value={texts.to}
              options={{ "": "—", ...(kind === "cylinder" ? into : circuitsOf) }}
              problem={wrong("to")}
              onChange={(to) => setTexts({ ...texts, to })}
            />
          )}
          <div className="grid grid-cols-2 gap-x-5">
            {field("mass", "how much", kind === "reclaim" ? "empty: all of it" : "7 lb 3 oz")}
            {field("gross_after", "or what the scale reads after")}
          </div>
          {field("reason", "reason", kind === "lost" ? "needed" : "")}
        </Form>
      </form>
    </Dialog>
  );
}

export function Prepare({ code }: { code: string }) {
  const { send, refused, busy } = useBooking();
  return (
    <>
      <button
        type="button"
        className="btn"
        disabled={busy}
        onClick={() =>
          void send((key) =>
            take(client.POST("/api/cylinders/{code}/prepare", { params: { path: { code } }, body: { key } })),
          )
        }
      >
        Evacuated and purged
      </button>
      {refused.text && (
        <p className="note stop w-full" role="alert">
          {refused.text}
        </p>
      )}
    </>
  );
}

export function ImportCylinders() {
  const { send } = useBooking();
  return (
    <CsvImport
      title="Cylinders from a CSV file"
      columns="code, kind, refrigerant, owner, tare, water_capacity, retest, gross, evacuated"
      write={(text) => take(client.POST("/api/cylinders/import", { body: { key: newKey(), text } }))}
      done={() => void send(async () => undefined)}
    />
  );
}
