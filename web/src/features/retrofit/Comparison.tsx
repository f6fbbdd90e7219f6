import { scaleLinear } from "d3-scale";
import { useState } from "react";
import type { RetrofitProperty, RetrofitRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Scrollable } from "../../ui/Scrollable.tsx";

export const NAMES: Record<string, string> = {
  capacity: "capacity",
  power: "power",
  duty: "power, same duty",
  discharge: "discharge",
  low: "suction",
  high: "head",
  flow: "flow, same duty",
  valve: "valve opening",
  pressure: "worst day",
  glide: "glide",
  gwp: "GWP",
  co2e: "CO₂, all of it",
};
const NOTES: Record<string, string> = {
  power: "same compressor",
  duty: "for as much cooling",
  pressure: "bubble; the mark is the plate's",
  glide: "what a reading from the wrong end is off by",
  flow: "for as much cooling",
  low: "at the mean of the coil",
  high: "at the mean of the coil",
};
const FIRST = 4;
const [WIDTH, PAD, HEIGHT] = [128, 7, 20];

/** Those that may not go in, first, each with its reasons. */
export function Stopped({ rows }: { rows: RetrofitRow[] }) {
  const { system } = useSession();
  const [all, setAll] = useState(false);
  if (!rows.length) return null;
  const shown = all ? rows : rows.slice(0, FIRST);
  return (
    <section className="mt-4 border-t border-ink pt-2" aria-label="Stopped first">
      <p>
        <b className="text-stop">Stopped first</b>{" "}
        <span className="text-[14px] text-soft">not possible here, whatever else is good about them</span>
      </p>
      <ul className="mt-2 grid gap-x-5 gap-y-2 sm:grid-cols-2 xl:grid-cols-4">
        {shown.map((row) => (
          <li key={row.name} className="border-l border-rule pl-3">
            <p className="flex items-center gap-2">
              <VerdictBadge word="Stop" />
              <b className="text-[16px]">{row.name}</b>
            </p>
            <p className="text-[14px] text-soft">{row.stops.map((stop) => fill(stop, system)).join(" ")}</p>
          </li>
        ))}
      </ul>
      {rows.length > FIRST && (
        <button type="button" className="btn quiet" onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `${rows.length - FIRST} more are stopped`}
        </button>
      )}
    </section>
  );
}

/** Those that may, side by side: each property a dot against its mark. */
export function Comparison({
  rows,
  chosen,
  onChoose,
}: {
  rows: RetrofitRow[];
  chosen: string;
  onChoose: (name: string) => void;
}) {
  const [all, setAll] = useState(false);
  if (!rows.length) return <p className="note mt-4">Nothing in the catalogue may go in here.</p>;
  const shown = all ? rows : rows.slice(0, FIRST);
  const ids = [...new Set(rows.flatMap((row) => row.properties.map((property) => property.id)))];
  return (
    <div className="mt-4">
      <Scrollable label="Candidates side by side">
        <table className="w-full border-collapse text-left text-[14px]">
          <thead>
            <tr className="border-y border-ink align-top">
              <th scope="col" className="py-2 pr-3 font-normal text-soft">
                against what is in it
              </th>
              {shown.map((row) => (
                <th key={row.name} scope="col" className={`px-2 py-1 ${row.name === chosen ? "bg-tint" : ""}`}>
                  <button
                    type="button"
                    className="min-h-[44px] text-left text-[17px] font-semibold"
                    aria-pressed={row.name === chosen}
                    onClick={() => onChoose(row.name)}
                  >
                    {row.name} <span className="text-[14px] font-normal text-soft">{row.safety_class}</span>
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {ids.map((id) => (
              <Property key={id} id={id} rows={rows} shown={shown} chosen={chosen} />
            ))}
          </tbody>
        </table>
      </Scrollable>
      {rows.length > FIRST && (
        <button type="button" className="btn quiet mt-1" onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `Compare ${rows.length - FIRST} more`}
        </button>
      )}
    </div>
  );
}

const of = (row: RetrofitRow, id: string) => row.properties.find((property) => property.id === id);

function Property({
  id,
  rows,
  shown,
  chosen,
}: {
  id: string;
  rows: RetrofitRow[];
  shown: RetrofitRow[];
  chosen: string;
}) {
  const { system } = useSession();
  const ends = rows.flatMap((row) => {
    const property = of(row, id);
    return property ? [property.value, property.mark] : [];
  });
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className="py-2 pr-3 font-semibold whitespace-nowrap">
        {NAMES[id] ?? id}
        {NOTES[id] && (
          <span className="block max-w-[130px] text-[14px] font-normal whitespace-normal text-soft">{NOTES[id]}</span>
        )}
      </th>
      {shown.map((row) => {
        const property = of(row, id);
        return (
          <td key={row.name} className={`px-2 py-2 ${row.name === chosen ? "bg-tint" : ""}`}>
            {property ? (
              <>
                <p className={property.bad ? "font-semibold text-stop" : "font-semibold"}>
                  {fill(property.said, system)}
                </p>
                <Dot property={property} low={low} high={high} />
              </>
            ) : (
              "—"
            )}
          </td>
        );
      })}
    </tr>
  );
}

/** A dot against its mark, both on the rule all candidates share; said in words beside it. */
function Dot({ property, low, high }: { property: RetrofitProperty; low: number; high: number }) {
  const x = scaleLinear([low, high], [PAD, WIDTH - PAD]);
  const [dot, mark] = [x(property.value), x(property.mark)];
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true">
      <line x1={PAD} x2={WIDTH - PAD} y1="10" y2="10" stroke="var(--edge)" />
      <rect x={Math.min(dot, mark)} y="7" width={Math.abs(dot - mark)} height="6" fill="var(--tint2)" />
      <line x1={mark} x2={mark} y1="2" y2="18" stroke="var(--ink)" strokeWidth="2" />
      <circle cx={dot} cy="10" r="5.5" fill={property.bad ? "var(--stop)" : "var(--copper)"} />
    </svg>
  );
}
