/** How an entry was read: its other faces while it stands, the echo while it is typed. */
import type { ReactNode } from "react";
import type { Entry } from "../api/types.ts";
import { otherFaces, show, unitFor } from "../format/quantity.ts";
import { useJob } from "../job/context.ts";

export function Said(props: {
  path: string;
  facts: string;
  entry: Entry | null;
  copied: Entry | null;
  typing: boolean;
  hint?: string;
}): ReactNode {
  const { echoes, system } = useJob();
  const echo = echoes[props.path];
  if (echo && props.typing) {
    return (
      <>
        <span className="text-ink">read as {echo.also.join(", ")}</span>
        {echo.is_not && <span className="block text-soft">{echo.is_not}</span>}
      </>
    );
  }
  if (props.entry && props.facts === "mass") {
    if (system === "grams") {
      const other =
        props.entry.unit === "g" ? show(props.entry.value, "mass", "us") : show(props.entry.value, "mass", "grams");
      return <span className="text-soft">= {other}</span>;
    }
    const typedUnit =
      props.entry.unit === "lb oz" || props.entry.unit === "kg" ? (props.entry.unit === "kg" ? "si" : "us") : null;
    const faces = otherFaces(props.entry.value, typedUnit === "si" ? "si" : "us");
    const shown =
      props.entry.unit === "lb" || props.entry.unit === "oz"
        ? [show(props.entry.value, "mass", "us"), ...faces]
        : faces;
    return (
      <span className="text-soft">
        ={" "}
        {shown
          .filter((face, n, all) => all.indexOf(face) === n && face.replace(".0 ", " ") !== props.entry?.text)
          .slice(0, 3)
          .join(" = ")}
      </span>
    );
  }
  if (props.entry && props.entry.unit !== unitFor(props.facts, system)) {
    return <span className="text-soft">= {show(props.entry.value, props.facts, system)}</span>;
  }
  if (!props.entry && props.copied) return <span className="text-soft">on record</span>;
  return props.hint ? <span className="text-soft">{props.hint}</span> : null;
}
