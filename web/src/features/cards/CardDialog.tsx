import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { useSession } from "../../app/session.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { CardFields } from "./CardFields.tsx";
import { CardHistory } from "./CardHistory.tsx";
import { type CardState, cardQuery, KIND_WORDS, type Kind, useCardWrite } from "./cards.ts";
import { Merge } from "./Merge.tsx";

/** A card to correct: its fields, where it belongs; for a lead also to merge and to archive; and what was done to it. */
export function CardDialog({ kind, id, label, about }: { kind: Kind; id: number; label?: string; about?: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`This ${KIND_WORDS[kind]}`}
      trigger={
        <button type="button" className="btn quiet" aria-label={about && `${label ?? "Edit"} ${about}`}>
          {label ?? `Edit ${KIND_WORDS[kind]}`}
        </button>
      }
    >
      {open && <OneCard kind={kind} id={id} />}
    </Dialog>
  );
}

export function OneCard({ kind, id }: { kind: Kind; id: number }) {
  const { me } = useSession();
  const { data, error } = useQuery(cardQuery(kind, id));
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <Waiting rows={4} />;
  return (
    <>
      {data.merged_into && <p className="note">This card was merged into {data.merged_into.title}.</p>}
      <Edit key={stamp(data)} card={data} />
      {me.role === "technician" ? (
        <p className="mt-5 text-[15px] text-soft">The lead merges and archives.</p>
      ) : (
        !data.merged_into && (
          <div className="mt-6 grid gap-4 border-t border-rule pt-4">
            <Merge card={data} />
            <Archive card={data} />
          </div>
        )
      )}
      <CardHistory card={data} />
    </>
  );
}

/** A form begins anew once the card says otherwise. */
const stamp = (card: CardState) => JSON.stringify([card.fields.map((field) => field.value), card.parent]);

function Edit({ card }: { card: CardState }) {
  const [values, setValues] = useState<Record<string, string>>({});
  const [above, setAbove] = useState<number | null>(card.parent?.id ?? null);
  const { busy, refused, wrong, write } = useCardWrite();
  const edits = card.fields
    .filter((field) => (values[field.name] ?? field.value) !== field.value)
    .map((field) => ({ name: field.name, was: field.value, now: values[field.name] ?? "" }));
  const moved = above !== (card.parent?.id ?? null);
  const named = [...card.fields.map((field) => `/${field.name}`), "/parent"];
  const params = { path: { kind: card.kind, card: card.id } };
  const go = () =>
    write((key) =>
      take(
        client.POST("/api/cards/{kind}/{card}/edit", {
          params,
          body: { key, edits, parent: moved ? { was: card.parent?.id ?? null, now: above } : null },
        }),
      ),
    );
  const changed = edits.length > 0 || moved;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <CardFields
        card={card}
        values={values}
        onChange={setValues}
        parent={card.parent}
        onParent={setAbove}
        wrong={wrong}
      />
      {refused.text && !named.includes(refused.path) && (
        <p className="note stop mt-3" role="alert">
          {refused.text}
        </p>
      )}
      <p className="mt-4 flex items-center gap-3">
        <button type="submit" className="btn go" disabled={busy || !changed}>
          Save
        </button>
        <WhyNot unless={changed}>Nothing is changed yet.</WhyNot>
      </p>
    </form>
  );
}

function Archive({ card }: { card: CardState }) {
  const { busy, refused, write } = useCardWrite();
  const params = { path: { kind: card.kind, card: card.id } };
  const go = () =>
    write((key) =>
      take(client.POST("/api/cards/{kind}/{card}/archive", { params, body: { key, archived: !card.archived } })),
    );
  const kept = card.archived ? "" : card.in_use;
  return (
    <div>
      <button type="button" className="btn" disabled={busy || kept !== ""} onClick={() => void go()}>
        {card.archived ? "Put it back in the lists" : "Archive it"}
      </button>
      <p className="mt-1 text-[15px] text-soft">
        {kept ||
          (card.archived
            ? "It is archived: in no list, with all its history."
            : "It leaves the lists; nothing of it is lost, and it can be put back.")}
      </p>
      {refused.text && (
        <p className="note stop mt-2" role="alert">
          {refused.text}
        </p>
      )}
    </div>
  );
}
