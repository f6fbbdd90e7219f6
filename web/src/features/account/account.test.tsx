import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { SetPassword } from "../../app/SetPassword.tsx";
import { answer } from "../../test-device.ts";
import { signedIn } from "../../test-job.tsx";
import TrailPage from "../shop/TrailPage.tsx";
import AccountPage from "./AccountPage.tsx";

const session = (id: string, device: string, here = false) => ({
  id,
  device,
  address: "10.0.0.7",
  started_at: "2026-06-18T10:00:00Z",
  until: "2026-06-25T10:00:00Z",
  here,
});
const account = {
  username: "orrin",
  mail: "orrin@shop.test",
  second_factor: false,
  paper_left: 0,
  shortest: 15,
  sessions: [
    session("a", "Chromium on Android", true),
    session("b", "Firefox on Linux"),
    session("c", "Edge on Windows"),
  ],
};
let posted: { url: string; body: Record<string, unknown> }[] = [];
let replies: Record<string, () => Response> = {};

beforeEach(() => {
  posted = [];
  replies = { "/api/me/account": () => Response.json(account) };
  answer.mockReset();
  answer.mockImplementation(async (request: Request) => {
    const { pathname } = new URL(request.url);
    if (request.method !== "GET") posted.push({ url: pathname, body: await request.json().catch(() => ({})) });
    return replies[pathname]?.() ?? Response.json(account);
  });
});
afterEach(cleanup);

const refusal = (path: string, detail: string) => () => Response.json({ detail, path, code: "x" }, { status: 422 });
const fill = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));

describe("one's own account", () => {
  it("shows where one is signed in, and ends a session elsewhere", async () => {
    signedIn(<AccountPage />);
    expect(await screen.findByText("Chromium on Android")).toBeTruthy();
    expect(screen.getAllByRole("button", { name: "Sign out there" })).toHaveLength(2);
    fireEvent.click(screen.getAllByRole("button", { name: "Sign out there" })[0] as HTMLElement);
    await waitFor(() => expect(posted[0]?.url).toBe("/api/me/sessions/b/end"));
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Sign out everywhere else" })).toHaveProperty("disabled", false),
    );
    press("Sign out everywhere else");
    await waitFor(() => expect(posted[1]?.url).toBe("/api/me/sessions/others/end"));
  });

  it("changes the password and says which field was refused", async () => {
    signedIn(<AccountPage />);
    await screen.findByLabelText("present password");
    replies["/api/me/password"] = refusal("/new", "Too many people use this password.");
    fill("present password", "a-long-password");
    fill("new password", "password1password1");
    press("Change it");
    expect((await screen.findByRole("alert")).textContent).toBe("Too many people use this password.");
    replies["/api/me/password"] = () => Response.json(account);
    fill("new password", "four words and a number 7");
    press("Change it");
    expect((await screen.findByRole("status")).textContent).toContain("Everywhere else you are signed out");
    expect(posted[1]?.body).toEqual({ old: "a-long-password", new: "four words and a number 7" });
    expect(screen.getByLabelText("new password")).toHaveProperty("value", "");
  });

  it("turns a second factor on, with its paper codes shown once", async () => {
    signedIn(<AccountPage />);
    await screen.findByRole("button", { name: "Set it up" });
    replies["/api/me/second-factor"] = () =>
      Response.json({ secret: "ABCD EFGH", address: "otpauth://x", picture: "<svg/>" });
    replies["/api/me/second-factor/on"] = () => Response.json({ codes: ["abcde-fghjk"] });
    fill("your password", "a-long-password");
    press("Set it up");
    expect(await screen.findByText("ABCD EFGH")).toBeTruthy();
    fill("code", "123456");
    press("Turn it on");
    expect(await screen.findByText("abcde-fghjk")).toBeTruthy();
    expect(posted.map(({ body }) => body)).toEqual([{ password: "a-long-password", code: "" }, { code: "123456" }]);
  });

  it("turns it off with a code, and not without", async () => {
    replies["/api/me/account"] = () => Response.json({ ...account, second_factor: true, paper_left: 9 });
    signedIn(<AccountPage />);
    expect(await screen.findByText(/9 of the codes on paper/)).toBeTruthy();
    fill("your password", "a-long-password");
    expect(screen.getByRole("button", { name: "Turn it off" })).toHaveProperty("disabled", true);
    fill("code", "123456");
    press("Turn it off");
    await waitFor(() => expect(posted[0]?.body).toEqual({ password: "a-long-password", code: "123456" }));
  });
});

describe("a link that sets a password", () => {
  const whose = { username: "newby", name: "N. Newby", shop: "Brindlewick", shortest: 15 };

  it("says whose it is, keeps what was refused, and is gone from the address when used", async () => {
    window.history.replaceState(null, "", "/password#abc");
    replies["/api/password/link"] = () => Response.json(whose);
    replies["/api/password"] = refusal("/password", "A password here has 15 to 128 characters.");
    signedIn(<SetPassword />);
    expect(await screen.findByText(/N. Newby, choose the password/)).toBeTruthy();
    fill("new password", "short");
    press("Keep it");
    expect((await screen.findByRole("alert")).textContent).toContain("15 to 128");
    replies["/api/password"] = () => Response.json(whose);
    fill("new password", "four words and a number 7");
    press("Keep it");
    expect(await screen.findByText(/Your password is kept/)).toBeTruthy();
    expect(posted.at(-1)?.body).toEqual({ token: "abc", password: "four words and a number 7" });
    expect(window.location.hash).toBe("");
  });

  it("that has run out says so and leads to signing in", async () => {
    window.history.replaceState(null, "", "/password#old");
    replies["/api/password/link"] = refusal("/token", "This link is used or has run out.");
    signedIn(<SetPassword />);
    expect((await screen.findByRole("alert")).textContent).toBe("This link is used or has run out.");
    expect(screen.getByRole("link", { name: "Sign in" })).toBeTruthy();
    expect(screen.queryByLabelText("new password")).toBeNull();
  });
});

describe("who did what", () => {
  const line = (number: number, what: string) => ({
    number,
    at: "2026-06-18T10:00:00Z",
    who: "M. Orrin",
    what,
    about: "abc",
    detail: "role: technician → lead",
    address: "10.0.0.7",
    device: "Chromium on Android",
  });

  it("comes in pages and is searched", async () => {
    const asked: string[] = [];
    answer.mockImplementation(async (request: Request) => {
      const { searchParams } = new URL(request.url);
      asked.push(`${searchParams.get("after")} ${searchParams.get("search")}`);
      return searchParams.get("after")
        ? Response.json({ lines: [line(1, "signed in")], next: null })
        : Response.json({ lines: [line(2, "made a job")], next: "later~2" });
    });
    signedIn(<TrailPage />);
    expect(await screen.findByText(/made a job/)).toBeTruthy();
    press("Earlier ones");
    expect(await screen.findByText(/signed in/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Earlier ones" })).toBeNull();
    fill("find", "orrin");
    await waitFor(() => expect(asked.at(-1)).toBe(" orrin"));
    expect(screen.getByRole("link", { name: "As a table" }).getAttribute("href")).toBe("/api/trail.csv");
  });
});
