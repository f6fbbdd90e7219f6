import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { trailQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { Field } from "../../parts/Field.tsx";

const WIDTHS = { when: "w-[190px]", who: "w-[140px]", what: "", from: "w-[180px]" };
const WHEN = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** Who did what, from where: for the owner, newest first, and as a table to take along. */
export default function TrailPage() {
  const { me } = useSession();
  const [search, setSearch] = useState("");
  const [pages, setPages] = useState([""]);
  return (
    <Frame crumb="Who did what" place={me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <div className="flex flex-wrap items-end justify-between gap-4">
          <h1>Who did what</h1>
          <div className="flex flex-wrap items-end gap-3">
            <div className="w-[190px] sm:w-[240px]">
              <Field
                label="find"
                hint="a name, a job, a word"
                value={search}
                onChange={(text) => {
                  setSearch(text);
                  setPages([""]);
                }}
              />
            </div>
            <a className="btn mb-[19px]" href="/api/trail.csv">
              As a table
            </a>
          </div>
        </div>
        <table className="mt-2 w-full text-[15px]">
          <thead>
            <tr className="border-b border-ink text-left">
              {Object.entries(WIDTHS).map(([head, width]) => (
                <th key={head} className={`lab py-1 pr-4 font-normal ${width}`}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          {pages.map((after, index) => (
            <Lines
              key={after}
              after={after}
              search={search}
              onMore={index === pages.length - 1 ? (next) => setPages([...pages, next]) : undefined}
            />
          ))}
        </table>
      </main>
    </Frame>
  );
}

function Lines({ after, search, onMore }: { after: string; search: string; onMore?: (next: string) => void }) {
  const { data, error } = useQuery(trailQuery(after, search));
  const next = data?.next;
  return (
    <tbody>
      {error && (
        <tr>
          <td colSpan={4}>
            <p className="note mt-2">{error.message}</p>
          </td>
        </tr>
      )}
      {data?.lines.length === 0 && (
        <tr>
          <td colSpan={4} className="py-3 text-soft">
            Nothing here.
          </td>
        </tr>
      )}
      {data?.lines.map((line) => (
        <tr key={line.number} className="border-b border-rule align-top">
          <td className="py-2 pr-4 whitespace-nowrap text-soft">{WHEN.format(new Date(line.at))}</td>
          <td className="py-2 pr-4 whitespace-nowrap">{line.who || "a device"}</td>
          <td className="py-2 pr-4">
            {line.what} {line.about && <span className="text-soft">{line.about}</span>}
            {line.detail && <p className="text-[14px] text-soft">{line.detail}</p>}
          </td>
          <td className="py-2 text-[14px] text-soft">
            {line.device}
            <br />
            {line.address}
          </td>
        </tr>
      ))}
      {next && onMore && (
        <tr>
          <td colSpan={4} className="py-3">
            <button type="button" className="btn" onClick={() => onMore(next)}>
              Earlier ones
            </button>
          </td>
        </tr>
      )}
    </tbody>
  );
}
