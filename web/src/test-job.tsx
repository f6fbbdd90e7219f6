/** A job view for component tests, without a server. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { vi } from "vitest";
import type { Findings, JobState, Message, Pictures, StepResult, Word } from "./api/types.ts";
import { SessionContext } from "./app/session.ts";
import { JobContext, type JobView } from "./job/context.ts";

export const said = (text: string, amounts: Message["amounts"] = {}): Message => ({ text, amounts });

type Drawn = Omit<Pictures, "repair">;
/** An empty picture that will do for any step. */
export const emptyPicture: Drawn["as_found"] &
  Drawn["verify"] &
  Drawn["identify"] &
  Drawn["plan_change"] &
  Drawn["leak_search"] &
  Drawn["recover"] &
  Drawn["evacuate"] &
  Drawn["weigh_in"] = {
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
  cycles: [],
};

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
    standing: { inside: null, added: null, short_again: null, words: said("The unit was worked on.") },
  } as Findings;
  const answer = {
    code: "job1",
    seq: 3,
    kind: "charge",
    title: "Control room",
    closed: false,
    updated_at: "2026-06-18T15:00:00Z",
    siblings: [],
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
    type: vi.fn(),
    commit: vi.fn(),
    drop: vi.fn(),
    sendNow: vi.fn(async () => undefined),
    refresh: vi.fn(),
    ...part,
  };
}

export function show(view: JobView, children: ReactNode) {
  const session = {
    me: { username: "orrin", name: "M. Orrin", role: "technician", shop: "Brindlewick", units: view.system },
    system: view.system,
    setSystem: vi.fn(),
    signOut: vi.fn(),
  };
  return render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter>
        <SessionContext value={session}>
          <JobContext value={view}>{children}</JobContext>
        </SessionContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

/** A page at an address, signed in, without a server; `pattern` is the route it stands at. */
export function showPage(page: ReactNode, address: string, pattern: string) {
  const session = {
    me: { username: "orrin", name: "M. Orrin", role: "technician", shop: "Brindlewick", units: "us" as const },
    system: "us" as const,
    setSystem: vi.fn(),
    signOut: vi.fn(),
  };
  return render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[address]}>
        <SessionContext value={session}>
          <Routes>
            <Route path={pattern} element={page} />
          </Routes>
        </SessionContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

/** A job whose identify sheet holds these values. */
export const withSheet = (sheet: Record<string, unknown>, more: Record<string, unknown> = {}) => ({
  steps: { identify: { runs: [{ sheet }] } },
  ...more,
});
