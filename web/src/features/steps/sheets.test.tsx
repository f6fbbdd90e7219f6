import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Band, Figure, StepResult } from "../../api/types.ts";
import { answer } from "../../test-device.ts";
import { emptyPicture, jobView, matchesMedia, said, show, stepResult } from "../../test-job.tsx";
import { CloseOutSheet, History } from "./close_out/Sheet.tsx";
import { VerifySheet } from "./verify/Sheet.tsx";
import { VerifySide } from "./verify/Side.tsx";
import { ActOn, WeighInSheet } from "./weigh_in/Sheet.tsx";
import { WeighInSide } from "./weigh_in/Side.tsx";

afterEach(cleanup);
beforeEach(() => {
  answer.mockReset();
  answer.mockImplementation(async () => Response.json({ rows: [], next: null }));
  matchesMedia();
});

const OZ = 0.028349523125;

function figure(id: string, value: number, quantity = "mass", part: Partial<Figure> = {}): Figure {
  return {
    id,
    label: id.replace("_", " "),
    amount: { value, quantity, u: null },
    why: { terms: [], notes: [], source: "scale", rule_id: "r", school: null },
    ...part,
  } as Figure;
}

function weighing(part: Partial<StepResult> = {}): StepResult {
  return stepResult("weigh_in", "Open", {
    figures: [figure("to_weigh", 167.5 * OZ), figure("close_at", 334.4 * OZ), figure("close_counted", -168.1 * OZ)],
    ...part,
  });
}

describe("the number to act on", () => {
  it("is the reading at which to shut the valve, gross or from zero", () => {
    show(jobView({}, {}, [weighing()]), <ActOn />);
    expect(screen.getByText("Close the valve when the scale reads")).toBeTruthy();
    expect(screen.getByLabelText(/close the valve at/).textContent).toContain("14.4");
    fireEvent.click(screen.getByRole("radio", { name: "From zero" }));
    expect(screen.getByLabelText(/close the valve at/).textContent).toContain("8.1");
  });

  it("is no call to act while the step says Stop", () => {
    const stopped = weighing({ verdict: { word: "Stop", headline: said("runs out"), reasons: [] } });
    show(jobView({}, {}, [stopped]), <ActOn />);
    expect(screen.getByText(/Not yet: see Stop/)).toBeTruthy();
    expect(screen.queryByText("Close the valve when the scale reads")).toBeNull();
  });

  it("is what is in, once it is in", () => {
    show(jobView({}, {}, [weighing({ figures: [figure("inside", 167.5 * OZ)] })]), <ActOn />);
    expect(screen.getByText("In the system")).toBeTruthy();
  });

  it("says in words what it waits for", () => {
    show(jobView({}, {}, [stepResult("weigh_in", "Open")]), <ActOn />);
    expect(screen.getByText("weigh_in says Open")).toBeTruthy();
  });

  it("shows what to weigh before a cylinder stands on the scale", () => {
    show(jobView({}, {}, [weighing({ figures: [figure("to_weigh", 96 * OZ)] })]), <ActOn />);
    expect(screen.getByText("To weigh in")).toBeTruthy();
  });
});

