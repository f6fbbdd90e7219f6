/** Refrigerant in or out now, from any step: by a cylinder on the scale, another circuit, or with nobody weighing it. */

import { useState } from "react";
import { useSearchParams } from "react-router";
import { cylindersQuery, useRows } from "../../api/lists.ts";
import type { Findings } from "../../api/types.ts";
import { nowMs } from "../../device/time.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../fields/index.ts";
import { MomentField } from "../../fields/MomentField.tsx";
import { fill } from "../../format/message.ts";
import { clock, showAmount } from "../../format/quantity.ts";
import { at, useJob } from "../../job/context.ts";
import { PickFrom } from "../../parts/PickFrom.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Dialog } from "../../ui/Dialog.tsx";
import { type Chosen, entered, type Kind, SIDES, WAYS, type Way } from "./actWays.ts";

const SAID: Partial<Record<Kind, string>> = {
  in: "Valve is shut: write it down",
  tracer: "Valve is shut: write it down",
  let_back: "Valves are open: write it down",
  shut: "Valves are shut: write it down",
};

/** A name of its own on whatever device it is made: two without signal never write into one. */
function newName(prefix: string): string {
  return `${prefix}${nowMs().toString(36)}${Math.floor(Math.random() * 1296).toString(36)}`;
}

export function InOrOut({ className = "" }: { className?: string }) {
  const { answer } = useJob();
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const act = params.get("act");
  if (answer.closed || answer.kind === "quick") return null;
  const open = (yes: boolean) => {
    setChosen(null);
    setParams(yes ? { act: newName("a") } : {}, { replace: !yes });
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
      <fieldset className="grid grid-cols-2 overflow-hidden sm:grid-cols-4 rounded-[4px] border border-ink">
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
  const { answer, type, sendNow } = useJob();
  const planned = way.kind === "out" && (at(answer.job, `/acts/${act}/planned_for`) as string | null);
  const done = () => {
    type(`/acts/${act}/done`, true, { ready: true });
    void sendNow();
    onDone();
  };
  return (
    <div className="mt-3">
      <div className="grid gap-x-5 sm:grid-cols-2">
        {way.fields.includes("cylinder") && <FromBook act={act} />}
        {way.fields.includes("circuit") && (
          <TextField step="acts" keys={[act, "circuit"]} hint="its code, as on its record" />
        )}
        {way.fields.includes("scale") && (
          <>
            <EntryField step="acts" keys={[act, "gross_before"]} />
            <EntryField step="acts" keys={[act, "gross_after"]} />
          </>
        )}
        {way.fields.includes("part") && <Part act={act} />}
        {way.fields.includes("medium") && <ChoiceField step="acts" keys={[act, "medium"]} />}
        {way.fields.includes("port") && <EntryField step="acts" keys={[act, "pressure"]} />}
        {way.fields.includes("port") && <YesNoField step="acts" keys={[act, "behind"]} />}
        {way.fields.includes("mass") && <EntryField step="acts" keys={[act, "mass"]} how />}
        {way.fields.includes("mass") && <EntryField step="acts" keys={[act, "at_most"]} />}
        {way.fields.includes("circuit") && way.kind === "out" && (
          <TextField step="acts" keys={[act, "planned_for"]} hint="empty if it goes now" />
        )}
        <MomentField step="acts" keys={[act, "at"]} />
        <Before act={act} />
        <TextField step="acts" keys={[act, "reason"]} />
        {way.kind === "lost" && <YesNoField step="acts" keys={[act, "empties"]} />}
      </div>
      <After act={act} />
      {planned ? (
        <>
          <button type="button" className="btn go mt-3 w-full" onClick={onDone}>
            Set it aside for {planned}
          </button>
          <button type="button" className="btn mt-2 w-full" onClick={done}>
            It is done now
          </button>
        </>
      ) : (
        <button type="button" className="btn go mt-3 w-full" onClick={done}>
          {SAID[way.kind] ?? "Write it down"}
        </button>
      )}
    </div>
  );
}

/** Which part of the circuit: one that was named, or another, with what is known of it. */
function Part({ act }: { act: string }) {
  const { answer, type } = useJob();
  const named = (at(answer.job, "/sections") ?? {}) as Record<string, { label?: string }>;
  const chosen = at(answer.job, `/acts/${act}/section`) as string | null;
  const [free] = useState(() => newName("s"));
  const known = [...new Set([...Object.keys(named), ...(chosen && chosen !== free ? [chosen] : [])])];
  const take = (key: string) => type(`/acts/${act}/section`, key || null, { ready: true });
  return (
    <div className="col-span-full">
      <label className="lab block">
        which part
        <select className="control" value={chosen ?? ""} onChange={(event) => take(event.target.value)}>
          <option value="">—</option>
          {known.map((key) => (
            <option key={key} value={key}>
              {named[key]?.label ?? "not named yet"}
            </option>
          ))}
          {!named[free] && <option value={free}>another part</option>}
        </select>
      </label>
      {chosen && (
        <div className="grid gap-x-5 sm:grid-cols-3">
          <TextField step="sections" keys={[chosen, "label"]} hint="indoor unit 5, receiver, branch" />
          <EntryField step="sections" keys={[chosen, "volume"]} hint="not part of hold and vacuum" />
          <EntryField step="sections" keys={[chosen, "stamp"]} hint="counted while it is open" />
        </div>
      )}
    </div>
  );
}

/** Something remembered late stands before what came after it. */
function Before({ act }: { act: string }) {
  const { answer, findings, system, type } = useJob();
  const rows = findings.inside.rows.filter((row) => row.origin !== `/acts/${act}`);
  if (!rows.length) return null;
  const chosen = (at(answer.job, `/acts/${act}/before`) as string | null) ?? "";
  return (
    <label className="lab block">
      it was before
      <select
        className="control"
        value={chosen}
        onChange={(event) => type(`/acts/${act}/before`, event.target.value || null, { ready: true })}
      >
        <option value="">nothing: it came last</option>
        {rows.map((row) => (
          <option key={row.id} value={row.origin}>
            {[row.at && clock(row.at), fill(row.text, system), row.note].filter(Boolean).join(" ")}
          </option>
        ))}
      </select>
    </label>
  );
}

/** The cylinder, from the shop's book or by its name; the book says what is in it and what it should weigh. */
function FromBook({ act }: { act: string }) {
  const { answer, type } = useJob();
  const [search, setSearch] = useState("");
  const { rows, hasMore } = useRows(cylindersQuery({ search: useSettled(search) }));
  const known = String(at(answer.job, `/acts/${act}/cylinder`) ?? "");
  const take = (code: string) => {
    const row = rows.find((one) => one.code === code);
    type(`/acts/${act}/cylinder`, code || null, { ready: true });
    if (row?.refrigerant) type(`/acts/${act}/holds`, row.refrigerant, { ready: true });
  };
  return (
    <>
      {(rows.length > 0 || search) && (
        <PickFrom
          label="from the book"
          none="not in the book"
          value={known}
          rows={rows.map((row) => ({ key: row.code, text: `${row.code} · ${row.refrigerant || "empty"}` }))}
          hasMore={hasMore}
          search={search}
          onSearch={setSearch}
          onPick={take}
        />
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
