/** Answered by the server while it is there, by the core on this device while it is not: one question, one answer. */
import type { Question } from "../engine/protocol.ts";
import { NoAnswer, Refused } from "./client.ts";

/**
 * What the server says, or what the core here says where the server does not answer. Throws `Refused` in either case as the
 * rules refuse, and `NoAnswer` where the core is not on this device, or `question` has nothing to ask it.
 */
export async function either<T>(ask: () => Promise<T>, question: () => Promise<Question | null>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error;
    const asked = await question();
    if (!asked) throw error;
    const engine = await import("../engine/engine.ts"); // of no use while there is a server
    try {
      return await engine.ask<T>(asked);
    } catch (refused) {
      if (!(refused instanceof engine.CoreRefused)) throw error;
      const { path, code, detail } = refused.problem;
      throw new Refused(422, { type: "about:blank", title: "Refused", status: 422, code, detail, path, params: {} });
    }
  }
}
