import { client, take } from "../../api/client.ts";
import { useSession } from "../../app/session.ts";
import { clock, day } from "../../format/quantity.ts";
import { type CardState, useCardWrite } from "./cards.ts";

const WORDS: Record<CardState["events"][number]["what"], string> = {
  added: "added",
  edited: "changed",
  archived: "archived",
  restored: "put back",
  merged: "merged with",
  unmerged: "merge undone:",
};

/** What was done to a card, last first; a merge that still holds can be undone here. */
export function CardHistory({ card }: { card: CardState }) {
  const { me } = useSession();
  const { busy, refused, write } = useCardWrite();
  if (card.events.length === 0) return null;
  const label = (name: string) => card.fields.find((field) => field.name === name)?.label ?? name;
  const undo = (event: number) =>
    write((key) => take(client.POST("/api/cards/merges/{event}/undo", { params: { path: { event } }, body: { key } })));
  return (
    <section className="mt-6" aria-label="What was done to it">
      <h3 className="border-b border-ink pb-1">What was done to it</h3>
      <ul className="text-[15px]">
        {card.events.map((event) => (
          <li key={event.id} className="border-b border-rule py-2">
            <span className="text-soft">
              {day(event.at)} {clock(event.at)}, {event.by}:
            </span>{" "}
            <b>{WORDS[event.what]}</b> {event.title}
            {event.changed.map((line) => (
              <span key={line.name} className="block">
                {label(line.name)}: {line.was || "nothing"} → {line.now || "nothing"}
              </span>
            ))}
            {event.what === "merged" && !event.undone && me.role !== "technician" && (
              <button type="button" className="btn quiet" disabled={busy} onClick={() => void undo(event.id)}>
                Undo this merge
              </button>
            )}
          </li>
        ))}
      </ul>
      {refused.text && (
        <p className="note stop mt-2" role="alert">
          {refused.text}
        </p>
      )}
    </section>
  );
}
