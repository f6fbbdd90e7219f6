import { useState } from "react";
import { circuitsQuery, useRows } from "../api/lists.ts";
import { PickFrom } from "./PickFrom.tsx";
import { useSettled } from "./useSettled.ts";

export type Naming = { title: string; circuit: string };

/** Which circuit a job is on, and what it is called. */
export function JobNaming({ value, onChange }: { value: Naming; onChange: (next: Naming) => void }) {
  const [search, setSearch] = useState("");
  const [name, setName] = useState("");
  const { rows, hasMore } = useRows(circuitsQuery({ search: useSettled(search) }));
  return (
    <>
      <PickFrom
        id="job-circuit"
        label="circuit"
        none="a unit not known here yet"
        value={value.circuit}
        rows={rows.map((row) => ({ key: String(row.id), text: `${row.site}: ${row.name}` }))}
        hasMore={hasMore}
        search={search}
        onSearch={setSearch}
        onPick={(circuit) => {
          setName(rows.find((row) => String(row.id) === circuit)?.name ?? "");
          onChange({ ...value, circuit });
        }}
      />
      <label className="lab mt-4 block" htmlFor="job-title">
        name of the job
      </label>
      <input
        id="job-title"
        className="control"
        maxLength={160}
        value={value.title}
        placeholder={name || "which unit, where"}
        onChange={(event) => onChange({ ...value, title: event.target.value })}
      />
    </>
  );
}

/** The same as the server takes it. */
export function namingBody({ title, circuit }: Naming) {
  return { title, circuit_id: circuit ? Number(circuit) : null };
}
