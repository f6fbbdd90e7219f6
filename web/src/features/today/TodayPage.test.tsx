import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "../../api/client.ts";
import { jobView, show } from "../../test-job.tsx";
import { goOnWith } from "./GoOn.tsx";
import { TodayPage } from "./TodayPage.tsx";

const { answers } = vi.hoisted(() => {
  const answers: Record<string, unknown> = {};
  globalThis.fetch = (async (request: Request) => {
    const url = new URL(request.url);
    const found =
      answers[`${request.method} ${url.pathname}${url.search}`] ?? answers[`${request.method} ${url.pathname}`];
    if (found instanceof Error) throw found;
    if (found instanceof Response) return found.clone();
    return Response.json(found ?? []);
  }) as typeof fetch;
  return { answers };
});

const DAY = {
  now: "2026-06-18T10:00:00Z",
  begins: "2026-06-18T10:00:00Z",
  leave: "2026-06-18T16:30:00Z",
  jobs: [],
  open: 0,
  decisions: [],
  people: 0,
  skipped: [],
  kit: [],
  finish: null,
  idle_s: 0,
  saved_s: 0,
  exact: true,
  from_history: [],
};
afterEach(cleanup);
beforeEach(() => {
  for (const key of Object.keys(answers)) delete answers[key];
  answers["GET /api/day"] = DAY;
  answers["GET /api/circuits"] = {
    rows: [{ id: 7, code: "C", name: "Circuit 1", system: "S", site: "Quillon Ridge", revision: 1, plate: {} }],
    next: null,
  };
});

describe("Today", () => {
  it("says what to do first when there is nothing yet", async () => {
    show(jobView(), <TodayPage />);
    await waitFor(() => expect(screen.getByText(/The first useful number is about a minute away/)).toBeTruthy());
    expect(screen.queryByText(/The day until/)).toBeNull();
  });

  it("goes on with the last own job that hands can do something for", () => {
    const job = (part: object) =>
      ({ technician: "M. Orrin", word: "Open", waits_until: null, slots: [], ...part }) as never;
    const [stopped, waiting, mine, other] = [
      job({ code: "s", word: "Stop" }),
      job({ code: "w", waits_until: "2026-06-18T11:00:00Z" }),
      job({ code: "m" }),
      job({ code: "o", technician: "J. Pell" }),
    ];
    const chosen = (...jobs: never[]) => goOnWith(jobs, "M. Orrin")?.code;
    expect(chosen(other, stopped, waiting, mine)).toBe("m");
    expect(chosen(other, stopped, waiting)).toBe("w");
    expect(chosen(other, stopped)).toBe("s");
    expect(chosen(other)).toBe("o");
    expect(chosen()).toBeUndefined();
    const slot = (start: string, hands = true) => [{ hands, start }];
    const later = job({ code: "l", slots: slot("2026-06-18T15:00:00Z") });
    const alone = job({ code: "a", slots: slot("2026-06-18T10:00:00Z", false) });
    const planned = job({ code: "p", slots: slot("2026-06-18T10:01:00Z") });
    const now = new Date("2026-06-18T10:00:00Z").getTime();
    expect(goOnWith([later, alone, planned], "M. Orrin", now)?.code).toBe("p");
    expect(goOnWith([later, alone], "M. Orrin", now)?.code).toBe("l");
  });

  it("says in words why a job or a file was not taken", async () => {
    answers["POST /api/jobs"] = Response.json(
      { detail: "There is no such circuit in this shop.", code: "x" },
      { status: 422 },
    );
    show(jobView(), <TodayPage />);
    fireEvent.click(screen.getByRole("button", { name: "Quick total" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("no such circuit"));
    answers["POST /api/jobs/import"] = Response.json(
      { detail: "It may have been cut off.", code: "document" },
      { status: 422 },
    );
    const file = new File(["{"], "half.json", { type: "application/json" });
    fireEvent.change(screen.getByLabelText("Job file to open"), { target: { files: [file] } });
    await waitFor(() =>
      expect(screen.getByRole("alert").textContent).toContain("half.json was not taken. It may have been cut off."),
    );
  });

  it("offers a job that is here already, or to take it over once more", async () => {
    answers["POST /api/jobs/import"] = Response.json(
      { detail: "This job is here already: Roof.", code: "taken_before", params: { job: "abcd1234" } },
      { status: 422 },
    );
    show(jobView(), <TodayPage />);
    const file = new File(["{}"], "roof.json", { type: "application/json" });
    fireEvent.change(screen.getByLabelText("Job file to open"), { target: { files: [file] } });
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("This job is here already: Roof."));
    expect(screen.getByRole("button", { name: "Open the one that is here" })).toBeTruthy();
    const post = vi.spyOn(client, "POST");
    fireEvent.click(screen.getByRole("button", { name: "Take it over again" }));
    await waitFor(() => expect(post).toHaveBeenCalled());
    expect(JSON.stringify(post.mock.calls[0])).toContain('"again":true');
    post.mockRestore();
  });

  it("keeps its key so that a second tap after no answer makes no second job", async () => {
    const keys: string[] = [];
    const post = vi.spyOn(client, "POST").mockImplementation((async (
      _path: string,
      options: { body: { key: string } },
    ) => {
      keys.push(options.body.key);
      throw new TypeError("Failed to fetch");
    }) as never);
    show(jobView(), <TodayPage />);
    fireEvent.click(screen.getByRole("button", { name: "Quick total" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("No answer from the server"));
    fireEvent.click(screen.getByRole("button", { name: "Quick total" }));
    await waitFor(() => expect(keys).toHaveLength(2));
    expect(keys[0]).toBe(keys[1]);
    post.mockRestore();
  });
});
