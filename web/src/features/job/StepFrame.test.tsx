import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { JobContext, type JobView } from "../../job/context.ts";
import { blank } from "../../outbox/items.ts";
import { answer } from "../../test-device.ts";
import { claimOf, jobView, matchesMedia, refusal, said, show, signedIn, stepResult } from "../../test-job.tsx";
import { differences, LinkNote, SignalBar, WaitsHere } from "./LinkNote.tsx";
import { StepFrame } from "./StepFrame.tsx";
import { Strip } from "./Strip.tsx";

const CLOSE = { act: "close", step: "identify", reason: "" } as const;

afterEach(cleanup);
beforeEach(() => {
  answer.mockReset();
  matchesMedia();
});

const frame = (
  <StepFrame step="weigh_in" sub="Cylinder on the scale." done="It is in">
    <p>sheet</p>
  </StepFrame>
);

/** A step at which what was typed arrives only once it is sent. */
function Arriving({ before, after }: { before: JobView; after: JobView }) {
  const [view, setView] = useState(before);
  before.sendNow = async () => setView({ ...after, sendNow: before.sendNow });
  return <JobContext value={view}>{frame}</JobContext>;
}

describe("the frame of a step in glare on a phone", () => {
  afterEach(() => {
    delete document.documentElement.dataset.theme;
  });

  it("shows the number and the button, and everything else behind More", () => {
    document.documentElement.dataset.theme = "sunlight";
    window.matchMedia = (() => ({
      matches: false,
      addEventListener: () => {},
      removeEventListener: () => {},
    })) as never;
    const with_number = (
      <StepFrame step="weigh_in" sub="Cylinder on the scale." done="It is in" first={<p>21 lb 9.0 oz</p>}>
        <p>sheet</p>
      </StepFrame>
    );
    show(jobView({}, {}, [stepResult("weigh_in", "Holds")]), with_number);
    const more = screen.getByText("More").closest("details");
    expect(more?.open).toBe(false);
    expect(more?.textContent).toContain("sheet");
    for (const shown of [screen.getByText("21 lb 9.0 oz"), screen.getByRole("button", { name: "It is in" })])
      expect(shown.closest("details")).toBeNull();
  });
});

