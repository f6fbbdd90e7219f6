import type { RunSide } from "../../api/types.ts";
import { lasting, show } from "../../format/quantity.ts";

export type Scale = (value: number) => number;
export const LANE = 64;
const WORDS: Record<string, string> = { ran: "ran", pump: "pump", nitrogen: "nitrogen" };

/** What one of the two did: ran, what went in and out, and what was read before it had settled. */
export function Lane({
  side,
  name,
  y,
  x,
  left,
  system,
  colour,
  settle,
}: {
  side: RunSide;
  name: string;
  y: number;
  x: Scale;
  left: number;
  system: "us" | "si";
  colour: string;
  settle: number;
}) {
  const moved = side.spans.filter((span) => span.what === "in" || span.what === "out");
  return (
    <g>
      <text x="0" y={y + 19} fontSize="15" fontWeight="620" style={{ fill: colour }}>
        {name}
      </text>
      <line x1={left} x2={x(side.took_s)} y1={y + 14} y2={y + 14} stroke="var(--rule)" />
      {side.spans
        .filter((span) => span.what === "ran" || span.what === "pump" || span.what === "nitrogen")
        .map((span) => (
          <g key={`${span.what} ${span.from_s}`}>
            <rect
              x={x(span.from_s)}
              y={y + 2}
              width={Math.max(x(span.to_s) - x(span.from_s), 1)}
              height="24"
              fill={span.what === "ran" ? "var(--tint)" : "var(--lowtint)"}
              stroke="var(--ink)"
            />
            {x(span.to_s) - x(span.from_s) > 92 &&
              !moved.some((one) => x(one.to_s) > x(span.from_s) && x(one.from_s) < x(span.from_s) + 92) && (
                <text x={x(span.from_s) + 6} y={y + 19} fontSize="14">
                  {WORDS[span.what]} {lasting(span.to_s - span.from_s)}
                </text>
              )}
          </g>
        ))}
      {moved.map((span) => (
        <g key={`${span.what} ${span.from_s}`}>
          <rect
            x={x(span.from_s)}
            y={y - 2}
            width={Math.max(x(span.to_s) - x(span.from_s), 4)}
            height="32"
            fill={colour}
          />
          <text
            x={(x(span.from_s) + x(span.to_s)) / 2}
            y={y + 46}
            fontSize="14"
            fontWeight="640"
            textAnchor="middle"
            style={{ fill: colour }}
          >
            {span.mass_kg > 0 ? "+" : "−"} {show(Math.abs(span.mass_kg), "mass", system)}
          </text>
        </g>
      ))}
      {side.moments
        .filter((one) => one.too_soon && one.left_alone_s < settle)
        .map((one) => (
          <g key={one.time_s}>
            <rect
              x={x(one.time_s - Math.max(one.left_alone_s, 0))}
              y={y + 2}
              width={Math.max(x(one.time_s) - x(one.time_s - one.left_alone_s), 3)}
              height="24"
              fill="none"
              stroke="var(--stop)"
              strokeWidth="1.8"
              strokeDasharray="3 2"
            />
            <text
              x={x(one.time_s)}
              y={y - 6}
              fontSize="14"
              fontWeight="640"
              textAnchor="middle"
              style={{ fill: "var(--stop)" }}
            >
              only {lasting(one.left_alone_s)}
            </text>
          </g>
        ))}
    </g>
  );
}
