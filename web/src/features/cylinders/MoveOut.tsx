import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { circuitsQuery, cylindersQuery, useRows } from "../../api/lists.ts";
import type { BookState } from "../../api/types.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { PickFrom } from "../../parts/PickFrom.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Dialog } from "../../ui/Dialog.tsx";
import { Form, useBooking } from "./booking.tsx";

const WHERE = {
  cylinder: "into another cylinder",
  circuit: "into a circuit of its owner",
  reclaim: "sent for reclaim",
  lost: "lost",
};

export function MoveOut({ from }: { from: BookState }) {
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<keyof typeof WHERE>("cylinder");
  const [texts, setTexts] = useState({ to: "", mass: "", gross_after: "", reason: "" });
  const { send, refused, busy, wrong } = useBooking();
  const [search, setSearch] = useState("");
  const find = useSettled(search);
  const cylinders = useRows(cylindersQuery({ kind: "recovery", search: find }));
  const circuits = useRows(circuitsQuery({ search: find }));
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
  const into = {
    cylinder: cylinders.rows
      .filter((row) => row.code !== from.code)
      .map((row) => ({ key: row.code, text: `${row.code} · ${row.refrigerant || "empty"} · ${row.account.badge}` })),
    circuit: circuits.rows.map((row) => ({ key: row.code, text: `${row.site}: ${row.name}` })),
  };
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
            <PickFrom
              key={kind}
              label={kind}
              none="—"
              value={texts.to}
              rows={into[kind]}
              hasMore={kind === "cylinder" ? cylinders.hasMore : circuits.hasMore}
              search={search}
              onSearch={setSearch}
              problem={wrong("to")}
              onPick={(to) => setTexts({ ...texts, to })}
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
