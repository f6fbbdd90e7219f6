import { useQuery } from "@tanstack/react-query";
import { chartQuery } from "../../api/queries.ts";
import type { LookInside } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { show } from "../../format/quantity.ts";
import { PhChart } from "../../parts/PhChart.tsx";

/** The way round on pressure and enthalpy, what its corners are, and the cylinder on the hose. */
export function SideOfInside({ inside, refrigerant }: { inside: LookInside; refrigerant: string }) {
  const { system } = useSession();
  const { data } = useQuery(chartQuery(refrigerant, system));
  const domes = data ? [data.chart] : [];
  return (
    <div>
      {inside.running && inside.cycle.length > 0 ? (
        <>
          <h2 className="text-soft">Pressure and heat</h2>
          {domes.length > 0 && (
            <PhChart
              domes={domes}
              ways={[{ name: refrigerant, points: [...inside.cycle] }]}
              system={system}
              height={250}
            />
          )}
          <ol className="mt-1 text-[14px]">
            <Corner n={1} text={`suction, ${show(inside.superheat_k, "temperature_delta", system)} above dew`} />
            <Corner
              n={2}
              text={`out of the compressor, ${show(inside.cycle[1]?.temperature_k ?? 0, "temperature", system)}`}
            />
            <Corner n={3} text={`liquid, ${show(inside.subcooling_k, "temperature_delta", system)} below bubble`} />
            <Corner n={4} text={`after the valve, ${(inside.gas_share * 100).toFixed(0)} % gas by weight`} />
          </ol>
        </>
      ) : (
        <p className="text-soft">It stands at {show(inside.low_pa, "pressure", system)}, everywhere the same.</p>
      )}
      {inside.vessel && <Vessel vessel={inside.vessel} />}
    </div>
  );
}

function Corner({ n, text }: { n: number; text: string }) {
  return (
    <li className="flex gap-3">
      <b>{n}</b>
      <span>{text}</span>
    </li>
  );
}

function Vessel({ vessel }: { vessel: NonNullable<LookInside["vessel"]> }) {
  const { system } = useSession();
  const level = Math.min(Math.max(vessel.height, 0), 1);
  const valve = vessel.upside_down ? 126 : 0;
  return (
    <div className="mt-5 flex gap-4 border-t border-rule pt-4" data-testid="vessel">
      <svg
        width="84"
        height="140"
        viewBox="0 0 84 140"
        role="img"
        aria-label={`Cylinder ${vessel.code}, ${(level * 100).toFixed(0)} % of its room is liquid`}
      >
        <rect x="34" y={valve} width="16" height="14" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <clipPath id="vessel">
          <rect x="2" y="13" width="80" height="114" rx="16" />
        </clipPath>
        <rect
          x="0"
          y={13 + 114 * (1 - level)}
          width="84"
          height={114 * level}
          fill="var(--tint2)"
          clipPath="url(#vessel)"
        />
        <rect x="2" y="13" width="80" height="114" rx="16" fill="none" stroke="var(--ink)" strokeWidth="1.6" />
        {level < 0.75 && (
          <text x="42" y="36" textAnchor="middle" fontSize="14" style={{ fill: "var(--soft)" }}>
            gas
          </text>
        )}
        {level > 0.2 && (
          <text x="42" y={120 - 40 * level} textAnchor="middle" fontSize="14" fontWeight="620">
            liquid
          </text>
        )}
      </svg>
      <div className="text-[14px]">
        <p className="text-[16px] font-semibold">Cylinder {vessel.code}</p>
        <p className="text-soft">
          {vessel.upside_down ? "upside down, so liquid at the valve" : "upright, so gas at the valve"}
        </p>
        <p className="num mt-1 text-[18px]">{show(vessel.mass_kg, "mass", system)}</p>
        <p className="text-soft">{show(vessel.gas_kg, "mass", system)} of it gas</p>
        <p className="mt-1 font-semibold">
          {show(vessel.kelvin, "temperature", system)}, {show(vessel.pressure_pa, "pressure", system)}
        </p>
      </div>
    </div>
  );
}
