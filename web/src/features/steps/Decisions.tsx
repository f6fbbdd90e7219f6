import { factsOf } from "../../api/fields.ts";
import { TextField } from "../../fields/index.ts";
import { useRows } from "../../job/context.ts";

/** Where access costs money, the customer decides; what was advised and chosen stays in the record. */
export function Decisions({ step }: { step: "leak_search" | "recover" }) {
  const rows = useRows(step, "decisions", ["d1"]);
  const label = (key: string) => factsOf(step, ["decisions", "d1", key]).label;
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">The customer decides</legend>
      {rows.map((key) => (
        <div key={key} className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          {["question", "advice", "chosen", "by"].map((field) => (
            <TextField key={field} step={step} keys={["decisions", key, field]} label={label(field)} />
          ))}
        </div>
      ))}
    </fieldset>
  );
}
