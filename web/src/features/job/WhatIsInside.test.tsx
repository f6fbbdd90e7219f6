import { cleanup, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Findings } from "../../api/types.ts";
import { jobView, said, show } from "../../test-job.tsx";
import { WhatIsInside } from "./WhatIsInside.tsx";

type Row = Findings["inside"]["rows"][number];
const OZ = 0.028349523125;
const mass = (ounces: number) => ({ value: ounces * OZ, quantity: "mass", u: null });

const row = (id: string, part: Partial<Row>): Row => ({
  id,
  text: said("Put in"),
  note: "",
  change: null,
  known: "weighed",
  low: mass(0),
  high: null,
  after: said("not known"),
  step: "weigh_in",
  origin: "/steps/weigh_in/runs/0/sheet",
  at: null,
  adds: false,
  ...part,
});

const ROWS = [
  row("a", {
    note: "cylinder 14",
    change: mass(16),
    adds: true,
    low: mass(16),
    after: said("not known, at least {low}", { low: mass(16) }),
    at: "2026-06-08T13:20:00Z",
  }),
  row("b", {
    text: said("Taken out"),
    note: "into R-3",
    change: mass(18),
    step: "recover",
    at: "2026-06-18T09:10:00Z",
  }),
  row("c", {
    text: said("Emptied"),
    note: "recovery ended",
    known: "measured",
    step: "recover",
    high: mass(0),
    after: said("empty"),
    at: "2026-06-18T09:31:00Z",
  }),
];

function open(rows: Row[], wide = true) {
  const view = jobView();
  view.findings.inside = { ...view.findings.inside, rows, now: said("empty"), belongs: mass(40) };
  return show(view, <WhatIsInside wide={wide} drawn />);
}
afterEach(cleanup);

describe("what is inside", () => {
  it("lists every line with its change, how it is known and what is inside then", () => {
    open(ROWS);
    const lines = screen.getAllByRole("listitem");
    expect(lines).toHaveLength(3);
    const [first, second] = lines.map((line) => within(line as HTMLElement));
    expect(lines[0]?.textContent).toContain("+ 1 lb 0.0 oz");
    expect(first?.getByText("weighed")).toBeTruthy();
    expect(first?.getByRole("img", { name: "then inside: not known, at least 1 lb 0.0 oz" })).toBeTruthy();
    expect(lines[1]?.textContent).toContain("− 1 lb 2.0 oz");
    expect(second?.getByRole("link", { name: /^Taken out/ }).getAttribute("href")).toBe("/job/job1/recover");
    expect(screen.getByText("belongs in").nextSibling?.textContent).toBe("2 lb 8.0 oz");
  });

  it("names a day once", () => {
    open(ROWS);
    expect(screen.getAllByText(/Jun/)).toHaveLength(2);
  });

  it("is one line on a narrow screen until it is tapped", () => {
    open(ROWS, false);
    expect(screen.getAllByText("empty")[0]?.closest("summary")).toBeTruthy();
    expect(document.querySelector("details")?.open).toBe(false);
  });

  it("follows the live scale while something flows", () => {
    const view = jobView({ following: { draw: "d1", inside_kg: 25.5 * OZ } as never });
    view.findings.inside = { ...view.findings.inside, rows: ROWS, now: said("empty") };
    show(view, <WhatIsInside wide drawn />);
    expect(screen.getByText("inside now, by the live scale").nextSibling?.textContent).toBe("1 lb 9.5 oz");
  });

  it("stays away while nothing is said", () => {
    open([]);
    expect(screen.queryByText("What is inside")).toBeNull();
  });
});
