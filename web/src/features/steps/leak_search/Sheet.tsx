import { useState } from "react";
import { ChoiceField, EntryField } from "../../../fields/index.ts";
import { useStep } from "../../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";
import { Decisions } from "../Decisions.tsx";
import { AtPlace } from "./AtPlace.tsx";
import { LeakMap } from "./LeakMap.tsx";
import { Nitrogen } from "./Nitrogen.tsx";
import { Places } from "./Places.tsx";

const STEP = "leak_search" as const;

export default function LeakSearchSheet() {
  const { picture, figures } = useStep(STEP);
  const [chosen, setChosen] = useState<string | null>(null);
  const next = picture.places.find((p) => p.rank === 1);
  const place = picture.places.find((p) => p.id === chosen) ?? next;
  const others = figures.some((f) => f.id === "closed_share");
  return (
    <StepFrame
      step={STEP}
      sub="Tap a place, say what you used and what it showed. A clean result moves a place down the list; it never rules it out."
      done="Found: go on"
    >
      <div className="grid grid-cols-2 gap-x-5 md:grid-cols-3">
        <ChoiceField step={STEP} keys={["inside"]} hint="it decides the method" className="max-md:col-span-2" />
        <EntryField step={STEP} keys={["lost"]} hint="what was weighed in since it was last full" />
        <EntryField step={STEP} keys={["lost_over"]} />
      </div>
      {picture.places.length > 0 && (
        <>
          <LeakMap places={picture.places} chosen={place?.id ?? null} onChoose={setChosen} />
          {place && <AtPlace key={place.id} place={place} onDone={() => setChosen(null)} />}
          <Places places={picture.places} chosen={place?.id ?? null} onChoose={setChosen} />
        </>
      )}
      <Nitrogen />
      {others && <Decisions step={STEP} />}
    </StepFrame>
  );
}
