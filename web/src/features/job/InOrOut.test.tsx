import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Findings } from "../../api/types.ts";
import { JobContext, type JobView } from "../../job/context.ts";
import { answer } from "../../test-device.ts";
import { jobView, said, show, signedIn } from "../../test-job.tsx";
import { InOrOut } from "./InOrOut.tsx";

beforeEach(() => {
  answer.mockReset();
  answer.mockResolvedValue(Response.json({ data: [] }));
});
afterEach(cleanup);

type Row = Findings["inside"]["rows"][number];
const row: Row = {
  id: "j/acts/a1/1",
  text: said("Put in"),
  note: "cylinder 14",
  change: { value: 0.2835, quantity: "mass", u: null },
  known: "weighed",
  low: { value: 0.2835, quantity: "mass", u: null },
  high: null,
  after: said("not known, at least 10.0 oz"),
  step: "",
  origin: "/acts/a1",
  at: null,
  adds: true,
};

const signedInAt = (view: JobView, address: string) =>
  signedIn(
    <JobContext value={view}>
      <InOrOut />
    </JobContext>,
    { address },
  );

describe("refrigerant in or out, now", () => {
  it("says what goes in by the scale and what is inside after it, and is written down at a tap", () => {
    const view = jobView();
    view.findings.inside.rows = [row];
    signedInAt(view, "/?act=a1");
    fireEvent.click(screen.getByLabelText(/Cylinder or can on the scale/));
    expect(view.type).toHaveBeenCalledWith("/acts/a1/kind", "in", { ready: true });
    expect(screen.getByRole("textbox", { name: "scale before" })).toBeTruthy();
    expect(screen.getByText("not known, at least 10.0 oz")).toBeTruthy();
    expect(screen.getByText(/\+ 10\.0 oz/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Valve is shut: write it down" }));
    expect(view.type).toHaveBeenCalledWith("/acts/a1/done", true, { ready: true });
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("asks of what went into the air whether all of it did, and offers no scale for it", () => {
    const view = jobView({}, { acts: { a1: { kind: "in" } } });
    show(view, <InOrOut />);
    fireEvent.click(screen.getByRole("button", { name: "Refrigerant in or out" }));
    fireEvent.click(screen.getByLabelText("Comes out"));
    fireEvent.click(screen.getByLabelText(/Went off into the air/));
    expect(view.type).toHaveBeenCalledWith(expect.stringMatching(/^\/acts\/a[0-9a-z]{8,}\/kind$/), "lost", {
      ready: true,
    });
    expect(screen.getAllByText("all of it, down to zero").length).toBeGreaterThan(0);
    expect(screen.queryByRole("textbox", { name: "scale before" })).toBeNull();
  });

  it("shuts valves on a part that is named there and then, and says what is in it", () => {
    const view = jobView(
      {},
      { acts: { a1: { kind: "shut", section: "s1" } }, sections: { s1: { label: "receiver" } } },
    );
    signedInAt(view, "/?act=a1");
    expect(screen.getByLabelText("which part")).toHaveProperty("value", "s1");
    expect(screen.getByRole("textbox", { name: "what part" })).toHaveProperty("value", "receiver");
    fireEvent.click(
      within(screen.getByRole("group", { name: "what was in it" })).getByRole("radio", { name: "its charge" }),
    );
    expect(view.type).toHaveBeenCalledWith("/acts/a1/medium", "charge", { ready: true });
    const another = screen.getByRole<HTMLOptionElement>("option", { name: "another part" }).value;
    expect(another).toMatch(/^s[0-9a-z]{8,}$/);
    fireEvent.change(screen.getByLabelText("which part"), { target: { value: another } });
    expect(view.type).toHaveBeenCalledWith("/acts/a1/section", another, { ready: true });
    fireEvent.click(screen.getByRole("button", { name: "Valves are shut: write it down" }));
    expect(view.type).toHaveBeenCalledWith("/acts/a1/done", true, { ready: true });
  });

  it("sets a surplus aside for another day without doing it", () => {
    const view = jobView({}, { acts: { a1: { kind: "out", circuit: "DC-2", planned_for: "2026-12-01" } } });
    signedInAt(view, "/?act=a1");
    fireEvent.click(screen.getByRole("button", { name: "Set it aside for 2026-12-01" }));
    expect(view.type).not.toHaveBeenCalledWith("/acts/a1/done", true, { ready: true });
  });

  it("puts a line remembered late before another", () => {
    const view = jobView({}, { acts: { a2: { kind: "lost" } } });
    view.findings.inside.rows = [row];
    signedInAt(view, "/?act=a2");
    fireEvent.change(screen.getByLabelText("it was before"), { target: { value: "/acts/a1" } });
    expect(view.type).toHaveBeenCalledWith("/acts/a2/before", "/acts/a1", { ready: true });
  });

  it("is not there once the job is closed", () => {
    const view = jobView();
    view.answer.closed = true;
    show(view, <InOrOut />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});
