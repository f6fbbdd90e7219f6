import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { chartQuery, type RetrofitAsk } from "../../api/queries.ts";
import type { RetrofitRow, RetrofitTable } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { inUnit, unitFor } from "../../format/quantity.ts";
import { PhChart } from "../../parts/PhChart.tsx";

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
  const { data: now } = useQuery(chartQuery(table.refrigerant, system));
  const { data: next } = useQuery(chartQuery(row.name, system));
  const domes = useMemo(() => [next, now].flatMap((state) => (state ? [state.chart] : [])), [next, now]);
  const ways = useMemo(
    () => [
      { name: row.name, points: row.cycle },
      { name: `${table.refrigerant}, now`, points: table.cycle, dashed: true },
    ],
    [row, table],
  );
  return (
    <section className="mt-6 border-t border-ink pt-2" aria-label="Both cycles">
      <h2>Both cycles</h2>
      <PhChart domes={domes} ways={ways} system={system} />
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
  if (!found || !amount) return null;
  const unit = unitFor(amount.quantity, system);
  const answered = Number(inUnit(amount.value, amount.quantity, unit).replace("−", "-"));
  const typed = Number.parseFloat((wish[id] ?? "").replace("−", "-"));
  const value = Number.isFinite(typed) && (wish[id] ?? "").includes(unit) ? typed : answered;
  const middle = Math.round(answered / WAY) * WAY;
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
        min={middle - 2 * WAY}
        max={middle + 2 * WAY}
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
