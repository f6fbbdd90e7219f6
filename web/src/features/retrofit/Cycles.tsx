import { useState } from "react";
import type { RetrofitAsk } from "../../api/queries.ts";
import type { RetrofitRow, RetrofitTable } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { inUnit, unitFor } from "../../format/quantity.ts";
import { BothCycles } from "../../parts/BothCycles.tsx";

const DRAGGED = ["evaporating", "condensing"] as const;
const WAY = 25;

/** Both ways round on pressure and enthalpy; the conditions are dragged, and the picture follows. */
export function Cycles({
  table,
  row,
  wish,
  onSlide,
  onDone,
}: {
  table: RetrofitTable;
  row: RetrofitRow;
  wish: RetrofitAsk;
  onSlide: (wish: RetrofitAsk) => void;
  onDone: () => void;
}) {
  const { system } = useSession();
  return (
    <section className="mt-6 border-t border-ink pt-2" aria-label="Both cycles">
      <h2>Both cycles</h2>
      <BothCycles
        now={{ refrigerant: table.refrigerant, points: table.cycle }}
        next={{ refrigerant: row.name, points: row.cycle }}
        system={system}
      />
      <div className="mt-2 grid gap-x-8 sm:grid-cols-2">
        {DRAGGED.map((id) => (
          <Slider key={id} id={id} table={table} wish={wish} onSlide={onSlide} onDone={onDone} />
        ))}
      </div>
    </section>
  );
}

function Slider({
  id,
  table,
  wish,
  onSlide,
  onDone,
}: {
  id: string;
  table: RetrofitTable;
  wish: RetrofitAsk;
  onSlide: (wish: RetrofitAsk) => void;
  onDone: () => void;
}) {
  const { system } = useSession();
  const found = table.assumptions.find((item) => item.id === id);
  const amount = found?.amount;
  const unit = unitFor("temperature", system);
  const answered = amount ? Number(inUnit(amount.value, "temperature", unit).replace("−", "-")) : 0;
  const [middle] = useState(Math.round(answered / WAY) * WAY);
  if (!found || !amount) return null;
  const typed = Number.parseFloat((wish[id] ?? "").replace("−", "-"));
  const value = Number.isFinite(typed) && (wish[id] ?? "").includes(unit) ? typed : answered;
  return (
    <label className="block text-[14px]">
      <span className="flex justify-between">
        <span className="text-soft">{found.label}</span>
        <b>
          {value.toFixed(1)} {unit}
        </b>
      </span>
      <input
        type="range"
        className="h-[44px] w-full accent-[var(--copper)]"
        min={Math.min(middle - 2 * WAY, value)}
        max={Math.max(middle + 2 * WAY, value)}
        step={0.5}
        value={value}
        onChange={(event) => onSlide({ ...wish, [id]: `${event.target.value} ${unit}` })}
        onPointerUp={onDone}
        onKeyUp={onDone}
        onBlur={onDone}
      />
    </label>
  );
}
