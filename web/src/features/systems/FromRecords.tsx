import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, Refused, refusalOf, take } from "../../api/client.ts";
import { circuitQuery } from "../../api/queries.ts";
import type { CircuitState } from "../../api/types.ts";
import { nowMs } from "../../device/time.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

type Revision = { revision: number; at: string; by: string; reason: string };

/** What the record of the circuit was made of, last first; a changed refrigerant stands here with its job. */
export function Revisions({ circuit }: { circuit: CircuitState }) {
  const rows = circuit.revisions as Revision[];
  if (rows.length < 2) return null;
  return (
    <section className="mt-4" aria-label="The record over time">
      <h2 className="border-b border-ink pb-1">The record over time</h2>
      <ul className="text-[15px]">
        {rows.map((row) => (
          <li
            key={row.revision}
            className="grid grid-cols-[100px_minmax(0,1fr)] gap-3 border-b border-rule py-2 md:grid-cols-[100px_minmax(0,1fr)_160px]"
          >
            <span className="text-soft">
              {new Date(row.at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" })}
            </span>
            <span>{row.reason}</span>
            <span className="text-soft max-md:col-start-2">{row.by}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

export function FromRecords({ circuit }: { circuit: CircuitState }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<"opening" | "added" | "recovered">("opening");
  const [texts, setTexts] = useState({ mass: "", at: "", reason: "" });
  const [refused, setRefused] = useState({ path: "", text: "" });
  const [key, setKey] = useState(newKey);
  const go = async () => {
    setRefused({ path: "", text: "" });
    try {
      const at = texts.at ? new Date(`${texts.at}T12:00:00`).toISOString() : new Date(nowMs()).toISOString();
      const params = { path: { circuit_id: circuit.id } };
      const body = { key, kind, mass: texts.mass, at, reason: texts.reason };
      const state = await take(client.POST("/api/systems/{circuit_id}/past", { params, body }));
      queries.setQueryData(circuitQuery(circuit.id).queryKey, state);
      await queries.invalidateQueries({ queryKey: ["systems"] });
      setKey(newKey());
      setOpen(false);
    } catch (error) {
      if (error instanceof Refused) setKey(newKey());
      setRefused(refusalOf(error));
    }
  };
  const wrong = (name: string) => (refused.path === `/${name}` ? refused.text : undefined);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="From earlier records"
      trigger={
        <button type="button" className="btn quiet">
          Add from earlier records
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Select
          label="what it was"
          value={kind}
          options={{ opening: "opening balance", added: "added", recovered: "recovered" }}
          problem={wrong("kind")}
          onChange={(next) => setKind(next as typeof kind)}
        />
        <Field
          label="how much"
          hint="7 lb 3 oz, 3.2 kg"
          value={texts.mass}
          problem={wrong("mass")}
          onChange={(mass) => setTexts({ ...texts, mass })}
        />
        <Field
          label="on"
          type="date"
          value={texts.at}
          problem={wrong("at")}
          onChange={(at) => setTexts({ ...texts, at })}
        />
        <Field
          label="from which record"
          hint="logbook, invoice, label"
          value={texts.reason}
          problem={wrong("reason")}
          onChange={(reason) => setTexts({ ...texts, reason })}
        />
        {refused.text && !refused.path && (
          <p className="note stop mt-3" role="alert">
            {refused.text}
          </p>
        )}
        <button type="submit" className="btn go mt-4">
          Add it
        </button>
      </form>
    </Dialog>
  );
}
