import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Pictures, PlaceRow, StepResult } from "../../api/types.ts";
import { answer } from "../../test-device.ts";
import { emptyPicture, jobView, said, show, stepResult, withSheet } from "../../test-job.tsx";
import AsFoundSheet from "./as_found/Sheet.tsx";
import AsFoundSide from "./as_found/Side.tsx";
import LeakSearchSheet from "./leak_search/Sheet.tsx";
import LeakSearchSide from "./leak_search/Side.tsx";
import RecoverSheet from "./recover/Sheet.tsx";
import RecoverSide from "./recover/Side.tsx";

answer.mockImplementation(async () => Response.json({ rows: [], next: null }));
afterEach(cleanup);

const f = (value: number, quantity = "temperature_delta") => ({ value, quantity, u: null });
const why = { terms: [], notes: [], source: "s", rule_id: "coil.slack", school: null };
const figure = (id: string, value: number, quantity = "mass", label = id) => ({
  id,
  label,
  amount: f(value, quantity),
  why,
});
const CAUSES: Pictures["as_found"]["causes"] = [
  {
    id: "undercharge",
    label: "charge is short",
    fit: 4,
    speaks_for: [said("Superheat {value} above a healthy unit", { value: f(10) })],
    speaks_against: [],
    excluded_by: "Recover and weigh: the scale decides.",
  },
  { id: "low_airflow", label: "too little indoor air", fit: 1, speaks_for: [], speaks_against: [], excluded_by: "" },
  { id: "healthy", label: "nothing wrong", fit: 1, speaks_for: [], speaks_against: [], excluded_by: "" },
  { id: "orifice_small", label: "orifice too small", fit: 1, speaks_for: [], speaks_against: [], excluded_by: "" },
];
const CHECK: Pictures["as_found"]["next_check"] = {
  id: "drier_drop",
  text: "Feel the drier.",
  minutes: 4,
  outcomes: [
    { id: "drop", label: "colder after it", meaning: "liquid line restricted" },
    { id: "even", label: "no difference", meaning: "charge is short" },
  ],
};
const step = (name: "as_found" | "leak_search" | "recover", picture = {}, part: Partial<StepResult> = {}) =>
  stepResult(name, "Wait", { picture: { ...emptyPicture, ...picture }, ...part });

