import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { Link } from "react-router";
import { keptBefore } from "../../api/kept.ts";
import type { JobState } from "../../api/types.ts";
import { clock } from "../../format/clock.ts";
import { outboxes, subscribeAll } from "../../outbox/room.ts";

type Begun = { code: string; title: string; at: string };

/** Jobs begun on this device that the office does not know of yet. */
export function useBegunHere(): Begun[] {
  const all = useSyncExternalStore(subscribeAll, outboxes);
  const codes = all
    .filter((one) => one.snapshot().items.some(({ what }) => what.kind === "make"))
    .map((one) => one.code);
  const { data } = useQuery({
    queryKey: ["begun", codes.join()],
    queryFn: async () => {
      const kept = await Promise.all(codes.map((code) => keptBefore<JobState>(`job:${code}`)));
      return kept.flatMap((one) =>
        one ? [{ code: one.data.code, title: one.data.title, at: one.data.updated_at }] : [],
      );
    },
  });
  return codes.length ? (data ?? []) : [];
}

export function BegunHere({ jobs }: { jobs: Begun[] }) {
  return (
    <ul>
      {jobs.map((job) => (
        <li key={job.code} className="border-b border-rule">
          <Link to={`/job/${job.code}`} className="flex min-h-[52px] flex-wrap items-center justify-between gap-x-4">
            <b>{job.title}</b>
            <span className="text-[14px] text-soft">begun here at {clock(job.at)}, not at the office yet</span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
