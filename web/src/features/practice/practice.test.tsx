import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Debrief, LookInside, Me, RunSide } from "../../api/types.ts";
import { SessionContext } from "../../app/session.ts";
import { practise, practising } from "../../device/practising.ts";
import { nowMs, officeMs } from "../../device/time.ts";
import { asClock } from "./ClockBar.tsx";
import { places } from "./layout.ts";
import { between } from "./moving.ts";
import { part, text, withPart } from "./plain.ts";
import { Timeline } from "./Timeline.tsx";
import { Verdicts } from "./Verdicts.tsx";
import { Whereabouts } from "./Whereabouts.tsx";

const ME = { name: "M. Orrin", units: "us", clock: "24", role: "technician" } as unknown as Me;

function shown(children: React.ReactNode) {
  const session = { me: ME, system: "us" as const, setSystem: vi.fn(), setClock: vi.fn(), signOut: vi.fn() };
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <SessionContext value={session}>{children}</SessionContext>
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

afterEach(() => {
  cleanup();
  practise(null);
});

describe("the practice clock", () => {
  it("is what the page goes by while it stands at a bench, and the office's again after", () => {
    const at = Date.parse("2026-06-18T08:10:00Z");
    practise("abc", { ms: at, count: performance.now(), speed: 60 });
    expect(practising()).toBe("abc");
    expect(nowMs() - at).toBeGreaterThanOrEqual(0);
    expect(nowMs() - at).toBeLessThan(60_000);
    expect(officeMs()).toBeGreaterThan(at + 1e9);
    practise(null);
    expect(practising()).toBeNull();
    expect(Math.abs(nowMs() - officeMs())).toBeLessThan(50);
  });

  it("does not run on without a word of the server", () => {
    const at = Date.parse("2026-06-18T08:10:00Z");
    practise("abc", { ms: at, count: performance.now() - 3_600_000, speed: 10 });
    expect(nowMs() - at).toBe(30_000);
  });

  it("reads as hours, minutes and seconds", () => {
    expect([0, 61.7, 5_400, -3].map(asClock)).toEqual(["0:00:00", "0:01:01", "1:30:00", "0:00:00"]);
  });
});

describe("what moves", () => {
  it("goes from one picture to the next, and jumps where the shape is another", () => {
    const from = { mass: 1, heights: [0, 1], zones: [{ what: "gas", share: 1 }] };
    const to = { mass: 3, heights: [1, 1], zones: [{ what: "gas", share: 0.5 }] };
    expect(between(from, to, 0.5)).toEqual({ mass: 2, heights: [0.5, 1], zones: [{ what: "gas", share: 0.75 }] });
    expect(between({ rows: [1, 2] }, { rows: [5] }, 0.5)).toEqual({ rows: [5] });
    expect(between(null, { a: 1 }, 0.2)).toEqual({ a: 1 });
  });
});

describe("an exercise as it is edited", () => {
  it("changes one key, and leaves an emptied one away", () => {
    const plain = { unit: { charge: "6 lb", line: "25 ft" }, level: 0 };
    expect(withPart(plain, "unit", "charge", "7 lb")).toEqual({ unit: { charge: "7 lb", line: "25 ft" }, level: 0 });
    expect(withPart(plain, "unit", "line", "")).toEqual({ unit: { charge: "6 lb" }, level: 0 });
    expect(part(plain, "van")).toEqual({});
    expect([text(part(plain, "unit"), "charge"), text(plain, "none"), text({ a: [0.8, 0.9] }, "a")]).toEqual([
      "6 lb",
      "",
      "0.8 to 0.9",
    ]);
  });
});

const one = (id: string, volume: number, height: number) => ({
  id,
  mass_kg: 0.5,
  volume_m3: volume,
  zones: [{ what: id === "condenser" ? "two_phase" : "gas", share: 1 }],
  heights: [height, height],
});

describe("a look inside", () => {
  const inside = {
    running: true,
    parts: [one("condenser", 0.003, 0.4), one("liquid_line", 0.0003, 1), one("evaporator", 0.002, 0.1)],
  } as unknown as LookInside;

  it("gives each part the width of its room, side by side", () => {
    const laid = places(inside, 700);
    expect(laid.map((place) => place.id)).toEqual(["condenser", "liquid_line", "evaporator"]);
    const [condenser, line, evaporator] = laid;
    expect(condenser?.width).toBeGreaterThan(evaporator?.width ?? 0);
    expect(line?.width).toBeGreaterThanOrEqual(16);
    expect((evaporator?.x ?? 0) + (evaporator?.width ?? 0)).toBeCloseTo(700);
  });

  it("says what is where, and that a condenser is never all liquid", () => {
    shown(<Whereabouts inside={inside} system="us" width={700} />);
    expect(screen.getByRole("img", { name: /condenser 1 lb 1.6 oz, liquid line 1 lb 1.6 oz/ })).toBeTruthy();
    expect(screen.getByText("never all liquid")).toBeTruthy();
  });
});

function side(more: Partial<RunSide>): RunSide {
  return {
    marks: [],
    met: true,
    off_kg: 0,
    took_s: 1200,
    drawn_kg: 0,
    lost_kg: 0,
    superheat_k: 7,
    subcooling_k: 5,
    track: {
      times_s: [0, 600, 1200],
      inside_kg: [2, 2.4, 2.4],
      superheat_k: [null, 9, 7],
      subcooling_k: [null, 4, 5],
      pressure_pa: [null, null, null],
    },
    spans: [{ what: "in", from_s: 300, to_s: 420, mass_kg: 0.2268 }],
    moments: [],
    answers: [],
    ...more,
  } as RunSide;
}

describe("looking back", () => {
  const debrief = {
    belongs_kg: 2.72,
    began_kg: 2,
    within_kg: 0.05,
    hidden: [],
    metering: "orifice",
    by_weight: false,
    limit_s: 5400,
    settle_s: 600,
    person: side({
      met: false,
      off_kg: 0.23,
      marks: [{ id: "charge", text: { text: "There is too much inside.", amounts: {}, words: {} }, met: false }],
      moments: [
        {
          time_s: 463,
          superheat_k: 9.9,
          subcooling_k: 4,
          left_alone_s: 43,
          too_soon: true,
          settles_at_k: 8.7,
          subcooling_settles_k: 5,
        },
      ],
    }),
    careful: side({}),
  } as unknown as Debrief;

  it("shows both runs, what went in, and a reading that was too soon", () => {
    const moved = vi.fn();
    shown(<Timeline debrief={debrief} at={463} onAt={moved} />);
    const picture = screen.getByTestId("timeline");
    expect(picture.textContent).toContain("17.8 too soon");
    expect(picture.textContent).toContain("only 43 s");
    expect(picture.textContent).toContain("+ 8.0 oz");
    expect(picture.textContent).toContain("you stopped: 8.1 oz too much");
    fireEvent.change(screen.getByLabelText("Moment looked at"), { target: { value: "600" } });
    expect(moved).toHaveBeenCalledWith(600);
  });

  it("says what the reading meant, and how both runs did by every mark", () => {
    shown(<Verdicts debrief={debrief} at={463} />);
    const said = screen.getByTestId("verdicts").textContent ?? "";
    expect(said).toContain("43 s after the last change");
    expect(said).toContain("still on its way to 15.7 °F without another ounce");
    expect(said).toContain("There is too much inside.");
    expect(document.querySelector('[data-mark="charge"]')?.getAttribute("data-met")).toBe("false");
  });
});
