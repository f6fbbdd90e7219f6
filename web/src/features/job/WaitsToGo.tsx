import { stepLabel } from "../../api/fields.ts";
import { clock } from "../../format/clock.ts";
import { labelOf, textOf } from "../../format/entries.ts";
import { useJob } from "../../job/context.ts";
import type { Act, Item } from "../../outbox/items.ts";
import { Shape } from "../../parts/shapes.tsx";

type Row = { key: string; at: number; label: string; value: string };

const ACTS: Record<Act["act"], string> = {
  close: "to be closed",
  leave_out: "to be left out",
  reopen: "to be opened again",
  start_visit: "a new visit",
  end_visit: "the visit to be ended",
  adopt: "to be made a job",
};

/** Everything of this job that is kept here and not at the office, in the order it was made. */
export function useWaits(): Row[] {
  const { drafts, items } = useJob();
  const rows: Row[] = Object.values(drafts).map((draft) => ({
    key: draft.stamp,
    at: draft.at,
    label: labelOf(draft.path).replace(/:$/, ""),
    value: textOf(draft.path, draft.value as string),
  }));
  for (const item of items) {
    const said = wordsOf(item);
    if (said && !item.problem) rows.push({ key: item.key, at: item.at, ...said });
  }
  return rows.sort((one, other) => one.at - other.at);
}

/** An act or a new job in words; entries stand for themselves. */
function wordsOf({ what }: Item): { label: string; value: string } | null {
  if (what.kind === "entries") return null;
  if (what.kind === "make") return { label: what.make.title || "New job", value: "begun here" };
  if (what.kind === "file") return { label: what.name, value: "a log" };
  const label = "step" in what.act ? stepLabel(what.act.step) : "This job";
  return { label, value: ACTS[what.act.act] };
}

export function WaitsToGo({ rows }: { rows: Row[] }) {
  return (
    <details className="mt-5 border-t border-ink" data-testid="waits-to-go">
      <summary className="min-h-[44px] cursor-pointer py-2">
        <b>Waits to go out: {rows.length}</b>
        <span className="ml-3 text-[14px] text-soft">kept here, also if the battery dies</span>
      </summary>
      <ul>
        {rows.map((row) => (
          <li key={row.key} className="flex min-h-[36px] items-center gap-3 border-t border-rule py-1 text-[15px]">
            <span className="w-[52px] shrink-0 text-soft">{clock(row.at)}</span>
            <b className="min-w-0 flex-1">{row.label}</b>
            <span className="text-right text-soft">{row.value}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What was asked of the office and not taken: why, and both ways on. */
export function SetAsideActs() {
  const { items, again, away } = useJob();
  const aside = items.filter((item) => item.problem);
  return aside.map((item) => (
    <div key={item.key} className="note stop mt-2" role="alert">
      <p className="flex items-center gap-2 font-semibold">
        <Shape word="Stop" />
        Not taken: {wordsOf(item)?.label}, {wordsOf(item)?.value}
      </p>
      <p>{item.problem?.message.text}</p>
      <p className="mt-2 flex gap-3">
        <button type="button" className="btn" onClick={() => again(item.key)}>
          Send it again
        </button>
        {item.what.kind !== "make" && (
          <button type="button" className="btn quiet" onClick={() => away(item.key)}>
            Leave it
          </button>
        )}
      </p>
    </div>
  ));
}
