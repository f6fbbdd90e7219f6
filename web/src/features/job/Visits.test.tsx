import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { NoAnswer } from "../../api/client.ts";
import { JobContext } from "../../job/context.ts";
import { answer } from "../../test-device.ts";
import { jobView, refusal, said, show, signedIn } from "../../test-job.tsx";
import { HandOn } from "./HandOn.tsx";
import { VisitEnd, VisitNote } from "./Visits.tsx";

beforeEach(() => {
  answer.mockReset();
});
afterEach(cleanup);

const visit = { id: "v1", started_at: "2026-06-18T08:00:00Z" };

describe("visits", () => {
  it("ends with an outcome, shows what stands, and keeps what was refused", async () => {
    const view = jobView({}, { visits: [visit] });
    view.findings.standing = {
      inside: { value: 4.2, quantity: "mass", u: null },
      added: { value: 1, quantity: "mass", u: null },
      short_again: { value: 86400 * 12.4, quantity: "duration", u: null },
      words: said("Watch temperatures."),
    };
    show(view, <VisitEnd className="" />);
    fireEvent.click(screen.getByRole("button", { name: "End this visit" }));
    fireEvent.click(screen.getByLabelText("Running, not proven"));
    expect(screen.getByText("12 days")).toBeTruthy();
    expect(screen.getByText("Watch temperatures.")).toBeTruthy();
    view.act = vi.fn(async () => Promise.reject(refusal("Say what is awaited.")));
    cleanup();
    show(view, <VisitEnd className="" />);
    fireEvent.click(screen.getByRole("button", { name: "End this visit" }));
    fireEvent.click(screen.getByLabelText("Running, not proven"));
    fireEvent.change(screen.getByLabelText("why it ends this way"), { target: { value: "no coil" } });
    fireEvent.click(screen.getByRole("button", { name: "End the visit" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("Say what is awaited."));
    expect(screen.getByLabelText("why it ends this way")).toHaveProperty("value", "no coil");
    fireEvent.change(screen.getByLabelText("what is awaited"), { target: { value: "coil" } });
    fireEvent.click(screen.getByRole("button", { name: "End the visit" }));
    const ending = {
      act: "end_visit",
      outcome: "running_not_proven",
      reason: "no coil",
      awaited: "coil",
      return_on: "",
    };
    await waitFor(() => expect(view.act).toHaveBeenLastCalledWith(ending));
  });

  it("says how the last one ended and starts another", async () => {
    const ended = { ...visit, outcome: "left_safe", reason: "under vacuum", return_on: "2026-07-01" };
    const view = jobView({}, { visits: [ended] });
    view.act = vi.fn(async () => Promise.reject(new NoAnswer("gone")));
    show(view, <VisitNote />);
    expect(screen.getByRole("region").textContent).toContain(
      "Left safe, not running. under vacuum Back on 2026-07-01.",
    );
    fireEvent.click(screen.getByRole("button", { name: "Start a new visit" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("Nothing was changed"));
    expect(view.act).toHaveBeenCalledExactlyOnceWith({ act: "start_visit" });
  });

  it("offers no end where no visit goes on", () => {
    show(jobView({}, { visits: [{ ...visit, outcome: "proven" }] }), <VisitEnd className="" />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("handing a job on", () => {
  it("is the lead's, names who is on it, and says what was refused", async () => {
    const people = [
      { username: "pell", name: "J. Pell", active: true },
      { username: "gone", name: "A. Gone", active: false },
    ];
    const asked: unknown[] = [];
    answer.mockImplementation(async (request: Request) => {
      if (request.method === "GET") return Response.json({ people });
      asked.push(await request.clone().json());
      return Response.json({ detail: "There is nobody of this name.", path: "/to", code: "x" }, { status: 422 });
    });
    signedIn(
      <JobContext value={jobView()}>
        <HandOn className="" />
      </JobContext>,
      { role: "lead" },
    );
    fireEvent.click(screen.getByRole("button", { name: "Hand this job on" }));
    expect(await screen.findByText("Named on it now: M. Orrin.")).toBeTruthy();
    await screen.findByRole("option", { name: "J. Pell" });
    expect(screen.queryByRole("option", { name: "A. Gone" })).toBeNull();
    fireEvent.change(screen.getByLabelText("to"), { target: { value: "pell" } });
    fireEvent.click(screen.getByLabelText("Those named on it now stay on it"));
    fireEvent.click(screen.getByRole("button", { name: "Hand it on" }));
    expect((await screen.findByRole("alert")).textContent).toBe("There is nobody of this name.");
    expect(asked[0]).toMatchObject({ to: "pell", stays: true });
  });

  it("is not offered to a technician", () => {
    show(jobView(), <HandOn className="" />);
    expect(screen.queryByRole("button", { name: "Hand this job on" })).toBeNull();
  });
});
