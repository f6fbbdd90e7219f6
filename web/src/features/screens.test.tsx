import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { match } from "../app/Palette.tsx";
import { answer } from "../test-device.ts";
import { signedIn } from "../test-job.tsx";
import CylindersPage from "./cylinders/CylindersPage.tsx";
import ShopPage from "./shop/ShopPage.tsx";
import SystemsPage from "./systems/SystemsPage.tsx";

const account = {
  word: "Holds",
  badge: "Room",
  reason: { text: "It takes more.", amounts: {} },
  gross_kg: 17.7,
  net_kg: 5.6,
  limit_kg: 18.3,
  room_kg: 12.7,
  stop_gross_kg: 30.4,
  heel_kg: 1.4,
  usable_kg: 4.2,
  liquid_full_k: 330,
};
const cylinder = {
  code: "R3",
  kind: "recovery",
  refrigerant: "R-410A",
  owner: "Quillon Ridge",
  tare_kg: 12.1,
  tare_text: "26 lb 11 oz",
  water_capacity_kg: 21.6,
  retest: "2029-03",
  account,
};
const line = {
  id: 7,
  kind: "recover",
  at: "2026-06-18T10:00:00Z",
  by: "J. Pell",
  what: "Control room",
  moved_kg: 5.6,
  gross_kg: 17.7,
  reason: "",
  job: "abc",
};
const history = {
  full: { value: 144, quantity: "mass", u: null },
  balance: { value: 150, quantity: "mass", u: null },
  rate: { value: 0.12, quantity: "fraction", u: null },
  limit: { value: 0.1, quantity: "fraction", u: null },
  co2e: { value: 206000, quantity: "mass", u: null },
  next_check: "2026-07-01",
  word: "Stop",
  message: { text: "It loses {rate} a year.", amounts: { rate: { value: 0.12, quantity: "fraction", u: null } } },
};
const circuit = {
  id: 4,
  code: "DC-2",
  name: "Dome chiller, circuit 2",
  system: "Dome chiller",
  system_id: 9,
  site: "Quillon Ridge",
  refrigerant: "R-134a",
  kind: "chiller",
  history,
};
const circuitState = {
  ...circuit,
  in_system: 2,
  plate: {},
  revision: 1,
  revisions: [],
  jobs: [
    {
      code: "abc",
      title: "Alarm",
      closed: false,
      word: "Wait",
      visit: "left_safe",
      updated_at: "2026-06-18T10:00:00Z",
    },
  ],
  events: [
    { at: "2022-10-17T10:00:00Z", kind: "added", kg: 144, by: "T. Vesk", job: "", cylinder: "before this book" },
    { at: "2026-04-29T10:00:00Z", kind: "recovered", kg: 14, by: "J. Pell", job: "abc", cylinder: "R3" },
  ],
};
function accountOf(username: string, name: string) {
  return { username, name, active: true, invited: false, mail: "", second_factor: false };
}
const people = [
  { ...accountOf("hale", "R. Hale"), role: "owner" },
  { ...accountOf("pell", "J. Pell"), role: "technician" },
];
const shop = { people, link: "", shop: "Brindlewick", shortest_password: 15 };
const confirmFirst = () =>
  Response.json({ detail: "Say once more.", code: "confirm_first", path: "" }, { status: 403 });
const refusal = (path: string, detail: string) =>
  Response.json({ type: "", title: "", status: 422, code: "x", detail, path, params: {} }, { status: 422 });

let tasks: unknown[] = [];
let posted: { url: string; body: Record<string, unknown> }[] = [];
let reply: (url: string) => Response | undefined = () => undefined;

