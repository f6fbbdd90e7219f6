/** Refrigerant in or out now, from any step: by a cylinder on the scale, another circuit, or with nobody weighing it. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { cylindersQuery } from "../../api/queries.ts";
import type { Findings } from "../../api/types.ts";
import { EntryField, TextField, YesNoField } from "../../fields/index.ts";
import { MomentField } from "../../fields/MomentField.tsx";
import { fill, showAmount } from "../../format/quantity.ts";
import { at, useJob } from "../../job/context.ts";
import { Dialog } from "../../ui/Dialog.tsx";

type Kind = "in" | "out" | "lost" | "tracer" | "found" | "let_back";
type Way = {
  id: string;
  kind: Kind;
  label: string;
  hint: string;
  fields: ("scale" | "mass" | "circuit" | "cylinder")[];
};
type Side = "in" | "out" | "found";

const SIDES: [Side, string][] = [
  ["in", "Goes in"],
  ["out", "Comes out"],
  ["found", "Was in it"],
];
const WAYS: Record<Side, Way[]> = {
  in: [
    {
      id: "scale",
      kind: "in",
      label: "Cylinder or can on the scale",
      hint: "weighed before and after",
      fields: ["cylinder", "scale"],
    },
    {
      id: "circuit",
      kind: "in",
      label: "From another circuit",
      hint: "the same refrigerant and owner only",
      fields: ["circuit", "mass"],
    },
    {
      id: "some",
      kind: "in",
      label: "Not weighed",
      hint: "“some”; weigh the cylinder later and fill it in here",
      fields: ["cylinder", "scale"],
    },
    {
      id: "tracer",
      kind: "tracer",
      label: "Tracer",
      hint: "a little, with nitrogen, to search by",
      fields: ["cylinder", "scale"],
    },
    {
      id: "let_back",
      kind: "let_back",
      label: "Its own charge let back",
      hint: "valves opened: liquid first, then suction",
      fields: [],
    },
  ],
  out: [
    {
      id: "scale",
      kind: "out",
      label: "Into a cylinder on the scale",
      hint: "weighed before and after",
      fields: ["cylinder", "scale"],
    },
    {
      id: "told",
      kind: "out",
      label: "Taken out by others",
      hint: "as told: it plans, it never proves",
      fields: ["mass"],
    },
    {
      id: "lost",
      kind: "lost",
      label: "Went off into the air",
      hint: "a leak, a burst, a tracer let off",
      fields: ["mass"],
    },
  ],
  found: [
    {
      id: "found",
      kind: "found",
      label: "Inside when we came",
      hint: "as found or told; nought where it was empty",
      fields: ["mass"],
    },
  ],
};

const SAID: Partial<Record<Kind, string>> = {
  in: "Valve is shut: write it down",
  tracer: "Valve is shut: write it down",
  let_back: "Valves are open: write it down",
};

/** A name of its own on whatever device it is made: two without signal never write into one. */
function newAct(): string {
  return `a${Date.now().toString(36)}${Math.floor(Math.random() * 1296).toString(36)}`;
}

/** The way an act was entered by, from what is stored of it. */
function entered(stored: Record<string, unknown> | null): Chosen {
  const kind = stored?.kind as Kind | undefined;
  const side: Side = kind === "found" ? "found" : kind === "out" || kind === "lost" ? "out" : "in";
  const id = stored?.circuit
    ? "circuit"
    : kind === "out" && stored?.mass
      ? "told"
      : kind === "in" || kind === "out"
        ? "scale"
        : kind;
  return { side, way: WAYS[side].find((way) => way.id === id) ?? null };
}

type Chosen = { side: Side; way: Way | null };

export function InOrOut({ className = "" }: { className?: string }) {
  const { answer } = useJob();
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const act = params.get("act");
  if (answer.closed || answer.kind === "quick") return null;
  const open = (yes: boolean) => {
    setChosen(null);
    setParams(yes ? { act: newAct() } : {}, { replace: !yes });
  };
  const now = chosen ?? entered(at(answer.job, `/acts/${act}`) as Record<string, unknown> | null);
  return (
    <Dialog
      open={act !== null}
      onOpenChange={open}
      title="Refrigerant in or out, now"
      trigger={
        <button type="button" className={`btn ${className}`}>
          Refrigerant in or out
        </button>
      }
    >
      {act && <Choose act={act} chosen={now} onChoose={setChosen} />}
      {act && now.way && <Fill act={act} way={now.way} onDone={() => open(false)} />}
    </Dialog>
  );
}

