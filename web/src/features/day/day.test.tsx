import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { answer } from "../../test-device.ts";
import { matchesMedia, said, signedIn } from "../../test-job.tsx";
import { TodayPage } from "../today/TodayPage.tsx";
import { momentOf, moved } from "./leave.ts";
import { runOut } from "./Waits.tsx";

const at = (time: string) => `2026-06-18T${time}:00Z`;
const slot = (label: string, start: string, end: string, hands = true, kit: string[] = []) => ({
  label,
  start: at(start),
  end: at(end),
  hands,
  kit,
  short: "",
  waits_from: null as string | null,
  waits_for: "",
  fills: "",
});
const DAY = {
  now: at("15:11"),
  begins: at("15:11"),
  leave: at("17:00"),
  jobs: [
    {
      code: "j1",
      title: "Control room",
      kind: "service",
      headline: said("Isolated and watched."),
      step: "evacuate",
      word: "Wait",
      carried: null,
      waits_until: "2099-06-18T15:17:00Z",
      waits_for: "leak, moisture or tight",
      running: true,
      slots: [slot("Isolated, watched", "15:11", "15:17", false), slot("Weigh in", "15:17", "15:37")],
      technician: "M. Orrin",
      not_before: null,
      state: "proven",
      stops: [],
      rest_s: 0,
      proven: at("16:10"),
      left: "",
      not_done: [],
    },
    {
      code: "j2",
      title: "Gatehouse",
      kind: "service",
      headline: said("Spray the joints."),
      step: "leak_search",
      word: "Open",
      carried: null,
      waits_until: null,
      waits_for: "",
      running: false,
      slots: [slot("Leak search", "15:11", "16:11", true, ["nitrogen"])],
      technician: "J. Pell",
      not_before: null,
      state: "safe",
      stops: [{ at: at("16:11"), how: "closed, with what was in it" }],
      rest_s: 6000,
      proven: null,
      left: "under nitrogen pressure: becomes a long hold",
      not_done: ["Repair", "Pull"],
    },
    {
      code: "j3",
      title: "Walk-in",
      kind: "charge",
      headline: said("Which refrigerant?"),
      step: "identify",
      word: "Open",
      carried: null,
      waits_until: null,
      waits_for: "",
      running: false,
      slots: [],
      technician: "M. Orrin",
      not_before: null,
      state: "not_begun",
      stops: [],
      rest_s: 9000,
      proven: null,
      left: "not opened",
      not_done: ["Identify"],
    },
  ],
  open: 5,
  decisions: [
    {
      code: "j9",
      title: "Mast rooftop",
      step: "identify",
      stopped: true,
      what: said("Two refrigerants on the plate: choose one."),
      visit: "",
      awaited: "",
      return_on: "",
      technician: "T. Vesk",
    },
    {
      code: "j8",
      title: "Hangar",
      step: "repair",
      stopped: false,
      what: said(""),
      visit: "left_safe",
      awaited: "a coil",
      return_on: "2026-06-21",
      technician: "M. Orrin",
    },
  ],
  people: 2,
  skipped: [],
  kit: [{ name: "nitrogen", busy_until: null, slots: [slot("Gatehouse", "15:11", "16:11")] }],
  finish: at("16:10"),
  idle_s: 0,
  saved_s: 1800,
  exact: true,
  from_history: [],
};

function open(day = DAY) {
  answer.mockImplementation(async () => Response.json(day));
  signedIn(<TodayPage />, { role: "lead" });
}

let narrow = () => {};
beforeEach(() => {
  localStorage.clear();
  answer.mockClear();
  narrow = matchesMedia();
});
afterEach(() => {
  cleanup();
  narrow();
});

describe("the day", () => {
  it("says what is proven, left safe, and not today", async () => {
    open();
    const said = await screen.findByTestId("day");
    expect(said.textContent).toContain("1 proven");
    expect(said.textContent).toContain("1 left safe");
    expect(said.textContent).toContain("1 not today");
    expect(said.textContent).toContain("30 min sooner than one after the other");
    expect(screen.getAllByText(/under nitrogen pressure: becomes a long hold/).length).toBe(1);
    expect(screen.getByText(/^100 min more to do$|^1 h 40 min more to do$/)).toBeTruthy();
    expect(screen.getAllByText(/ more to do$/)).toHaveLength(2);
    expect(screen.getByText("leak, moisture or tight")).toBeTruthy();
  });

  it("asks again with a new time to leave, and remembers it", async () => {
    open();
    await screen.findByTestId("day");
    const leaves = screen.getByLabelText("the van leaves at");
    fireEvent.change(leaves, { target: { value: "6:30 pm" } });
    fireEvent.blur(leaves);
    await waitFor(() => expect(answer.mock.calls.some(([r]) => r.url.includes("%3A30%3A00"))).toBe(true));
    expect(localStorage.getItem("yoshi:leave")).toBe("18:30");
  });
});

