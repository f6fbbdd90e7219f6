import { clock } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";

/** That it is kept, since when, and the way back from the last change. */
export function Saved() {
  const { answer, drafts, link, undo } = useJob();
  const waiting = Object.keys(drafts).length;
  const said = !waiting
    ? `saved ${clock(answer.updated_at)}`
    : link === "offline"
      ? `${waiting} kept on this device`
      : "saving …";
  return (
    <p className="flex min-h-[44px] items-center gap-4 text-[14px] text-soft" data-testid="saved">
      {said}
      {undo && (
        <button type="button" className="btn quiet" onClick={undo}>
          Undo
        </button>
      )}
    </p>
  );
}