function Choose(props: { act: string; chosen: Chosen; onChoose: (chosen: Chosen) => void }) {
  const { type } = useJob();
  const { act, chosen, onChoose } = props;
  return (
    <>
      <fieldset className="grid grid-cols-3 overflow-hidden rounded-[4px] border border-ink">
        <legend className="sr-only">Which way</legend>
        {SIDES.map(([side, label]) => (
          <label
            key={side}
            className="flex min-h-[46px] cursor-pointer items-center justify-center text-[16px] font-semibold has-checked:bg-ink has-checked:text-paper has-focus-visible:outline-2"
          >
            <input
              type="radio"
              className="sr-only"
              name="act-side"
              checked={chosen.side === side}
              onChange={() => onChoose({ side, way: null })}
            />
            {label}
          </label>
        ))}
      </fieldset>
      <fieldset className="mt-2">
        <legend className="sr-only">How</legend>
        {WAYS[chosen.side].map((way) => (
          <label
            key={way.id}
            className="flex min-h-[52px] cursor-pointer items-center gap-3 border-b border-rule px-2 has-checked:bg-tint"
          >
            <input
              type="radio"
              name="act-way"
              className="accent-[var(--copper)]"
              checked={chosen.way?.id === way.id}
              onChange={() => {
                type(`/acts/${act}/kind`, way.kind, { ready: true });
                onChoose({ side: chosen.side, way });
              }}
            />
            <span>
              <b className="block text-[16px]">{way.label}</b>
              <span className="text-[14px] text-soft">{way.hint}</span>
            </span>
          </label>
        ))}
      </fieldset>
    </>
  );
}

function Fill({ act, way, onDone }: { act: string; way: Way; onDone: () => void }) {
  const { type, sendNow } = useJob();
  const done = () => {
    type(`/acts/${act}/done`, true, { ready: true });
    void sendNow();
    onDone();
  };
  return (
    <div className="mt-3">
      <div className="grid gap-x-5 sm:grid-cols-2">
        {way.fields.includes("cylinder") && <FromBook act={act} />}
        {way.fields.includes("circuit") && <TextField step="acts" keys={[act, "circuit"]} />}
        {way.fields.includes("scale") && (
          <>
            <EntryField step="acts" keys={[act, "gross_before"]} />
            <EntryField step="acts" keys={[act, "gross_after"]} />
          </>
        )}
        {way.fields.includes("mass") && <EntryField step="acts" keys={[act, "mass"]} />}
        {way.fields.includes("mass") && <EntryField step="acts" keys={[act, "at_most"]} />}
        <MomentField step="acts" keys={[act, "at"]} />
        <TextField step="acts" keys={[act, "reason"]} />
        {way.kind === "lost" && <YesNoField step="acts" keys={[act, "empties"]} />}
      </div>
      <After act={act} />
      <button type="button" className="btn go mt-3 w-full" onClick={done}>
        {SAID[way.kind] ?? "Write it down"}
      </button>
    </div>
  );
}

/** The cylinder, from the shop's book or by its name; the book says what is in it and what it should weigh. */
function FromBook({ act }: { act: string }) {
  const { answer, type } = useJob();
  const { data } = useQuery(cylindersQuery);
  const rows = data?.data ?? [];
  const known = String(at(answer.job, `/acts/${act}/cylinder`) ?? "");
  const take = (code: string) => {
    const row = rows.find((one) => one.code === code);
    type(`/acts/${act}/cylinder`, code || null, { ready: true });
    if (row?.refrigerant) type(`/acts/${act}/holds`, row.refrigerant, { ready: true });
  };
  return (
    <>
      {rows.length > 0 && (
        <label className="lab block">
          from the book
          <select
            className="control"
            value={rows.some((row) => row.code === known) ? known : ""}
            onChange={(event) => take(event.target.value)}
          >
            <option value="">not in the book</option>
            {rows.map((row) => (
              <option key={row.code} value={row.code}>
                {row.code} · {row.refrigerant || "empty"}
              </option>
            ))}
          </select>
        </label>
      )}
      <TextField step="acts" keys={[act, "cylinder"]} />
    </>
  );
}

/** What it changes, and what is inside after it. */
function After({ act }: { act: string }) {
  const { findings, system } = useJob();
  const row = lineOf(findings, act);
  if (!row) return null;
  return (
    <p
      className="mt-1 flex flex-wrap items-baseline justify-between gap-x-4 border-t-2 border-ink pt-2"
      aria-live="polite"
    >
      <span>
        {row.change ? (
          <b className="num text-[28px]">
            {row.adds ? "+ " : "− "}
            {showAmount({ ...row.change, u: null }, system)}
          </b>
        ) : (
          <b>some, unweighed</b>
        )}{" "}
        <span className="text-[14px] text-soft">{row.known}</span>
      </span>
      <span>
        <span className="text-[14px] text-soft">inside after it </span>
        <b className="num">{fill(row.after, system)}</b>
      </span>
    </p>
  );
}

function lineOf(findings: Findings, act: string): Findings["inside"]["rows"][number] | undefined {
  return findings.inside.rows.find((row) => row.origin === `/acts/${act}`);
}
