/** Work the server goes on with by itself: followed until it has ended. */
import { client, NoAnswer, take } from "./client.ts";
import type { components } from "./schema.gen.ts";
import type { Report } from "./types.ts";

export type Task = components["schemas"]["TaskRow"];
const EVERY_MS = 500;

/** A task that did not come to its end; what it says is for people. */
export class NotDone extends Error {}

/** Follow a task to its end, telling how far it is; it goes on while there is no network, and so does this. Raises `NotDone`. */
async function ended(task: Task, far: (task: Task) => void): Promise<Task["result"]> {
  let now = task;
  for (;;) {
    far(now);
    if (now.state === "done") return now.result;
    if (now.state === "cancelled") throw new NotDone(`It was stopped.${written(now)}`);
    if (now.state === "failed") throw new NotDone(`${now.result.detail || "It failed."}${written(now)}`);
    await new Promise((later) => setTimeout(later, EVERY_MS));
    now = await look(now);
  }
}

/** What came of a table that is taken in. */
export async function reportOf(begun: Promise<Task>, far: (task: Task) => void): Promise<Report> {
  return (await ended(await begun, far)) as Report;
}

/** A paper of a job set as a PDF, and where it then is. */
export async function paperOf(code: string, paper: "record" | "label"): Promise<string> {
  const asked = client.POST("/api/jobs/{code}/papers", { params: { path: { code } }, body: { paper } });
  const task = await take(asked);
  await ended(task, () => {});
  return `/api/tasks/${task.id}/file`;
}

/** What stands of a table that did not come to its end; a paper has no rows. */
function written(task: Task): string {
  if (task.kind === "paper") return "";
  const count = Number(task.done.written ?? 0);
  return ` ${count === 0 ? "Nothing was" : count === 1 ? "1 row was" : `${count} rows were`} written before.`;
}

async function look(task: Task): Promise<Task> {
  try {
    return await take(client.GET("/api/tasks/{task}", { params: { path: { task: task.id } } }));
  } catch (error) {
    if (error instanceof NoAnswer) return task;
    throw error;
  }
}

export function stop(task: Task): Promise<Task> {
  return take(client.POST("/api/tasks/{task}/cancel", { params: { path: { task: task.id } } }));
}
