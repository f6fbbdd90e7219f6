import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { useLocation } from "react-router";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { someCaches } from "../../test-caches.ts";
import { answer } from "../../test-device.ts";
import { signedIn } from "../../test-job.tsx";
import OpenPage from "./OpenPage.tsx";

const sent: string[] = [];
const Where = () => <output data-testid="at">{useLocation().pathname}</output>;

beforeEach(() => {
  sent.length = 0;
  answer.mockReset();
  answer.mockImplementation(async (request: Request) => {
    const body = (await request.clone().json()) as { document: string; again: boolean };
    sent.push(body.document);
    if (body.document === "taken" && !body.again)
      return Response.json(
        { detail: "This job is here already.", code: "taken_before", params: { job: "job7" } },
        { status: 422 },
      );
    if (body.document === "bad")
      return Response.json({ detail: "Not a whole JSON document.", code: "x" }, { status: 422 });
    return Response.json({ code: "job9" }, { status: 201 });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const open = () =>
  signedIn(
    <>
      <OpenPage />
      <Where />
    </>,
    { address: "/open" },
  );

it("takes over what was shared to Yoshi, once", async () => {
  const caches = someCaches();
  const headers = { "X-Name": encodeURIComponent("Attic, unit 2.yoshi-job.json") };
  caches.set("yoshi-shared", new Map([["/open/file", new Response("shared", { headers })]]));
  open();
  await waitFor(() => expect(screen.getByTestId("at").textContent).toBe("/job/job9"));
  expect(sent).toEqual(["shared"]);
  expect(caches.get("yoshi-shared")?.size).toBe(0);
});

it("takes over what the system opened with it", async () => {
  const file = new File(["opened"], "x.json");
  vi.stubGlobal("launchQueue", {
    setConsumer: (take: (launch: unknown) => void) => take({ files: [{ getFile: async () => file }] }),
  });
  open();
  await waitFor(() => expect(sent).toEqual(["opened"]));
});

it("takes a file chosen by hand, says what was refused, and asks about one that is here already", async () => {
  open();
  const choose = (text: string) =>
    fireEvent.change(screen.getByLabelText("Choose a file"), { target: { files: [new File([text], `${text}.json`)] } });
  choose("bad");
  expect((await screen.findByRole("alert")).textContent).toBe("bad.json was not taken. Not a whole JSON document.");
  choose("taken");
  fireEvent.click(await screen.findByRole("button", { name: "Open the one that is here" }));
  expect(screen.getByTestId("at").textContent).toBe("/job/job7");
});