describe("weigh in", () => {
  it("asks what is inside only where something is", () => {
    show(jobView({}, {}, [weighing()]), <WeighInSheet />);
    expect(screen.queryByLabelText("already inside")).toBeNull();
    cleanup();
    const holding = { steps: { weigh_in: { runs: [{ sheet: { system_state: "holding" } }] } } };
    show(jobView({}, holding, [weighing()]), <WeighInSheet />);
    expect(screen.getByLabelText("already inside")).toBeTruthy();
  });

  it("writes into the draw that stands in the job", () => {
    const job = { steps: { weigh_in: { runs: [{ sheet: { draws: { d7: {} } } }] } } };
    const view = jobView({}, job, [weighing()]);
    show(view, <WeighInSheet />);
    fireEvent.change(screen.getByLabelText("tare"), { target: { value: "9 lb" } });
    expect(view.type).toHaveBeenLastCalledWith(
      "/steps/weigh_in/runs/0/sheet/draws/d7/tare",
      { text: "9 lb", unit: "lb" },
      { ready: false },
    );
  });

  it("draws the scale only when there is a mark", () => {
    show(jobView({}, {}, [weighing()]), <WeighInSide />);
    expect(screen.queryByRole("img", { name: /Scale from/ })).toBeNull();
    cleanup();
    const marks = [
      { id: "start" as const, label: "start", gross_kg: 14.2, counted_kg: 0, low_kg: null, high_kg: null },
      { id: "slow" as const, label: "slow down", gross_kg: 9.95, counted_kg: -4.25, low_kg: null, high_kg: null },
      {
        id: "close" as const,
        label: "close the valve",
        gross_kg: 9.48,
        counted_kg: -4.72,
        low_kg: null,
        high_kg: null,
      },
    ];
    show(
      jobView({}, {}, [weighing({ picture: { ...emptyPicture, parts: [], marks, bands: [], trims: [], notes: [] } })]),
      <WeighInSide />,
    );
    expect(screen.getByRole("img", { name: /Scale from 31 lb 4.9 oz down to 20 lb 14.4 oz/ })).toBeTruthy();
  });
});

function band(part: Partial<Band>): Band {
  return {
    id: "subcooling",
    label: "subcooling",
    side: "high",
    amount: { value: 4.67, quantity: "temperature_delta", u: 0.5 },
    low: 3.9,
    high: 7.2,
    target: 5.56,
    saturation: { value: 316, quantity: "temperature", u: null },
    across: { value: 316, quantity: "temperature", u: null },
    measured: { value: 311, quantity: "temperature", u: null },
    word: "Holds",
    most: null,
    expected: null,
    ...part,
  } as Band;
}

