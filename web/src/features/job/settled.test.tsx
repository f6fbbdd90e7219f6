import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes, useLocation } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { JobContext } from "../../job/context.ts";
import { answer } from "../../test-device.ts";
import { jobView, signedIn } from "../../test-job.tsx";
import { JustSettled } from "./JustSettled.tsx";

const sent: { url: string; body: unknown }[] = [];
const refresh = vi.fn();

function Where() {
  return <p data-testid="at">{useLocation().pathname}</p>;
}

function open(state: "closed" | "open", settled?: string) {
  const view = jobView();
  const steps = view.findings.steps.map((step) => (step.step === "identify" ? { ...step, state } : step));
  const address = { pathname: `/job/${view.answer.code}/weigh_in`, state: settled && { settled } };
  signedIn(
    <JobContext value={{ ...view, refresh, findings: { ...view.findings, steps } }}>
      <Where />
      <Routes>
        <Route path="*" element={<JustSettled />} />
      </Routes>
    </JobContext>,
    { address: address as never },
  );
}

beforeEach(() => {
  sent.length = 0;
  answer.mockImplementation(async (request: Request) => {
    sent.push({ url: new URL(request.url).pathname, body: JSON.parse(await request.text()) });
    return Response.json({ code: "x" });
  });
});
afterEach(cleanup);

it("opens the step again that was closed a moment ago, with its reason in the record", async () => {
  open("closed", "identify");
  expect(screen.getByText("Identify is closed.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Undo: open Identify again" }));
  await waitFor(() => expect(screen.getByTestId("at").textContent).toMatch(/identify$/));
  expect(sent[0]).toMatchObject({ body: { reason: "Undone at once: closed by mistake.", new_run: false } });
  expect(sent[0]?.url).toMatch(/steps\/identify\/reopen$/);
  expect(refresh).toHaveBeenCalled();
});

it("is silent where nothing was closed just now, or it is open again already", () => {
  open("closed");
  expect(screen.queryByRole("button")).toBeNull();
  cleanup();
  open("open", "identify");
  expect(screen.queryByRole("button")).toBeNull();
});
