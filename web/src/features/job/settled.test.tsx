import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes, useLocation } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { JobContext } from "../../job/context.ts";
import { jobView, signedIn } from "../../test-job.tsx";
import { JustSettled } from "./JustSettled.tsx";

const act = vi.fn(async () => "asked" as const);

function Where() {
  return <p data-testid="at">{useLocation().pathname}</p>;
}

function open(state: "closed" | "open", settled?: string) {
  const view = jobView();
  const steps = view.findings.steps.map((step) => (step.step === "identify" ? { ...step, state } : step));
  const address = { pathname: `/job/${view.answer.code}/weigh_in`, state: settled && { settled } };
  signedIn(
    <JobContext value={{ ...view, act, findings: { ...view.findings, steps } }}>
      <Where />
      <Routes>
        <Route path="*" element={<JustSettled />} />
      </Routes>
    </JobContext>,
    { address: address as never },
  );
}

beforeEach(() => act.mockClear());
afterEach(cleanup);

it("opens the step again that was closed a moment ago, with its reason in the record", async () => {
  open("closed", "identify");
  expect(screen.getByText("Identify is closed.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Undo: open Identify again" }));
  await waitFor(() => expect(screen.getByTestId("at").textContent).toMatch(/identify$/));
  const undone = { act: "reopen", step: "identify", reason: "Undone at once: closed by mistake.", new_run: false };
  expect(act).toHaveBeenCalledExactlyOnceWith(undone);
});

it("is silent where nothing was closed just now, or it is open again already", () => {
  open("closed");
  expect(screen.queryByRole("button")).toBeNull();
  cleanup();
  open("open", "identify");
  expect(screen.queryByRole("button")).toBeNull();
});