describe("the frame of a step", () => {
  it("says beside a step closed under another version what today's rules would say", () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds", { state: "closed" })]);
    view.answer = {
      ...view.answer,
      otherwise: [{ step: "weigh_in", core_version: "0.4.0", word: "Wait", headline: said("Two ounces are missing.") }],
    };
    show(view, frame);
    expect(screen.getByText(/Closed under Yoshi 0.4.0.*would say: Wait, Two ounces are missing/)).toBeTruthy();
  });

  it("says the verdict, its reasons with sources, and what to mind", () => {
    const reason = {
      rule_id: "r",
      message: said("Within {v}.", { v: { value: 0.01, quantity: "mass", u: null } }),
      word: "Holds" as const,
      value: null,
      limit: null,
      source: "common practice, no source",
      school: null,
      role: "remark" as const,
    };
    const result = stepResult("weigh_in", "Holds", {
      verdict: { word: "Holds", headline: said("It is in."), reasons: [reason] },
      cautions: [{ id: "heat", message: said("Warm water only."), seen: false }],
    });
    show(jobView({}, {}, [result]), frame);
    for (const text of ["It is in.", "Within 0.4 oz.", "common practice, no source", "Warm water only."]) {
      expect(screen.getByText(text, { exact: false })).toBeTruthy();
    }
  });

  it("puts what can hurt in front until it is understood, once", () => {
    const cautions = [
      { id: "heat", message: said("Warm water only."), seen: true },
      { id: "skin", message: said("Gloves and goggles."), seen: false },
    ];
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds", { cautions })]);
    show(view, frame);
    const box = within(screen.getByTestId("safety"));
    expect(box.queryByText("Warm water only.")).toBeNull();
    fireEvent.click(box.getByRole("button", { name: "Understood" }));
    const path = "/steps/weigh_in/runs/0/answers/safety:skin";
    expect(view.type).toHaveBeenCalledExactlyOnceWith(path, "seen", { ready: true, force: true });
    cleanup();
    const all = cautions.map((caution) => ({ ...caution, seen: true }));
    show(jobView({}, {}, [stepResult("weigh_in", "Holds", { cautions: all })]), frame);
    expect(screen.queryByTestId("safety")).toBeNull();
    expect(screen.getByText("Gloves and goggles.")).toBeTruthy();
  });

  it("asks for a reason while something is missing, names it, and keeps the reason when it is refused", async () => {
    const result = stepResult("weigh_in", "Open", {
      missing: [{ path: "/x", label: "the cylinder's tare", hard: false }],
    });
    const act = vi.fn(async () => Promise.reject(refusal("Still needed: the tare.")));
    const view = jobView({ act }, {}, [result]);
    show(view, frame);
    const go = screen.getByRole("button", { name: "It is in" });
    expect(go.getAttribute("aria-disabled")).toBe("true");
    expect(screen.getByTestId("missing").textContent).toContain("the cylinder's tare");
    fireEvent.click(screen.getByRole("button", { name: "Close with a reason" }));
    expect(screen.getByRole("dialog").textContent).toContain(
      "Still needed: the cylinder's tare. Why close it all the same?",
    );
    fireEvent.change(screen.getByLabelText("Reason, kept in the record"), { target: { value: "no stamp on it" } });
    fireEvent.click(screen.getByRole("button", { name: "Close with this reason" }));
    expect((await screen.findByRole("alert")).textContent).toBe("Still needed: the tare.");
    expect(act).toHaveBeenCalledExactlyOnceWith({ act: "close", step: "weigh_in", reason: "no stamp on it" });
    expect(screen.getByLabelText("Reason, kept in the record")).toHaveProperty("value", "no stamp on it");
  });

  it("asks why a claim that is not shown may stand, though the step holds", async () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds")]);
    view.findings.claims = [
      claimOf("charged", "weigh_in", "not_yet", { missing: [{ path: "/x", label: "all of it weighed", hard: false }] }),
    ];
    show(view, frame);
    const told = screen.getByRole("region", { name: "What this shows: Charged right" });
    expect(told.textContent).toContain("Not yet");
    expect(told.textContent).toContain("What would show it: all of it weighed.");
    fireEvent.click(screen.getByRole("button", { name: "Close it all the same" }));
    expect((await screen.findByRole("dialog")).textContent).toContain("Charged right is not shown. Why may it stand?");
    expect(view.sendNow).toHaveBeenCalled();
  });

  it("does not ask why of what was shown by what was still on its way", async () => {
    const [before, after] = [
      jobView({}, {}, [stepResult("weigh_in", "Holds")]),
      jobView({}, {}, [stepResult("weigh_in", "Holds")]),
    ];
    before.findings.claims = [claimOf("charged", "weigh_in", "not_yet")];
    after.findings.claims = [claimOf("charged", "weigh_in", "shown")];
    before.act = vi.fn(async () => after.answer);
    signedIn(<Arriving before={before} after={after} />, {});
    fireEvent.click(screen.getByRole("button", { name: "Close it all the same" }));
    await waitFor(() => expect(before.act).toHaveBeenCalled());
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("says who answers for it, and nothing of what is not in question", () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds")]);
    view.findings.claims = [claimOf("charged", "weigh_in", "answered_for", { by: "J. Pell", reason: "dusk" })];
    show(view, frame);
    expect(screen.getByText("J. Pell answers for it: dusk")).toBeTruthy();
    cleanup();
    view.findings.claims = [claimOf("charged", "weigh_in", "not_in_question")];
    show(view, frame);
    expect(screen.queryByRole("region", { name: /What this shows/ })).toBeNull();
  });

  it("leaves a step out with a usual reason, or one's own", async () => {
    const view = jobView({}, {}, [stepResult("recover", "Open")]);
    view.act = vi.fn(async () => ({ ...view.answer, kind: "service" }));
    show(
      view,
      <StepFrame step="recover" sub="" done="Out">
        <p />
      </StepFrame>,
    );
    fireEvent.click(screen.getByRole("button", { name: "Does not apply" }));
    fireEvent.click(screen.getByRole("button", { name: "the charge stays in" }));
    fireEvent.click(screen.getByRole("button", { name: "It does not apply" }));
    const left = { act: "leave_out", step: "recover", reason: "the charge stays in" };
    await waitFor(() => expect(view.act).toHaveBeenCalledExactlyOnceWith(left));
  });

  it("closes what holds at one tap, after sending what was typed", async () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds")]);
    view.act = vi.fn(async () => ({ ...view.answer, seq: 9 }));
    show(view, frame);
    fireEvent.click(screen.getByRole("button", { name: "It is in" }));
    await waitFor(() =>
      expect(view.act).toHaveBeenCalledExactlyOnceWith({ act: "close", step: "weigh_in", reason: "" }),
    );
    expect(view.sendNow).toHaveBeenCalled();
  });

  it("asks for a reason where it does not hold, and shows a refusal", async () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Wait")]);
    view.act = vi.fn(async () => Promise.reject(refusal("Not like that.")));
    show(view, frame);
    fireEvent.click(screen.getByRole("button", { name: "Close it all the same" }));
    await screen.findByRole("dialog");
    const go = screen.getByRole("button", { name: "Close with this reason" });
    expect(go).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("Reason, kept in the record"), { target: { value: "cylinder ran out" } });
    fireEvent.click(go);
    await waitFor(() => expect(screen.getByText("Not like that.")).toBeTruthy());
  });

  it("opens a closed step again with a reason, or does it over", async () => {
    const view = jobView({}, {}, [stepResult("weigh_in", "Holds", { state: "closed" })]);
    view.act = vi.fn(async () => view.answer);
    show(view, frame);
    fireEvent.click(screen.getByRole("button", { name: "Correct this step" }));
    fireEvent.change(screen.getByLabelText("Reason, kept in the record"), { target: { value: "read again" } });
    fireEvent.click(screen.getByRole("button", { name: "Do it over, keep the old run" }));
    const again = { act: "reopen", step: "weigh_in", reason: "read again", new_run: true };
    await waitFor(() => expect(view.act).toHaveBeenCalledExactlyOnceWith(again));
  });

  it("closes without signal where the rules are on the device, and says that it is only asked", () => {
    const result = stepResult("weigh_in", "Holds", { state: "closed" });
    const view = jobView({ link: "offline", able: true, asked: new Set(["weigh_in"]) }, {}, [result]);
    show(view, frame);
    expect(screen.getByText("Asked. It stands when the office has it.")).toBeTruthy();
    cleanup();
    show(jobView({ link: "offline", able: true }, {}, [stepResult("weigh_in", "Holds")]), frame);
    expect(screen.getByRole("button", { name: "It is in" })).toHaveProperty("disabled", false);
  });

  it("does not close without signal where they are not", () => {
    show(jobView({ link: "offline", since: Date.now() }, {}, [stepResult("weigh_in", "Holds")]), frame);
    expect(screen.getByRole("button", { name: "It is in" })).toHaveProperty("disabled", true);
    expect(screen.getByText("Closing waits for signal.")).toBeTruthy();
  });

  it("says when what it read has changed since closing", () => {
    show(jobView({}, {}, [stepResult("weigh_in", "Holds", { state: "changed" })]), frame);
    expect(screen.getByText("Changed since closing.")).toBeTruthy();
  });
});