beforeEach(() => {
  posted = [];
  reply = () => undefined;
  answer.mockReset();
  answer.mockImplementation(async (request: Request) => {
    const url = new URL(request.url).pathname;
    if (request.method !== "GET") {
      posted.push({
        url,
        body: await request
          .clone()
          .json()
          .catch(() => ({})),
      });
      const made = reply(url);
      if (made) return made;
    }
    if (url === "/api/cylinders")
      return Response.json({
        rows: [cylinder, { ...cylinder, code: "R4", refrigerant: "", account: { ...account, net_kg: 0 } }],
        next: null,
      });
    if (url === "/api/cylinders/all/held")
      return Response.json({
        rows: [{ refrigerant: cylinder.refrigerant, kind: cylinder.kind, net_kg: account.net_kg }],
      });
    if (url.startsWith("/api/cylinders/")) return Response.json({ ...cylinder, lines: [line], next: 7 });
    if (url === "/api/tasks/5") return Response.json(tasks.shift());
    if (url === "/api/circuits") return Response.json({ rows: [{ ...circuit, revision: 1, plate: {} }], next: null });
    if (url === "/api/systems")
      return Response.json({
        rows: [circuit, { ...circuit, id: 3, code: "DC-1", name: "Dome chiller, circuit 1" }],
        next: null,
      });
    if (url.startsWith("/api/systems/")) return Response.json(circuitState);
    return Response.json(shop);
  });
});
afterEach(cleanup);

function open(address: string, role = "owner") {
  return signedIn(
    <Routes>
      <Route path="/cylinders/:code?" element={<CylindersPage />} />
      <Route path="/systems/:id?" element={<SystemsPage />} />
      <Route path="/shop" element={<ShopPage />} />
      <Route path="/job/:code/:step" element={<p>a job</p>} />
    </Routes>,
    { role, address },
  ).session;
}
const fill = (scope: ReturnType<typeof within>, label: string, value: string) =>
  fireEvent.change(scope.getByLabelText(label), { target: { value } });