describe("what stands above the plan", () => {
  it("says what to go on with, what runs and when it tells, and what waits for whom", async () => {
    open();
    await screen.findByTestId("day");
    const part = (name: string) => screen.getByRole("region", { name });
    expect(part("Go on with").textContent).toContain("Walk-in");
    expect(part("Runs by itself").textContent).toContain("Evacuate: leak, moisture or tight");
    const waits = part("Waits for a decision").textContent;
    expect(waits).toContain("Identify: Two refrigerants on the plate: choose one.");
    expect(waits).toContain("left safe, waits for a coil, back 2026-06-21");
    expect(screen.getByTestId("said").textContent).toContain("5 jobs open, 2 people.");
  });

  it("draws the plan as a chart on demand, and this device remembers that", async () => {
    open();
    fireEvent.click(await screen.findByRole("button", { name: "as a chart" }));
    expect(screen.getByText(/^now, /)).toBeTruthy();
    expect(localStorage.getItem("yoshi:day-as-chart")).toBe("chart");
    fireEvent.click(screen.getByRole("button", { name: "as a list" }));
    expect(screen.queryByText(/^now, /)).toBeNull();
  });

  it("is folded on a phone, and opens at a press", async () => {
    narrow();
    open();
    const show = await screen.findByRole("button", { name: "Show it" });
    expect(screen.queryByLabelText("move: Gatehouse")).toBeNull();
    fireEvent.click(show);
    expect(screen.getByLabelText("move: Gatehouse")).toBeTruthy();
  });
});

describe("a job moved by hand", () => {
  it("shows where it can stop, and asks for the plan anew", async () => {
    open();
    await screen.findByTestId("day");
    fireEvent.click(screen.getByLabelText("move: Gatehouse"));
    expect(await screen.findByText("closed, with what was in it")).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/not before/), { target: { value: "half past" } });
    expect(screen.getByRole("alert").textContent).toContain("Write it as 17:00 or 5 pm.");
    fireEvent.change(screen.getByLabelText(/not before/), { target: { value: "23:59" } });
    fireEvent.keyDown(screen.getByLabelText(/not before/), { key: "Enter" });
    await waitFor(() => expect(answer.mock.calls.some(([r]) => /later=j2%3D/.test(r.url))).toBe(true));
    fireEvent.click(screen.getByText("Not today", { selector: "button" }));
    await waitFor(() => expect(answer.mock.calls.some(([r]) => /skip=j2/.test(r.url))).toBe(true));
  });

  it("is everybody's day when asked", async () => {
    open();
    await screen.findByTestId("day");
    fireEvent.click(screen.getByText("Everybody's"));
    await waitFor(() => expect(answer.mock.calls.some(([r]) => /whose=all/.test(r.url))).toBe(true));
  });
});

describe("the shop's hours", () => {
  it("say from when it is planned, and a word plans from now on", async () => {
    open({ ...DAY, begins: "2026-06-19T07:00:00Z" });
    expect((await screen.findByTestId("hours")).textContent).toContain("The shop is closed now: planned from");
    fireEvent.click(screen.getByText("I work now: plan from now on"));
    await waitFor(() => expect(answer.mock.calls.some(([r]) => /outside=true/.test(r.url))).toBe(true));
  });

  it("are not named while the shop is open, and no time to leave is asked for", async () => {
    open();
    await screen.findByTestId("day");
    expect(screen.queryByTestId("hours")).toBeNull();
    expect(answer.mock.calls.every(([r]) => !/leave=/.test(r.url))).toBe(true);
  });
});

describe("when the van leaves", () => {
  it("is today, or tomorrow once it is past", () => {
    const noon = new Date(2026, 5, 18, 12, 0).getTime();
    expect(new Date(momentOf("17:00", noon)).getDate()).toBe(18);
    expect(new Date(momentOf("08:00", noon)).getDate()).toBe(19);
  });

  it("forgets what was moved on another day", () => {
    const now = new Date(2026, 5, 18, 12, 0).getTime();
    const kept = { out: ["a", "b"], later: { c: "15:30" } };
    const none = { out: [], later: {}, outside: false };
    expect(moved(JSON.stringify({ day: new Date(now).toDateString(), ...kept }), now)).toEqual({
      ...kept,
      outside: false,
    });
    expect(moved(JSON.stringify({ day: "Wed Jun 17 2026", ...kept, outside: true }), now)).toEqual(none);
    expect(moved("{", now)).toEqual(none);
  });
});

describe("a wait that is over", () => {
  const job = { code: "j1", title: "Control room", waits_until: at("15:17"), waits_for: "whether it holds" };
  const until = new Date(at("15:17")).getTime();

  it("is told once, soon after, and not long after", () => {
    expect(runOut([job], [], until - 1000)).toEqual([]);
    const [told] = runOut([job], [], until + 1000);
    expect(told?.what).toBe("whether it holds");
    expect(runOut([job], [told?.id ?? ""], until + 2000)).toEqual([]);
    expect(runOut([job], [], until + 3600_000)).toEqual([]);
  });
});
