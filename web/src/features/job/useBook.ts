import { useEffect, useRef } from "react";
import type { StepName } from "../../api/fields.ts";
import { cylindersQuery, useRows } from "../../api/lists.ts";
import { at, pathOf, useIsClosed, useJob } from "../../job/context.ts";

/** What the shop's book says is in a cylinder that is named in a row goes into the row: the core refuses another refrigerant. */
export function useHolds(step: StepName, row: string[]) {
  const { answer, type } = useJob();
  const closed = useIsClosed(step);
  const named = String(at(answer.job, pathOf(answer.job, step, [...row, "cylinder"])) ?? "");
  const { rows, loaded, keptAt } = useRows(cylindersQuery({ code: named }));
  const path = pathOf(answer.job, step, [...row, "holds"]);
  const known = at(answer.job, path) ?? null;
  const book = rows.find((cylinder) => cylinder.code === named);
  const holds = book?.refrigerant || null;
  const put = useRef("");
  useEffect(() => {
    const said = `${named}:${holds}`;
    if (!book && keptAt !== null) return; // what a device has of the book is not all of it
    if (closed || !loaded || !named || holds === known || put.current === said) return;
    put.current = said;
    type(path, holds, { ready: true, force: true });
  }, [closed, loaded, named, holds, known, path, type, book, keptAt]);
}
