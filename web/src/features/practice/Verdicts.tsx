import type { Debrief, RunSide } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { lasting, show } from "../../format/quantity.ts";
import { Shape } from "../../parts/shapes.tsx";
import { asClock } from "./ClockBar.tsx";

/** Beside the timeline: what the marked moment was, and both runs by every mark. */
export function Verdicts({ debrief, at }: { debrief: Debrief; at: number }) {
  const { system } = useSession();
  const { person, careful } = debrief;
  const mass = (kg: number) => `${kg > 0 ? "+ " : ""}${show(kg, "mass", system)}`;
  const heat = (value: number | null) => (value === null ? "—" : show(value, "temperature_delta", system));
  const rows: [string, string, string][] = [
    ["charge", mass(person.off_kg), mass(careful.off_kg)],
    debrief.metering === "txv"
      ? ["subcooling, at the end", heat(person.subcooling_k), heat(careful.subcooling_k)]
      : ["superheat, at the end", heat(person.superheat_k), heat(careful.superheat_k)],
    [`time, of ${lasting(debrief.limit_s)}`, lasting(person.took_s), lasting(careful.took_s)],
    ["from the cylinders", show(person.drawn_kg, "mass", system), show(careful.drawn_kg, "mass", system)],
    ["lost to the air", show(person.lost_kg, "mass", system), show(careful.lost_kg, "mass", system)],
  ];
  return (
    <aside
      className="border-rule px-5 py-4 md:overflow-y-auto md:border-l"
      aria-label="At the mark"
      data-testid="verdicts"
    >
      <p className="num text-[24px]">{asClock(at)}</p>
      <AtTheMark debrief={debrief} at={at} />
      <table className="table mt-4">
        <thead>
          <tr>
            <th>
              <span className="sr-only">what</span>
            </th>
            <th>you</th>
            <th>careful</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, mine, its]) => (
            <tr key={name}>
              <td className="text-soft">{name}</td>
              <td className="whitespace-nowrap">
                <b>{mine}</b>
              </td>
              <td className="whitespace-nowrap">
                <b>{its}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-5">Your marks</h2>
      <ul className="text-[15px]">
        {person.marks.map((mark) => (
          <li
            key={mark.id}
            className="flex items-start gap-2 border-b border-rule py-2"
            data-mark={mark.id}
            data-met={mark.met}
          >
            <span className="mt-[3px]">
              <Shape word={mark.met ? "Holds" : "Stop"} size={15} />
            </span>
            {fill(mark.text, system)}
          </li>
        ))}
      </ul>
      {!careful.met && (
        <p className="mt-3 text-[14px] text-soft">
          The careful technician did not meet every mark either:{" "}
          {careful.marks
            .filter((mark) => !mark.met)
            .map((mark) => fill(mark.text, system))
            .join(" ")}
        </p>
      )}
      <p className="mt-4 text-[14px] text-soft">
        Both are what the model works out, not a measured unit. The careful technician reads the same displays, and does
        what the job says.
      </p>
    </aside>
  );
}

/** What was going on at a moment of a run. */
function doingAt(side: RunSide, at: number, system: "us" | "si"): string {
  if (at > side.took_s) return "had ended";
  const span = side.spans.find(
    (one) => (one.what === "in" || one.what === "out") && one.from_s <= at && at <= one.to_s + 1,
  );
  if (span)
    return span.what === "in"
      ? `putting in ${show(span.mass_kg, "mass", system)}`
      : `taking out ${show(-span.mass_kg, "mass", system)}`;
  const under = side.spans.find(
    (one) => (one.what === "pump" || one.what === "nitrogen") && one.from_s <= at && at <= one.to_s,
  );
  if (under) return under.what === "pump" ? "pulling a vacuum" : "holding nitrogen";
  const running = side.spans.some((one) => one.what === "ran" && one.from_s <= at && at <= one.to_s);
  const before = [...side.spans].reverse().find((one) => (one.what === "in" || one.what === "out") && one.to_s <= at);
  if (running) return before ? `running, left alone for ${lasting(at - before.to_s)}` : "running, nothing changed yet";
  return "standing";
}

function AtTheMark({ debrief, at }: { debrief: Debrief; at: number }) {
  const { system } = useSession();
  const spoken = debrief.metering === "txv" ? "subcooling" : "superheat";
  const moment = [...debrief.person.moments].reverse().find((one) => one.time_s <= at + 5 && at - one.time_s < 900);
  const value = moment?.[`${spoken}_k`];
  const settles = moment && (spoken === "superheat" ? moment.settles_at_k : moment.subcooling_settles_k);
  return (
    <dl className="[&>dd]:mb-1 [&>dd]:border-b [&>dd]:border-rule [&>dd]:pb-2 [&>dd]:font-semibold [&>dt]:text-[14px] [&>dt]:text-soft">
      {moment && value !== undefined && (
        <>
          <dt>you read</dt>
          <dd>
            {spoken} {show(value, "temperature_delta", system)} at {asClock(moment.time_s)}
            {moment.too_soon && `, ${lasting(moment.left_alone_s)} after the last change`}
          </dd>
          <dt>it meant</dt>
          <dd>
            {settles === null || settles === undefined
              ? "nothing steady: it would not have run on like that"
              : moment.too_soon
                ? `still on its way to ${show(settles, "temperature_delta", system)} without another ounce`
                : `settled; it stays at ${show(settles, "temperature_delta", system)}`}
          </dd>
        </>
      )}
      <dt>you</dt>
      <dd>{doingAt(debrief.person, at, system)}</dd>
      <dt>careful</dt>
      <dd>{doingAt(debrief.careful, at, system)}</dd>
    </dl>
  );
}
