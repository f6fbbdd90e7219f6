import { scaleLinear } from "d3-scale";
import type { ChargeEvent, System } from "../../api/types.ts";
import { nowMs } from "../../device/time.ts";
import { show } from "../../format/quantity.ts";
import { Scrollable } from "../../ui/Scrollable.tsx";

const WIDTH = 760;
const HEIGHT = 230;
const LEFT = 16;
const BASE = 170;

/** Added up, recovered down, each at its day; the full charge as a dashed line. */
export function ChargePicture({
  events,
  full,
  system,
}: {
  events: ChargeEvent[];
  full: number | null;
  system: System;
}) {
  if (!events.length) return null;
  const times = events.map((event) => new Date(event.at).getTime());
  const first = Math.min(...times);
  const last = Math.max(nowMs(), ...times);
  const span = Math.max(last - first, 86_400_000);
  const most = Math.max(...events.map((event) => event.kg), full ?? 0) * 1.1;
  const least = Math.max(...events.filter((e) => e.kind === "recovered").map((e) => e.kg), 0);
  const up = BASE - 24;
  const scale = Math.min(up / most, least ? (HEIGHT - BASE - 24) / least : Number.POSITIVE_INFINITY);
  const x = scaleLinear([first, first + span], [LEFT + 30, WIDTH - 60]);
  const years = Array.from(
    { length: new Date(last).getFullYear() - new Date(first).getFullYear() + 1 },
    (_, n) => new Date(first).getFullYear() + n,
  );
  return (
    <Scrollable className="mt-4" label="Charge over the years">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        style={{ minWidth: 760 }}
        role="img"
        aria-label={events
          .map((e) => `${new Date(e.at).toLocaleDateString("en-GB")} ${e.kind} ${show(e.kg, "mass", system)}`)
          .join("; ")}
      >
        {full !== null && (
          <g>
            <line
              x1={LEFT}
              x2={WIDTH - 10}
              y1={BASE - full * scale}
              y2={BASE - full * scale}
              stroke="var(--holds)"
              strokeDasharray="6 4"
            />
            <text
              x={WIDTH - 12}
              y={BASE - full * scale - 5}
              textAnchor="end"
              fontSize="13"
              style={{ fill: "var(--holds)" }}
            >
              full {show(full, "mass", system)}
            </text>
          </g>
        )}
        <line x1={LEFT} x2={WIDTH - 10} y1={BASE} y2={BASE} stroke="var(--ink)" strokeWidth="1.4" />
        {years.map((year) => {
          const at = new Date(`${year}-01-01T00:00:00Z`).getTime();
          if (at < first || at > last) return null;
          return (
            <g key={year}>
              <line x1={x(at)} x2={x(at)} y1={BASE} y2={BASE + 6} stroke="var(--ink)" />
              <text x={x(at)} y={HEIGHT - 4} textAnchor="middle" fontSize="13" style={{ fill: "var(--soft)" }}>
                {year}
              </text>
            </g>
          );
        })}
        {events.map((event, n) => {
          const at = x(times[n] ?? first);
          const tall = Math.max(event.kg * scale, 2);
          const added = event.kind === "added";
          return (
            <g key={`${event.at}${event.kind}${event.kg}`}>
              <rect
                x={at - 6}
                y={added ? BASE - tall : BASE}
                width="12"
                height={tall}
                fill={added ? "var(--tint2)" : "var(--lowtint)"}
                stroke={added ? "var(--copper)" : "var(--low)"}
              />
              <text
                x={at}
                y={added ? BASE - tall - 6 : BASE + tall + 14}
                textAnchor="middle"
                fontSize="13"
                fontWeight="600"
                paintOrder="stroke"
                stroke="var(--sheet)"
                strokeWidth="3"
              >
                {show(event.kg, "mass", system)}
              </text>
            </g>
          );
        })}
      </svg>
      <p className="text-[14px] text-soft">Up: added. Down: recovered. By the cylinder book and earlier records.</p>
    </Scrollable>
  );
}
