import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Following } from "../../job/live.ts";
import { jobView, said, show } from "../../test-job.tsx";
import { AT_VERIFY, AT_WEIGH_IN, FollowScale, isSilent } from "./Following.tsx";
import { sound } from "./sound.ts";

vi.mock("./sound.ts", () => ({ sound: vi.fn() }));
const DRAWS = "/steps/weigh_in/runs/0/sheet/draws";

const following = (part: Partial<Following> = {}): Following => ({
  state: "flowing",
  text: said("Slow down at {mark}.", { mark: { value: 11.0, quantity: "mass", u: null } }),
  draw: "d1",
  gross_kg: 12.5,
  inside_kg: 1.7,
  limit_kg: 0.02,
  mark: "slow",
  mark_kg: 11.0,
  to_mark_kg: 1.5,
  flow_kg_s: 0.004,
  seconds: 375,
  lead_kg: 0.004,
  last_good_kg: null,
  warning: null,
  ...part,
});

function open(part: Partial<Following> = {}) {
  const type = vi.fn();
  const scale = {
    channel: "scale",
    instrument: "scale 1",
    value: part.gross_kg ?? 12.5,
    at: "2026-06-18T15:11:00Z",
    received: "2026-06-18T15:11:00Z",
    limit: 0.014,
    steady: "falling" as const,
    seq: 9,
  };
  const sheet = { draws: { d1: { cylinder: "14", tare: { text: "9 lb" }, gross_start: { text: "31 lb" } } } };
  const view = jobView({ type, live: { scale } }, { steps: { weigh_in: { runs: [{ sheet }], events: [] } } });
  show(view, <FollowScale following={following(part)} silent={false} place={AT_WEIGH_IN} />);
  return type;
}

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe("the live scale", () => {
  it("shows the next mark, what is in, how fast and how long", () => {
    open();
    expect(screen.getByText("Slow down at 24 lb 4.0 oz.")).toBeTruthy();
    expect(screen.getByText("3 lb 12.0 oz")).toBeTruthy();
    expect(screen.getByText("at 8.5 oz a minute")).toBeTruthy();
    expect(screen.getByText("6 min")).toBeTruthy();
  });

  it("writes down what the scale reads when the valve is shut", () => {
    const type = open();
    fireEvent.click(screen.getByText("Valve is shut"));
    expect(type).toHaveBeenCalledTimes(1);
    const [path, value] = type.mock.calls[0] ?? [];
    expect(path).toBe(`${DRAWS}/d1/gross_end`);
    expect(value).toMatchObject({ text: "27 lb 8.9 oz", source: "weighed" });
  });

  it("changes the cylinder without losing count", () => {
    const type = open();
    fireEvent.click(screen.getByText("Change cylinder"));
    expect(type.mock.calls.map(([path]) => path)).toEqual([`${DRAWS}/d1/gross_end`, `${DRAWS}/d2`]);
  });

  it("goes on from a fresh reading after a knock, with what was in kept", () => {
    const type = open({ state: "jumped", gross_kg: 12.9, last_good_kg: 12.4 });
    expect(screen.queryByText("Valve is shut")).toBeNull();
    fireEvent.click(screen.getByText("Go on from this reading"));
    expect(type.mock.calls[0]?.[1]).toMatchObject({ text: "12.4000 kg" });
    expect(type.mock.calls[1]?.[0]).toBe(`${DRAWS}/d2`);
    expect(type.mock.calls[1]?.[1]).toMatchObject({
      cylinder: "14",
      tare: { text: "9 lb" },
      gross_start: { text: "28 lb 7.0 oz" },
    });
  });

  it("does not let another cylinder's weight end this one; it may be its first reading", () => {
    const type = open({ state: "mount", gross_kg: 4.2 });
    expect(screen.queryByText("Valve is shut")).toBeNull();
    fireEvent.click(screen.getByText("This is it: start from this reading"));
    expect(type.mock.calls[0]?.[0]).toBe(`${DRAWS}/d1/gross_start`);
  });

  it("fills the screen before the mark until it is tapped, unless it is turned off", () => {
    open({ state: "close_now", text: said("Close the valve now.") });
    fireEvent.click(screen.getByTestId("cue"));
    expect(screen.queryByTestId("cue")).toBeNull();
    cleanup();
    localStorage.setItem("yoshi:cue", "off");
    open({ state: "close_now", text: said("Close the valve now.") });
    expect(screen.queryByTestId("cue")).toBeNull();
    fireEvent.click(screen.getByText("Sound and cue are off"));
    expect(sound).toHaveBeenCalledWith("near");
    expect(screen.getByTestId("cue")).toBeTruthy();
  });

  it("at Verify writes into the step of charge, with the moment it was shut", () => {
    const type = vi.fn();
    const scale = {
      channel: "scale",
      instrument: "scale 1",
      value: 6.2,
      at: "2026-06-18T15:11:00Z",
      received: "2026-06-18T15:11:00Z",
      limit: 0.014,
      steady: "falling" as const,
      seq: 9,
    };
    const view = jobView({ type, live: { scale } }, { steps: { verify: { runs: [{ sheet: {} }], events: [] } } });
    show(view, <FollowScale following={following({ draw: "r2" })} silent={false} place={AT_VERIFY} />);
    expect(screen.queryByText("Change cylinder")).toBeNull();
    fireEvent.click(screen.getByText("Valve is shut"));
    const rows = "/steps/verify/runs/0/sheet/readings/r2";
    expect(type.mock.calls.map(([path]) => path)).toEqual([`${rows}/gross_after`, `${rows}/changed_at`]);
  });

  it("knows a scale that fell silent", () => {
    const at = "2026-06-18T15:11:00Z";
    expect(isSilent(at, Date.parse(at) + 9_000)).toBe(false);
    expect(isSilent(at, Date.parse(at) + 11_000)).toBe(true);
  });
});
