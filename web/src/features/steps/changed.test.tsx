import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { Figure, PhPoint, BeforeAfter as Row } from "../../api/types.ts";
import { BeforeAfter } from "../../parts/BeforeAfter.tsx";
import { PhChart } from "../../parts/PhChart.tsx";
import { answer } from "../../test-device.ts";
import { emptyPicture, jobView, said, show, stepResult } from "../../test-job.tsx";
import { ChargeLines } from "../job/ChargeLines.tsx";
import { changeOf, chargedOf } from "../job/change.ts";
import ChangeOverSheet from "./change_over/Sheet.tsx";
import ChangeOverSide from "./change_over/Side.tsx";
import PlanChangeSheet from "./plan_change/Sheet.tsx";
import PlanChangeSide from "./plan_change/Side.tsx";

beforeEach(() => {
  answer.mockImplementation(async (request: Request) =>
    request.url.includes("/chart")
      ? Response.json({ chart: { refrigerant: "R-22", bubble: [], dew: [], isotherms: [] }, points: [] })
      : Response.json({ rows: [{ id: 9, code: "AX-1", name: "Annex split" }], next: null }),
  );
});
afterEach(cleanup);

const LB = 0.45359237;
const PSI = 6894.757;
const mass = (lb: number) => ({ value: lb * LB, quantity: "mass", u: null });
const figure = (id: string, label: string, amount: Figure["amount"]): Figure => ({
  id,
  label,
  amount,
  why: { terms: [], notes: [], source: "common practice", rule_id: "retrofit.start_share", school: null },
});
const at = (psi: number, kj: number, f: number): PhPoint => ({
  pressure_pa: psi * PSI,
  enthalpy_j_kg: kj * 1000,
  temperature_k: (f + 459.67) / 1.8,
});
const WAY = [at(80, 420, 55), at(240, 455, 168), at(240, 250, 95), at(80, 250, 40)];
const JOB = {
  circuit: { id: "AX-1", plate: { refrigerant: "R-22", metering: "orifice" } },
  steps: {
    plan_change: { runs: [{ sheet: { refrigerant: "R-407C" } }] },
    change_over: { runs: [{ sheet: { oil_changes: { o1: {} }, controls: { k1: { kind: "low_cut_out" } } } }] },
  },
};
const view = (step: string, word: "Holds" | "Stop", part = {}, job: Record<string, unknown> = JOB) =>
  jobView({ findings: { ...jobView().findings, steps: [stepResult(step, word, part)] } }, job);

describe("what a job changes to", () => {
  it("is the plan's refrigerant, else the plate's", () => {
    expect(changeOf(JOB)).toEqual({ from: "R-22", to: "R-407C" });
    expect(chargedOf(JOB)).toBe("R-407C");
    expect(chargedOf({ circuit: { plate: { refrigerant: "R-22" } } })).toBe("R-22");
    expect(changeOf({})).toBeNull();
  });
});

describe("planning the change", () => {
  it("says start and expected end, and leads back to the comparison", async () => {
    const figures = [figure("start", "start with", mass(7.4625)), figure("final", "expected in the end", mass(8.2917))];
    const picture = { ...emptyPicture, notes: [said("New filter drier.")] };
    show(view("plan_change", "Holds", { figures, picture }), <PlanChangeSheet />);
    expect(screen.getByTestId("big-weight").textContent).toContain("7lb7.4oz");
    expect(screen.getByText("8 lb 4.7 oz")).toBeTruthy();
    expect(screen.getByText("New filter drier.")).toBeTruthy();
    await waitFor(() =>
      expect(screen.getByRole("link", { name: /Compare all/ }).getAttribute("href")).toBe("/systems/9/retrofit"),
    );
  });

  it("shows no start for what is stopped, only why", () => {
    const problem = {
      path: "/x/refrigerant",
      code: "retrofit.pressure",
      message: said("395.6 psig on the worst day."),
    };
    const figures = [figure("start", "start with", mass(6.8))];
    show(view("plan_change", "Stop", { figures, problems: [problem] }), <PlanChangeSheet />);
    expect(within(screen.getByTestId("stops")).getByText("395.6 psig on the worst day.")).toBeTruthy();
    expect(screen.queryByTestId("big-weight")).toBeNull();
  });

  it("draws both cycles, in words too", async () => {
    const cycles = [
      { refrigerant: "R-22", points: WAY },
      { refrigerant: "R-407C", points: WAY },
    ];
    show(view("plan_change", "Holds", { picture: { ...emptyPicture, cycles } }), <PlanChangeSide />);
    const drawn = await screen.findByTestId("ph-chart");
    expect(drawn.getAttribute("aria-label")).toContain("R-407C: suction 80.0 psia, 55.0 °F; discharge 240.0 psia");
    expect(drawn.getAttribute("aria-label")).toContain("R-22, now");
  });
});

