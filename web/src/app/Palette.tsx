import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { tinykeys } from "tinykeys";
import { cylindersQuery, systemsQuery, useRows } from "../api/lists.ts";
import { jobsQuery, refrigerantsQuery } from "../api/queries.ts";
import { useSettled } from "../parts/useSettled.ts";

/** `also` is what it is found by beside its text. */
type Hit = { to: string; text: string; kind: string; also?: string };
const PAGES: Hit[] = [
  { to: "/", text: "Today", kind: "screen" },
  { to: "/jobs", text: "Jobs: all of them", kind: "screen" },
  { to: "/systems", text: "Systems", kind: "screen" },
  { to: "/customers", text: "Customers", kind: "screen" },
  { to: "/cylinders", text: "Cylinders", kind: "screen" },
  { to: "/refrigerants", text: "Refrigerants", kind: "screen" },
  { to: "/instruments", text: "Instruments", kind: "screen" },
  { to: "/practice", text: "Practice bench: charge a unit that is not there", kind: "screen" },
  { to: "/shop", text: "Shop: people and units", kind: "screen" },
  { to: "/profile", text: "Practice profile", kind: "screen" },
  { to: "/account", text: "Your account: password and devices", kind: "screen" },
];
const MOST = 9;
const NONE: never[] = [];
export const OPEN = "yoshi:find";

/** Ctrl+K: any job, circuit, cylinder, refrigerant or screen by a few letters. */
export function Palette() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const ask = (event: Event) => {
      event.preventDefault();
      setOpen(true);
    };
    const stop = tinykeys(window, { "$mod+k": ask }, { ignore: () => false });
    window.addEventListener(OPEN, ask);
    return () => {
      stop();
      window.removeEventListener(OPEN, ask);
    };
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-3 top-[8dvh] z-50 mx-auto max-w-[640px] border-t-2 border-copper bg-sheet p-4 text-ink shadow-xl"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          {open && <Find onGo={() => setOpen(false)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Find({ onGo }: { onGo: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const search = useSettled(text.trim());
  const open = useJobs("open", without(search, "job", "closed"));
  const closed = useJobs("closed", without(search, "job", "closed"));
  const quick = useJobs("quick", without(search, "quick", "total"));
  const systems = useRows(systemsQuery({ search: without(search, "circuit") })).rows;
  const cylinders = useRows(cylindersQuery({ search: without(search, "cylinder") })).rows;
  const refrigerants = useQuery(refrigerantsQuery);
  const all = useMemo<Hit[]>(
    () => [
      ...[...open, ...quick, ...closed].map((job) => ({
        to: `/job/${job.code}`,
        text: `${job.title}${job.site ? `, ${job.site}` : ""}`,
        also: `${job.circuit} ${job.code}`,
        kind: job.closed ? "closed job" : job.kind === "quick" ? "quick total" : "job",
      })),
      ...systems.map((row) => ({
        to: `/systems/${row.id}`,
        text: `${row.name}, ${row.code}, ${row.refrigerant}`,
        also: `${row.system} ${row.site}`,
        kind: "circuit",
      })),
      ...cylinders.map((row) => ({
        to: `/cylinders/${encodeURIComponent(row.code)}`,
        text: `Cylinder ${row.code}, ${row.refrigerant || "empty"}`,
        also: row.owner,
        kind: "cylinder",
      })),
      ...(refrigerants.data?.data ?? []).map((row) => ({
        to: `/refrigerants/${row.name}`,
        text: row.name,
        kind: "refrigerant",
      })),
      ...PAGES,
    ],
    [open, quick, closed, systems, cylinders, refrigerants.data],
  );
  const hits = match(all, text).slice(0, MOST);
  const shown = hits.map(idOf).join("\n");
  // What is found later may come before what was first: a choice is of the list it was made in, and Enter never takes one of an older.
  const [picked, setPicked] = useState({ of: "", id: "" });
  const chosen = picked.of === shown ? picked.id : (shown.split("\n")[0] ?? "");
  // The list itself chooses too, late, of what it held before: a choice is a key or a pointer that moved over this very list.
  const moved = useRef("");
  const move = () => {
    moved.current = shown;
  };
  return (
    <Command
      value={chosen}
      onValueChange={(id) => moved.current === shown && setPicked({ of: shown, id })}
      onKeyDownCapture={(event) => (event.ctrlKey || /^(Arrow|Home|End)/.test(event.key)) && move()}
      onPointerMoveCapture={move}
      shouldFilter={false}
      label="Find a job, circuit, cylinder, refrigerant or screen"
      loop
    >
      <Command.Input
        className="control"
        placeholder="job, circuit, cylinder, refrigerant …"
        value={text}
        onValueChange={setText}
      />
      <Command.List label="Found" className="mt-2">
        {hits.map((hit) => (
          <Command.Item
            key={idOf(hit)}
            value={idOf(hit)}
            className="flex min-h-[44px] w-full cursor-pointer items-center justify-between gap-4 px-2 text-left text-[16px] aria-selected:bg-tint"
            onSelect={() => {
              onGo();
              navigate(hit.to);
            }}
          >
            <span className="truncate">{hit.text}</span>
            <span className="text-[14px] text-soft">{hit.kind}</span>
          </Command.Item>
        ))}
        {text && <Command.Empty className="px-2 text-soft">Nothing here is called that.</Command.Empty>}
      </Command.List>
    </Command>
  );
}

/** A search without the words that only say what kind of thing is meant, as far as they are typed. */
function without(search: string, ...kinds: string[]): string {
  const names = (word: string) => word.length > 2 && kinds.some((kind) => kind.startsWith(word.toLowerCase()));
  return search
    .split(/\s+/)
    .filter((word) => !names(word))
    .join(" ");
}

function idOf(hit: Hit): string {
  return `${hit.to} ${hit.kind}`;
}

/** The server's jobs that are called so; the last touched where nothing was typed. */
function useJobs(listed: "open" | "quick" | "closed", search: string) {
  const { data } = useQuery({ ...jobsQuery({ listed, search }), placeholderData: (before) => before });
  return data?.data.jobs ?? NONE;
}

/** Every word typed stands somewhere in it; what begins with the first word comes first. */
export function match(all: Hit[], text: string): Hit[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter((hit) =>
    words.every((word) => `${hit.text} ${hit.kind} ${hit.also ?? ""}`.toLowerCase().includes(word)),
  );
  const first = words[0];
  if (!first) return found;
  const rank = (hit: Hit) => (hit.text.toLowerCase().startsWith(first) ? 0 : 1);
  return found
    .map((hit, n) => ({ hit, n }))
    .sort((a, b) => rank(a.hit) - rank(b.hit) || a.n - b.n)
    .map(({ hit }) => hit);
}
