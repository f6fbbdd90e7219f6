import { useQuery } from "@tanstack/react-query";
import { circuitsQuery } from "../api/queries.ts";

export type Naming = { title: string; circuit: string };

/** Which circuit a job is on, and what it is called. */
export function JobNaming({ value, onChange }: { value: Naming; onChange: (next: Naming) => void }) {
  const { data } = useQuery(circuitsQuery);
  const circuits = data?.data ?? [];
  return (
    <>
      <label className="lab block" htmlFor="job-circuit">
        circuit
      </label>
      <select
        id="job-circuit"
        className="control"
        value={value.circuit}
        onChange={(event) => onChange({ ...value, circuit: event.target.value })}
      >
        <option value="">a unit not known here yet</option>
        {circuits.map((circuit) => (
          <option key={circuit.id} value={circuit.id}>
            {circuit.site}: {circuit.name}
          </option>
        ))}
      </select>
      <label className="lab mt-4 block" htmlFor="job-title">
        name of the job
      </label>
      <input
        id="job-title"
        className="control"
        maxLength={160}
        value={value.title}
        placeholder={circuits.find((c) => String(c.id) === value.circuit)?.name ?? "which unit, where"}
        onChange={(event) => onChange({ ...value, title: event.target.value })}
      />
    </>
  );
}

/** The same as the server takes it. */
export function namingBody({ title, circuit }: Naming) {
  return { title, circuit_id: circuit ? Number(circuit) : null };
}
