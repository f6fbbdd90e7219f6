import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { CardFields } from "./CardFields.tsx";
import { blankQuery, type CardState, KIND_WORDS, type Kind, useCardWrite } from "./cards.ts";

/** Add a customer, a site, a system or a circuit by hand. */
export function AddCard({
  kind,
  parent,
  done,
  label,
  quiet,
}: {
  kind: Kind;
  parent?: { id: number; title: string } | null;
  done?: (card: CardState) => void;
  label?: string;
  quiet?: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`Add a ${KIND_WORDS[kind]}`}
      trigger={
        <button type="button" className={quiet ? "btn quiet" : "btn"}>
          {label ?? `Add a ${KIND_WORDS[kind]}`}
        </button>
      }
    >
      <NewCard
        kind={kind}
        parent={parent ?? null}
        done={(card) => {
          setOpen(false);
          done?.(card);
        }}
      />
    </Dialog>
  );
}

function NewCard({
  kind,
  parent,
  done,
}: {
  kind: Kind;
  parent: { id: number; title: string } | null;
  done: (card: CardState) => void;
}) {
  const { data } = useQuery(blankQuery(kind));
  const [values, setValues] = useState<Record<string, string>>({});
  const [above, setAbove] = useState<number | null>(parent?.id ?? null);
  const { busy, refused, wrong, write } = useCardWrite();
  if (!data) return <Waiting rows={3} />;
  const fields = new Set(data.fields.map((field) => `/${field.name}`));
  const go = async () => {
    const made: CardState[] = [];
    const fit = await write(async (key) => {
      const body = { key, parent: above, fields: values };
      made.push(await take(client.POST("/api/cards/{kind}", { params: { path: { kind } }, body })));
    });
    if (fit && made[0]) done(made[0]);
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <CardFields card={data} values={values} onChange={setValues} parent={parent} onParent={setAbove} wrong={wrong} />
      {refused.text && !fields.has(refused.path) && refused.path !== "/parent" && (
        <p className="note stop mt-3" role="alert">
          {refused.text}
        </p>
      )}
      <button type="submit" className="btn go mt-4" disabled={busy}>
        Add it
      </button>
    </form>
  );
}
