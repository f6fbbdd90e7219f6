/** The clock as a tape: what was done, what runs, and when it is told. */
import { scaleTime } from "d3-scale";
import { useNow } from "../device/useNow.ts";
import { clock } from "../format/quantity.ts";

export type Moment = { at: string; label: string; kind?: "done" | "decide" };
const HEIGHT = 420;
const TOP = 22;
const AXIS = 74;
const APART = 21;

/** Places of the labels, pushed apart so that none covers another. */
export function spread(wanted: number[], apart: number): number[] {
  const placed: number[] = [];
  for (const y of wanted) placed.push(Math.max(y, (placed[placed.length - 1] ?? Number.NEGATIVE_INFINITY) + apart));
  return placed;
}

export function ClockTape({ moments }: { moments: Moment[] }) {
  const now = useNow(5000);
  const sorted = [...moments].sort((a, b) => a.at.localeCompare(b.at));
  const first = sorted[0];
  if (!first) return <p className="text-[14px] text-soft">What is done when stands here, once the first thing is.</p>;
  const times = sorted.map((moment) => new Date(moment.at).getTime());
  const from = times[0] ?? now;
  const running = now - (times[times.length - 1] ?? now) < 12 * 3600_000;
  const until = Math.max(...times, running ? now : 0, from + 10 * 60_000);
  const y = scaleTime([from, until], [TOP, HEIGHT - 16]);
  const ticks = y.ticks(6).map((tick) => tick.getTime());
  const labels = spread(
    times.map((time) => y(time)),
    APART,
  );
  const tall = Math.max(HEIGHT, (labels[labels.length - 1] ?? 0) + 16);
  return (
    <svg
      viewBox={`0 0 280 ${tall}`}
      width="100%"
      role="img"
      aria-label={sorted.map((moment) => `${clock(moment.at)} ${moment.label}`).join(", ")}
    >
      <line x1={AXIS} x2={AXIS} y1={TOP} y2={y(until)} stroke="var(--ink)" strokeWidth="1.4" />
      <rect x={AXIS} y={TOP} width="20" height={Math.max(y(until) - TOP, 0)} fill="var(--tint4)" stroke="var(--edge)" />
      {ticks.map((time) => (
        <g key={time}>
          <line x1={AXIS - 8} x2={AXIS} y1={y(time)} y2={y(time)} stroke="var(--ink)" />
          {(!running || Math.abs(y(time) - y(now)) > 18) && (
            <text x={AXIS - 13} y={y(time) + 4.5} textAnchor="end" fontSize="14" style={{ fill: "var(--soft)" }}>
              {clock(time)}
            </text>
          )}
        </g>
      ))}
      {sorted.map((moment, n) => {
        const at = y(times[n] ?? from);
        const colour = moment.kind === "decide" ? "var(--copper)" : "var(--ink)";
        return (
          <g key={moment.at + moment.label}>
            <path
              d={`M${AXIS} ${at}H${AXIS + 20}L${AXIS + 32} ${labels[n]}H${AXIS + 38}`}
              fill="none"
              stroke={colour}
              strokeWidth={moment.kind === "decide" ? 2.4 : 1.2}
            />
            <text x={AXIS + 42} y={(labels[n] ?? at) + 4.5} fontSize="14" fontWeight={640} style={{ fill: colour }}>
              {clock(moment.at)}
              <tspan dx="7" fontWeight="400">
                {moment.label}
              </tspan>
            </text>
          </g>
        );
      })}
      {running && (
        <g>
          <path d={`M2 ${y(now) - 12}h54l10 12-10 12h-54z`} fill="var(--ink)" />
          <text x="8" y={y(now) + 5} fontSize="14" fontWeight="640" style={{ fill: "var(--sheet)" }}>
            {clock(now)}
          </text>
          <line x1={AXIS - 8} x2={AXIS + 20} y1={y(now)} y2={y(now)} stroke="var(--ink)" strokeWidth="2.4" />
        </g>
      )}
    </svg>
  );
}
