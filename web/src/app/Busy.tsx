import { useSyncExternalStore } from "react";
import { busy } from "../api/busy.ts";

/** A line over the page while something that was asked for is under way: a press is answered at once, however slow the link. */
export function Busy() {
  const under = useSyncExternalStore(busy.subscribe, busy.now);
  return (
    <div role="status" aria-label="Progress" className="pointer-events-none fixed inset-x-0 top-0 z-50">
      {under && (
        <span className="busy block">
          <span className="sr-only">Working …</span>
        </span>
      )}
    </div>
  );
}
