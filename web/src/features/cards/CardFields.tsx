import { useState } from "react";
import { Field, Select } from "../../parts/Field.tsx";
import { PickFrom } from "../../parts/PickFrom.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { type BlankCard, type Kind, useCards } from "./cards.ts";

type Values = Record<string, string>;

/** The fields of a card as the server names them, and what it belongs to. */
export function CardFields({
  card,
  values,
  onChange,
  parent,
  onParent,
  wrong,
}: {
  card: BlankCard;
  values: Values;
  onChange: (values: Values) => void;
  parent: { id: number; title: string } | null;
  onParent: (id: number | null) => void;
  wrong: (field: string) => string | undefined;
}) {
  return (
    <>
      {card.parent_kind && (
        <ParentPick kind={card.parent_kind as Kind} parent={parent} onPick={onParent} problem={wrong("parent")} />
      )}
      <div className="grid gap-x-5 sm:grid-cols-2">
        {card.fields.map((field) => {
          const options = Object.fromEntries(field.options.map((option) => [option.value, option.label]));
          const common = {
            label: field.label,
            value: values[field.name] ?? field.value,
            problem: wrong(field.name),
            hint: field.hint,
            onChange: (value: string) => onChange({ ...values, [field.name]: value }),
          };
          return field.options.length ? (
            <Select key={field.name} {...common} options={options} />
          ) : (
            <Field key={field.name} {...common} />
          );
        })}
      </div>
    </>
  );
}

function ParentPick({
  kind,
  parent,
  onPick,
  problem,
}: {
  kind: Kind;
  parent: { id: number; title: string } | null;
  onPick: (id: number | null) => void;
  problem?: string;
}) {
  const [search, setSearch] = useState("");
  const [picked, setPicked] = useState(parent ? String(parent.id) : "");
  const { rows, hasMore } = useCards(kind, useSettled(search));
  const offered = rows.map((row) => ({
    key: String(row.id),
    text: [row.title, row.below].filter(Boolean).join(", "),
  }));
  const own = parent && !search && !offered.some((row) => row.key === String(parent.id));
  return (
    <PickFrom
      label={kind}
      none={kind === "customer" ? "no customer named" : `which ${kind}`}
      value={picked}
      rows={own ? [{ key: String(parent.id), text: parent.title }, ...offered] : offered}
      hasMore={hasMore}
      search={search}
      onSearch={setSearch}
      onPick={(key) => {
        setPicked(key);
        onPick(key ? Number(key) : null);
      }}
      {...(problem ? { problem } : {})}
    />
  );
}
