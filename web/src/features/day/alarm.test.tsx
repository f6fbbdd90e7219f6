import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { signedIn } from "../../test-job.tsx";
import { arm, silence, turnAlarm } from "./alarm.ts";
import { Alarm } from "./Waits.tsx";

const begun: number[] = [];
const stopped = vi.fn();

class Voice {
  frequency = { value: 0 };
  gain = { setValueAtTime: vi.fn(), exponentialRampToValueAtTime: vi.fn() };
  private ends = false;
  connect = () => this;
  start = (at: number) => begun.push(at);
  stop = (at?: number) => {
    if (at === undefined && !this.ends) stopped();
    this.ends = at === undefined;
  };
}
class Sound {
  currentTime = 100;
  state = "running";
  destination = {};
  createOscillator = () => new Voice();
  createGain = () => new Voice();
  resume = async () => undefined;
}

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal("AudioContext", Sound);
  begun.length = 0;
  stopped.mockClear();
});
afterEach(() => {
  silence();
  cleanup();
  vi.unstubAllGlobals();
});

it("is set on the sound's own clock for the end of each wait, once", () => {
  localStorage.setItem("yoshi:alarm", "on");
  const at = Date.now() + 60_000;
  arm([{ id: "a", at }]);
  expect(Math.min(...begun)).toBeGreaterThan(159);
  expect(Math.min(...begun)).toBeLessThan(161);
  const before = begun.length;
  arm([{ id: "a", at }]);
  expect(begun).toHaveLength(before);
});

it("is taken back where the wait is no more, moved, or the alarm off", () => {
  localStorage.setItem("yoshi:alarm", "on");
  arm([{ id: "a", at: Date.now() + 60_000 }]);
  arm([]);
  expect(stopped).toHaveBeenCalled();
  begun.length = 0;
  turnAlarm(false);
  arm([{ id: "a", at: Date.now() + 60_000 }]);
  expect(begun).toEqual([]);
});

it("does not sound for what ran out already", () => {
  localStorage.setItem("yoshi:alarm", "on");
  arm([{ id: "a", at: Date.now() - 1_000 }]);
  expect(begun).toEqual([]);
});

it("has a switch that says what it cannot promise, and sounds once to be known", () => {
  signedIn(<Alarm />);
  const box = screen.getByLabelText(/Sound an alarm when a wait is over/);
  expect(box).toHaveProperty("checked", false);
  expect(screen.getByText(/With the screen off a browser may stop it/)).toBeTruthy();
  fireEvent.click(box);
  expect(localStorage.getItem("yoshi:alarm")).toBe("on");
  expect(begun.length).toBeGreaterThan(0);
  expect(box).toHaveProperty("checked", true);
});
