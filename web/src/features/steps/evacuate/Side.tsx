import { factsOf } from "../../../api/fields.ts";
import { useStep } from "../../../job/context.ts";
import { ClockTape, type Moment } from "../../../parts/ClockTape.tsx";
import { useEvents } from "./Sheet.tsx";

/** The vacuum on the clock: every act, and when it is told. */
export default function EvacuateSide() {
  const { waiting } = useStep("evacuate");
  const events = useEvents();
  const names = factsOf("evacuate", ["events", "e1", "do"]).options ?? {};
  const moments: Moment[] = events.map((event) => ({ at: event.at, label: names[event.do] ?? event.do }));
  if (waiting) moments.push({ at: waiting.until, label: "told", kind: "decide" });
  return (
    <div>
      <h2 className="mb-2 text-soft">The clock</h2>
      <ClockTape moments={moments} />
    </div>
  );
}
