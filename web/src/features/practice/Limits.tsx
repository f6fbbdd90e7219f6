import { Link } from "react-router";
import { useSession } from "../../app/session.ts";
import { lasting, show } from "../../format/quantity.ts";
import { useSeconds } from "./ClockBar.tsx";
import type { Run } from "./queries.ts";

/** Under the steps: a look inside where it is allowed, and what has gone of time and refrigerant. */
export function Limits({ run, base, looking, step }: { run: Run; base: string; looking: boolean; step: string }) {
  const seconds = useSeconds(run, 1000);
  const { system } = useSession();
  const drawn = run.seen?.drawn_kg ?? 0;
  const { time_s: time, refrigerant_kg: most } = run.card;
  return (
    <section aria-label="What has gone" className="mt-3 mr-5 grid gap-2 max-md:mr-0 max-md:mb-2 max-md:grid-cols-2">
      {run.test || !looking ? null : (
        <Link to={`${base}/${step}`} className="btn max-md:col-span-2">
          Close it up again
        </Link>
      )}
      {run.test && (
        <p className="text-[14px] text-soft max-md:col-span-2">A test: no looking inside until it is over.</p>
      )}
      <Bar label="time" share={seconds / time} text={`${Math.floor(seconds / 60)} of ${lasting(time)}`} />
      <Bar
        label="refrigerant"
        share={most > 0 ? drawn / most : drawn > 1e-4 ? 1 : 0}
        text={
          most > 0
            ? `${show(drawn, "mass", system)} of ${show(most, "mass", system)}`
            : drawn > 1e-4
              ? show(drawn, "mass", system)
              : "none to add"
        }
      />
    </section>
  );
}

function Bar({ label, share, text }: { label: string; share: number; text: string }) {
  const over = share > 1;
  return (
    <div className="mt-1">
      <p className="flex flex-wrap justify-between gap-x-2 text-[14px]">
        <span className="text-soft max-md:sr-only">{label}</span>
        <b className={over ? "text-stop" : ""}>{text}</b>
      </p>
      <div className="mt-1 h-[8px] border border-ink" aria-hidden="true">
        <div
          className={over ? "h-full bg-stop" : "h-full bg-[var(--line)]"}
          style={{ width: `${Math.min(share, 1) * 100}%` }}
        />
      </div>
    </div>
  );
}
