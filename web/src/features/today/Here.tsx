import { useQuery } from "@tanstack/react-query";
import { jobsQuery } from "../../api/queries.ts";
import { BegunHere, useBegunHere } from "../jobs/BegunHere.tsx";
import { JobList } from "../jobs/JobList.tsx";

/** Without a plan: the jobs on this device, to go on with. */
export default function Here() {
  const { data } = useQuery(jobsQuery({}));
  const begun = useBegunHere();
  return (
    <section aria-label="On this device" className="mt-4">
      <h2 className="border-b border-ink pb-1">On this device</h2>
      <BegunHere jobs={begun} />
      <JobList jobs={data?.data.jobs ?? []} />
      {data?.data.jobs.length === 0 && !begun.length && <p className="mt-3">No open job is on this device.</p>}
    </section>
  );
}