describe("verify", () => {
  const judged = (part: Partial<StepResult> = {}) =>
    stepResult("verify", "Holds", {
      figures: [figure("subcooling", 4.67, "temperature_delta"), figure("target", 5.56, "temperature_delta")],
      picture: {
        ...emptyPicture,
        parts: [],
        marks: [],
        bands: [
          band({}),
          band({ id: "superheat", label: "superheat", side: "low", target: null, low: 2.2, high: 13.9 }),
        ],
        trims: [],
        notes: [],
      },
      ...part,
    });

  it("shows each side with what it is held against", () => {
    show(jobView({}, {}, [judged()]), <VerifySheet />);
    const high = within(screen.getByTestId("band-subcooling"));
    expect(high.getByText(/target 10\.0 °F ± 3\.0 °F/)).toBeTruthy();
    const low = within(screen.getByTestId("band-superheat"));
    expect(low.getByText(/sane from 4\.0 °F to 25\.0 °F/)).toBeTruthy();
    expect(low.getByText("low side, from dew")).toBeTruthy();
  });

  it("asks for the wet bulb and a chart only where an orifice meters", () => {
    show(jobView({}, {}, [judged()]), <VerifySheet />);
    expect(screen.queryByLabelText("return wet bulb")).toBeNull();
    cleanup();
    const job = { steps: { identify: { runs: [{ sheet: { metering: "orifice" } }] } } };
    show(jobView({}, job, [judged()]), <VerifySheet />);
    expect(screen.getByLabelText("return wet bulb")).toBeTruthy();
    expect(screen.getByText(/superheat judges the charge/)).toBeTruthy();
  });

  it("says the next addition first, and that it must settle", () => {
    const step = figure("trim_step", 4.4 * OZ, "mass", { label: "add next" });
    show(jobView({}, {}, [judged({ figures: [step] })]), <VerifySheet />);
    expect(screen.getByText("Add, then let it settle and read again")).toBeTruthy();
    cleanup();
    const out = { ...step, label: "take out next" };
    show(
      jobView({}, {}, [
        judged({ figures: [out], picture: { ...emptyPicture, parts: [], marks: [], takes_out: true } }),
      ]),
      <VerifySheet />,
    );
    expect(screen.getByText("Take out, then let it settle and read again")).toBeTruthy();
  });

  it("counts down instead of asking for a step while it settles", () => {
    const waiting = { since: "2026-06-18T15:11:00Z", until: "2099-06-18T15:21:00Z", decides: "the next reading" };
    show(jobView({}, {}, [judged({ waiting, figures: [] })]), <VerifySheet />);
    expect(within(screen.getByTestId("waits")).getByText("It settles; the next reading in")).toBeTruthy();
  });

  it("puts the cylinder on the scale before a step, by its live reading where one posts", () => {
    const step = figure("trim_step", 4.4 * OZ, "mass", { label: "add next" });
    const view = jobView({}, {}, [judged({ figures: [step] })]);
    show(view, <VerifySheet />);
    fireEvent.click(screen.getByRole("button", { name: "Add on the scale" }));
    expect(view.type).toHaveBeenLastCalledWith("/steps/verify/runs/0/sheet/readings/r2", {}, { ready: true });
  });

  it("hands over to the causes, without the charge among them, and takes the next check's answer", () => {
    const next_check = {
      id: "standing",
      text: "Switch it off and let it equalize.",
      minutes: 15,
      outcomes: [{ id: "at", label: "at saturation", meaning: "no air in it" }],
    };
    const causes = [
      { id: "condenser_air", label: "condenser dirty", fit: 3, speaks_for: [], speaks_against: [], excluded_by: "" },
    ];
    const view = jobView({}, {}, [judged({ picture: { ...emptyPicture, causes, next_check } })]);
    show(view, <VerifySheet />);
    expect(screen.getByText("Not the charge: what else it can be")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "at saturation" }));
    const path = "/steps/verify/runs/0/sheet/checks/standing/result";
    expect(view.type).toHaveBeenLastCalledWith(path, "at", { ready: true });
  });

  it("starts another reading beside the old ones", () => {
    const sheet = { readings: { r1: { suction_pressure: { value: 1, text: "128 psig", unit: "psig" } } } };
    const waiting = judged({ verdict: { word: "Wait", headline: said("short"), reasons: [] } });
    const view = jobView({}, { steps: { verify: { runs: [{ sheet }] } } }, [waiting]);
    show(view, <VerifySheet />);
    fireEvent.click(screen.getByRole("button", { name: "Read again" }));
    expect(view.type).toHaveBeenLastCalledWith("/steps/verify/runs/0/sheet/readings/r2", {}, { ready: true });
  });

  it("keeps every step and its answer in a table", () => {
    const none = { answered: null, target: null, changed_at: null, at: null };
    const trims = [
      { ...none, id: "r1", added_kg: 0, inside_kg: 2.72, superheat: null, subcooling: null },
      {
        ...none,
        id: "r2",
        added_kg: 4.4 * OZ,
        inside_kg: null,
        superheat: null,
        subcooling: { value: 5, quantity: "temperature_delta", u: null },
        answered: { value: 10, quantity: "charge_response", u: null },
      },
    ];
    show(
      jobView({}, {}, [judged({ picture: { ...emptyPicture, parts: [], marks: [], bands: [], trims, notes: [] } })]),
      <VerifySheet />,
    );
    const rows = screen.getAllByRole("row").map((row) => row.textContent);
    expect(rows[1]).toBe("1—5 lb 15.9 oz———");
    expect(rows[2]).toBe("24.4 oz——9.0 °F0.51 °F/oz");
  });

  it("says what is in the system beside the ladder", () => {
    show(jobView({}, {}, [judged()]), <VerifySide />);
    expect(screen.getByText("not weighed in")).toBeTruthy();
    cleanup();
    show(jobView({}, {}, [judged(), weighing({ figures: [figure("inside", 96 * OZ)] })]), <VerifySide />);
    expect(screen.getByText("6 lb 0.0 oz")).toBeTruthy();
  });
});

