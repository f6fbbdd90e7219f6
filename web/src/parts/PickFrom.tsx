import { useId, useState } from "react";

type Row = { key: string; text: string };

/** One of a list that may be long: its first page, and a search where there is more. What was picked stays there whatever is searched. */
export function PickFrom({
  label,
  none,
  value,
  rows,
  hasMore,
  search,
  onSearch,
  onPick,
  problem,
  id,
}: {
  label: string;
  none: string;
  value: string;
  rows: Row[];
  hasMore: boolean;
  search: string;
  onSearch: (text: string) => void;
  onPick: (key: string) => void;
  problem?: string;
  id?: string;
}) {
  const own = useId();
  const [picked, setPicked] = useState<Row | null>(null);
  const kept = value && !rows.some((row) => row.key === value) && picked?.key === value ? picked : null;
  const at = id ?? own;
  return (
    <div className="min-w-0 flex-1">
      <label className="lab block" htmlFor={at}>
        {label}
      </label>
      {(hasMore || search) && (
        <input
          className="control mb-1"
          type="search"
          aria-label={`find ${label}`}
          placeholder="find by a few letters"
          value={search}
          onChange={(event) => onSearch(event.target.value)}
        />
      )}
      <select
        id={at}
        className="control"
        value={kept || rows.some((row) => row.key === value) ? value : ""}
        aria-invalid={problem ? true : undefined}
        onChange={(event) => {
          setPicked(rows.find((row) => row.key === event.target.value) ?? null);
          onPick(event.target.value);
        }}
      >
        <option value="">{none}</option>
        {[...(kept ? [kept] : []), ...rows].map((row) => (
          <option key={row.key} value={row.key}>
            {row.text}
          </option>
        ))}
      </select>
      {problem && (
        <p className="text-[14px] font-medium text-stop" role="alert">
          {problem}
        </p>
      )}
    </div>
  );
}
