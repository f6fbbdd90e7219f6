import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { jobView, said, show } from "../../test-job.tsx";

const { answers } = vi.hoisted(() => {
  const answers: { schools: unknown } = { schools: [] };
  globalThis.fetch = (async () => Response.json(answers.schools)) as typeof fetch;
  return { answers };
});

import { Schools } from "./Schools.tsx";

afterEach(cleanup);
const mass = (value: number) => ({ value, quantity: "mass", u: null });

describe("other schools", () => {
  it("says what each would change, figures before and after", async () => {
    answers.schools = [
      {
        choice: "line.shorter_than_included",
        text: "A line shorter than the plate covers",
        option: "deduct",
        option_text: "deduct the missing length",
        chosen_text: "leave the plate charge as it is",
        steps: [
          {
            step: "identify",
            word_before: "Wait",
            word_after: "Holds",
            headline_after: said("The whole system takes {t}.", { t: mass(4) }),
            figures: [{ label: "total charge", before: mass(4.3), after: mass(4) }],
          },
        ],
      },
    ];
    show(jobView(), <Schools />);
    fireEvent.click(screen.getByText("Other practice"));
    await waitFor(() => expect(screen.getByText("deduct the missing length")).toBeTruthy());
    expect(screen.getByText("now: leave the plate charge as it is")).toBeTruthy();
    expect(screen.getByText(/total charge: 9 lb 7.7 oz, then/)).toBeTruthy();
    expect(screen.getByText("becomes", { exact: false })).toBeTruthy();
  });

  it("says so where nothing would change", async () => {
    answers.schools = [];
    show(jobView(), <Schools />);
    fireEvent.click(screen.getByText("Other practice"));
    await waitFor(() => expect(screen.getByText(/No other practice would change anything/)).toBeTruthy());
  });
});
