import type { Band, StepResult, System, TrimRow } from "../../../api/types.ts";
import { worded } from "../../../format/message.ts";
import { show, showAmount, showSpread } from "../../../format/quantity.ts";
import { useJob, useStep } from "../../../job/context.ts";
import { BandRuler } from "../../../parts/BandRuler.tsx";
import { VerdictBadge } from "../../../parts/shapes.tsx";
import { Why } from "../../../parts/Why.tsx";

const STEP = "verify" as const;

/** Superheat and subcooling on their rules, and what a degree is worth in charge today. */
export function Bands() {
  const { system } = useJob();
  const result = useStep(STEP);
  if (!result.picture.bands.length)
    return (
      <p className="mb-3 text-[14px] text-soft">
        Superheat and subcooling stand here as soon as the gauges and clamps are typed.
      </p>
    );
  const judging = (band: Band) => (band.target === null ? 1 : 0);
  const bands = [...result.picture.bands].sort((a, b) => judging(a) - judging(b));
  return (
    <div className="mb-3">
      {bands.map((band) => (
        <BandRow key={band.id} band={band} result={result} system={system} />
      ))}
      <Worth />
    </div>
  );
}

function BandRow({ band, result, system }: { band: Band; result: StepResult<"verify">; system: System }) {
  const figure = result.figures.find((f) => f.id === band.id);
  const target = result.figures.find((f) => f.id === "target");
  const judges = band.target !== null;
  return (
    <div
      className="grid gap-x-5 border-b border-rule py-2 md:grid-cols-[170px_minmax(0,1fr)]"
      data-testid={`band-${band.id}`}
    >
      <div>
        <p className="flex items-center justify-between text-[15px] font-semibold capitalize">
          {band.label}
          {figure && <Why figure={figure} system={system} />}
        </p>
        <p className="text-[14px]" style={{ color: band.side === "low" ? "var(--low)" : "var(--high)" }}>
          {band.side === "low" ? "low side, from dew" : "high side, from bubble"}
        </p>
        <p className="num text-[32px] leading-[36px] whitespace-nowrap">
          {show(band.amount.value, "temperature_delta", system)}{" "}
          <span className="text-[15px] font-normal text-soft">{showSpread(band.amount, system)}</span>
        </p>
      </div>
      <div>
        <div className="flex min-h-[44px] flex-wrap items-center justify-between gap-x-3 text-[14px] text-soft">
          <span>
            {judges && band.target !== null
              ? `target ${show(band.target, "temperature_delta", system)} ± ${show((band.high ?? 0) - band.target, "temperature_delta", system)}`
              : band.low !== null && band.high !== null
                ? `sane from ${show(band.low, "temperature_delta", system)} to ${show(band.high, "temperature_delta", system)}`
                : "no target on this side"}
          </span>
          <span className="flex items-center">
            {judges && target && (
              <Why figure={target} system={system}>
                Why this target
              </Why>
            )}
            {band.low !== null && <VerdictBadge word={band.word} />}
          </span>
        </div>
        <BandRuler band={band} earlier={earlier(result.picture.trims, band.id)} system={system} />
      </div>
    </div>
  );
}

/** What this difference was at the readings before the last. */
function earlier(rows: TrimRow[], id: string): number[] {
  const values = rows.map((row) => (id === "superheat" ? row.superheat : row.subcooling)).filter((a) => a !== null);
  return values.slice(0, -1).map((amount) => amount.value);
}

/** What the tolerance and the probes are worth in charge. */
function Worth() {
  const { system } = useJob();
  const { figures } = useStep(STEP);
  const shown = ["tolerance_worth", "probes_worth"].flatMap((id) => figures.find((f) => f.id === id) ?? []);
  if (!shown.length) return null;
  return (
    <div className="grid grid-cols-2 divide-x divide-rule border-b border-rule" data-testid="worth">
      {shown.map((figure) => (
        <div key={figure.id} className="flex items-center justify-between gap-2 px-3 py-2 first:pl-0">
          <div>
            <p className="num text-[20px] whitespace-nowrap">± {show(figure.amount.value, "mass", system)}</p>
            <p className="text-[14px] text-soft">{worded(figure.label, system)}</p>
          </div>
          <Why figure={figure} system={system} />
        </div>
      ))}
    </div>
  );
}

/** Each step with what the unit answered. */
export function Trims() {
  const { system } = useJob();
  const { picture } = useStep(STEP);
  if (picture.trims.length < 2) return null;
  const moving = picture.trims.some((row) => row.target && row.target.value !== picture.trims[0]?.target?.value);
  return (
    <div className="overflow-x-auto">
      <table className="table mt-3">
        <thead>
          <tr>
            <th>reading</th>
            <th>added before</th>
            <th>in the system</th>
            <th>superheat</th>
            <th>subcooling</th>
            {moving && <th>target then</th>}
            <th>answered</th>
          </tr>
        </thead>
        <tbody>
          {picture.trims.map((row, n) => (
            <tr key={row.id}>
              <td>{n + 1}</td>
              <td>{row.added_kg ? show(row.added_kg, "mass", system) : "—"}</td>
              <td>{row.inside_kg === null ? "—" : show(row.inside_kg, "mass", system)}</td>
              <td>{row.superheat ? show(row.superheat.value, "temperature_delta", system) : "—"}</td>
              <td>{row.subcooling ? show(row.subcooling.value, "temperature_delta", system) : "—"}</td>
              {moving && <td>{row.target ? show(row.target.value, "temperature_delta", system) : "—"}</td>}
              <td>{row.answered ? showAmount(row.answered, system) : "—"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
