import { factsOf, isBeside, type StepName } from "../api/fields.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "./index.ts";
import { MomentField } from "./MomentField.tsx";

/** Where a JSON pointer of the job leads to; null where that is no single field of a form. */
export function fieldAt(path: string): { step: StepName; keys: string[] } | null {
  const [head, tail] = path.split("/sheet/");
  const step = head?.split("/")[2] as StepName | undefined;
  if (!tail || !step || isBeside(step)) return null;
  const keys = tail.split("/");
  try {
    const { quantity } = factsOf(step, keys);
    return quantity === "record" || quantity === "trace" ? null : { step, keys };
  } catch {
    return null;
  }
}

/** Whatever field a pointer leads to, wherever its sheet stands. */
export function AnyField({ path }: { path: string }) {
  const found = fieldAt(path);
  if (!found) return null;
  const quantity = factsOf(found.step, found.keys).quantity;
  if (quantity === "choice") return <ChoiceField {...found} />;
  if (quantity === "yesno") return <YesNoField {...found} />;
  if (quantity === "text") return <TextField {...found} />;
  if (quantity === "moment") return <MomentField {...found} />;
  return <EntryField {...found} />;
}