describe("as found", () => {
  const open = (sheet: Record<string, unknown>, picture = {}, part: Partial<StepResult> = {}) => {
    const view = jobView({}, withSheet({ kind: "split" }, { steps: { as_found: { runs: [{ sheet }] } } }), [
      step("as_found", picture, part),
    ]);
    show(view, <AsFoundSheet />);
    return view;
  };

  it("shows causes with what speaks for them and folds away the poor ones", () => {
    open({ running: "settled" }, { causes: CAUSES });
    expect(screen.getByTestId("cause-undercharge").textContent).toContain("Superheat 18.0 °F above a healthy unit");
    expect(screen.getByTestId("cause-undercharge").textContent).toContain("the scale decides");
    expect(screen.queryByTestId("cause-orifice_small")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "1 more that fit poorly" }));
    expect(screen.getByTestId("cause-orifice_small")).toBeTruthy();
  });

  it("enters a check's result, or that it cannot be done", () => {
    const view = open({ running: "settled" }, { causes: CAUSES, next_check: CHECK });
    fireEvent.click(screen.getByRole("button", { name: "no difference" }));
    const path = "/steps/as_found/runs/0/sheet/checks/drier_drop/result";
    expect(view.type).toHaveBeenCalledWith(path, "even", { ready: true });
    fireEvent.click(screen.getByRole("button", { name: "Cannot do it here" }));
    expect(view.type).toHaveBeenCalledWith(path, "cannot", { ready: true });
  });

  it("says once when no outcome changes who leads", () => {
    const outcomes = CHECK.outcomes.map((o) => ({ ...o, meaning: "charge is short" }));
    open({}, { causes: CAUSES, next_check: { ...CHECK, outcomes } });
    expect(screen.getByText(/stays in front/)).toBeTruthy();
  });

  it("asks no running readings of a unit that is off, and names the vapour port in heating", () => {
    open({ running: "off" });
    expect(screen.queryByText("High side")).toBeNull();
    cleanup();
    open({ running: "settled", mode: "heating" });
    expect(screen.getByText("Vapour port, the high side")).toBeTruthy();
    expect(screen.getByLabelText("vapour port")).toBeTruthy();
  });

  it("takes a check back, and compares with the proven unit", () => {
    // biome-ignore lint/suspicious/noThenProperty: the API's own word for what it was
    const compared = [{ label: "superheat", then: f(5), now: f(15) }];
    const view = open(
      { checks: { standing: { result: "at", note: "at noon" } } },
      { compared, notes: [said("once before")] },
    );
    expect(screen.getByText("at noon", { exact: false })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "take back" }));
    expect(view.type).toHaveBeenCalledWith("/steps/as_found/runs/0/sheet/checks/standing/result", null, {
      ready: true,
      force: true,
    });
    expect(screen.getByRole("table").textContent).toContain("9.0 °F");
    expect(screen.getByText("once before")).toBeTruthy();
  });

  it("stands every temperature on one rule", () => {
    const rungs = [{ id: "outdoor", label: "outdoor air", amount: f(308.15, "temperature") }];
    show(jobView({}, {}, [step("as_found", { rungs })]), <AsFoundSide />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("outdoor air 95.0 °F");
    cleanup();
    show(jobView(), <AsFoundSide />);
    expect(screen.getByText(/stand here on one rule/)).toBeTruthy();
  });

  it("gives each derived figure its why", () => {
    open({ running: "settled" }, {}, { figures: [figure("superheat", 10, "temperature_delta")] });
    expect(screen.getByTestId("derived-superheat").textContent).toContain("18.0 °F");
    expect(screen.getByRole("button", { name: "Why superheat" })).toBeTruthy();
  });
});

const place = (id: string, part: Partial<PlaceRow> = {}): PlaceRow => ({
  id,
  label: id.replace("_", " "),
  zone: "indoor",
  side: "low",
  state: "open",
  tried: said("not checked"),
  share: 0.3,
  rank: 1,
  method: "bubbles",
  method_id: "bubbles",
  added: false,
  minutes: 8,
  chance: 0.25,
  ...part,
});

