import { useState } from "react";
import { useNavigate } from "react-router";
import { client, take } from "../../api/client.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { Form, useBooking } from "./booking.tsx";

const EMPTY = {
  code: "",
  kind: "recovery" as "recovery" | "new",
  refrigerant: "",
  owner: "",
  tare: "",
  water_capacity: "",
  retest: "",
  gross: "",
};

export function AddCylinder() {
  const [open, setOpen] = useState(false);
  const [facts, setFacts] = useState(EMPTY);
  const [evacuated, setEvacuated] = useState(false);
  const { send, refused, busy, wrong } = useBooking();
  const navigate = useNavigate();
  const field = (name: keyof typeof EMPTY, label: string, hint = "") => (
    <Field
      label={label}
      hint={hint}
      value={facts[name]}
      problem={wrong(name)}
      onChange={(value) => setFacts({ ...facts, [name]: value })}
    />
  );
  const go = async () => {
    const done = await send((key) =>
      take(client.POST("/api/cylinders", { body: { key, ...facts, evacuated, oily: false } })),
    );
    if (done) {
      setOpen(false);
      navigate(`/cylinders/${encodeURIComponent(facts.code.trim())}`);
      setFacts(EMPTY);
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Add a cylinder"
      trigger={
        <button type="button" className="btn go">
          Add a cylinder
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Add it" busy={busy} refused={refused.path ? "" : refused.text}>
          <div className="grid grid-cols-2 gap-x-5">
            {field("code", "number or name on it")}
            <Select
              label="kind"
              value={facts.kind}
              options={{ recovery: "refillable, recovery", new: "one-way, new refrigerant" }}
              onChange={(kind) => setFacts({ ...facts, kind: kind as "new" | "recovery" })}
            />
            {field("refrigerant", "refrigerant in it", "empty if nothing is")}
            {field("owner", "owner of what is in it")}
            {field("tare", "tare", "stamped TW, 26 lb 11 oz")}
            {field("water_capacity", "water capacity", "stamped WC, 47.7 lb")}
            {field("retest", "retest due", "2029-03")}
            {field("gross", "scale reads now", "empty if it is empty")}
          </div>
          <label className="flex min-h-[44px] items-center gap-3 text-[15px]">
            <input
              type="checkbox"
              className="h-5 w-5 accent-[var(--copper)]"
              checked={evacuated}
              onChange={(event) => setEvacuated(event.target.checked)}
            />
            evacuated and purged, ready for its first use
          </label>
        </Form>
      </form>
    </Dialog>
  );
}
