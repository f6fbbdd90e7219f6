import { scaleLinear } from "d3-scale";
import { showAmount } from "../../../format/quantity.ts";
import { useJob, useStep } from "../../../job/context.ts";

const HEIGHT = 330;

/** Every cylinder as a column up to its limit: what went in, and the room that is left. */
export default function RecoverSide() {
  const { system } = useJob();
  const { picture, cautions } = useStep("recover");
  const known = picture.cylinders.filter((c) => c.stop_gross && c.room);
  if (!known.length) {
    return (
      <div>
        <h2 className="text-soft">Room in the cylinders</h2>
        <p className="mt-2 text-[14px] text-soft">
          {cautions.length ? "Tare, water capacity and what the scale reads give the room." : ""}
        </p>
      </div>
    );
  }
  const tallest = Math.max(...known.map((c) => c.stop_gross?.value ?? 0)) * 1.06;
  const y = scaleLinear([0, tallest], [HEIGHT, 20]);
  const wide = Math.min(90, 220 / known.length);
  return (
    <div>
      <h2 className="text-soft">What the scale reads, up to the limit</h2>
      <svg
        viewBox={`0 0 280 ${HEIGHT + 70}`}
        width="100%"
        role="img"
        aria-label={known.map((c) => `${c.name}: room ${c.room ? showAmount(c.room, system) : "unknown"}`).join("; ")}
      >
        <line x1="20" x2="270" y1={HEIGHT} y2={HEIGHT} stroke="var(--ink)" strokeWidth="1.6" />
        {known.map((c, n) => {
          const x = 34 + n * (wide + 22);
          const stop = c.stop_gross?.value ?? 0;
          const now = stop - (c.room?.value ?? 0);
          const taken = c.taken?.value ?? 0;
          const over = now > stop;
          return (
            <g key={c.id}>
              <rect x={x} y={y(stop)} width={wide} height={HEIGHT - y(stop)} fill="var(--sheet)" stroke="var(--ink)" />
              <rect
                x={x}
                y={y(Math.max(now - taken, 0))}
                width={wide}
                height={HEIGHT - y(Math.max(now - taken, 0))}
                fill="var(--rule)"
                stroke="var(--ink)"
              />
              <rect
                x={x}
                y={y(now)}
                width={wide}
                height={Math.max(y(Math.max(now - taken, 0)) - y(now), 0)}
                fill={over ? "var(--stoptint)" : "var(--tint2)"}
                stroke="var(--ink)"
              />
              <line x1={x - 6} x2={x + wide + 6} y1={y(stop)} y2={y(stop)} stroke="var(--stop)" strokeWidth="3" />
              <text x={x + wide / 2} y={HEIGHT + 18} textAnchor="middle" fontSize="15" fontWeight="640">
                {c.name}
              </text>
              <text x={x + wide / 2} y={HEIGHT + 36} textAnchor="middle" fontSize="13" style={{ fill: "var(--soft)" }}>
                {c.room ? `room ${showAmount(c.room, system)}` : ""}
              </text>
              <text x={x + wide / 2} y={HEIGHT + 53} textAnchor="middle" fontSize="13" style={{ fill: "var(--soft)" }}>
                stop {c.stop_gross ? showAmount(c.stop_gross, system) : ""}
              </text>
            </g>
          );
        })}
      </svg>
      {known.map(
        (c) =>
          c.liquid_full && (
            <p key={c.id} className="text-[14px]">
              {c.name} would be full of liquid at <b>{showAmount(c.liquid_full, system)}</b>.
            </p>
          ),
      )}
    </div>
  );
}
