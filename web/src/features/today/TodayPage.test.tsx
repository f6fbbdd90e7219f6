import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "../../api/client.ts";
import { jobView, said, show } from "../../test-job.tsx";
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

const row = (part: Record<string, unknown>) => ({
  code: "a1",
  kind: "charge",
  title: "Control room",
  circuit: "c",
  site: "Quillon Ridge",
  technician: "M. Orrin",
  step: "weigh_in",
  word: "Open",
  headline: said("Close the valve when the scale reads {m}.", { m: { value: 9.48, quantity: "mass", u: null } }),
  closed: false,
  updated_at: new Date().toISOString(),
  ...part,
});

afterEach(cleanup);
beforeEach(() => {
  sessionStorage.setItem("yoshi:today", "open");
  for (const key of Object.keys(answers)) delete answers[key];
  answers["GET /api/circuits"] = {
    rows: [{ id: 7, code: "C", name: "Circuit 1", system: "S", site: "Quillon Ridge", revision: 1, plate: {} }],
    next: null,
  };
});

describe("Today", () => {
  it("says where each job stands, with its one sentence in the person's units", async () => {
    answers["GET /api/jobs"] = {
      jobs: [row({}), row({ code: "b2", title: "Reach-in", word: "Stop", kind: "quick" })],
      next: null,
    };
    show(jobView(), <TodayPage />);
    await waitFor(() => expect(screen.getByText("Control room")).toBeTruthy());
    expect(screen.getAllByText("Close the valve when the scale reads 20 lb 14.4 oz.")).toHaveLength(2);
    expect(screen.getByText(/2 open jobs, 1 stopped/)).toBeTruthy();
    expect(screen.getByText("Weigh in")).toBeTruthy();
    expect(screen.getByRole("link", { name: /Control room/ }).getAttribute("href")).toBe("/job/a1");
  });

  it("says what to do first when there is nothing yet", async () => {
    answers["GET /api/jobs"] = { jobs: [], next: null };
    show(jobView(), <TodayPage />);
    await waitFor(() => expect(screen.getByText(/The first useful number is about a minute away/)).toBeTruthy());
  });

  it("pages through older jobs by the server's own marker", async () => {
    answers["GET /api/jobs"] = { jobs: [row({})], next: "mark~1" };
    answers["GET /api/jobs?closed=false&after=mark~1"] = { jobs: [row({ title: "Older" })], next: null };
    show(jobView(), <TodayPage />);
    await waitFor(() => screen.getByRole("button", { name: "Older jobs" }));
    fireEvent.click(screen.getByRole("button", { name: "Older jobs" }));
    await waitFor(() => expect(screen.getByText("Older")).toBeTruthy());
  });

  it("shows closed jobs apart", async () => {
    answers["GET /api/jobs"] = { jobs: [], next: null };
    answers["GET /api/jobs?closed=true&after="] = { jobs: [row({ title: "Done one", closed: true })], next: null };
    show(jobView(), <TodayPage />);
    fireEvent.click(screen.getByRole("radio", { name: "Closed" }));
    await waitFor(() => expect(screen.getByText("Done one")).toBeTruthy());
    expect(screen.getAllByText("Closed").length).toBeGreaterThan(1);
  });

  it("says in words why a job or a file was not taken", async () => {
    answers["GET /api/jobs"] = { jobs: [], next: null };
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
    answers["GET /api/jobs"] = { jobs: [], next: null };
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
    answers["GET /api/jobs"] = { jobs: [], next: null };
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