describe("leak search", () => {
  const places = [
    place("indoor_coil"),
    place("cores", { zone: "outdoor", rank: 2, minutes: 2, chance: 0.004 }),
    place("line_wall", { state: "closed", rank: null, minutes: null, chance: null, tried: said("not reachable") }),
    place("drier", { state: "clean", rank: null, minutes: null, chance: null, tried: said("clean by bubbles") }),
  ];
  const open = (picture = {}, part: Partial<StepResult> = {}) => {
    const view = jobView({}, {}, [step("leak_search", { places, ...picture }, part)]);
    show(view, <LeakSearchSheet />);
    return view;
  };
  const path = (id: string, field: string) => `/steps/leak_search/runs/0/sheet/places/${id}/${field}`;

  it("puts the next place first with four answers of the same weight", () => {
    const view = open();
    const here = within(screen.getByRole("region", { name: "indoor coil" }));
    expect(here.getByText("25 in 100")).toBeTruthy();
    fireEvent.click(here.getByRole("button", { name: "Leak here" }));
    expect(view.type).toHaveBeenCalledWith(path("indoor_coil", "bubbles"), "hit", { ready: true });
    fireEvent.click(screen.getByRole("button", { name: "Clean, bubbles" }));
    expect(view.type).toHaveBeenCalledWith(path("indoor_coil", "bubbles"), "clean", { ready: true });
    fireEvent.click(screen.getByRole("button", { name: "Cannot reach it" }));
    expect(view.type).toHaveBeenCalledWith(path("indoor_coil", "reach"), "closed", { ready: true });
  });

  it("opens another place from the list, and one that was not reachable", () => {
    const view = open();
    fireEvent.click(screen.getByTestId("place-line_wall"));
    fireEvent.click(screen.getByRole("button", { name: "It is open now" }));
    expect(view.type).toHaveBeenCalledWith(path("line_wall", "reach"), "open", { ready: true });
    fireEvent.click(screen.getByTestId("place-cores"));
    expect(screen.getByText("under 1 in 100")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Another method" }));
    expect(screen.getByRole("group", { name: "ultrasonic" })).toBeTruthy();
  });

  it("adds a place that is not on the map", () => {
    const view = open();
    fireEvent.change(screen.getByLabelText("a place that is not on the map"), { target: { value: "solenoid" } });
    fireEvent.click(screen.getByRole("button", { name: "Add it" }));
    expect(view.type).toHaveBeenCalledWith(path("x1", "label"), "solenoid", { ready: true });
  });

  it("draws loss against leak and says whether it explains it", () => {
    const loss = { lost: f(2e-7, "mass_rate"), low: f(1e-7, "mass_rate"), high: f(3e-7, "mass_rate") };
    const reason = {
      rule_id: "leak.explains",
      message: said("It explains the loss."),
      word: "Holds" as const,
      value: null,
      limit: null,
      source: "",
      school: null,
      role: "remark" as const,
    };
    open({ loss }, { verdict: { word: "Holds", headline: said("x"), reasons: [reason] } });
    expect(screen.getByRole("img", { name: /lost 220 oz\/yr, leaks 110 oz\/yr to 330 oz\/yr/ })).toBeTruthy();
    expect(screen.getAllByText("It explains the loss.", { exact: false }).length).toBeGreaterThan(0);
  });

  it("runs minutes down and chance across, and asks the customer about closed places", () => {
    const figures = [figure("all_chance", 0.72, "fraction"), figure("closed_share", 0.1, "fraction")];
    show(jobView({}, {}, [step("leak_search", { places }, { figures })]), <LeakSearchSide />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("1 indoor coil, 8 minutes; 2 cores, 2 minutes");
    expect(screen.getByText("All of them: 72 in 100.")).toBeTruthy();
    cleanup();
    open({}, { figures });
    expect(screen.getByText("The customer decides")).toBeTruthy();
    cleanup();
    show(jobView(), <LeakSearchSide />);
    expect(screen.getByText(/Say what is in the system/)).toBeTruthy();
  });
});

describe("recover", () => {
  const open = (sheet: Record<string, unknown>, part: Partial<StepResult> = {}, picture = {}) => {
    const view = jobView({}, { steps: { recover: { runs: [{ sheet }] } } }, [step("recover", picture, part)]);
    show(view, <RecoverSheet />);
    return view;
  };

  it("says what to expect before, and a share only when it is over", () => {
    open({}, { figures: [figure("expected_low", 3), figure("expected_high", 4.5)] });
    expect(screen.getByTestId("expected").textContent).toContain("6 lb 9.8 oz");
    cleanup();
    open({ way: "cylinder" }, { figures: [figure("recovered", 2)] });
    expect(screen.getByText("On the scale so far")).toBeTruthy();
    expect(screen.queryByTestId("share")).toBeNull();
    cleanup();
    const over = [
      figure("recovered", 2),
      figure("share", 0.8, "fraction"),
      figure("missing", 0.5, "mass", "missing"),
      figure("plate_share", 0.9, "fraction"),
    ];
    open({ way: "cylinder" }, { figures: over });
    expect(screen.getByTestId("share").textContent).toContain("80.0 % of what belongs there, missing 1 lb 1.6 oz");
  });

  it("asks about reading again only when it is finished, and about the other circuit only then", () => {
    open({ way: "cylinder" });
    expect(screen.queryByText("What happens to it")).toBeNull();
    cleanup();
    open({ way: "cylinder", finished: true, use: "other_circuit" });
    expect(screen.getByText("What happens to it")).toBeTruthy();
    expect(screen.getByLabelText("to which circuit")).toBeTruthy();
  });

  it("has its own questions for pumping down", () => {
    open({ way: "pump_down", finished: true });
    expect(screen.getByLabelText("suction valve shut at")).toBeTruthy();
    expect(screen.queryByText("Cylinder on the scale")).toBeNull();
  });

  it("takes what is stamped on a cylinder from the book", async () => {
    const account = { net_kg: 0, room_kg: null, badge: "Ready" };
    const book = {
      code: "R4",
      kind: "recovery",
      refrigerant: "",
      tare_text: "27 lb 2 oz",
      water_capacity_kg: 21.6,
      retest: "2030-01",
      evacuated: true,
      account,
    };
    answer.mockImplementation(async () => Response.json({ rows: [book], next: null }));
    const view = open({ way: "cylinder" });
    fireEvent.change(await screen.findByLabelText("from the book"), { target: { value: "R4" } });
    const path = "/steps/recover/runs/0/sheet/cylinders/c1";
    const how = { ready: true, force: true };
    expect(view.type).toHaveBeenCalledWith(`${path}/contents`, "evacuated", how);
    expect(view.type).toHaveBeenCalledWith(`${path}/tare`, { text: "27 lb 2 oz", unit: "lb" }, how);
    expect(view.type).toHaveBeenCalledWith(`${path}/retest`, "2030-01", how);
    answer.mockImplementation(async () => Response.json({ rows: [], next: null }));
  });

  it.each([
    ["nothing of one that needs a vacuum", 0, "", undefined],
    ["the same refrigerant", 2, "R-410A", "same"],
    ["another refrigerant", 2, "R-22", "other"],
  ])("says %s of a cylinder of the book", async (_, net_kg, holds, expected) => {
    const account = { net_kg, room_kg: null, badge: "Room" };
    const book = { code: "R4", kind: "recovery", refrigerant: holds, tare_text: "27 lb", evacuated: false, account };
    answer.mockImplementation(async () => Response.json({ rows: [book], next: null }));
    const plate = { runs: [{ sheet: { refrigerant: "R-410A" } }] };
    const job = { steps: { identify: plate, recover: { runs: [{ sheet: { way: "cylinder" } }] } } };
    const view = jobView({}, job, [step("recover", {}, {})]);
    show(view, <RecoverSheet />);
    fireEvent.change(await screen.findByLabelText("from the book"), { target: { value: "R4" } });
    const said = vi.mocked(view.type).mock.calls.find(([path]) => String(path).endsWith("/c1/contents"))?.[1];
    expect(said).toBe(expected);
    answer.mockImplementation(async () => Response.json({ rows: [], next: null }));
  });

  it("offers another cylinder once the first is there", () => {
    const view = open({ way: "cylinder", cylinders: { c1: { gross_start: { value: 12.3, text: "27 lb 2 oz" } } } });
    fireEvent.click(screen.getByRole("button", { name: "Another cylinder" }));
    expect(view.type).toHaveBeenCalledWith("/steps/recover/runs/0/sheet/cylinders/c2", {}, { ready: true });
  });

  it("draws each cylinder up to its limit", () => {
    const cylinders = [
      {
        id: "c1",
        name: "R4",
        stop_gross: f(30, "mass"),
        room: f(10, "mass"),
        taken: f(2, "mass"),
        liquid_full: f(330, "temperature"),
      },
    ];
    show(jobView({}, {}, [step("recover", { cylinders })]), <RecoverSide />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe("R4: room 22 lb 0.7 oz");
    expect(screen.getByText(/full of liquid at/)).toBeTruthy();
  });
});
