/** What is inside, line by line: beside the step on a wide screen, behind one tap on a narrow one. */
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Findings, System } from "../../api/types.ts";
import { fill, worded } from "../../format/message.ts";
import { clock, day, show, showAmount } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { jobPath } from "../../job/paths.ts";
import { PartsDrawing } from "../../parts/PartsDrawing.tsx";

type Inside = Findings["inside"];
type Row = Inside["rows"][number];

/** `drawn`: whether what is shut off from what is drawn here; a step that works on a part draws it itself. */
export function WhatIsInside({ wide, drawn }: { wide: boolean; drawn: boolean }) {
  const { findings, following, system } = useJob();
  const { inside } = findings;
  if (!inside?.rows.length && !inside?.parts?.length) return null; // an answer kept on the device by an earlier Yoshi has none
  const now = following ? show(following.inside_kg, "mass", system) : fill(inside.now, system);
  if (wide)
    return (
      <section className="mb-6" aria-labelledby="inside-name">
        <h2 id="inside-name">What is inside</h2>
        <Lines inside={inside} now={now} live={following !== null} system={system} />
        {drawn && <PartsDrawing inside={inside} />}
      </section>
    );
  return (
    <details className="mb-5 border-b border-rule pb-2">
      <summary className="flex min-h-[48px] cursor-pointer items-center justify-between gap-3">
        <span className="text-soft">What is inside</span>
        <b className="num text-right">{now}</b>
      </summary>
      <Lines inside={inside} now={now} live={following !== null} system={system} />
      {drawn && <PartsDrawing inside={inside} />}
    </details>
  );
}

function Lines({ inside, now, live, system }: { inside: Inside; now: string; live: boolean; system: System }) {
  const most = Math.max(
    inside.belongs?.value ?? 0,
    ...inside.rows.map((row) => row.high?.value ?? row.low.value),
    1e-6,
  );
  return (
    <>
      <svg width="0" height="0" className="absolute" aria-hidden="true">
        <pattern id="possible" width="3" height="4" patternUnits="userSpaceOnUse" patternTransform="skewX(-30)">
          <rect width="1.2" height="4" fill="var(--tint2)" />
        </pattern>
      </svg>
      <ol className="mt-1">
        {inside.rows.map((row, n) => (
          <Line key={row.id} row={row} before={inside.rows[n - 1]} most={most} system={system} />
        ))}
      </ol>
      <div className="mt-2 border-t-2 border-ink pt-2">
        <p className="flex items-baseline justify-between gap-3">
          <span className="text-[14px] text-soft">{live ? "inside now, by the live scale" : "inside now"}</span>
          <b className="num text-right text-[20px] leading-6">{now}</b>
        </p>
        {(inside.parts ?? [])
          .filter((part) => !part.shut)
          .map((part) => (
            <p key={part.id} className="text-[14px] text-soft">
              {part.label}, open to the rest
            </p>
          ))}
        {inside.belongs && (
          <p className="flex items-baseline justify-between gap-3 text-[14px]">
            <span className="text-soft">belongs in</span>
            <span className="num">{showAmount(inside.belongs, system)}</span>
          </p>
        )}
      </div>
    </>
  );
}

function Line({ row, before, most, system }: { row: Row; before: Row | undefined; most: number; system: System }) {
  const { answer } = useJob();
  const newDay = row.at && (!before?.at || day(before.at) !== day(row.at));
  return (
    <li className="grid grid-cols-[44px_1fr] gap-x-2 text-[14px] leading-[18px]">
      {newDay && row.at && <p className="col-span-2 pt-1 text-[14px] text-soft">{day(row.at)}</p>}
      <span className="num pt-1 text-soft">{row.at ? clock(row.at) : ""}</span>
      <div>
        <Whereto row={row} code={answer.code}>
          <span className="flex justify-between gap-3">
            <b>{fill(row.text, system)}</b>
            {row.change && (
              <b className="num whitespace-nowrap">
                {row.adds ? "+ " : "− "}
                {showAmount(row.change, system)}
              </b>
            )}
          </span>
          <span className="flex justify-between gap-3 text-[14px] text-soft">
            <span>{worded(row.note, system)}</span>
            <span className="whitespace-nowrap">{row.known}</span>
          </span>
        </Whereto>
        <Level row={row} most={most} system={system} />
      </div>
    </li>
  );
}

/** To the step that entered it, or to the act beside the steps. */
function Whereto({ row, code, children }: { row: Row; code: string; children: ReactNode }) {
  const there = row.step ? jobPath(code, row.step) : `?act=${row.origin.split("/")[2]}`;
  return (
    <Link className="block min-h-[44px] pt-1 hover:bg-tint" to={there}>
      {children}
    </Link>
  );
}

/** How full it is after a line: what is sure filled, what is only possible hatched. */
function Level({ row, most, system }: { row: Row; most: number; system: System }) {
  const sure = Math.min(row.low.value / most, 1) * 100;
  const open = row.high === null;
  const possible = open ? 100 : Math.min((row.high?.value ?? 0) / most, 1) * 100;
  return (
    <svg
      viewBox="0 0 100 4"
      preserveAspectRatio="none"
      className="block h-[6px] w-full"
      role="img"
      aria-label={`then inside: ${fill(row.after, system)}`}
    >
      <rect x="0" y="0" width="100" height="4" fill="var(--sheet)" stroke="var(--rule)" strokeWidth="0.4" />
      <rect x={sure} y="0" width={Math.max(possible - sure, 0)} height="4" fill="url(#possible)" />
      <rect x="0" y="0" width={sure} height="4" fill="var(--line)" />
    </svg>
  );
}
