import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { overviewQuery } from "../../api/lists.ts";
import type { CircuitCard } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { nowMs } from "../../device/time.ts";
import { show } from "../../format/quantity.ts";
import { Shape } from "../../parts/shapes.tsx";
import { Waiting } from "../../parts/Waiting.tsx";

/** Without a choice: what is due for a leak check and what loses most, over all systems. */
export function Overview() {
  const { system } = useSession();
  const { data, error } = useQuery(overviewQuery);
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <Waiting rows={5} label="Adding up all circuits" />;
  const { due, due_count, losing, over_limit } = data.data;
  const most = Math.min(Math.max(...losing.map(rateOf), 0.01), 1);
  return (
    <div className="grid gap-8">
      <section aria-label="Loses most">
        <h2 className="border-b border-ink pb-1 text-[17px]">Loses most</h2>
        <p className="mt-1 text-[15px] text-soft">
          {losing.length === 0
            ? "No circuit here has lost charge by its book."
            : over_limit
              ? `${over_limit} ${over_limit === 1 ? "loses" : "lose"} more than the limit allows.`
              : "None over a limit that applies to it."}
        </p>
        <ul>
          {losing.map((row) => (
            <li key={row.id} className="border-b border-rule">
              <Link
                to={`/systems/${row.id}`}
                className="grid min-h-[56px] grid-cols-[minmax(0,1fr)_110px] items-center gap-4 py-2 hover:bg-tint md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_150px]"
              >
                <span>
                  <b className="text-[16px]">{row.name}</b>
                  <span className="block text-[14px] text-soft">
                    {row.site} · {row.refrigerant}
                  </span>
                </span>
                <Bar row={row} most={most} />
                <span className="text-right">
                  <b className="num text-[20px]">{show(rateOf(row), "yearly_loss", system)}</b> a year
                  {row.history.limit && (
                    <span className="block text-[14px] text-soft">
                      limit {show(row.history.limit.value, "yearly_loss", system)}
                    </span>
                  )}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Due for a leak check">
        <h2 className="border-b border-ink pb-1 text-[17px]">Due for a leak check</h2>
        {due.length === 0 && (
          <p className="mt-2 flex items-center gap-2 text-[16px] text-soft">
            <Shape word="Holds" /> Nothing is due.
          </p>
        )}
        <ul>
          {due.map((row) => (
            <li key={row.id} className="border-b border-rule">
              <Link
                to={`/systems/${row.id}`}
                className="flex min-h-[52px] items-center justify-between gap-4 py-2 hover:bg-tint"
              >
                <span>
                  <b className="text-[16px]">{row.name}</b>
                  <span className="block text-[14px] text-soft">{row.site}</span>
                </span>
                <b>{dueOn(row.history.next_check)}</b>
              </Link>
            </li>
          ))}
        </ul>
        {due_count > due.length && <p className="mt-1 text-[15px] text-soft">and {due_count - due.length} more</p>}
      </section>
    </div>
  );
}

/** The day it was due; today means that no check is on record. */
function dueOn(day: string | null): string {
  return day && day < new Date(nowMs()).toISOString().slice(0, 10) ? `since ${day}` : "none on record";
}

const rateOf = (row: CircuitCard) => row.history.rate?.value ?? 0;

/** The rate as a length, with the limit as a notch where one applies. */
function Bar({ row, most }: { row: CircuitCard; most: number }) {
  const limit = row.history.limit?.value ?? null;
  const over = limit !== null && rateOf(row) > limit;
  return (
    <svg viewBox="0 0 200 16" preserveAspectRatio="none" className="h-4 w-full max-md:hidden" aria-hidden="true">
      <path d="M0 15.5h200" stroke="var(--rule)" />
      <rect
        y="4"
        height="9"
        width={Math.min((200 * rateOf(row)) / most, 200)}
        fill={over ? "var(--stop)" : "var(--line)"}
      />
      {limit !== null && (
        <path d={`M${Math.min((200 * limit) / most, 199)} 0v16`} stroke="var(--ink)" strokeWidth="2" />
      )}
    </svg>
  );
}
