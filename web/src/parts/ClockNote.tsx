import { useSyncExternalStore } from "react";
import { ahead, whenFoundOff } from "../device/time.ts";
import { show } from "../format/quantity.ts";

/** By how much this device's clock is ahead of the office's, in milliseconds; nothing where they agree. */
export const useAhead = (): number => useSyncExternalStore(whenFoundOff, ahead);

/** Says where this device's clock is off, and which of both a time is. */
export function ClockNote() {
  const off = useAhead();
  if (!off) return null;
  const span = show(Math.round(Math.abs(off) / 60_000) * 60, "duration", "us");
  return (
    <p className="border-b border-rule px-4 py-2 text-[14px] md:px-5" role="status" data-testid="clock-off">
      <b>
        This device's clock is {span} {off > 0 ? "ahead" : "behind"}.
      </b>{" "}
      Times are put right by the office's clock; what this device showed is kept with them.
    </p>
  );
}