describe("cylinders", () => {
  it("shows the account with its ledger and what the scale read", async () => {
    open("/cylinders/R3");
    const table = await screen.findByRole("table");
    expect(table.textContent).toContain("+ 12 lb 5.5 oz");
    expect(table.textContent).toContain("39 lb 0.3 oz");
    expect(await screen.findByRole("img", { name: /R3 R-410A Room; R4 empty/ })).toBeTruthy();
    expect(screen.getByTestId("cylinder-R3").getAttribute("aria-pressed")).toBe("true");
  });

  it("keeps a refused weighing on the form with its reason at the field", async () => {
    open("/cylinders/R3");
    fireEvent.click(await screen.findByRole("button", { name: "Weigh now" }));
    const dialog = within(screen.getByRole("dialog"));
    reply = () => refusal("/reason", "Say why.");
    fill(dialog, "the scale reads, gross", "36 lb");
    fireEvent.click(dialog.getByRole("button", { name: "Book the reading" }));
    await waitFor(() => expect(dialog.getByRole("alert").textContent).toBe("Say why."));
    expect(dialog.getByLabelText("the scale reads, gross")).toHaveProperty("value", "36 lb");
    reply = () => undefined;
    fill(dialog, "why it differs", "hose");
    fireEvent.click(dialog.getByRole("button", { name: "Book the reading" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(posted.at(-1)).toMatchObject({ url: "/api/cylinders/R3/weigh", body: { gross: "36 lb", reason: "hose" } });
    expect(posted[0]?.body.key).not.toBe(posted[1]?.body.key);
  });

  it("uses the same key again when no answer came", async () => {
    open("/cylinders/R3");
    fireEvent.click(await screen.findByRole("button", { name: "Move" }));
    const dialog = within(screen.getByRole("dialog"));
    fill(dialog, "where it goes", "lost");
    fill(dialog, "how much", "1 lb");
    reply = () => new Response(null, { status: 503 });
    fireEvent.click(dialog.getByRole("button", { name: "Book it" }));
    await waitFor(() => expect(dialog.getByRole("alert").textContent).toContain("No answer from the server"));
    reply = () => undefined;
    fireEvent.click(dialog.getByRole("button", { name: "Book it" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(posted[0]?.body.key).toBe(posted[1]?.body.key);
    expect(posted[1]?.body).toMatchObject({ to_kind: "lost", mass: "1 lb" });
  });

  it("adds a cylinder with what is stamped on it", async () => {
    open("/cylinders");
    fireEvent.click(await screen.findByRole("button", { name: "Add a cylinder" }));
    const dialog = within(screen.getByRole("dialog"));
    fill(dialog, "number or name on it", "R9");
    fill(dialog, "tare", "26 lb");
    fireEvent.click(dialog.getByLabelText("evacuated and purged, ready for its first use"));
    fireEvent.click(dialog.getByRole("button", { name: "Add it" }));
    await waitFor(() => expect(posted[0]?.body).toMatchObject({ code: "R9", tare: "26 lb", evacuated: true }));
  });

  it("reports a CSV file row by row", async () => {
    open("/cylinders");
    const task = {
      id: 5,
      kind: "import_cylinders",
      state: "waiting",
      progress: 0,
      by: "",
      created_at: "",
      ended_at: null,
      done: {},
      result: {},
    };
    const result = { written: 0, wrong: 1, rows: [{ row: 2, label: "A2", problem: "tare: no" }] };
    reply = () => Response.json(task, { status: 202 });
    tasks = [
      { ...task, state: "running", progress: 0.4 },
      { ...task, state: "done", progress: 1, result },
    ];
    fireEvent.click(await screen.findByRole("button", { name: "From CSV" }));
    const file = new File(["code\nA1"], "c.csv", { type: "text/csv" });
    fireEvent.change(document.querySelector("input[type=file]") as HTMLInputElement, { target: { files: [file] } });
    expect(await screen.findByText("waits its turn")).toBeTruthy();
    await waitFor(() => expect(screen.getByRole("progressbar").getAttribute("value")).toBe("0.4"));
    expect(await screen.findByText(/Nothing was written/, {}, { timeout: 3000 })).toBeTruthy();
    expect(screen.queryByRole("progressbar")).toBeNull();
    expect(screen.getByRole("dialog").textContent).toContain("Row 2, A2: tare: no");
  });
});

describe("systems", () => {
  it("draws the charge over the years and links its jobs", async () => {
    open("/systems/4");
    expect(
      await screen.findByRole("img", { name: /17\/10\/2022 added 317 lb 7\.\d oz; 29\/04\/2026 recovered/ }),
    ).toBeTruthy();
    expect(screen.getByText("limit 10 %")).toBeTruthy();
    expect(screen.getByRole("link", { name: /Alarm/ }).getAttribute("href")).toBe("/job/abc");
    expect(screen.getByText("left safe")).toBeTruthy();
  });

  it("starts a job for each circuit under one work order", async () => {
    open("/systems/4");
    reply = () => Response.json({ code: "new1" }, { status: 201 });
    fireEvent.click(await screen.findByRole("button", { name: "Work order: all 2 circuits" }));
    expect(await screen.findByText("a job")).toBeTruthy();
    expect(posted[0]).toMatchObject({ url: "/api/jobs/work-order", body: { system_id: 9, kind: "service" } });
  });

  it("takes a line from earlier records and keeps a refused one", async () => {
    open("/systems/4");
    fireEvent.click(await screen.findByRole("button", { name: "Add from earlier records" }));
    const dialog = within(screen.getByRole("dialog"));
    reply = () => refusal("/mass", "Write the figure with its unit.");
    fill(dialog, "how much", "lots");
    fireEvent.click(dialog.getByRole("button", { name: "Add it" }));
    await waitFor(() => expect(dialog.getByRole("alert").textContent).toContain("with its unit"));
    reply = () => Response.json(circuitState);
    fill(dialog, "how much", "318 lb");
    fill(dialog, "from which record", "label");
    fireEvent.click(dialog.getByRole("button", { name: "Add it" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(posted.at(-1)?.body).toMatchObject({ kind: "opening", mass: "318 lb", reason: "label" });
  });
});

describe("the shop", () => {
  it("lets the owner give a role and says what was refused", async () => {
    open("/shop");
    reply = () => refusal("/role", "The shop needs an owner.");
    fireEvent.change(await screen.findByLabelText("role of R. Hale"), { target: { value: "lead" } });
    expect((await screen.findByRole("alert")).textContent).toBe("The shop needs an owner.");
    expect(posted[0]).toMatchObject({ url: "/api/people/hale", body: { role: "lead" } });
  });

  it("shows a role as chosen before it is answered, and asks again after the page was left", async () => {
    sessionStorage.setItem("yoshi:roles-chosen", JSON.stringify({ hale: "lead" }));
    reply = () => refusal("/role", "The shop needs an owner.");
    open("/shop");
    await waitFor(() => expect(posted[0]).toMatchObject({ url: "/api/people/hale", body: { role: "lead" } }));
    expect((await screen.findByRole("alert")).textContent).toBe("The shop needs an owner.");
    expect((screen.getByLabelText("role of R. Hale") as HTMLSelectElement).value).toBe("owner");
    expect(sessionStorage.getItem("yoshi:roles-chosen")).toBe("{}");
    reply = () => new Promise<never>(() => {}) as never;
    fireEvent.change(screen.getByLabelText("role of R. Hale"), { target: { value: "technician" } });
    expect((screen.getByLabelText("role of R. Hale") as HTMLSelectElement).value).toBe("technician");
    expect(screen.getByText("hale · saving …")).toBeTruthy();
    expect(sessionStorage.getItem("yoshi:roles-chosen")).toBe('{"hale":"technician"}');
    sessionStorage.removeItem("yoshi:roles-chosen");
  });

  it("asks the owner who they are, then does what was wanted", async () => {
    open("/shop");
    let asked = 0;
    reply = (url) => {
      if (url.endsWith("/confirm")) return new Response(null, { status: 204 });
      return asked++ ? Response.json({ ...shop, link: "/password#abc" }) : confirmFirst();
    };
    fireEvent.click((await screen.findAllByRole("button", { name: "New password by link" }))[1] as HTMLElement);
    const dialog = within(await screen.findByRole("dialog"));
    fill(dialog, "your password", "four words and a number 7");
    fireEvent.click(dialog.getByRole("button", { name: "Go on" }));
    expect(await screen.findByText(/\/password#abc/)).toBeTruthy();
    expect(posted.map(({ url }) => url)).toEqual([
      "/api/people/pell/link",
      "/api/session/confirm",
      "/api/people/pell/link",
    ]);
    expect(screen.getByText(/Hand it over yourself/)).toBeTruthy();
  });

  it("ends an account and takes it back", async () => {
    open("/shop");
    reply = () => Response.json({ ...shop, people: [people[0], { ...people[1], active: false }] });
    fireEvent.click((await screen.findAllByRole("button", { name: "End this account" }))[1] as HTMLElement);
    expect(await screen.findByText("pell · may not sign in any more")).toBeTruthy();
    reply = () => Response.json(shop);
    fireEvent.click(screen.getByRole("button", { name: "Take J. Pell back" }));
    await waitFor(() => expect(posted.map(({ body }) => body)).toEqual([{ active: false }, { active: true }]));
  });

  it("invites somebody and shows the link once", async () => {
    open("/shop");
    reply = () => Response.json({ ...shop, link: "/password#abc" });
    fireEvent.click(await screen.findByText("Invite somebody"));
    const scope = within(screen.getByRole("region", { name: "People" }));
    fill(scope, "name shown", "A. New");
    fill(scope, "name for signing in", "New");
    fill(scope, "mail address", "new@shop.test");
    fireEvent.click(scope.getByRole("button", { name: "Make the invitation" }));
    await waitFor(() => expect(posted[0]?.body).toMatchObject({ username: "new", name: "A. New", role: "technician" }));
    expect(await screen.findByText(/on its way to new@shop.test/)).toBeTruthy();
  });

  it("is for reading to a technician, whose units are their own", async () => {
    const session = open("/shop", "technician");
    expect(await screen.findByText("The owner invites people and changes what they may do.")).toBeTruthy();
    expect(screen.queryByLabelText("role of R. Hale")).toBeNull();
    fireEvent.click(screen.getByRole("radio", { name: "kg, °C, bar" }));
    expect(session.setSystem).toHaveBeenCalledWith("si");
  });
});

describe("finding", () => {
  const hits = ["Mirror shop chiller, MS-1", "Cylinder R5, R-22", "R-507A", "Dome chiller"].map((text) => ({
    to: text,
    text,
    kind: "x",
  }));
  it("asks every word to stand somewhere, and puts what begins with the first in front", () => {
    expect(match(hits, "chiller shop").map((h) => h.text)).toEqual(["Mirror shop chiller, MS-1"]);
    expect(match(hits, "r-5").map((h) => h.text)).toEqual(["R-507A"]);
    expect(match(hits, "").length).toBe(4);
    expect(match(hits, "zz")).toEqual([]);
  });
});
