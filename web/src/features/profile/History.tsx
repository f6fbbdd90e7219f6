import { clock } from "../../format/quantity.ts";

export type Line = { revision: number; at: string; by: string; reason: string };

export function History({ lines }: { lines: Line[] }) {
  if (!lines.length) return <p className="mt-2 text-[14px] text-soft">Yoshi's defaults; nothing was changed yet.</p>;
  return (
    <ol className="mt-2 grid gap-2 text-[14px]">
      {lines.map((line) => (
        <li key={line.revision} className="border-t border-rule pt-1">
          <span className="text-soft">
            {new Date(line.at).toLocaleDateString("en-GB", { day: "numeric", month: "short" })} {clock(line.at)}{" "}
            {line.by}
          </span>
          <br />
          Revision {line.revision}: {line.reason}
        </li>
      ))}
    </ol>
  );
}
