import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, it } from "vitest";
import { answer } from "../../test-device.ts";
import { said, showPage } from "../../test-job.tsx";
import JobsPage from "./JobsPage.tsx";

const row = (part: Record<string, unknown>) => ({
  code: "a1",
  kind: "charge",
  title: "Control room",
  circuit: "c",
  site: "Quillon Ridge",
  technician: "M. Orrin",
  step: "weigh_in",
  word: "Open",
  headline: said("Close the valve when the scale reads {m}.", { m: { value: 9.48, quantity: "mass", u: null } }),
  closed: false,
  discarded: false,
  visit: "",
  return_on: "",
  updated_at: new Date().toISOString(),
  ...part,
});
const page = (jobs: object[], next: string | null = null) => ({ jobs, next, open: 7, quick: 1, stopped: 2 });
const asked = () => answer.mock.calls.map(([request]) => new URL(request.url).search);

function open(pages: Record<string, object>, address = "/jobs") {
  answer.mockImplementation(async (request: Request) => {
    const url = new URL(request.url);
    if (!url.pathname.endsWith("/jobs")) return Response.json({ people: [] });
    const found = Object.entries(pages).find(([part]) => part && url.search.includes(part));
    return Response.json(found?.[1] ?? pages[""]);
  });
  showPage(<JobsPage />, address, "/jobs");
}

beforeEach(() => {
  answer.mockClear();
});
afterEach(cleanup);

it("says where each job stands, with its one sentence in the person's units, and counts them all", async () => {
  open({ "": page([row({}), row({ code: "b2", title: "Reach-in", word: "Stop" })]) });
  await screen.findByText("Control room");
  expect(screen.getAllByText("Close the valve when the scale reads 20 lb 14.4 oz.")).toHaveLength(2);
  expect(screen.getByText("7 open, 2 of them stopped, 1 quick total.")).toBeTruthy();
  expect(screen.getByRole("link", { name: /Control room/ }).getAttribute("href")).toBe("/job/a1");
});

it("asks the server for what is searched, filtered and sorted, and starts at its first page again", async () => {
  open({ "": page([row({})]) }, "/jobs?after=mark~1");
  await screen.findByText("Control room");
  expect(asked().some((query) => query.includes("after=mark"))).toBe(true);
  fireEvent.change(screen.getByLabelText("sort by"), { target: { value: "name" } });
  fireEvent.change(screen.getByLabelText("says"), { target: { value: "Stop" } });
  fireEvent.change(screen.getByLabelText("find"), { target: { value: "roof" } });
  await waitFor(() => {
    const last = asked().at(-1) ?? "";
    for (const part of ["sort=name", "word=Stop", "search=roof", "listed=open"]) expect(last).toContain(part);
    expect(last).not.toContain("after");
  });
});

it("pages by the server's own marker, shows each list apart, and says when one is empty", async () => {
  open({
    "after=mark": page([row({ title: "Older" })]),
    "listed=closed": page([row({ title: "Done one", closed: true })]),
    "listed=discarded": page([]),
    "": page([row({})], "mark~1"),
  });
  fireEvent.click(await screen.findByRole("button", { name: "More jobs" }));
  await screen.findByText("Older");
  fireEvent.click(screen.getByRole("radio", { name: "Closed" }));
  await screen.findByText("Done one");
  fireEvent.click(screen.getByRole("radio", { name: "Discarded" }));
  await screen.findByText("Nothing was discarded.");
});
