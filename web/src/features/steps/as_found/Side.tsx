import { useJob, useStep } from "../../../job/context.ts";
import { Ladder } from "../../../parts/Ladder.tsx";

/** The temperature ladder of what was read. */
export default function AsFoundSide() {
  const { system } = useJob();
  const { picture } = useStep("as_found");
  return (
    <div>
      <h2 className="text-soft">Temperatures</h2>
      {picture.bands.length || picture.rungs.length ? (
        <Ladder bands={picture.bands} rungs={picture.rungs} system={system} />
      ) : (
        <p className="mt-2 text-[14px] text-soft">
          Dew, bubble, lines and air stand here on one rule as soon as they are typed.
        </p>
      )}
      <p className="mt-3 border-t border-rule pt-2 text-[14px]">
        What is in the system: <b>unknown until weighed.</b>
      </p>
    </div>
  );
}
