import { afterEach, describe, expect, it } from "vitest";
import { clock, momentFrom, readBy, timeFrom, written } from "./clock.ts";

const NOW = new Date(2026, 5, 18, 15, 4, 0);
const at = (text: string) => momentFrom(text, NOW)?.toString();
const day = (month: number, date: number, hours: number, minutes: number, seconds = 0, year = 2026) =>
  new Date(year, month, date, hours, minutes, seconds).toString();

afterEach(() => readBy("24"));

describe("a time of day", () => {
  it.each([
    ["17:00", "17:00:00"],
    ["1700", "17:00:00"],
    ["17", "17:00:00"],
    ["5 pm", "17:00:00"],
    ["5:30 p.m.", "17:30:00"],
    ["12 am", "00:00:00"],
    ["12:15pm", "12:15:00"],
    ["7.05", "07:05:00"],
    ["09:08:07", "09:08:07"],
  ])("is read from %s", (text, time) => expect(timeFrom(text)).toBe(time));

  it.each(["", "25:00", "13 pm", "0 am", "12:60", "noon", "-3"])("is not read from “%s”", (text) =>
    expect(timeFrom(text)).toBeNull(),
  );

  it("is shown by the clock the person reads", () => {
    expect(clock(NOW)).toBe("15:04");
    readBy("12");
    expect(clock(NOW)).toBe("3:04 pm");
    expect(clock(new Date(2026, 5, 18, 0, 5, 9), true)).toBe("12:05:09 am");
    readBy(undefined);
    expect(clock(NOW)).toBe("15:04");
  });
});

describe("a moment", () => {
  it("is today's, or yesterday's where today's is still to come", () => {
    expect(at("14:50")).toBe(day(5, 18, 14, 50));
    expect(at("3:50 pm")).toBe(day(5, 18, 15, 50));
    expect(at("23:50")).toBe(day(5, 17, 23, 50));
  });

  it("takes its day before it", () => {
    expect(at("yesterday 16:00")).toBe(day(5, 17, 16, 0));
    expect(at("3 Jun 07:15")).toBe(day(5, 3, 7, 15));
    expect(at("June 3, 7:15 am")).toBe(day(5, 3, 7, 15));
    expect(at("2026-06-18T14:00:09")).toBe(day(5, 18, 14, 0, 9));
    expect(at("24 Dec 08:00")).toBe(day(11, 24, 8, 0, 0, 2025));
  });

  it.each(["", "31 Jun 08:00", "8 o'clock", "2026-13-01 08:00", "Jun 08:00"])("is not read from “%s”", (text) =>
    expect(at(text)).toBeUndefined(),
  );

  it("is read back from what a field shows, by either clock", () => {
    for (const mode of ["24", "12"] as const) {
      readBy(mode);
      for (const moment of [
        new Date(2026, 5, 18, 3, 4, 5),
        new Date(2026, 5, 2, 23, 0),
        new Date(2024, 1, 29, 12, 30),
      ]) {
        expect(at(written(moment.toISOString(), NOW)), mode).toBe(moment.toString());
      }
    }
  });
});
