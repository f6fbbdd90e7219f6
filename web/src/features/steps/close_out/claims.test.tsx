import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { claimOf, emptyPicture, jobView, said, show, stepResult } from "../../../test-job.tsx";
import { Claims } from "./Claims.tsx";
import { Ways } from "./Ways.tsx";

afterEach(cleanup);

describe("what a job can say", () => {
  it("names each claim with its standing, what it rests on, and who answers for it", () => {
    const view = jobView();
    view.findings.claims = [
      claimOf("unit", "identify", "shown"),
      claimOf("tight", "pressure_hold", "not_yet", {
        missing: [{ path: "/x", label: "bubbles at every joint", hard: false }],
      }),
      claimOf("dry", "evacuate", "answered_for", { by: "J. Pell", reason: "dusk" }),
      claimOf("charged", "weigh_in", "contradicted", { by: "T. Vesk", reason: "no more cylinders" }),
    ];
    show(view, <Claims />);
    expect(screen.getByText("1 contradicted · 1 not yet · 1 answered for · 1 shown")).toBeTruthy();
    const rows = screen.getAllByRole("listitem");
    expect(within(rows[1] as HTMLElement).getByText("What would show it: bubbles at every joint.")).toBeTruthy();
    expect(within(rows[2] as HTMLElement).getByText("J. Pell answers for it: dusk")).toBeTruthy();
    expect(within(rows[3] as HTMLElement).getByText("T. Vesk closed it all the same: no more cylinders")).toBeTruthy();
    expect(
      within(rows[0] as HTMLElement)
        .getByRole("link", { name: "Identify" })
        .getAttribute("href"),
    ).toContain("/identify");
  });

  it("offers the ways that are open, and says of the others what bars them", () => {
    const ways = [
      { id: "proven", label: "Proven", open: false, words: said("Runs right must be shown."), reasoned: false },
      {
        id: "proven_by_weight",
        label: "Proven by weight",
        open: true,
        words: said("Only the weight can prove this kind."),
        reasoned: false,
      },
    ];
    const view = jobView({}, {}, [stepResult("close_out", "Open", { picture: { ...emptyPicture, ways } })]);
    show(view, <Ways />);
    expect(screen.getByLabelText(/^Proven ?Runs right/)).toHaveProperty("disabled", true);
    expect(screen.getByText("Runs right must be shown.")).toBeTruthy();
    fireEvent.click(screen.getByLabelText(/Proven by weight/));
    expect(view.type).toHaveBeenCalledWith("/steps/close_out/runs/0/sheet/outcome", "proven_by_weight", {
      ready: true,
    });
  });
});
