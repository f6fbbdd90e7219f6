import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { LogColumns } from "../../api/types.ts";
import { jobView, show } from "../../test-job.tsx";

const { answers, made } = vi.hoisted(() => {
  const answers: { log?: unknown } = {};
  globalThis.fetch = (async () => Response.json(answers.log)) as typeof fetch;
  return { answers, made: vi.fn() };
});
vi.mock("uplot", () => ({
  default: class {
    static join = (tables: unknown[]) => tables[0];
    constructor(...all: unknown[]) {
      made(...all);
    }
    destroy() {}
    setSize() {}
  },
}));
vi.stubGlobal(
  "ResizeObserver",
  class {
    observe() {}
    disconnect() {}
  },
);

import LogPage from "./LogPage.tsx";
import { drawn, moved, quantitiesOf } from "./series.ts";

const channel = (name: string, quantity: string, values: number[]) => ({
  channel: name,
  label: name,
  quantity,
  instrument: "kit",
  seconds: values.map((_, n) => n * 2),
  values,
});
const LOG: LogColumns = {
  code: "a1",
  title: "Detector lab",
  starts_at: "2026-06-18T15:00:00Z",
  channels: [
    channel("vacuum", "micron", [133.322, 66.661]),
    channel("metal", "temperature", [294.26, 294.26, 295.37]),
    channel("suction_line", "temperature", [283.15]),
  ],
};

afterEach(cleanup);

describe("columns of a log", () => {
  it("offers each quantity once and draws it in the person's unit", () => {
    expect(quantitiesOf(LOG)).toEqual(["micron", "temperature"]);
    const { data, unit, rows } = drawn(LOG, "micron", "us");
    expect([unit, rows]).toEqual(["micron", 2]);
    expect(data[0][0]).toBe(Date.parse("2026-06-18T15:00:00Z") / 1000);
    expect((data[1] as number[]).map(Math.round)).toEqual([1000, 500]);
    expect(drawn(LOG, "temperature", "us").labels).toEqual(["metal", "suction_line"]);
  });

  it("moves and zooms inside the log, never past its ends", () => {
    const whole = { min: 0, max: 100 };
    expect(moved({ min: 40, max: 60 }, whole, 0.5)).toEqual({ min: 50, max: 70 });
    expect(moved({ min: 40, max: 60 }, whole, -9)).toEqual({ min: 0, max: 20 });
    expect(moved({ min: 40, max: 60 }, whole, 9)).toEqual({ min: 80, max: 100 });
    expect(moved({ min: 40, max: 60 }, whole, 0, 0.5)).toEqual({ min: 45, max: 55 });
    expect(moved({ min: 40, max: 60 }, whole, 0, 50)).toEqual(whole);
  });
});

describe("the whole log", () => {
  it("says what is drawn, and gives it as a file", async () => {
    answers.log = LOG;
    show(jobView(), <LogPage />);
    await waitFor(() =>
      expect(screen.getByRole("img", { name: /2 readings of vacuum from .* in micron/ })).toBeTruthy(),
    );
    expect(made).toHaveBeenCalled();
    expect(screen.getByText("Save as CSV").getAttribute("href")).toMatch(/\/log$/);
    expect(screen.getByRole("button", { name: "Closer" })).toBeTruthy();
  });

  it("says what to do where nothing has posted", async () => {
    answers.log = { ...LOG, starts_at: null, channels: [] };
    show(jobView(), <LogPage />);
    await waitFor(() => expect(screen.getByText(/No instrument has posted/)).toBeTruthy());
  });
});
