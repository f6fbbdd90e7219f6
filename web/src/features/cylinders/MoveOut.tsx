import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { circuitsQuery } from "../../api/queries.ts";
import type { BookRow, BookState } from "../../api/types.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { Form, useBooking } from "./booking.tsx";

const WHERE = {
  cylinder: "into another cylinder",
  circuit: "into a circuit of its owner",
  reclaim: "sent for reclaim",
  lost: "lost",
};

export function MoveOut({ from, rows }: { from: BookState; rows: BookRow[] }) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<keyof typeof WHERE>("cylinder");
  const [texts, setTexts] = useState({ to: "", mass: "", gross_after: "", reason: "" });
  const { send, refused, busy, wrong } = useBooking();
  const { data: circuits } = useQuery(circuitsQuery);
  const go = async () => {
    const params = { path: { code: from.code } };
    const done = await send((key) =>
      take(client.POST("/api/cylinders/{code}/move", { params, body: { key, to_kind: kind, ...texts } })),
    );
    if (done) {
      setOpen(false);
      setTexts({ to: "", mass: "", gross_after: "", reason: "" });
    }
  };
  const field = (name: keyof typeof texts, label: string, hint = "") => (
    <Field
      label={label}
      hint={hint}
      value={texts[name]}
      problem={wrong(name)}
      onChange={(value) => setTexts({ ...texts, [name]: value })}
    />
  );
  const into = Object.fromEntries(
    rows
      .filter((row) => row.kind === "recovery" && row.code !== from.code)
      .map((row) => [row.code, `${row.code} · ${row.refrigerant || "empty"} · ${row.account.badge}`]),
  );
  const circuitsOf = Object.fromEntries(
    (circuits?.data ?? []).map((circuit) => [circuit.code, `${circuit.site}: ${circuit.name}`]),
  );
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`Move out of ${from.code}`}
      trigger={
        <button type="button" className="btn">
          Move
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Book it" busy={busy} refused={refused.path ? "" : refused.text}>
          <Select
            label="where it goes"
            value={kind}
            options={WHERE}
            onChange={(next) => setKind(next as keyof typeof WHERE)}
          />
          {(kind === "cylinder" || kind === "circuit") && (
            <Select
              label={kind}
              value={texts.to}
              options={{ "": "—", ...(kind === "cylinder" ? into : circuitsOf) }}
              problem={wrong("to")}
              onChange={(to) => setTexts({ ...texts, to })}
            />
          )}
          <div className="grid grid-cols-2 gap-x-5">
            {field("mass", "how much", kind === "reclaim" ? "empty: all of it" : "7 lb 3 oz")}
            {field("gross_after", "or what the scale reads after")}
          </div>
          {field("reason", "reason", kind === "lost" ? "needed" : "")}
        </Form>
      </form>
    </Dialog>
  );
}
