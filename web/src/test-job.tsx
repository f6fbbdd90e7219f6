/** A job view for component tests, without a server. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { vi } from "vitest";
import { Refused } from "./api/client.ts";
import type { Claim, Findings, JobState, Message, Pictures, StepResult, Word } from "./api/types.ts";
import { SessionContext } from "./app/session.ts";
import { JobContext, type JobView } from "./job/context.ts";
import type { Draft } from "./outbox/outbox.ts";

export const said = (text: string, amounts: Message["amounts"] = {}): Message => ({ text, amounts, words: {} });

type Drawn = Omit<Pictures, "repair">;
/** An empty picture that will do for any step. */
export const emptyPicture: Drawn["as_found"] &
  Drawn["verify"] &
  Drawn["identify"] &
  Drawn["plan_change"] &
  Drawn["leak_search"] &
  Drawn["recover"] &
  Drawn["evacuate"] &
  Drawn["close_out"] &
  Drawn["weigh_in"] = {
  claims: [],
  ways: [
    {
      id: "proven",
      label: "Proven",
      open: true,
      words: said("Weighed in, and the running unit agrees."),
      reasoned: false,
    },
    {
      id: "running_not_proven",
      label: "Running, not proven",
      open: true,
      words: said("With a reason."),
      reasoned: true,
    },
  ],
  parts: [],
  marks: [],
  bands: [],
  trims: [],
  notes: [],
  causes: [],
  next_check: null,
  rungs: [],
  compared: [],
  places: [],
  loss: null,
  cylinders: [],
  charts: [],
  plan: [],
  scale: null,
  tape: null,
  before_after: [],
  takes_out: false,
  cycles: [],
};

/** A claim of a job, with its sentence. */
export function claimOf(id: Claim["id"], step: string, standing: Claim["standing"], part: Partial<Claim> = {}): Claim {
  const label = {
    unit: "The right unit",
    emptied: "Emptied",
    mended: "Mended",
    tight: "Tight",
    dry: "Dry",
    charged: "Charged right",
    runs: "Runs right",
  }[id];
  const words = said(`${label} in one sentence.`);
  return {
    id,
    step,
    label,
    standing,
    words,
    shows: [],
    against: [],
    missing: [],
    mode: "",
    by: "",
    reason: "",
    awaits: "",
    ...part,
  };
}

/** What the rules refuse, as an act of a job view is refused. */
export const refusal = (detail: string, path = ""): Refused =>
  new Refused(422, { type: "about:blank", title: "Refused", status: 422, code: "x", detail, path, params: {} });

export function stepResult(step: string, word: Word, part: Partial<StepResult> = {}): StepResult {
  return {
    step,
    state: "open",
    verdict: { word, headline: said(`${step} says ${word}`), reasons: [] },
    summary: said(`${step} in short`),
    figures: [],
    missing: [],
    questions: [],
    problems: [],
    cautions: [],
    movements: [],
    waiting: null,
    picture: emptyPicture,
    ...part,
  };
}

export function jobView(
  part: Partial<JobView> = {},
  job: Record<string, unknown> = {},
  steps: StepResult[] = [],
): JobView {
  const all = ["identify", "as_found", "leak_search", "recover", "weigh_in", "verify", "close_out"].map(
    (step) => steps.find((s) => s.step === step) ?? stepResult(step, "Open"),
  );
  const findings = {
    job_id: "j",
    core_version: "0",
    profile_id: "p",
    profile_revision: 1,
    now: "",
    steps: all,
    grams_first: false,
    claims: [],
    movements: [],
    standing: { inside: null, added: null, short_again: null, words: said("The unit was worked on.") },
    inside: {
      rows: [],
      now: said("not known"),
      low: { value: 0, quantity: "mass", u: null },
      high: null,
      known: "not said",
      belongs: null,
      parts: [],
      open_side: "",
    },
  } as Findings;
  const answer = {
    code: "job1",
    seq: 3,
    kind: "charge",
    title: "Control room",
    closed: false,
    updated_at: "2026-06-18T15:00:00Z",
    siblings: [],
    people: ["M. Orrin"],
    otherwise: [],
    job,
    findings,
  } as unknown as JobState;
  return {
    answer,
    findings,
    system: "us",
    drafts: {},
    problems: {},
    echoes: {},
    link: "fine",
    since: null,
    live: {},
    following: null,
    readAt: Date.now(),
    fromDevice: false,
    judgedBy: "office",
    able: false,
    items: [],
    held: [],
    asked: new Set(),
    act: vi.fn(async () => "asked" as const),
    question: vi.fn(async () => ({ ask: "judge" })),
    again: vi.fn(),
    away: vi.fn(),
    type: vi.fn(),
    commit: vi.fn(),
    drop: vi.fn(),
    undo: null,
    sendNow: vi.fn(async () => undefined),
    refresh: vi.fn(),
    ...part,
  };
}

interface Who {
  role?: string;
  units?: "us" | "si";
  address?: string;
}

/** Something of the app as a person who has signed in sees it, without a server. */
export function signedIn(children: ReactNode, { role = "technician", units = "us", address = "/" }: Who = {}) {
  const session = {
    me: {
      owner: "1-1",
      username: "orrin",
      name: "M. Orrin",
      role,
      shop: "Brindlewick",
      units,
      clock: "24" as const,
      offline_days: 14,
    },
    system: units,
    setSystem: vi.fn(),
    setClock: vi.fn(),
    signOut: vi.fn(),
  };
  const shown = render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[address]}>
        <SessionContext value={session}>{children}</SessionContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { ...shown, session };
}

export function show(view: JobView, children: ReactNode) {
  return signedIn(<JobContext value={view}>{children}</JobContext>, { units: view.system === "si" ? "si" : "us" });
}

/** A page at an address; `pattern` is the route it stands at. */
export function showPage(page: ReactNode, address: string, pattern: string) {
  return signedIn(
    <Routes>
      <Route path={pattern} element={page} />
    </Routes>,
    { address },
  );
}

/** What stands in a field and is not yet saved. */
export const draft = (path: string, part: Partial<Draft>): Draft => ({
  path,
  seen: null,
  value: null,
  force: false,
  ready: false,
  stamp: "s",
  at: 0,
  ...part,
});

/** A screen of the width a query asks for; pressed by a thumb where that is said. */
export function matchesMedia(thumb = false): () => void {
  const before = window.matchMedia;
  window.matchMedia = ((query: string) => ({
    matches: thumb || !query.includes("coarse"),
    media: query,
    addEventListener: () => {},
    removeEventListener: () => {},
  })) as never;
  return () => {
    window.matchMedia = before;
  };
}

/** A job whose identify sheet holds these values. */
export const withSheet = (sheet: Record<string, unknown>, more: Record<string, unknown> = {}) => ({
  steps: { identify: { runs: [{ sheet }] } },
  ...more,
});
