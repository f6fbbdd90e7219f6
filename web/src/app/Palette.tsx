import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { tinykeys } from "tinykeys";
import { cylindersQuery, jobsQuery, refrigerantsQuery, systemsQuery } from "../api/queries.ts";

type Hit = { to: string; text: string; kind: string };
const PAGES: Hit[] = [
  { to: "/", text: "Today", kind: "screen" },
  { to: "/systems", text: "Systems", kind: "screen" },
  { to: "/cylinders", text: "Cylinders", kind: "screen" },
  { to: "/refrigerants", text: "Refrigerants", kind: "screen" },
  { to: "/instruments", text: "Instruments", kind: "screen" },
  { to: "/shop", text: "Shop: people and units", kind: "screen" },
  { to: "/profile", text: "Practice profile", kind: "screen" },
  { to: "/account", text: "Your account: password and devices", kind: "screen" },
];
const MOST = 9;
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
  const open = useQuery(jobsQuery(false, ""));
  const closed = useQuery(jobsQuery(true, ""));
  const systems = useQuery(systemsQuery);
  const cylinders = useQuery(cylindersQuery);
  const refrigerants = useQuery(refrigerantsQuery);
  const all = useMemo<Hit[]>(
    () => [
      ...[...(open.data?.data.jobs ?? []), ...(closed.data?.data.jobs ?? [])].map((job) => ({
        to: `/job/${job.code}`,
        text: `${job.title}${job.site ? `, ${job.site}` : ""}`,
        kind: job.closed ? "closed job" : "job",
      })),
      ...(systems.data?.data ?? []).map((row) => ({
        to: `/systems/${row.id}`,
        text: `${row.name}, ${row.code}, ${row.refrigerant}`,
        kind: "circuit",
      })),
      ...(cylinders.data?.data ?? []).map((row) => ({
        to: `/cylinders/${encodeURIComponent(row.code)}`,
        text: `Cylinder ${row.code}, ${row.refrigerant || "empty"}`,
        kind: "cylinder",
      })),
      ...(refrigerants.data?.data ?? []).map((row) => ({
        to: `/refrigerants/${row.name}`,
        text: row.name,
        kind: "refrigerant",
      })),
      ...PAGES,
    ],
    [open.data, closed.data, systems.data, cylinders.data, refrigerants.data],
  );
  const hits = match(all, text).slice(0, MOST);
  return (
    <Command shouldFilter={false} label="Find a job, circuit, cylinder, refrigerant or screen" loop>
      <Command.Input
        className="control"
        placeholder="job, circuit, cylinder, refrigerant …"
        value={text}
        onValueChange={setText}
      />
      <Command.List label="Found" className="mt-2">
        {hits.map((hit) => (
          <Command.Item
            key={hit.to + hit.kind}
            value={hit.to + hit.kind}
            className="flex min-h-[44px] w-full cursor-pointer items-center justify-between gap-4 px-2 text-left text-[16px] aria-selected:bg-tint"
            onSelect={() => {
              onGo();
              navigate(hit.to);
            }}
          >
            <span className="truncate">{hit.text}</span>
            <span className="text-[13px] text-soft">{hit.kind}</span>
          </Command.Item>
        ))}
        {text && <Command.Empty className="px-2 text-soft">Nothing here is called that.</Command.Empty>}
      </Command.List>
    </Command>
  );
}

/** Every word typed stands somewhere in it; what begins with the first word comes first. */
export function match(all: Hit[], text: string): Hit[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = all.filter((hit) => words.every((word) => `${hit.text} ${hit.kind}`.toLowerCase().includes(word)));
  const first = words[0];
  if (!first) return found;
  const rank = (hit: Hit) => (hit.text.toLowerCase().startsWith(first) ? 0 : 1);
  return found
    .map((hit, n) => ({ hit, n }))
    .sort((a, b) => rank(a.hit) - rank(b.hit) || a.n - b.n)
    .map(({ hit }) => hit);
}
