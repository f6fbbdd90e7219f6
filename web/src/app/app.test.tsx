import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { answer } from "../test-device.ts";
import { jobView, show } from "../test-job.tsx";
import { Frame } from "./Frame.tsx";
import { Shortcuts } from "./Shortcuts.tsx";
import { SignIn } from "./SignIn.tsx";

afterEach(cleanup);
beforeEach(() => {
  answer.mockReset();
});

function signIn() {
  fireEvent.change(screen.getByLabelText("name"), { target: { value: "orrin" } });
  fireEvent.change(screen.getByLabelText("password"), { target: { value: "secret" } });
  fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
}

describe("signing in", () => {
  it("hands over who it is", async () => {
    const done = vi.fn();
    const me = { username: "orrin", name: "M. Orrin", role: "technician", shop: "Brindlewick", units: "us" };
    answer.mockResolvedValue(Response.json(me));
    render(<SignIn onDone={done} />);
    signIn();
    await waitFor(() => expect(done).toHaveBeenCalledWith(me));
    const request = answer.mock.calls[0]?.[0] as Request;
    expect(await request.clone().json()).toEqual({ username: "orrin", password: "secret", code: "" });
  });

  it("says the server's reason and keeps what was typed", async () => {
    answer.mockResolvedValue(Response.json({ detail: "Name and password do not match.", code: "x" }, { status: 401 }));
    render(<SignIn onDone={vi.fn()} />);
    signIn();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toBe("Name and password do not match."));
    expect(screen.getByLabelText("name")).toHaveProperty("value", "orrin");
  });

  it("asks once more with the token the refusal brought", async () => {
    const done = vi.fn();
    const me = { username: "orrin", name: "M. Orrin", role: "technician", shop: "Brindlewick", units: "us" };
    answer
      .mockResolvedValueOnce(Response.json({ detail: "Load the page again.", code: "no_token" }, { status: 403 }))
      .mockResolvedValue(Response.json(me));
    render(<SignIn onDone={done} />);
    signIn();
    await waitFor(() => expect(done).toHaveBeenCalledWith(me));
  });

  it("says that there is no answer when there is none", async () => {
    answer.mockResolvedValue(new Response(null, { status: 503 }));
    render(<SignIn onDone={vi.fn()} note="Your session ran out. What you typed is kept." />);
    expect(screen.getByText(/What you typed is kept/)).toBeTruthy();
    signIn();
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("No answer from the server"));
  });
});

function Where() {
  return <output>{useLocation().pathname}</output>;
}

function keys(path: string) {
  window.history.replaceState(null, "", path);
  render(
    <MemoryRouter initialEntries={[path]}>
      <Shortcuts />
      <Where />
      {path.startsWith("/job/") && (
        <nav aria-label="Steps of this job">
          <ol>
            {["identify", "as_found", "weigh_in"].map((step) => (
              <li key={step}>
                <a href={`/job/abc/${step}`}>{step}</a>
              </li>
            ))}
          </ol>
        </nav>
      )}
      <main>
        <input className="control" aria-label="first" />
        <input className="control" aria-label="off" disabled />
        <input className="control" aria-label="second" />
      </main>
    </MemoryRouter>,
  );
  for (const item of document.querySelectorAll("input")) {
    Object.defineProperty(item, "offsetParent", { value: document.body });
  }
}

describe("keys", () => {
  it("goes to a step of the job that is open, and only then", () => {
    keys("/job/abc/identify");
    fireEvent.keyDown(document.body, { key: "3", code: "Digit3", altKey: true });
    expect(screen.getByRole("status").textContent).toBe("/job/abc/weigh_in");
    cleanup();
    keys("/refrigerants");
    fireEvent.keyDown(document.body, { key: "3", code: "Digit3", altKey: true });
    expect(screen.getByRole("status").textContent).toBe("/refrigerants");
  });

  it("goes to Today and to Refrigerants from anywhere", () => {
    keys("/job/abc/identify");
    fireEvent.keyDown(document.body, { key: "r", code: "KeyR", altKey: true });
    expect(screen.getByRole("status").textContent).toBe("/refrigerants");
    fireEvent.keyDown(document.body, { key: "t", code: "KeyT", altKey: true });
    expect(screen.getByRole("status").textContent).toBe("/");
  });

  it("goes on to the next field that can be filled at Enter", () => {
    keys("/");
    const first = screen.getByLabelText("first");
    first.focus();
    fireEvent.keyDown(first, { key: "Enter", code: "Enter" });
    expect(document.activeElement).toBe(screen.getByLabelText("second"));
  });

  it("lists itself at a question mark, but not while someone types one", () => {
    keys("/");
    fireEvent.keyDown(screen.getByLabelText("first"), { key: "?", code: "Slash", shiftKey: true });
    expect(screen.queryByText("this list")).toBeNull();
    fireEvent.keyDown(document.body, { key: "?", code: "Slash", shiftKey: true });
    expect(screen.getByText("this list")).toBeTruthy();
  });
});

describe("the frame", () => {
  it("names the place and switches units", () => {
    show(
      jobView(),
      <Frame crumb="Control room" place="Skellane">
        <p>page</p>
      </Frame>,
    );
    expect(screen.getByText("Control room")).toBeTruthy();
    expect(screen.getByText("Skellane /")).toBeTruthy();
    expect(screen.getByRole("button", { name: "M. Orrin, menu" })).toBeTruthy();
    expect(screen.getByRole("button", { name: /Units:/ }).textContent).toContain("lb oz");
  });
});
