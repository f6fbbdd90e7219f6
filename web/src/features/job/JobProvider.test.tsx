import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { box } from "../../device/device.ts";
import { at, useJob } from "../../job/context.ts";
import { answer } from "../../test-device.ts";
import { jobView, signedIn } from "../../test-job.tsx";
import { JobProvider } from "./JobProvider.tsx";

const PATH = "/steps/identify/runs/0/sheet/oil";
const state = (oil: string, seq: number) => ({
  ...jobView({}, { steps: { identify: { runs: [{ sheet: { oil } }] } } }).answer,
  seq,
});

let seen: string[] = [];
let job: ReturnType<typeof useJob>;

/** What a field would show, noted at every rendering. */
function Probe() {
  job = useJob();
  const draft = job.drafts[PATH];
  const shown = String(draft ? draft.value : at(job.answer.job, PATH));
  seen.push(shown);
  return <output>{shown}</output>;
}

/** A job of its own for every test: what waits of one goes on being sent when its page is left. */
function open(code: string): QueryClient {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  signedIn(
    <QueryClientProvider client={queries}>
      <JobProvider code={code} system="us">
        <Probe />
      </JobProvider>
    </QueryClientProvider>,
  );
  return queries;
}

beforeEach(() => {
  seen = [];
  answer.mockReset();
});
afterEach(cleanup);

describe("a job on the page", () => {
  it("never shows the old value again between a save and its answer", async () => {
    let stored = state("mineral", 3);
    answer.mockImplementation(async (request: Request) => {
      if (request.method === "GET") return Response.json(stored);
      if (request.url.endsWith("/preview"))
        return Response.json({ seq: 3, findings: stored.findings, problems: [], conflicts: [], echoes: {} });
      stored = state("POE", 4);
      return Response.json({ ...stored, accepted: { [PATH]: "POE" }, problems: [], conflicts: [], echoes: {} });
    });
    open("job1");
    await waitFor(() => expect(screen.getByRole("status").textContent).toBe("mineral"));
    job.type(PATH, "POE");
    await waitFor(() => expect(screen.getByRole("status").textContent).toBe("POE"));
    await job.sendNow();
    await waitFor(() => expect(job.answer.seq).toBe(4));
    const typed = seen.indexOf("POE");
    expect(seen.slice(typed)).not.toContain("mineral");
    expect(job.drafts).toEqual({});
  });

  it("brings back what was typed before a reload", async () => {
    await box().set("draft", `draft:job2:${PATH}`, {
      path: PATH,
      value: "PAG",
      seen: "mineral",
      force: false,
      ready: false,
      stamp: "s",
      at: 0,
    });
    answer.mockImplementation(async (request: Request) => {
      if (request.method === "GET") return Response.json(state("mineral", 3));
      throw new TypeError("Failed to fetch");
    });
    open("job2");
    await waitFor(() => expect(screen.getByRole("status").textContent).toBe("PAG"));
    await waitFor(() => expect(job.link).toBe("offline"));
    expect(job.drafts[PATH]?.value).toBe("PAG");
  });

  it("is not set back by a poll that was asked before a save and answered after it", async () => {
    const slow: ((response: Response) => void)[] = [];
    answer.mockImplementationOnce(async () => Response.json(state("first", 3)));
    answer.mockImplementation(() => new Promise((resolve) => slow.push(resolve)));
    const queries = open("job3");
    await waitFor(() => expect(screen.getByRole("status").textContent).toBe("first"));
    const poll = queries.refetchQueries();
    await waitFor(() => expect(slow).toHaveLength(1));
    job.refresh(state("saved", 5));
    await waitFor(() => expect(screen.getByRole("status").textContent).toBe("saved"));
    slow[0]?.(Response.json(state("before the save", 4)));
    await poll;
    await new Promise((resolve) => setTimeout(resolve, 50)); // the cache tells its readers in a later turn
    expect(screen.getByRole("status").textContent).toBe("saved");
    expect(seen).not.toContain("before the save");
  });

  it("refuses to close over two answers, in words that say what to do, and asks nobody", async () => {
    const disputed = { ...state("mineral", 3), job: { ...state("mineral", 3).job, disputes: [{ path: PATH }] } };
    await box().set("draft", "held:job4", [PATH]);
    answer.mockImplementation(async () => Response.json(disputed));
    open("job4");
    await waitFor(() => expect(job.held).toEqual([PATH]));
    answer.mockClear();
    await expect(job.act({ act: "close", step: "identify", reason: "" })).rejects.toThrow("Choose there first.");
    expect(answer.mock.calls.some(([request]) => (request as Request).url.endsWith("/close"))).toBe(false);
  });
});
