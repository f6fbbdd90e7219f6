import { ago, clock } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { Shape } from "../../parts/shapes.tsx";

/** Says when there is no network, and what that means for what is typed and what is shown. */
export function LinkNote() {
  const { link, since, drafts, readAt, fromDevice, sendNow } = useJob();
  const waiting = Object.keys(drafts).length;
  if (link !== "offline" && !fromDevice) return null;
  return (
    <div className="note mb-4" role="status">
      <p className="flex items-center gap-2 font-semibold text-wait">
        <Shape word="Wait" />
        No network{since ? ` since ${clock(since)}` : ""}
      </p>
      <p>
        Go on working. Every entry is kept on this device, also if the battery dies. The plan shown is from{" "}
        {clock(readAt)}, {ago(readAt, Date.now())}.
        {waiting > 0 && ` ${waiting} ${waiting === 1 ? "entry waits" : "entries wait"} to be sent.`}
      </p>
      <button type="button" className="btn mt-2" onClick={() => void sendNow()}>
        Try now
      </button>
    </div>
  );
}
