import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { answer } from "../../test-device.ts";
import { signedIn } from "../../test-job.tsx";
import ProfilePage from "./ProfilePage.tsx";

const history = [{ revision: 2, at: "2026-06-18T15:00:00Z", by: "T. Vesk", reason: "longer run-in" }];
const profile = {
  name: "Brindlewick",
  revision: 2,
  overrides: { "verify.run_in": 900 },
  choices: { "line.shorter_than_included": "deduct" },
  history,
};

function open(role: string, units: "us" | "si" = "us") {
  signedIn(<ProfilePage />, { role, units });
}

const sent = async () => {
  const put = answer.mock.calls.map(([r]) => r as Request).find((r) => r.method === "PUT");
  return put && (await put.clone().json());
};

beforeEach(() => {
  answer.mockReset();
  answer.mockImplementation(async () => Response.json(profile));
});
afterEach(cleanup);

describe("the practice profile", () => {
  it("shows each threshold with its source, and what the shop changed", async () => {
    open("owner");
    const own = await screen.findByLabelText("the unit has run this long before it is judged");
    expect(own).toHaveProperty("value", "15 min");
    expect(screen.getByText(/ours; delivered as 10 min/)).toBeTruthy();
    expect(screen.getByLabelText("one trim step is at most this share of the total")).toHaveProperty("value", "");
    expect(screen.getByRole("radio", { name: /deduct the missing length/ })).toHaveProperty("checked", true);
    expect(screen.getByText(/Revision 2: longer run-in/)).toBeTruthy();
  });

  it("sends only what was changed, with the unit on the page, and needs a reason", async () => {
    open("owner", "si");
    fireEvent.change(await screen.findByLabelText("trimming stops this share away from the plan"), {
      target: { value: "8" },
    });
    const go = screen.getByRole("button", { name: "Make it our practice" });
    expect(go).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText(/why this is changed/), { target: { value: "small units" } });
    fireEvent.click(go);
    await waitFor(async () =>
      expect(await sent()).toMatchObject({
        seen_revision: 2,
        overrides: { "trim.cap_share": "8 %" },
        choices: {},
        reason: "small units",
      }),
    );
  });

  it("goes back to the delivered value when a field is emptied, and changes a school", async () => {
    open("owner");
    fireEvent.change(await screen.findByLabelText("the unit has run this long before it is judged"), {
      target: { value: "" },
    });
    fireEvent.click(screen.getByRole("radio", { name: /leave the plate charge/ }));
    fireEvent.change(screen.getByLabelText(/why these 2 are changed/), { target: { value: "back" } });
    fireEvent.click(screen.getByRole("button", { name: "Make it our practice" }));
    await waitFor(async () =>
      expect(await sent()).toMatchObject({
        overrides: { "verify.run_in": "" },
        choices: { "line.shorter_than_included": "leave" },
      }),
    );
  });

  it("keeps what was typed when the server refuses, and says why", async () => {
    open("owner");
    const box = await screen.findByLabelText("trimming stops this share away from the plan");
    fireEvent.change(box, { target: { value: "90 %" } });
    fireEvent.change(screen.getByLabelText(/why this is changed/), { target: { value: "more" } });
    answer.mockImplementation(async () =>
      Response.json({ detail: "takes 1.0 % to 25.0 %, not 90.0 %.", code: "out_of_range" }, { status: 422 }),
    );
    fireEvent.click(screen.getByRole("button", { name: "Make it our practice" }));
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("not 90.0 %"));
    expect(box).toHaveProperty("value", "90 %");
  });

  it("is read and not changed by a technician", async () => {
    open("technician");
    expect(await screen.findByLabelText("the unit has run this long before it is judged")).toHaveProperty(
      "readOnly",
      true,
    );
    expect(screen.getByText(/The owner changes it/)).toBeTruthy();
  });
});