describe("close out", () => {
  const differing = stepResult("close_out", "Open", {
    picture: {
      ...emptyPicture,
      parts: [],
      marks: [],
      bands: [],
      trims: [],
      notes: [
        said("Factory charge: on record {old}, in this job {new}.", {
          old: { value: 144 * OZ, quantity: "mass", u: null },
          new: { value: 148 * OZ, quantity: "mass", u: null },
        }),
      ],
    },
  });

  it("lists what was read differently and asks whether the record takes it", () => {
    const view = jobView({}, { circuit: { id: "CR-1" } }, [differing]);
    show(view, <CloseOutSheet />);
    expect(screen.getByText("Factory charge: on record 9 lb 0.0 oz, in this job 9 lb 4.0 oz.")).toBeTruthy();
    const asked = screen.getByRole("group", { name: /circuit/ });
    fireEvent.click(within(asked).getByRole("radio", { name: "Yes" }));
    expect(view.type).toHaveBeenLastCalledWith("/steps/close_out/runs/0/sheet/update_circuit", true, { ready: true });
  });

  it("asks nothing of the kind where nothing differs", () => {
    show(jobView({}, { circuit: { id: "CR-1" } }), <CloseOutSheet />);
    expect(screen.queryByText(/Read differently/)).toBeNull();
  });

  it("opens papers beside the job", () => {
    show(jobView(), <CloseOutSheet />);
    const record = screen.getByRole("link", { name: "Record" });
    expect(record.getAttribute("href")).toBe("/api/jobs/job1/record");
    expect(record.getAttribute("target")).toBe("_blank");
    expect(screen.getByRole("link", { name: "Data file" }).hasAttribute("download")).toBe(true);
  });

  it("has a paper set, and says why where it cannot be", async () => {
    const task = { id: 7, kind: "paper", progress: 0, done: {}, result: {} };
    answer.mockImplementation(async () => Response.json({ ...task, state: "failed", result: { detail: "No room." } }));
    show(jobView(), <CloseOutSheet />);
    fireEvent.click(screen.getByRole("button", { name: "Print the label" }));
    expect(screen.getByRole("button", { name: "Setting the label…" })).toBeTruthy();
    expect((await screen.findByRole("alert")).textContent).toContain("No room.");
    answer.mockImplementation(async () =>
      Response.json({ ...task, state: "done", result: { file: "job1-label.pdf" } }),
    );
    fireEvent.click(screen.getByRole("button", { name: "Print the label" }));
    expect((await screen.findByRole("link", { name: "Open the label" })).getAttribute("href")).toBe(
      "/api/tasks/7/file",
    );
  });

  it("tells what happened in the words of the sheet", async () => {
    const at = "2026-06-18T15:00:00Z";
    const path = "/steps/identify/runs/0/sheet";
    answer.mockImplementation(async () =>
      Response.json([
        { seq: 6, kind: "handed_on", by: "T. Vesk", at, payload: { to: "J. Pell" } },
        { seq: 5, kind: "visit_ended", by: "M. Orrin", at, payload: { reason: "waits for a coil" } },
        { seq: 4, kind: "closed", by: "M. Orrin", at, payload: { step: "weigh_in", reason: "cylinder ran out" } },
        {
          seq: 3,
          kind: "entries",
          by: "M. Orrin",
          at,
          payload: {
            accepted: {
              [`${path}/factory_charge`]: { text: "9 lb 4 oz" },
              [`${path}/listed`]: true,
              [`${path}/oil`]: null,
              [`${path}/lines/l1`]: {},
              [`${path}/metering`]: "txv",
            },
          },
        },
      ]),
    );
    show(jobView(), <History />);
    await waitFor(() => expect(screen.getByText(/Weigh in closed “cylinder ran out”/)).toBeTruthy());
    expect(screen.getByText(/left “waits for a coil”/)).toBeTruthy();
    expect(screen.getByText(/handed to J. Pell/)).toBeTruthy();
    expect(
      screen.getByText(
        /factory charge 9 lb 4 oz, unit is listed for this refrigerant yes, oil cleared, line started, metering device TXV/,
      ),
    ).toBeTruthy();
  });
});
