import { scaleLinear } from "d3-scale";
import type { Band, System } from "../api/types.ts";
import { factorOf, show, unitFor } from "../format/quantity.ts";
import { useWidth } from "../ui/useWidth.ts";

const HEIGHT = 84;
const AXIS = 60;
const PAD = 10;
const LEAST = 44;

/** A difference on its rule: what is allowed, where it stands with its ±, where it stood, and what the next step should give. */
export function BandRuler({ band, earlier, system }: { band: Band; earlier: number[]; system: System }) {
  const [ref, width] = useWidth(420);
  const unit = factorOf("temperature_delta", unitFor("temperature_delta", system));
  const now = band.amount.value / unit;
  const spread = (2 * (band.amount.u ?? 0)) / unit;
  const inUnit = (kelvin: number | null | undefined) => (kelvin == null ? null : kelvin / unit);
  const [low, high, target] = [inUnit(band.low), inUnit(band.high), inUnit(band.target)];
  const [most, expected] = [inUnit(band.most), inUnit(band.expected)];
  const seen = [now - spread, now + spread, low, high, expected, ...earlier.map((k) => k / unit)].filter(
    (v): v is number => v !== null,
  );
  const from = Math.min(0, Math.floor(Math.min(...seen)));
  const inner = Math.max(...seen, from + 10) * 1.06;
  const shownMost = most !== null && most <= inner * 1.5 && most > from ? most : null;
  const to = Math.ceil(Math.max(inner, shownMost === null ? 0 : shownMost * 1.02));
  const x = scaleLinear([from, to], [PAD, width - PAD]);
  const ticks = x.ticks((width - 2 * PAD) / LEAST);
  const free = (at: number) => Math.abs(x(at) - x(now)) > 54;
  return (
    <div ref={ref} className="min-w-0">
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        width="100%"
        height={HEIGHT}
        role="img"
        aria-label={words(band, system)}
        data-testid={`ruler-${band.id}`}
      >
        {low !== null && high !== null && (
          <>
            <rect
              x={x(Math.max(low, from))}
              y="18"
              width={Math.max(x(high) - x(Math.max(low, from)), 1)}
              height={AXIS - 18}
              fill="var(--holdtint)"
            />
            {[low, high].map((edge) => (
              <line key={edge} x1={x(edge)} x2={x(edge)} y1="18" y2={AXIS} stroke="var(--holds)" strokeWidth="2" />
            ))}
          </>
        )}
        {target !== null && (
          <>
            <line x1={x(target)} x2={x(target)} y1="18" y2="26" stroke="var(--holds)" strokeWidth="2" />
            <line x1={x(target)} x2={x(target)} y1={AXIS - 8} y2={AXIS} stroke="var(--holds)" strokeWidth="2" />
          </>
        )}
        {shownMost !== null && (
          <g data-most>
            <line x1={x(shownMost)} x2={x(shownMost)} y1="12" y2={AXIS} stroke="var(--stop)" strokeWidth="2" />
            <text x={x(shownMost) - 6} y="30" fontSize="13" textAnchor="end" style={{ fill: "var(--soft)" }}>
              no higher
            </text>
          </g>
        )}
        <line x1={PAD} x2={width - PAD} y1={AXIS} y2={AXIS} stroke="var(--ink)" strokeWidth="1.4" />
        {ticks.map((value) => (
          <g key={value}>
            <line x1={x(value)} x2={x(value)} y1={AXIS} y2={AXIS + 6} stroke="var(--ink)" />
            <text x={x(value)} y={AXIS + 20} fontSize="13" textAnchor="middle" style={{ fill: "var(--soft)" }}>
              {String(value).replace("-", "−")}
            </text>
          </g>
        ))}
        {earlier.map((kelvin, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: readings in their order; none moves
          <g key={`${n}-${kelvin}`} data-earlier>
            <circle cx={x(kelvin / unit)} cy="42" r="10" fill="var(--sheet)" stroke="var(--edge)" />
            <text x={x(kelvin / unit)} y="46.5" fontSize="13" textAnchor="middle">
              {n + 1}
            </text>
          </g>
        ))}
        {expected !== null && (
          <g data-expected>
            <circle
              cx={x(expected)}
              cy="42"
              r="8"
              fill="var(--sheet)"
              stroke="var(--copper)"
              strokeWidth="2"
              strokeDasharray="3.4 2.6"
            />
            {free(expected) && (
              <text x={x(expected)} y="13" fontSize="13" textAnchor="middle" style={{ fill: "var(--copper)" }}>
                then {show(band.expected ?? 0, "temperature_delta", system)}
              </text>
            )}
          </g>
        )}
        <g stroke={band.side === "low" ? "var(--low)" : "var(--high)"} strokeWidth="2.4">
          <line x1={x(now - spread)} x2={x(now + spread)} y1="42" y2="42" />
          {[now - spread, now + spread].map((end) => (
            <line key={end} x1={x(end)} x2={x(end)} y1="36" y2="48" />
          ))}
          <circle cx={x(now)} cy="42" r="6" fill={band.side === "low" ? "var(--low)" : "var(--high)"} />
        </g>
        <text x={x(now)} y="13" fontSize="13" fontWeight="640" textAnchor="middle">
          now
        </text>
      </svg>
    </div>
  );
}

function words(band: Band, system: System): string {
  const said = (kelvin: number) => show(kelvin, "temperature_delta", system);
  const held = band.low !== null && band.high !== null ? `, allowed ${said(band.low)} to ${said(band.high)}` : "";
  const then = band.expected == null ? "" : `, after the next step about ${said(band.expected)}`;
  const most = band.most == null ? "" : `, no higher than ${said(band.most)}`;
  return `${band.label} ${said(band.amount.value)}${held}${then}${most}`;
}
