import { scaleLinear } from "d3-scale";
import type { Part, System } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { factorOf, show } from "../format/quantity.ts";

const FILLS = { plate: "var(--tint2)", line: "var(--line)", part: "var(--copper)" } as const;

/** The total as a stack on a ruled tape; lengths are true to weight. */
export function BuildUpTape({ parts, system, height = 330 }: { parts: Part[]; system: System; height?: number }) {
  const total = parts.reduce((sum, part) => sum + Math.max(part.kg, 0), 0);
  if (!total) return null;
  const top = total * 1.08;
  const y = scaleLinear([0, top], [height - 12, 12]);
  const ticks = rule(top, system);
  let stacked = 0;
  const boxes = parts.map((part) => {
    const from = stacked;
    stacked += Math.max(part.kg, 0);
    return { part, from, to: stacked };
  });
  const labels = spread(boxes.map((box) => y((box.from + box.to) / 2)));
  return (
    <svg
      viewBox={`0 0 280 ${height}`}
      width="100%"
      role="img"
      aria-label={`Charge made of ${parts.length} parts, ${show(total, "mass", system)} in all`}
    >
      {ticks.map((tick) => (
        <g key={tick.kg}>
          <line x1={tick.text ? 34 : 42} x2={50} y1={y(tick.kg)} y2={y(tick.kg)} stroke="var(--ink)" />
          {tick.text && !tick.text.includes("lb") && (
            <text x={28} y={y(tick.kg) + 4} textAnchor="end" fontSize="13">
              {tick.text}
            </text>
          )}
        </g>
      ))}
      <line x1="50" x2="50" y1="12" y2={y(0)} stroke="var(--ink)" strokeWidth="1.2" />
      {boxes.map(({ part, from, to }, n) => (
        <g key={part.id}>
          <rect
            x="51"
            y={y(to)}
            width="30"
            height={Math.max(y(from) - y(to), 1)}
            fill={FILLS[part.kind]}
            stroke="var(--ink)"
            strokeWidth="0.8"
          />
          <line x1="83" x2="96" y1={y((from + to) / 2)} y2={labels[n]} stroke="var(--edge)" />
          <text x="100" y={(labels[n] ?? 0) - 3} fontSize="13" style={{ fill: "var(--soft)" }}>
            {fill(part.label, system)}
          </text>
          <text x="100" y={(labels[n] ?? 0) + 13} fontSize="15" fontWeight="640">
            {show(part.kg, "mass", system)}
          </text>
        </g>
      ))}
      <line x1="40" x2="90" y1={y(total)} y2={y(total)} stroke="var(--copper)" strokeWidth="2.5" />
      <line x1="40" x2="270" y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="1.4" />
    </svg>
  );
}

/** Keep labels at least 38 apart without changing their order. */
function spread(wanted: number[]): number[] {
  const order = wanted.map((value, n) => ({ value, n })).sort((a, b) => b.value - a.value);
  let last = Number.POSITIVE_INFINITY;
  for (const item of order) {
    item.value = Math.min(item.value, last - 38);
    last = item.value;
  }
  const lowest = Math.min(...order.map((item) => item.value));
  const shift = lowest < 16 ? 16 - lowest : 0;
  const result: number[] = [];
  for (const item of order) result[item.n] = item.value + shift;
  return result;
}

const OUNCES = [1, 2, 4, 8, 16, 32, 80, 160, 320, 800, 1600, 3200];
const GRAMS = [5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000, 50000, 100000];

/** Ticks of a weight rule, named in pounds and ounces, in kilograms, or in grams for a small charge; never in decimal pounds, which read like ounces. */
export function rule(topKg: number, system: System, fromKg = 0): { kg: number; text: string }[] {
  const us = system === "us";
  const unit = factorOf("mass", us ? "oz" : "g");
  const [from, top] = [fromKg / unit, topKg / unit];
  const steps = us ? OUNCES : GRAMS;
  const step = steps.find((s) => (top - from) / s <= 9) ?? (steps[steps.length - 1] ?? 1) * 5;
  const ticks = [];
  for (let n = Math.ceil(from / (step / 4)); (n * step) / 4 <= top; n += 1) {
    const value = (n * step) / 4;
    ticks.push({
      kg: value * unit,
      text: n % 4 === 0 ? named(value, system) : "",
    });
  }
  return ticks;
}

function named(value: number, system: System): string {
  if (system === "us") return inPounds(value);
  return system === "grams" ? `${Number(value.toFixed(1))}` : `${Number((value / 1000).toFixed(3))}`;
}

function inPounds(ounces: number): string {
  const pounds = Math.trunc(ounces / 16);
  const rest = Math.abs(ounces - 16 * pounds);
  if (rest === 0) return `${pounds}`;
  return pounds === 0 ? `${ounces < 0 ? "-" : ""}${rest} oz` : `${pounds} lb ${rest}`;
}

/** The same build-up as lines of text, for phones and for the steps after. */
export function BuildUpLines({ parts, total, system }: { parts: Part[]; total: string; system: System }) {
  return (
    <dl className="text-[14px]">
      {parts.map((part) => (
        <div key={part.id} className="flex justify-between gap-3 py-[1px]">
          <dt className="text-soft">{fill(part.label, system)}</dt>
          <dd className="font-semibold whitespace-nowrap">{show(part.kg, "mass", system)}</dd>
        </div>
      ))}
      <div className="mt-1 flex items-baseline justify-between gap-3 border-t border-rule pt-1">
        <dt>total</dt>
        <dd className="text-[16px] font-semibold whitespace-nowrap">{total}</dd>
      </div>
    </dl>
  );
}
