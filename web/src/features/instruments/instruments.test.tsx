import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { opened } from "../../device/time.ts";
import { type Live, newest } from "../../job/live.ts";
import { answer } from "../../test-device.ts";
import { jobView, show, signedIn, stepResult, withSheet } from "../../test-job.tsx";
import { captures, measured } from "../job/captures.ts";
import { age, Strip } from "../job/Strip.tsx";
import InstrumentsPage from "./InstrumentsPage.tsx";

const NOW = new Date("2026-06-18T15:11:00Z").getTime();
const live = (channel: string, value: number, part: Partial<Live> = {}): Live => ({
  channel,
  instrument: `${channel} probe`,
  value,
  at: "2026-06-18T15:10:59Z",
  received: "2026-06-18T15:10:59Z",
  limit: 690,
  steady: "steady",
  seq: 1,
  ...part,
});

describe("readings as they come", () => {
  it("keeps the newest of a channel, whatever the order they come in", () => {
    const first = newest({}, [live("vacuum", 70), live("vacuum", 80, { at: "2026-06-18T15:10:50Z" })]);
    expect(first.vacuum?.value).toBe(70);
    expect(newest(first, [live("vacuum", 90, { at: "2026-06-18T15:11:01Z" })]).vacuum?.value).toBe(90);
  });

  it("says how old a reading is", () => {
    expect(age(live("vacuum", 1), NOW)).toBe("now");
    expect(age(live("vacuum", 1), NOW + 30_000)).toBe("31 s ago");
    expect(age(live("vacuum", 1), NOW + 200_000)).toBe("3 min ago");
  });

  it("captures with the unit of who reads, that it was measured, and the instrument's ±", () => {
    expect(measured(live("suction_pressure", 813_580), "gauge_pressure", "us")).toEqual({
      text: "118.0 psig",
      unit: "psig",
      source: "measured",
      limit: 690,
    });
    expect(measured(live("scale", 9.2), "mass", "us")).toMatchObject({ text: "20 lb 4.5 oz", source: "weighed" });
  });
});

describe("what a capture fills", () => {
  const values = {
    vacuum: live("vacuum", 78),
    scale: live("scale", 9.2),
    suction_pressure: live("suction_pressure", 813_580),
    metal: live("metal", 294.26),
  };

  it("is a new reading with its moment in a log", () => {
    const found = captures("evacuate", { readings: { r1: {}, r4: {} } }, values, "us");
    expect(found.map((c) => c.keys.join("/"))).toEqual(["readings/r5/at", "readings/r5/vacuum"]);
    expect(captures("pressure_hold", {}, values, "us").map((c) => c.keys[2])).toEqual(["at", "pressure", "metal"]);
  });

  it("is the empty reading at Verify, or the next one", () => {
    expect(captures("verify", { readings: { r1: { added: {} } } }, values, "us")[0]?.keys).toEqual([
      "readings",
      "r1",
      "suction_pressure",
    ]);
    const filled = { readings: { r1: { suction_pressure: {} } } };
    expect(captures("verify", filled, values, "us")[0]?.keys[1]).toBe("r2");
  });

  it("is the scale before, then after", () => {
    expect(captures("weigh_in", {}, values, "us")[0]?.keys).toEqual(["draws", "d1", "gross_start"]);
    const begun = { draws: { d1: { gross_start: {} } } };
    expect(captures("weigh_in", begun, values, "us")[0]?.keys).toEqual(["draws", "d1", "gross_end"]);
    const two = { draws: { d1: { gross_start: {}, gross_end: {} }, d2: { gross_start: {} }, d3: {} } };
    expect(captures("weigh_in", two, values, "us")[0]?.keys).toEqual(["draws", "d2", "gross_end"]);
  });

  it("is nothing where the step takes nothing of it", () => {
    expect(captures("identify", {}, values, "us")).toEqual([]);
    expect(captures("evacuate", {}, { scale: values.scale }, "us")).toEqual([]);
  });
});

