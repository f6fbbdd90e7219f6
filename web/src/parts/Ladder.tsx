import { scaleLinear } from "d3-scale";
import type { Band, Rung, System } from "../api/types.ts";
import { show } from "../format/quantity.ts";

const LINE = 15;

type Named = { y: number; text: string; strong?: string; colour?: string };

/** One temperature rule: superheat hangs up from dew, subcooling down from bubble, air stands beside; distances are what the numbers say. */
export function Ladder({
  bands,
  rungs = [],
  system,
  height = 430,
}: {
  bands: Band[];
  rungs?: Rung[];
  system: System;
  height?: number;
}) {
  if (!bands.length && !rungs.length) return null;
  const edges = [
    ...bands.flatMap((b) => {
      const sign = b.side === "low" ? 1 : -1;
      const limits = [b.low, b.high].filter((v): v is number => v !== null).map((v) => b.saturation.value + sign * v);
      return [b.saturation.value, b.across.value, b.measured.value, ...limits];
    }),
    ...rungs.map((r) => r.amount.value),
  ];
  const low = Math.min(...edges) - 2;
  const high = Math.max(...edges) + 2;
  const y = scaleLinear([high, low], [20, height - 20]);
  const named = apart(
    [
      ...bands.flatMap((band) => labels(band, y, system)),
      ...rungs.map((r) => ({
        y: y(r.amount.value),
        text: `${r.label} ${show(r.amount.value, "temperature", system)}`,
      })),
    ],
    height,
  );
  return (
    <svg
      viewBox={`0 0 280 ${height}`}
      width="100%"
      role="img"
      aria-label={[
        ...bands.map((b) => `${b.label} ${show(b.amount.value, "temperature_delta", system)}`),
        ...rungs.map((r) => `${r.label} ${show(r.amount.value, "temperature", system)}`),
      ].join(", ")}
    >
      <line x1="60" x2="60" y1="14" y2={height - 14} stroke="var(--ink)" strokeWidth="1.4" />
      {degrees(low, high, system).map((tick) => (
        <g key={tick.kelvin}>
          <line x1={tick.text ? 46 : 52} x2="60" y1={y(tick.kelvin)} y2={y(tick.kelvin)} stroke="var(--ink)" />
          {tick.text && (
            <text x="42" y={y(tick.kelvin) + 4} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
              {tick.text}
            </text>
          )}
        </g>
      ))}
      {bands.map((band) => (
        <BandMark key={band.id} band={band} y={y} />
      ))}
      {rungs.map((rung) => (
        <line
          key={rung.id}
          x1="60"
          x2="74"
          y1={y(rung.amount.value)}
          y2={y(rung.amount.value)}
          stroke="var(--soft)"
          strokeWidth="1.6"
        />
      ))}
      {named.map((label) => (
        <g key={label.text + label.at}>
          <path d={`M114 ${label.y} L121 ${label.at}`} stroke="var(--edge)" fill="none" />
          <text
            x="124"
            y={label.at + 4}
            fontSize={label.strong ? 15 : 13}
            fontWeight={label.strong ? 640 : 400}
            style={{ fill: label.colour ?? "var(--soft)" }}
          >
            {label.text}
            {label.strong ? ` ${label.strong}` : ""}
          </text>
        </g>
      ))}
    </svg>
  );
}

function labels(band: Band, y: (kelvin: number) => number, system: System): Named[] {
  const from = band.saturation.value;
  const to = band.measured.value;
  const colour = band.side === "low" ? "var(--low)" : "var(--high)";
  const glide = Math.abs(from - band.across.value);
  const other = band.side === "low" ? "bubble" : "dew";
  return [
    ...(glide > 0.5
      ? [{ y: y(band.across.value), text: `${other} ${show(band.across.value, "temperature", system)}`, colour }]
      : []),
    { y: y(from), text: `${band.side === "low" ? "dew" : "bubble"} ${show(from, "temperature", system)}`, colour },
    {
      y: (y(from) + y(to)) / 2,
      text: band.label,
      strong: show(band.amount.value, "temperature_delta", system),
      colour,
    },
    {
      y: y(to),
      text: `${band.side === "low" ? "suction" : "liquid"} line ${show(to, "temperature", system)}`,
      colour: "var(--ink)",
    },
  ];
}

/** Labels in the order of their marks, pushed apart until none stands on another. */
function apart(labels: Named[], height: number): (Named & { at: number })[] {
  const sorted = [...labels].sort((a, b) => a.y - b.y).map((label) => ({ ...label, at: label.y }));
  for (let n = 1; n < sorted.length; n++) {
    const before = sorted[n - 1];
    const label = sorted[n];
    if (before && label) label.at = Math.max(label.at, before.at + LINE + 1);
  }
  for (let n = sorted.length - 1, floor = height - 8; n >= 0; n--) {
    const label = sorted[n];
    if (!label) continue;
    label.at = Math.min(label.at, floor);
    floor = label.at - LINE - 1;
  }
  return sorted;
}

function BandMark({ band, y }: { band: Band; y: (kelvin: number) => number }) {
  const sign = band.side === "low" ? 1 : -1;
  const colour = band.side === "low" ? "var(--low)" : "var(--high)";
  const tint = band.side === "low" ? "var(--lowtint)" : "var(--hightint)";
  const from = band.saturation.value;
  const to = band.measured.value;
  const limits = band.low !== null && band.high !== null ? [from + sign * band.low, from + sign * band.high] : null;
  return (
    <g>
      {limits && (
        <rect
          x="96"
          y={Math.min(y(limits[0] ?? 0), y(limits[1] ?? 0))}
          width="12"
          height={Math.abs(y(limits[0] ?? 0) - y(limits[1] ?? 0))}
          fill="var(--holdtint)"
          stroke="var(--holds)"
        />
      )}
      <rect
        x="61"
        y={Math.min(y(from), y(band.across.value))}
        width="49"
        height={Math.abs(y(from) - y(band.across.value))}
        fill={tint}
        opacity="0.6"
      />
      <rect
        x="64"
        y={Math.min(y(from), y(to))}
        width="26"
        height={Math.max(Math.abs(y(from) - y(to)), 1.5)}
        fill={tint}
        stroke={colour}
      />
      <line x1="60" x2="112" y1={y(from)} y2={y(from)} stroke={colour} strokeWidth="2.5" />
      <line x1="60" x2="92" y1={y(to)} y2={y(to)} stroke="var(--ink)" strokeWidth="2.5" />
      {band.target !== null && (
        <line
          x1="90"
          x2="114"
          y1={y(from + sign * band.target)}
          y2={y(from + sign * band.target)}
          stroke="var(--holds)"
          strokeWidth="2"
          strokeDasharray="4 3"
        />
      )}
    </g>
  );
}

function degrees(low: number, high: number, system: System): { kelvin: number; text: string }[] {
  const factor = system !== "si" ? 5 / 9 : 1;
  const zero = system !== "si" ? 273.15 - 32 / 1.8 : 273.15;
  const span = (high - low) / factor;
  const step = span > 90 ? 20 : span > 40 ? 10 : 5;
  const scale = scaleLinear([(low - zero) / factor, (high - zero) / factor], [low, high]);
  return scale.ticks((span / step) * 5).map((value) => ({
    kelvin: scale(value),
    text: value % step === 0 ? `${value}°`.replace("-", "−") : "",
  }));
}
