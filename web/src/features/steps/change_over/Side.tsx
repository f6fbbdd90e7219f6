import { fill } from "../../../format/message.ts";
import { useJob, useStep } from "../../../job/context.ts";

/** The words of the tag that hangs on the unit until it is charged and proven. */
export default function ChangeOverSide() {
  const { system } = useJob();
  const { notes } = useStep("change_over").picture;
  return (
    <div>
      <h2 className="text-soft">On the tag until it is proven</h2>
      {notes.length ? (
        <div className="mt-2 border-2 border-ink bg-sheet p-4 text-[16px] font-semibold" data-testid="tag">
          {notes.map((note) => (
            <p key={note.text} className="mt-1 first:mt-0">
              {fill(note, system)}
            </p>
          ))}
        </div>
      ) : (
        <p className="mt-2 text-[14px] text-soft">Once it is known what goes in, the tag's words stand here.</p>
      )}
      <p className="mt-3 text-[14px] text-soft">
        The label for the unit is printed at Close out, with the charge that was proven.
      </p>
    </div>
  );
}
