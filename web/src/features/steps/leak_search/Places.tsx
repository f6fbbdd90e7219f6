import { useState } from "react";
import type { PlaceRow } from "../../../api/types.ts";
import { fill } from "../../../format/message.ts";
import { pathOf, useIsClosed, useJob } from "../../../job/context.ts";
import { Shape } from "../../../parts/shapes.tsx";
import { WhyNot } from "../../../parts/WhyNot.tsx";
import { useWide } from "../../../ui/useWide.ts";

const STEP = "leak_search" as const;
const STATES: Record<PlaceRow["state"], string> = {
  hit: "leak",
  doubted: "one hit, second method next",
  clean: "clean",
  open: "to do",
  closed: "not reachable",
};

/** The same places as a list, in the order of what to do; the map for who cannot see it, and for a phone. */
export function Places({
  places,
  chosen,
  onChoose,
}: {
  places: PlaceRow[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const { type, answer, system } = useJob();
  const closed = useIsClosed(STEP);
  const wide = useWide();
  const [adding, setAdding] = useState("");
  const free =
    Array.from({ length: 40 }, (_, n) => `x${n + 1}`).find((id) => !places.some((p) => p.id === id)) ?? "x41";
  return (
    <details className="mt-3" open={!wide}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">All places, in order</summary>
      <ul>
        {places.map((place) => (
          <li key={place.id} className="border-t border-rule">
            <button
              type="button"
              data-testid={`place-${place.id}`}
              aria-pressed={place.id === chosen}
              className="grid min-h-[44px] w-full grid-cols-[34px_minmax(0,1fr)_minmax(0,1fr)] items-center gap-2 py-1 text-left text-[15px] aria-pressed:bg-tint"
              onClick={() => onChoose(place.id)}
            >
              <StateMark place={place} />
              <span className="font-semibold first-letter:uppercase">{place.label}</span>
              <span className="text-[14px] text-soft">
                {place.state === "clean" || place.state === "hit" ? fill(place.tried, system) : STATES[place.state]}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {!closed && (
        <p className="mt-2 flex gap-2">
          <input
            className="control max-w-[320px]"
            aria-label="a place that is not on the map"
            placeholder="a place that is not on the map"
            value={adding}
            maxLength={80}
            onChange={(event) => setAdding(event.target.value)}
          />
          <button
            type="button"
            className="btn"
            disabled={!adding.trim()}
            onClick={() => {
              type(pathOf(answer.job, STEP, ["places", free, "label"]), adding.trim(), { ready: true });
              setAdding("");
            }}
          >
            Add it
          </button>
          <WhyNot unless={adding.trim() !== ""}>Name the place first.</WhyNot>
        </p>
      )}
    </details>
  );
}

function StateMark({ place }: { place: PlaceRow }) {
  if (place.rank) {
    return (
      <span
        className={`grid h-7 w-7 place-items-center rounded-full border-[1.5px] text-[14px] font-semibold ${place.rank === 1 ? "border-copper bg-copper text-[var(--on-copper)]" : "border-ink"}`}
      >
        {place.rank}
      </span>
    );
  }
  const word = place.state === "hit" ? "Stop" : place.state === "clean" ? "Holds" : "Open";
  return <Shape word={word} size={22} />;
}
