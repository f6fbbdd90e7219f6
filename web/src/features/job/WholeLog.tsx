import { Link } from "react-router";
import { useJob } from "../../job/context.ts";

/** To every reading that came, where instruments post for this job. */
export function WholeLog() {
  const { answer, live } = useJob();
  if (!Object.keys(live).length) return null;
  return (
    <Link
      to={`/job/${answer.code}/log`}
      className="inline-flex min-h-[44px] items-center text-[15px] text-copper underline"
    >
      The whole log
    </Link>
  );
}
