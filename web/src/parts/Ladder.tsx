import type { Band, System } from "../api/types.ts";
import { show } from "../format/quantity.ts";

/** One temperature rule: superheat hangs up from dew, subcooling down from bubble; distances are what the numbers say. */
export function Ladder({ bands, system, height = 430 }: { bands: Band[]; system: System; height?: number }) {
  if (!bands.length) return null;
  const edges = bands.flatMap((b) => {
    const sign = b.side === "low" ? 1 : -1;
    const limits = [b.low, b.high].filter((v): v is number => v !== null).map((v) => b.saturation.value + sign * v);
    return [b.saturation.value, b.measured.value, ...limits];
  });
  const low = Math.min(...edges) - 2;
  const high = Math.max(...edges) + 2;
  const y = (kelvin: number) => 20 + ((high - kelvin) / (high - low)) * (height - 40);
  return (
    <svg
      viewBox={`0 0 280 ${height}`}
      width="100%"
      role="img"
      aria-label={bands.map((b) => `${b.label} ${show(b.amount.value, "temperature_delta", system)}`).join(", ")}
    >
      <line x1="96" x2="96" y1="14" y2={height - 14} stroke="var(--ink)" strokeWidth="1.4" />
      {degrees(low, high, system).map((tick) => (
        <g key={tick.kelvin}>
          <line x1={tick.text ? 82 : 88} x2="96" y1={y(tick.kelvin)} y2={y(tick.kelvin)} stroke="var(--ink)" />
          {tick.text && (
            <text x="76" y={y(tick.kelvin) + 4} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
              {tick.text}
            </text>
          )}
        </g>
      ))}
      {bands.map((band) => (
        <BandMark key={band.id} band={band} y={y} system={system} />
      ))}
    </svg>
  );
}

function BandMark({ band, y, system }: { band: Band; y: (kelvin: number) => number; system: System }) {
  const sign = band.side === "low" ? 1 : -1;
  const colour = band.side === "low" ? "var(--low)" : "var(--high)";
  const tint = band.side === "low" ? "var(--lowtint)" : "var(--hightint)";
  const from = band.saturation.value;
  const to = band.measured.value;
  const limits = band.low !== null && band.high !== null ? [from + sign * band.low, from + sign * band.high] : null;
  const middle = (y(from) + y(to)) / 2;
  const apart = Math.abs(y(from) - y(to)) > 64;
  return (
    <g>
      {limits && (
        <rect
          x="132"
          y={Math.min(y(limits[0] ?? 0), y(limits[1] ?? 0))}
          width="12"
          height={Math.abs(y(limits[0] ?? 0) - y(limits[1] ?? 0))}
          fill="var(--holdtint)"
          stroke="var(--holds)"
        />
      )}
      <rect
        x="100"
        y={Math.min(y(from), y(to))}
        width="26"
        height={Math.max(Math.abs(y(from) - y(to)), 1.5)}
        fill={tint}
        stroke={colour}
      />
      <line x1="96" x2="150" y1={y(from)} y2={y(from)} stroke={colour} strokeWidth="2.5" />
      <line x1="96" x2="128" y1={y(to)} y2={y(to)} stroke="var(--ink)" strokeWidth="2.5" />
      {band.target !== null && (
        <line
          x1="126"
          x2="152"
          y1={y(from + sign * band.target)}
          y2={y(from + sign * band.target)}
          stroke="var(--holds)"
          strokeWidth="2"
          strokeDasharray="4 3"
        />
      )}
      <text x="156" y={(apart ? y(from) : middle + sign * 26) + 4} fontSize="13" style={{ fill: "var(--soft)" }}>
        {band.side === "low" ? "dew" : "bubble"} {show(from, "temperature", system)}
      </text>
      <text x="156" y={middle - 3} fontSize="14" fontWeight="640" style={{ fill: colour }}>
        {band.label}
      </text>
      <text x="156" y={middle + 13} fontSize="15" fontWeight="640">
        {show(band.amount.value, "temperature_delta", system)}
      </text>
      {apart && (
        <text x="156" y={y(to) + 4} fontSize="13" style={{ fill: "var(--soft)" }}>
          {band.side === "low" ? "suction" : "liquid"} line {show(to, "temperature", system)}
        </text>
      )}
    </g>
  );
}

function degrees(low: number, high: number, system: System): { kelvin: number; text: string }[] {
  const factor = system === "us" ? 5 / 9 : 1;
  const zero = system === "us" ? 273.15 - 32 / 1.8 : 273.15;
  const span = (high - low) / factor;
  const step = span > 90 ? 20 : span > 40 ? 10 : 5;
  const ticks = [];
  for (
    let value = Math.ceil((low - zero) / factor / (step / 5)) * (step / 5);
    value * factor + zero <= high;
    value += step / 5
  ) {
    ticks.push({
      kelvin: value * factor + zero,
      text: Math.abs(value % step) < 1e-6 ? `${Math.round(value)}°`.replace("-", "−") : "",
    });
  }
  return ticks;
}
