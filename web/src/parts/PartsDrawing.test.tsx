import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { jobView } from "../test-job.tsx";
import { PartsDrawing } from "./PartsDrawing.tsx";

const part = (id: string, more = {}) => ({
  id,
  label: id,
  shut: true,
  holds: "its charge",
  medium: "charge",
  passes: false,
  ...more,
});

function draw(parts: ReturnType<typeof part>[], openSide = "Lines and coil") {
  const inside = { ...jobView().findings.inside, parts, open_side: openSide };
  render(<PartsDrawing inside={inside} />);
}
afterEach(cleanup);

describe("what is shut off from what", () => {
  it("draws each shut part with what it holds, and what the work is open to", () => {
    draw([part("Outdoor unit"), part("receiver", { shut: false })]);
    expect(screen.getByText("Outdoor unit").nextSibling?.textContent).toBe("shut off: its charge");
    expect(screen.getByText("Lines and coil, receiver")).toBeTruthy();
    expect(screen.getAllByRole("img", { name: "both valves between them shut" })).toHaveLength(1);
  });

  it("says of a valve that lets through that it is no barrier", () => {
    draw([part("indoor unit 5", { passes: true, holds: "not known: a valve lets through", medium: "unknown" })]);
    expect(screen.getByRole("img", { name: "a valve between them lets through" })).toBeTruthy();
  });

  it("draws nothing while nothing is shut off", () => {
    draw([part("receiver", { shut: false })]);
    expect(screen.queryByTestId("parts-drawing")).toBeNull();
  });
});
