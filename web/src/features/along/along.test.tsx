import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { someCaches, someWorker } from "../../test-caches.ts";
import { answer } from "../../test-device.ts";
import { signedIn } from "../../test-job.tsx";
import { lookRound, mb, refuse } from "./preparing.ts";
import ReadyLine from "./ReadyLine.tsx";
import { WithoutSignal } from "./WithoutSignal.tsx";

const fetching = globalThis.fetch;
const manifest = {
  version: "aaa",
  core_version: "0.0.0",
  files: [{ name: "core.zip", bytes: 5, wire_bytes: 5 }],
  wire_bytes: 7_900_000,
};
let broken = false;

beforeEach(async () => {
  localStorage.clear();
  broken = false;
  someCaches();
  someWorker({ started: true, python: "3.14", bytes: 0 });
  answer.mockReset();
  answer.mockImplementation(async (request: Request) =>
    request.url.endsWith("/api/device")
      ? Response.json({ core_version: "0.0.0", document_version: 5, jobs: [], circuits: [], profile: {} })
      : Response.json({ rows: [] }),
  );
  globalThis.fetch = (async (asked: string | Request) => {
    if (typeof asked !== "string") return answer(asked);
    if (asked === "/engine.json") return Response.json(manifest);
    return broken ? new Response("1") : new Response("12345");
  }) as typeof fetch;
  await lookRound();
});
afterEach(() => {
  cleanup();
  globalThis.fetch = fetching;
  vi.unstubAllGlobals();
});

describe("work without signal", () => {
  it("is offered with what it weighs, made ready, and taken off again", async () => {
    signedIn(<WithoutSignal />);
    const go = await screen.findByRole("button", { name: "Get this device ready, 7.9 MB" });
    fireEvent.click(go);
    await waitFor(() => expect(screen.getByTestId("ready").textContent).toContain("Ready without signal, as of"));
    expect(localStorage.getItem("yoshi:engine")).toBe("yes");
    fireEvent.click(screen.getByRole("button", { name: "Take the rules off this device" }));
    await screen.findByRole("button", { name: /Get this device ready/ });
    expect(localStorage.getItem("yoshi:engine")).toBe("no");
  });

  it("is taken off whole, also while it is still on its way", async () => {
    const places = someCaches();
    signedIn(<WithoutSignal />);
    fireEvent.click(await screen.findByRole("button", { name: /Get this device ready/ }));
    await refuse();
    expect([...(places.get("yoshi-engine")?.keys() ?? [])]).toEqual([]);
    expect(localStorage.getItem("yoshi:engine")).toBe("no");
  });

  it("says what did not come whole, and offers to try again", async () => {
    broken = true;
    signedIn(<WithoutSignal />);
    fireEvent.click(await screen.findByRole("button", { name: /Get this device ready/ }));
    expect((await screen.findByRole("alert")).textContent).toContain("It broke off on the way.");
    await screen.findByRole("button", { name: "Try again" });
  });

  it("is asked once on Today, and not again of who said no", async () => {
    signedIn(<ReadyLine />);
    fireEvent.click(await screen.findByRole("button", { name: "Not here" }));
    await waitFor(() => expect(screen.queryByRole("button")).toBeNull());
    cleanup();
    signedIn(<ReadyLine />);
    expect(screen.queryByRole("button")).toBeNull();
  });

  it("says on Today since when it is ready", async () => {
    signedIn(<ReadyLine />);
    fireEvent.click(await screen.findByRole("button", { name: "Get it ready, 7.9 MB" }));
    await screen.findByText(/Ready without signal, as of/);
  });

  it("says sizes as people do", () => {
    expect([mb(7_864_641), mb(18_400_000)]).toEqual(["7.9 MB", "18 MB"]);
  });
});
