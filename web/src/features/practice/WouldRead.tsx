import { scaleLinear } from "d3-scale";
import type { Opinion } from "../../api/types.ts";
import { inUnit, inUnits, show, unitFor } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { useWidth } from "../../ui/useWidth.ts";

const [LEFT, RIGHT, ROW, TOP] = [120, 20, 46, 30];

/** What each made-up unit would read after the addition, over the target, beside what is read now. */
export function WouldRead({ opinion }: { opinion: Opinion }) {
  const { system: asked } = useJob();
  const system = asked === "si" ? "si" : "us";
  const [box, width] = useWidth(700);
  const valve = opinion.judges === "subcooling";
  const now = valve ? opinion.read_subcooling_k : opinion.read_superheat_k;
  const rows = opinion.candidates.map((one) => ({
    cause: one.cause,
    label: one.label,
    after: valve ? one.then_subcooling_k : one.then_superheat_k,
  }));
  const { target_k: target, tolerance_k: tolerance, blunt_k: blunt } = opinion;
  const all = [
    now,
    ...rows.flatMap((row) => (row.after === null ? [] : [row.after - blunt, row.after + blunt])),
    ...(target === null ? [] : [target - tolerance, target + tolerance]),
  ].filter((value): value is number => value !== null);
  if (!all.length || now === null) return null;
  const unit = unitFor("temperature_delta", system);
  const [least, most] = [Math.max(Math.min(...all) - 1.5, 0), Math.max(...all) + 1.5];
  const x = scaleLinear([least, most], [LEFT, Math.max(width - RIGHT, LEFT + 60)]);
  const bottom = TOP + rows.length * ROW;
  const [from, to] = inUnits([least, most], "temperature_delta", unit);
  const scale = scaleLinear([from ?? 0, to ?? 1], [LEFT, Math.max(width - RIGHT, LEFT + 60)]);
  const title =
    opinion.added_kg === 0
      ? "As it is, they read"
      : opinion.added_kg > 0
        ? `If I put ${show(opinion.added_kg, "mass", asked)} in, I should read`
        : `If I take ${show(-opinion.added_kg, "mass", asked)} out, I should read`;
  return (
    <section aria-label={title} className="mt-5">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-[18px]">{title}</h2>
        <p className="text-[14px] text-soft">{opinion.judges}, once it has settled, same weather</p>
      </div>
      <div ref={box}>
        <svg
          width={width}
          height={bottom + 34}
          role="img"
          aria-label={rows
            .map(
              (row) =>
                `${row.label}: ${row.after === null ? "it would not run" : show(row.after, "temperature_delta", system)}`,
            )
            .join(", ")}
          data-testid="would-read"
        >
          {target !== null && (
            <>
              <rect
                x={x(Math.max(target - tolerance, least))}
                y={TOP - 6}
                width={x(target + tolerance) - x(Math.max(target - tolerance, least))}
                height={bottom - TOP + 6}
                fill="var(--holdtint)"
                stroke="var(--holds)"
              />
              <text
                x={x(target)}
                y={TOP - 12}
                textAnchor="middle"
                fontSize="14"
                fontWeight="620"
                style={{ fill: "var(--holds)" }}
              >
                target {show(target, "temperature_delta", system)}
              </text>
            </>
          )}
          <line x1={x(now)} x2={x(now)} y1={TOP - 6} y2={bottom} stroke="var(--low)" strokeWidth="1.6" />
          <text
            x={x(now)}
            y={bottom - 6}
            textAnchor={x(now) > width - 90 ? "end" : "start"}
            dx={x(now) > width - 90 ? -6 : 6}
            fontSize="14"
            fontWeight="620"
            style={{ fill: "var(--low)" }}
          >
            now {show(now, "temperature_delta", system)}
          </text>
          {rows.map((row, n) => {
            const y = TOP + n * ROW + 16;
            const colour = n === 0 ? "var(--copper)" : "var(--ink)";
            return (
              <g key={row.cause}>
                <text x="0" y={y + 5} fontSize="14" fontWeight="620" style={{ fill: colour }}>
                  {"ABC"[n]} {row.label.length > 15 ? `${row.label.slice(0, 14)}…` : row.label}
                </text>
                {row.after === null ? (
                  <text x={LEFT + 8} y={y + 5} fontSize="14">
                    it would not run
                  </text>
                ) : (
                  <>
                    <line
                      x1={x(Math.max(row.after - blunt, least))}
                      x2={x(row.after + blunt)}
                      y1={y}
                      y2={y}
                      stroke={colour}
                      strokeWidth="2"
                    />
                    <circle cx={x(row.after)} cy={y} r="5.5" fill={colour} />
                    <text
                      x={x(row.after)}
                      y={y + 21}
                      textAnchor="middle"
                      fontSize="14"
                      fontWeight="620"
                      style={{ fill: colour }}
                    >
                      {show(row.after, "temperature_delta", system)}
                    </text>
                  </>
                )}
              </g>
            );
          })}
          <line x1={LEFT} x2={width - RIGHT} y1={bottom} y2={bottom} stroke="var(--ink)" />
          {scale.ticks(7).map((mark) => (
            <g key={mark}>
              <line x1={scale(mark)} x2={scale(mark)} y1={bottom} y2={bottom + 7} stroke="var(--ink)" />
              <text x={scale(mark)} y={bottom + 23} textAnchor="middle" fontSize="14">
                {mark}
              </text>
            </g>
          ))}
          <text x="0" y={bottom + 23} fontSize="14" style={{ fill: "var(--soft)" }}>
            {inUnit(0, "temperature_delta", unit, 0).replace("0", "")}
            {unit}
          </text>
        </svg>
      </div>
    </section>
  );
}