describe("without a network", () => {
  it("says since when, how old the plan is and how many entries wait", () => {
    const path = "/steps/identify/runs/0/sheet/oil";
    const draft = { path, seen: null, value: "POE", force: false, ready: true, stamp: "s", at: 0 };
    const view = jobView({
      link: "offline",
      since: Date.now() - 60_000,
      readAt: Date.now() - 20 * 60_000,
      fromDevice: true,
      drafts: { [path]: draft },
    });
    show(
      view,
      <>
        <SignalBar />
        <WaitsHere />
      </>,
    );
    expect(screen.getByText(/No signal since/)).toBeTruthy();
    expect(screen.getByText(/20 min ago/)).toBeTruthy();
    expect(screen.getByText("Waits to go out: 1")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Try now" }));
    expect(view.sendNow).toHaveBeenCalled();
  });

  it("says nothing while all is well", () => {
    show(
      jobView(),
      <>
        <SignalBar />
        <LinkNote />
        <WaitsHere />
      </>,
    );
    expect(screen.queryByRole("status")).toBeNull();
    expect(screen.queryByText(/Waits to go out/)).toBeNull();
  });

  it("says that the device judges, and what is put on the list of what waits", () => {
    const close = { ...blank("job1", "k1"), at: 60_000, what: { kind: "act", act: CLOSE } } as const;
    show(
      jobView({ link: "offline", able: true, judgedBy: "device", items: [close] }),
      <>
        <SignalBar />
        <WaitsHere />
      </>,
    );
    expect(screen.getByTestId("judged-by").textContent).toContain("This device works it out");
    expect(screen.getByTestId("waits-to-go").textContent).toContain("Identifyto be closed");
  });

  it("shows what the office did not take, with both ways on", () => {
    const problem = { path: "", code: "x", message: said("Still needed: the oil.") };
    const close = { ...blank("job1", "k1"), at: 60_000, what: { kind: "act", act: CLOSE }, problem } as const;
    const view = jobView({ items: [close] });
    show(view, <LinkNote />);
    expect(screen.getByRole("alert").textContent).toContain("Not taken: Identify, to be closed");
    fireEvent.click(screen.getByRole("button", { name: "Send it again" }));
    expect(view.again).toHaveBeenCalledExactlyOnceWith("k1");
    fireEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(view.away).toHaveBeenCalledExactlyOnceWith("k1");
  });

  it("says where the office judges otherwise, and by which rules", () => {
    const here = jobView({}, {}, [stepResult("weigh_in", "Holds")]).findings;
    const office = { ...jobView({}, {}, [stepResult("weigh_in", "Wait")]).findings, core_version: "9" };
    expect(differences(here, here)).toEqual([]);
    expect(differences(here, office)).toEqual([
      "Weigh in: Wait. Here it was Holds.",
      "This device judged by rules 0, the office by 9.",
    ]);
  });

  it("puts two answers for one thing side by side, with what each makes of the charge", async () => {
    const path = "/steps/identify/runs/0/sheet/factory_charge";
    const theirs = { value: 4, text: "8 lb 13 oz", unit: "lb", by: "T. Vesk", at: "2026-06-18T09:31:00Z" };
    const mine = {
      path,
      value: { value: 3, text: "7 lb 8 oz", unit: "lb" },
      by: "M. Orrin",
      at: "2026-06-18T09:14:00Z",
    };
    const job = { steps: { identify: { runs: [{ sheet: { factory_charge: theirs } }] } }, disputes: [mine] };
    answer.mockImplementation(async (request: Request) => {
      const { changes } = await request.clone().json();
      const kg = changes[0].value.text === "7 lb 8 oz" ? 3 : 4;
      const total = { id: "total", label: "total", amount: { value: kg, quantity: "mass", u: null } };
      const { findings } = jobView({}, {}, [stepResult("identify", "Holds", { figures: [total as never] })]);
      return Response.json({ findings });
    });
    const view = jobView({ held: [path] }, job);
    show(view, <LinkNote />);
    const both = within(screen.getByRole("region", { name: /Two answers/ }));
    await waitFor(() => expect(both.getByText("8 lb 13.1 oz")).toBeTruthy());
    expect(both.getByText("6 lb 9.8 oz")).toBeTruthy();
    fireEvent.click(both.getByRole("button", { name: "Keep 7 lb 8 oz" }));
    const kept = { text: "7 lb 8 oz", unit: "lb" };
    expect(view.type).toHaveBeenCalledExactlyOnceWith(path, kept, { ready: true, force: true });
  });
});

describe("the instrument strip", () => {
  it("shows typed values as typed, with their age", () => {
    const at = new Date(Date.now() - 14 * 60_000).toISOString();
    const reading = { outdoor: { value: 284.26, text: "52 °F", unit: "°F", source: "measured", at, by: "" } };
    show(
      jobView({}, { steps: { verify: { runs: [{ sheet: { readings: { r1: reading } } }] } } }),
      <Strip step="verify" />,
    );
    expect(screen.getByText(/52\.0 °F/)).toBeTruthy();
    expect(screen.getByText("typed 14 min ago")).toBeTruthy();
    expect(screen.getAllByText("—").length).toBeGreaterThan(3);
  });
});