describe("the strip", () => {
  beforeEach(() => {
    vi.useFakeTimers({ now: NOW });
    opened();
  });
  afterEach(() => {
    vi.useRealTimers();
    opened();
  });
  const open = (part: Partial<Live> = {}) => {
    const findings = { ...jobView().findings, steps: [stepResult("evacuate", "Wait")] };
    const view = jobView({ findings, live: { vacuum: live("vacuum", 78, part) } }, withSheet({}));
    show(view, <Strip step="evacuate" />);
    return view;
  };

  it("shows what an instrument says, how steady, how old", () => {
    open();
    expect(screen.getByText("vacuum, steady")).toBeTruthy();
    expect(screen.getByText("585 micron", { exact: false })).toBeTruthy();
    expect(screen.getByText("now")).toBeTruthy();
  });

  it("takes a capture only when held, and by Enter", () => {
    const view = open();
    const button = screen.getByRole("button", { name: "Hold to capture" });
    fireEvent.pointerDown(button);
    vi.advanceTimersByTime(200);
    fireEvent.pointerUp(button);
    vi.advanceTimersByTime(1000);
    expect(view.type).not.toHaveBeenCalled();
    fireEvent.pointerDown(button);
    vi.advanceTimersByTime(600);
    expect(view.type).toHaveBeenCalledTimes(2);
    fireEvent.keyDown(button, { key: "Enter" });
    expect(view.type).toHaveBeenCalledTimes(4);
  });

  it("marks a gauge that fell silent", () => {
    open({ at: "2026-06-18T15:10:00Z" });
    expect(screen.getByText("1 min ago").className).toContain("text-wait");
  });
});

describe("the instruments' page", () => {
  const instrument = {
    id: 4,
    key: "m1",
    name: "micron gauge",
    channel: "vacuum",
    label: "vacuum",
    quantity: "micron",
    resolution: 0.133322,
    limit: 0.66661,
    relative: 0.02,
    zero: 0,
    calibrated_on: "2024-09-14",
    calibration_due: true,
  };
  const kit = {
    id: 2,
    name: "Kit 2",
    job: "",
    job_title: "",
    paired_by: "M. Orrin",
    paired_at: "2026-06-18T10:00:00Z",
    seen_at: null,
    clock_off_s: 3600,
    refused: 3,
    last_refusal: "vacuum: 'psig' is not a unit of it.",
    instruments: [instrument],
  };
  const open = () => signedIn(<InstrumentsPage />, { address: "/instruments?job=job1" });
  beforeEach(() => {
    answer.mockImplementation(async (request: Request) => {
      const path = new URL(request.url).pathname;
      if (path.endsWith("/pairing-code")) return Response.json({ code: "QR7KMN", expires_at: "2099-01-01T00:00:00Z" });
      if (path.endsWith("/api/jobs")) return Response.json({ jobs: [], next: null });
      if (path.endsWith("/job"))
        return Response.json({ gateways: [{ ...kit, job: "job1", job_title: "Control room" }] });
      return Response.json({ gateways: [kit] });
    });
  });

  it("says how good an instrument is, when it is due, what its gateway did wrong", async () => {
    open();
    const row = (await screen.findByText("micron gauge")).closest("tr") as HTMLElement;
    expect(within(row).getByText("5 micron or 2.0 %")).toBeTruthy();
    expect(within(row).getByText("2024-09-14, overdue: ± counted double")).toBeTruthy();
    expect(screen.getByText(/Its clock is 60 min ahead/)).toBeTruthy();
    expect(screen.getByText(/3 readings were not taken/)).toBeTruthy();
  });

  it("gives a code to read out, and puts a kit on the job one came from", async () => {
    open();
    fireEvent.click(await screen.findByRole("button", { name: "Pair a kit" }));
    expect(await screen.findByText("QR7KMN")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Put it on the job I came from" }));
    await waitFor(() => expect((screen.getByLabelText("on the job") as HTMLSelectElement).value).toBe("job1"));
  });
});
