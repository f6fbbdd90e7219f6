import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { JobContext } from "../../job/context.ts";
import { answer } from "../../test-device.ts";
import { jobView, said, show, signedIn } from "../../test-job.tsx";
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
    answer.mockResolvedValue(Response.json({ detail: "Say what is awaited.", path: "/awaited" }, { status: 422 }));
    fireEvent.change(screen.getByLabelText("why it ends this way"), { target: { value: "no coil" } });
    fireEvent.click(screen.getByRole("button", { name: "End the visit" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("Say what is awaited."));
    expect(screen.getByLabelText("why it ends this way")).toHaveProperty("value", "no coil");
    answer.mockResolvedValue(Response.json({ ...view.answer, seq: 9 }));
    fireEvent.change(screen.getByLabelText("what is awaited"), { target: { value: "coil" } });
    fireEvent.click(screen.getByRole("button", { name: "End the visit" }));
    await waitFor(() => expect(view.refresh).toHaveBeenCalled());
    const request = answer.mock.calls.at(-1)?.[0] as Request;
    expect(await request.clone().json()).toMatchObject({
      outcome: "running_not_proven",
      reason: "no coil",
      awaited: "coil",
    });
  });

  it("says how the last one ended and starts another", async () => {
    const ended = { ...visit, outcome: "left_safe", reason: "under vacuum", return_on: "2026-07-01" };
    const view = jobView({}, { visits: [ended] });
    show(view, <VisitNote />);
    expect(screen.getByRole("region").textContent).toContain(
      "Left safe, not running. under vacuum Back on 2026-07-01.",
    );
    answer.mockResolvedValue(new Response(null, { status: 503 }));
    fireEvent.click(screen.getByRole("button", { name: "Start a new visit" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("Nothing was changed"));
    answer.mockResolvedValue(Response.json(view.answer));
    fireEvent.click(screen.getByRole("button", { name: "Start a new visit" }));
    await waitFor(() => expect(view.refresh).toHaveBeenCalled());
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
