import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { cylinderQuery } from "../../api/queries.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { show } from "../../format/quantity.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { Weight } from "../../parts/Weight.tsx";
import { CardDialog } from "../cards/CardDialog.tsx";
import { Prepare, TakeBack, WeighAgain } from "./forms.tsx";
import { MoveOut } from "./MoveOut.tsx";

/** The account of one cylinder: contents, what can leave, and its movements with what the scale read after each. */
export function Ledger({ code }: { code: string }) {
  const { system } = useSession();
  const [before, setBefore] = useState<number | null>(null);
  const { data, error } = useQuery(cylinderQuery(code, before));
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <Waiting rows={6} label="Opening the account" />;
  const { account } = data;
  return (
    <div>
      <h2 className="text-[17px]">Cylinder {data.code}</h2>
      <p className="text-[14px] text-soft">
        {data.refrigerant || "empty"}
        {data.owner ? `, ${data.owner}` : ""}
      </p>
      <Weight kg={account.net_kg} system={system} label="holds" />
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-y-1 text-[15px]">
        <Row label="tare" value={show(data.tare_kg, "mass", system)} />
        {account.heel_kg !== null && (
          <Row label="heel, stays as vapour" value={show(account.heel_kg, "mass", system)} />
        )}
        {account.usable_kg !== null && (
          <Row label="can leave as liquid" value={show(account.usable_kg, "mass", system)} strong />
        )}
        {account.room_kg !== null && <Row label="room" value={show(account.room_kg, "mass", system)} strong />}
        {account.stop_gross_kg !== null && (
          <Row label="stop filling at" value={show(account.stop_gross_kg, "mass", system)} />
        )}
        {account.liquid_full_k !== null && (
          <Row label="full of liquid at" value={show(account.liquid_full_k, "temperature", system)} />
        )}
      </dl>
      <p className="mt-2 text-[14px]">
        <VerdictBadge word={account.word} /> <b>{account.badge}.</b> {fill(account.reason, system)}
      </p>
      <p className="mt-3 flex flex-wrap gap-2">
        <WeighAgain code={code} gross={show(account.gross_kg, "mass", system)} />
        <MoveOut from={data} />
        {data.kind === "recovery" && account.net_kg < 0.001 && <Prepare code={code} />}
        <CardDialog kind="cylinder" id={data.id} label="Edit cylinder" />
      </p>
      <table className="table mt-4">
        <thead>
          <tr>
            <th>Ledger</th>
            <th>moved</th>
            <th>scale</th>
          </tr>
        </thead>
        <tbody>
          {data.lines.map((line) => (
            <tr key={line.id} className="align-top">
              <td>
                {line.job ? (
                  <Link className="font-semibold underline decoration-[var(--rule)]" to={`/job/${line.job}`}>
                    {line.what}
                  </Link>
                ) : (
                  <b>{line.what}</b>
                )}
                <span className="block text-[14px] text-soft">
                  {new Date(line.at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "2-digit" })}{" "}
                  {line.by}
                  {line.reason ? `: ${line.reason}` : ""}
                </span>
                {line.can_go && <TakeBack code={code} line={line.id} />}
              </td>
              <td className="whitespace-nowrap">
                {line.moved_kg > 0 ? "+ " : line.moved_kg < 0 ? "− " : ""}
                {show(Math.abs(line.moved_kg), "mass", system)}
              </td>
              <td className="whitespace-nowrap">{show(line.gross_kg, "mass", system)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {(data.next || before) && (
        <p className="mt-2 flex gap-2">
          {before && (
            <button type="button" className="btn quiet" onClick={() => setBefore(null)}>
              Latest
            </button>
          )}
          {data.next && (
            <button type="button" className="btn quiet" onClick={() => setBefore(data.next)}>
              Older
            </button>
          )}
        </p>
      )}
    </div>
  );
}

function Row({ label, value, strong }: { label: string; value: string; strong?: boolean }) {
  return (
    <>
      <dt className={strong ? "font-semibold" : "text-soft"}>{label}</dt>
      <dd className={`num text-right ${strong ? "text-[18px]" : ""}`}>{value}</dd>
    </>
  );
}
