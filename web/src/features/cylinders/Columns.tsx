import { scaleLinear } from "d3-scale";
import type { BookRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { factorOf, show } from "../../format/quantity.ts";
import { Scrollable } from "../../ui/Scrollable.tsx";

const HEIGHT = 300;
const WIDE = 62;
const STEP = 82;

/** Tare, heel, contents and room as one column each, all on one scale. A picture; the list below has the buttons. */
export function Columns({
  rows,
  chosen,
  onChoose,
}: {
  rows: BookRow[];
  chosen: string | null;
  onChoose: (code: string) => void;
}) {
  const { system } = useSession();
  const tops = rows.map((row) => Math.max(row.account.gross_kg, row.account.stop_gross_kg ?? 0));
  const most = Math.max(...tops, 1) * 1.08;
  const y = scaleLinear([0, most], [HEIGHT, 24]);
  const unit = factorOf("mass", system === "si" ? "kg" : "lb");
  const ticks = scaleLinear([0, most / unit], [0, 1]).ticks(7);
  return (
    <Scrollable className="mt-3" label="Columns of all cylinders">
      <svg
        width={80 + rows.length * STEP}
        height={HEIGHT + 26}
        role="img"
        aria-label={rows.map((row) => `${row.code} ${row.refrigerant || "empty"} ${row.account.badge}`).join("; ")}
      >
        {ticks.map((tick) => (
          <g key={tick}>
            <line x1="56" x2={80 + rows.length * STEP} y1={y(tick * unit)} y2={y(tick * unit)} stroke="var(--rule)" />
            <text x="48" y={y(tick * unit) + 4} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
              {tick} {system === "us" ? "lb" : "kg"}
            </text>
          </g>
        ))}
        {rows.map((row, n) => (
          <Column
            key={row.code}
            row={row}
            x={76 + n * STEP}
            y={y}
            chosen={row.code === chosen}
            onChoose={() => onChoose(row.code)}
            text={row.account.net_kg > 0.02 ? show(row.account.net_kg, "mass", system) : "empty"}
          />
        ))}
      </svg>
      <p className="flex flex-wrap gap-x-5 gap-y-1 text-[14px] text-soft">
        <Key fill="var(--rule)" text="tare" />
        <Key fill="var(--line)" text="heel, stays as vapour" />
        <Key fill="var(--tint2)" text="can leave as liquid" />
        <Key fill="var(--sheet)" text="room" />
        <span>
          <span
            aria-hidden="true"
            className="mr-2 inline-block h-[3px] w-5 align-middle"
            style={{ background: "var(--stop)" }}
          />
          limit
        </span>
      </p>
    </Scrollable>
  );
}

function Key({ fill, text }: { fill: string; text: string }) {
  return (
    <span>
      <span
        aria-hidden="true"
        className="mr-2 inline-block h-3 w-5 border border-ink align-middle"
        style={{ background: fill }}
      />
      {text}
    </span>
  );
}

function Column(props: {
  row: BookRow;
  x: number;
  y: (kg: number) => number;
  chosen: boolean;
  onChoose: () => void;
  text: string;
}) {
  const { row, x, y, chosen, text } = props;
  const { account } = row;
  const tare = row.tare_kg;
  const heel = tare + (account.heel_kg ?? 0);
  const gross = Math.max(account.gross_kg, tare);
  const top = account.stop_gross_kg ?? gross;
  const inside = y(tare) - y(gross) > 24;
  const bar = (from: number, to: number, fill: string) =>
    to > from && <rect x={x} y={y(to)} width={WIDE} height={y(from) - y(to)} fill={fill} stroke="var(--ink)" />;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a shortcut for the eye; the list below has the same as buttons
    <g className="cursor-pointer" onClick={props.onChoose}>
      {chosen && <rect x={x - 14} y="0" width={WIDE + 28} height={HEIGHT + 26} fill="var(--tint)" />}
      {bar(gross, top, "var(--sheet)")}
      {bar(0, tare, "var(--rule)")}
      {bar(tare, Math.min(heel, gross), "var(--line)")}
      {bar(Math.min(heel, gross), gross, account.word === "Stop" ? "var(--stoptint)" : "var(--tint2)")}
      {account.stop_gross_kg !== null && (
        <line
          x1={x - 6}
          x2={x + WIDE + 6}
          y1={y(account.stop_gross_kg)}
          y2={y(account.stop_gross_kg)}
          stroke="var(--stop)"
          strokeWidth="3"
        />
      )}
      <text
        x={x + WIDE / 2}
        y={inside ? (y(Math.min(heel, gross)) + y(gross)) / 2 + 5 : Math.max(y(gross) - 6, 12)}
        textAnchor="middle"
        fontSize="13"
        fontWeight="640"
        paintOrder="stroke"
        stroke={inside ? "none" : "var(--sheet)"}
        strokeWidth="3"
      >
        {text}
      </text>
      <text x={x + WIDE / 2} y={HEIGHT + 20} textAnchor="middle" fontSize="16" fontWeight="640">
        {row.code}
      </text>
    </g>
  );
}
