import { useState } from "react";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { unitFor } from "../../format/quantity.ts";
import type { Run } from "./queries.ts";
import { type Touch, useTouch } from "./useTouch.ts";

/** What the exercise asks: answered here, as often as one likes; the last answer counts, and when it was given. */
export function Asks({ run }: { run: Run }) {
  const { touch, refused } = useTouch(run);
  const asks = run.seen?.asks ?? [];
  const [open, setOpen] = useState(true);
  if (!asks.length) return null;
  const left = asks.filter((ask) => !ask.answer).length;
  return (
    <section aria-label="Asked of you" className="mb-5 border-l-4 border-copper pl-4" data-testid="asks">
      <button
        type="button"
        className="flex min-h-[44px] w-full items-center gap-3 text-left"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <h2 className="text-[17px] text-copper">Asked of you</h2>
        <span className="text-[14px] text-soft">
          {left ? `${left} to answer` : "all answered; the last answer counts"}
        </span>
        <span aria-hidden="true" className="ml-auto text-soft">
          {open ? "less" : "show"}
        </span>
      </button>
      {open && (
        <>
          {asks.map((ask) => (
            <OneAsk key={ask.id} ask={ask} touch={touch} />
          ))}
          {refused && <p className="mt-1 text-stop">{refused}</p>}
        </>
      )}
    </section>
  );
}

type Ask = NonNullable<Run["seen"]>["asks"][number];

function OneAsk({ ask, touch }: { ask: Ask; touch: Touch }) {
  const { system } = useSession();
  const [typed, setTyped] = useState<string | null>(null);
  const choices = Object.entries(ask.choices);
  const title = fill(ask.title, system);
  const answer = () => {
    const text = (typed ?? "").trim();
    if (!text || text === ask.answer) return;
    touch("answer", ask.id, text);
  };
  if (choices.length > 4)
    return (
      <label className="block py-2">
        <span className="block text-[16px] font-semibold">{title}</span>
        <select
          className="control max-w-[420px]"
          value={ask.answer}
          onChange={(event) => touch("answer", ask.id, event.target.value)}
        >
          <option value="" disabled>
            choose
          </option>
          {choices.map(([id, text]) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      </label>
    );
  if (choices.length)
    return (
      <fieldset className="py-2">
        <legend className="text-[16px] font-semibold">{title}</legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {choices.map(([id, text]) => (
            <label key={id} className="pick">
              <input
                type="radio"
                className="sr-only"
                name={ask.id}
                checked={ask.answer === id}
                onChange={() => touch("answer", ask.id, id)}
              />
              {text}
            </label>
          ))}
        </div>
      </fieldset>
    );
  return (
    <label className="grid items-end gap-x-4 py-2 md:grid-cols-[minmax(0,1fr)_200px]">
      <span className="text-[16px] font-semibold">{title}</span>
      <input
        className="control"
        value={typed ?? ask.answer}
        placeholder={ask.id.startsWith("grams") ? "g" : unitFor(ask.quantity, system)}
        inputMode="text"
        onChange={(event) => setTyped(event.target.value)}
        onBlur={answer}
        onKeyDown={(event) => event.key === "Enter" && answer()}
      />
    </label>
  );
}