describe("the charge beside the scale", () => {
  const total = figure("total", "total charge", mass(8.75));

  it("goes from the old full charge to what is expected of the new", () => {
    const steps = [
      stepResult("identify", "Holds", { figures: [total] }),
      stepResult("plan_change", "Holds", {
        figures: [figure("start", "start with", mass(7.4625)), figure("final", "expected in the end", mass(8.2917))],
      }),
    ];
    const base = jobView({}, JOB);
    const job = { ...base, answer: { ...base.answer, kind: "retrofit" as const } };
    show({ ...job, findings: { ...job.findings, steps } }, <ChargeLines />);
    expect(screen.getByTestId("changed-charge").textContent).toBe(
      "R-22, full, with its lines8 lb 12.0 ozR-407C, expected in the end8 lb 4.7 ozR-407C, to begin with7 lb 7.4 oz",
    );
  });

  it("is the build-up in any other job", () => {
    show(
      jobView({ findings: { ...jobView().findings, steps: [stepResult("identify", "Holds", { figures: [total] })] } }),
      <ChargeLines />,
    );
    expect(screen.queryByTestId("changed-charge")).toBeNull();
    expect(screen.getByText("8 lb 12.0 oz")).toBeTruthy();
  });
});

describe("changing over", () => {
  it("shows what is left of the old oil and what a control is set to", () => {
    const figures = [
      figure("old_oil", "old oil left", { value: 0.25, quantity: "fraction", u: null }),
      figure("control_k1", "low cut-out, set to", { value: 24.2 * PSI, quantity: "gauge_pressure", u: null }),
    ];
    show(view("change_over", "Holds", { figures }), <ChangeOverSheet />);
    expect(screen.getByTestId("old-oil").textContent).toContain("25.0 %");
    expect(screen.getByTestId("wanted-k1").textContent).toContain("24.2 psig");
    expect(screen.getByLabelText("orifice fitted")).toBeTruthy();
    expect(screen.queryByRole("group", { name: "metering device" })).toBeNull();
    expect(screen.getByRole("button", { name: "Another control" })).toBeTruthy();
  });

  it("offers a valve where there is one, and none where a capillary is", () => {
    const metering = (name: string) => ({ circuit: { id: "x", plate: { metering: name } }, steps: {} });
    show(view("change_over", "Holds", {}, metering("txv")), <ChangeOverSheet />);
    expect(screen.getByRole("group", { name: "metering device" })).toBeTruthy();
    cleanup();
    show(view("change_over", "Holds", {}, metering("capillary")), <ChangeOverSheet />);
    expect(screen.queryByRole("group", { name: "metering device" })).toBeNull();
    expect(screen.getByText(/All of the charge goes in by weight/)).toBeTruthy();
  });

  it("writes the tag", () => {
    const picture = { ...emptyPicture, notes: [said("Changed from R-22 to R-407C. Never top up with R-22.")] };
    show(view("change_over", "Holds", { picture }), <ChangeOverSide />);
    expect(screen.getByTestId("tag").textContent).toContain("Never top up with R-22.");
  });
});

describe("before and after", () => {
  const rows: Row[] = [
    {
      label: "air over the condenser",
      before: { value: 308.15, quantity: "temperature", u: null },
      after: null,
      condition: true,
    },
    {
      label: "superheat, on dew",
      before: null,
      after: { value: 6, quantity: "temperature_delta", u: null },
      condition: false,
    },
  ];

  it("sets them side by side, and a dash where nothing was read", () => {
    show(jobView(), <BeforeAfter rows={rows} from="R-22" to="R-407C" system="us" />);
    const lines = screen.getAllByRole("row").map((row) => row.textContent);
    expect(lines[1]).toBe("air over the condenser95.0 °F—");
    expect(lines[2]).toBe("superheat, on dew—10.8 °F");
  });

  it("is nothing without readings", () => {
    show(jobView(), <BeforeAfter rows={[]} from="R-22" to="R-407C" system="us" />);
    expect(screen.queryByTestId("before-after")).toBeNull();
  });
});

describe("pressure over enthalpy", () => {
  const dome = {
    refrigerant: "R-22",
    bubble: [at(20, 160, -40), at(200, 245, 96), at(500, 300, 160)],
    dew: [at(20, 395, -40), at(200, 415, 96), at(500, 400, 160)],
    isotherms: [{ temperature_k: 299.8, points: [at(150, 232, 80), at(150, 412, 80)] }],
  };

  it("names its temperatures and pressures in the units of who reads", () => {
    show(jobView(), <PhChart domes={[dome]} ways={[]} system="us" />);
    expect(screen.getByText("80°")).toBeTruthy();
    expect(screen.getByText("psia")).toBeTruthy();
    expect(screen.queryByText(/1 suction/)).toBeNull();
    cleanup();
    show(jobView(), <PhChart domes={[dome]} ways={[]} system="si" />);
    expect(screen.getByText("27°")).toBeTruthy();
    expect(screen.getByText("kPa")).toBeTruthy();
  });

  it("numbers the corners of the one that is chosen", () => {
    show(jobView(), <PhChart domes={[dome]} ways={[{ name: "R-22", points: WAY }]} system="us" />);
    for (const number of ["1", "2", "3", "4"]) expect(screen.getByText(number)).toBeTruthy();
  });
});
