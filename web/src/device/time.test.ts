import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ahead, heard, nowMs, onDevice, opened, whenFoundOff, woke } from "./time.ts";

const HOUR = 3_600_000;
const TRUE = Date.parse("2026-06-18T15:00:00Z");

/** The device's clock shows this; the counter does not care. */
const clockShows = (ms: number) => vi.setSystemTime(ms);
/** So long goes by, on the clock and the counter. */
const passes = (ms: number) => vi.advanceTimersByTime(ms);
const says = (ms: number) => heard(new Date(ms).toUTCString(), performance.now() - 200, performance.now());

beforeEach(() => {
  localStorage.clear();
  vi.useFakeTimers({ now: TRUE });
  opened();
});
afterEach(() => {
  vi.useRealTimers();
  localStorage.clear();
  opened();
});

describe("the time a device goes by", () => {
  it("is its clock's, as long as nobody says otherwise", () => {
    expect(nowMs()).toBe(TRUE);
    passes(90_000);
    expect(nowMs()).toBe(TRUE + 90_000);
    expect(onDevice(TRUE)).toBeNull();
  });

  it("runs on when the clock is set, so that a wait stays as long as it is", () => {
    const began = nowMs();
    passes(60_000);
    clockShows(TRUE - 5 * HOUR);
    passes(60_000);
    expect(nowMs() - began).toBe(120_000);
    clockShows(TRUE + 5 * HOUR);
    expect(nowMs() - began).toBe(120_000);
  });

  it("is the office's where the clocks differ, and what the device shows is known beside it", () => {
    clockShows(TRUE + HOUR);
    opened();
    const told = vi.fn();
    const end = whenFoundOff(told);
    says(TRUE);
    expect(told).toHaveBeenCalledTimes(1);
    expect(Math.abs(nowMs() - TRUE)).toBeLessThan(1_000);
    expect(Math.abs((onDevice(nowMs()) ?? 0) - (TRUE + HOUR))).toBeLessThan(1_000);
    expect(Math.abs(ahead() - HOUR)).toBeLessThan(1_000);
    passes(30 * 60_000);
    says(TRUE + 30 * 60_000);
    expect(told).toHaveBeenCalledTimes(1); // the same again
    end();
  });

  it("goes by what the office's clock said last when the page is opened again without signal", () => {
    clockShows(TRUE - HOUR);
    opened();
    says(TRUE);
    passes(10 * 60_000);
    opened();
    expect(Math.abs(nowMs() - (TRUE + 10 * 60_000))).toBeLessThan(1_000);
  });

  it("takes a few seconds, an answer long under way and a time it cannot read as nothing", () => {
    says(TRUE + 20_000);
    expect(nowMs()).toBe(TRUE);
    heard(new Date(TRUE + HOUR).toUTCString(), performance.now() - 25_000, performance.now());
    heard("yesterday", performance.now(), performance.now());
    heard(null, performance.now(), performance.now());
    expect([ahead(), nowMs()]).toEqual([0, TRUE]);
  });

  it("follows the clock after sleep, in which the counter stood, and not one that was set back", () => {
    woke(false);
    clockShows(TRUE + HOUR); // an hour asleep
    woke(true);
    expect(nowMs()).toBe(TRUE + HOUR);
    woke(false);
    clockShows(TRUE);
    woke(true);
    expect(nowMs()).toBe(TRUE + HOUR);
  });
});
