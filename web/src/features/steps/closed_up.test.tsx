import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Chart } from "../../api/types.ts";
import { nextKey } from "../../fields/Readings.tsx";
import { spread } from "../../parts/ClockTape.tsx";
import { left } from "../../parts/Countdown.tsx";
import { LogChart } from "../../parts/LogChart.tsx";
import { PlanList } from "../../parts/PlanList.tsx";
import { emptyPicture, jobView, said, show, stepResult } from "../../test-job.tsx";
import EvacuateSheet from "./evacuate/Sheet.tsx";
import EvacuateSide from "./evacuate/Side.tsx";
import PressureHoldSheet from "./pressure_hold/Sheet.tsx";
import RepairSheet from "./repair/Sheet.tsx";

afterEach(cleanup);

const START = "2026-06-18T15:01:00Z";
const MICRON = 0.133322;
const DECAY: Chart = {
  id: "decay",
  title: "Shut off",
  quantity: "micron",
  logarithmic: true,
  starts_at: START,
  curves: [
    { id: "measured", label: "gauge", seconds: [0, 300, 590], values: [310 * MICRON, 500 * MICRON, 585 * MICRON] },
    { id: "leak", label: "leak", seconds: [90, 1000], values: [400 * MICRON, 720 * MICRON] },
    { id: "moisture", label: "moisture", seconds: [90, 1000], values: [390 * MICRON, 621 * MICRON] },
  ],
  limit: { value: 500 * MICRON, quantity: "micron", u: null },
  now_s: 590,
  not_judged_s: 90,
  decide_s: 940,
  band: null,
  marks: [{ second: 0, value: 310 * MICRON, label: "isolated" }],
};

const service = (step: string, part = {}, job = {}) =>
  jobView(
    {
      findings: {
        ...jobView().findings,
        steps: ["identify", "repair", "pressure_hold", "evacuate"].map((id) =>
          stepResult(id, id === step ? "Wait" : "Holds", id === step ? part : {}),
        ),
      },
    },
    job,
  );

describe("a log against the clock", () => {
  it("says from where to where it went, and against which limit", () => {
    show(jobView(), <LogChart chart={DECAY} system="us" />);
    expect(screen.getByRole("img", { name: "Shut off: from 310 micron to 585 micron, limit 500 micron" })).toBeTruthy();
    expect(screen.getByText("limit 500")).toBeTruthy();
    expect(screen.getByText("moisture")).toBeTruthy();
  });

  it("reads in pascal for who reads SI", () => {
    show(jobView(), <LogChart chart={DECAY} system="si" />);
    expect(screen.getByRole("img", { name: /from 41.3 Pa to 78.0 Pa, limit 66.7 Pa/ })).toBeTruthy();
  });
});

describe("the clock", () => {
  it("counts down and ends at nought", () => {
    const now = new Date(START).getTime();
    expect(left("2026-06-18T15:06:48Z", now)).toBe("5:48");
    expect(left("2026-06-18T16:06:48Z", now)).toBe("1 h 05");
    expect(left("2026-06-18T15:00:00Z", now)).toBe("0:00");
  });

  it("pushes labels apart that would cover each other", () => {
    expect(spread([10, 12, 80], 20)).toEqual([10, 30, 80]);
  });

  it("numbers the next row after the highest", () => {
    expect(nextKey(["r1", "r7", "r3"], "r")).toBe("r8");
    expect(nextKey([], "e")).toBe("e1");
  });
});

describe("evacuate", () => {
  const events = { e1: { do: "pump", at: "2026-06-18T14:14:00Z" }, e2: { do: "isolated", at: START } };
  const job = { steps: { evacuate: { runs: [{ sheet: { events } }] } } };
  const part = {
    picture: { ...emptyPicture, charts: [DECAY] },
    waiting: { since: START, until: "2099-06-18T15:17:00Z", decides: "leak, moisture or tight" },
  };

  it("offers what can be done next and stamps it with the clock", () => {
    const view = service("evacuate", part, job);
    show(view, <EvacuateSheet />);
    fireEvent.click(screen.getByRole("button", { name: "Pump again" }));
    expect(view.type).toHaveBeenCalledWith("/steps/evacuate/runs/0/sheet/events/e3/do", "pump", { ready: true });
    expect(view.type).toHaveBeenCalledWith(
      "/steps/evacuate/runs/0/sheet/events/e3/at",
      expect.stringMatching(/^20\d\d-/),
      { ready: true },
    );
    expect(screen.getByText("leak, moisture or tight, in")).toBeTruthy();
  });

  it("types a reading with its moment, and nothing from an empty field", () => {
    const view = service("evacuate", part, job);
    show(view, <EvacuateSheet />);
    const form = screen.getByRole("button", { name: "Type a reading" });
    fireEvent.click(form);
    expect(view.type).not.toHaveBeenCalled();
    fireEvent.change(screen.getByLabelText("gauge, micron"), { target: { value: "601" } });
    fireEvent.click(form);
    expect(view.type).toHaveBeenCalledWith(
      "/steps/evacuate/runs/0/sheet/readings/r1/vacuum",
      { text: "601", unit: "micron" },
      { ready: true },
    );
  });

  it("stands on the clock tape with what was done and when it is told", () => {
    show(service("evacuate", part, job), <EvacuateSide />);
    expect(screen.getByRole("img", { name: /pump on.*isolated.*told/ })).toBeTruthy();
  });
});

describe("pressure hold and repair", () => {
  it("asks for stamps before it is filled", () => {
    const view = service("pressure_hold");
    show(view, <PressureHoldSheet />);
    expect(screen.getByText(/Stamped on what is connected/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Shut now" }));
    expect(view.type).toHaveBeenCalledWith(
      "/steps/pressure_hold/runs/0/sheet/filled_at",
      expect.stringMatching(/^20\d\d-/),
      { ready: true },
    );
  });

  it("shows the order of things with the one at hand marked", () => {
    const rows = [
      { id: "a", text: said("40 psig"), state: "done" as const, duration: null, at: null },
      { id: "b", text: said("250 psig"), state: "now" as const, duration: null, at: null },
    ];
    show(jobView(), <PlanList rows={rows} system="us" title="In this order" />);
    const list = screen.getByRole("region", { name: "In this order" });
    expect(within(list).getByText("250 psig").closest("li")?.getAttribute("aria-current")).toBe("step");
  });

  it("asks for flame's cautions only where there is a flame", () => {
    const flared = service("repair", {}, { steps: { repair: { runs: [{ sheet: { joining: "flared" } }] } } });
    const { unmount } = show(flared, <RepairSheet />);
    expect(screen.queryByText("nitrogen flowed while brazing")).toBeNull();
    unmount();
    const brazed = service("repair", {}, { steps: { repair: { runs: [{ sheet: { joining: "brazed" } }] } } });
    show({ ...brazed, type: vi.fn() }, <RepairSheet />);
    expect(screen.getAllByText("nitrogen flowed while brazing").length).toBeGreaterThan(0);
  });
});
