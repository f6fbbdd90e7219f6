import type { Entry } from "../api/types.ts";
import { chosenOf, saidOfStored } from "../format/entries.ts";
import { clock } from "../format/quantity.ts";
import { at, useJob } from "../job/context.ts";
import { Shape } from "../parts/shapes.tsx";

type Second = { path: string; value: unknown; by: string; at: string };

/** Two values for one field: both kept, until a person chooses. */
export function DisputeNote({ path }: { path: string }) {
  const { answer, type } = useJob();
  const disputes = ((at(answer.job, "/disputes") as Second[] | null) ?? []).filter((d) => d.path === path);
  if (!disputes.length) return null;
  const standing = at(answer.job, path);
  const candidates = [
    { value: standing, by: (standing as Entry | null)?.by ?? "", at: (standing as Entry | null)?.at ?? null },
    ...disputes,
  ];
  return (
    <div className="note dispute mt-1" role="alert">
      <p className="flex items-center gap-2 font-semibold text-wait">
        <Shape word="Wait" />
        {candidates.length === 2 ? "Two values, both kept" : `${candidates.length} values, all kept`}
      </p>
      <p className="mb-2">
        {path.startsWith("/steps/identify/")
          ? "Until one is chosen, weighing in stops at the smaller total: more can be added, out is harder."
          : "Choose the one that is right."}
      </p>
      <p className="flex flex-wrap gap-2">
        {candidates.map((candidate) => (
          <button
            key={`${candidate.by}-${saidOfStored(candidate.value)}`}
            type="button"
            className="btn"
            onClick={() => type(path, chosenOf(candidate.value), { ready: true, force: true })}
          >
            Use {saidOfStored(candidate.value)}
            {candidate.by && (
              <span className="font-normal text-soft">
                {[candidate.by, candidate.at && clock(candidate.at)].filter(Boolean).join(", ")}
              </span>
            )}
          </button>
        ))}
      </p>
    </div>
  );
}
