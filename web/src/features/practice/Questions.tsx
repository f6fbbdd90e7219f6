import type { RunSide } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { Shape } from "../../parts/shapes.tsx";
import { asClock } from "./ClockBar.tsx";

/** What was asked, what was answered, and what was so then. */
export function Questions({ answers }: { answers: RunSide["answers"] }) {
  const { system } = useSession();
  if (!answers.length) return null;
  return (
    <section aria-label="Asked of you" className="mt-5">
      <h2 className="text-[17px]">Asked of you</h2>
      <ul>
        {answers.map((one) => (
          <li
            key={`${fill(one.title, system)} ${one.time_s}`}
            className="flex items-start gap-3 border-b border-rule py-2"
          >
            <span className="mt-1">
              <Shape word={one.right ? "Holds" : "Stop"} size={15} />
            </span>
            <span>
              {fill(one.title, system)} <b>{one.text}</b> <span className="text-soft">at {asClock(one.time_s)}</span>
              {!one.right && (
                <>
                  {" "}
                  <b className="text-stop">It was {one.truth}.</b>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
