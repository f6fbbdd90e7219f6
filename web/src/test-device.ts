/** What a test answers in place of the server, and the device's store as a map: both fresh in every file, both wired in `test-setup.ts`. */
import { vi } from "vitest";

export const answer = vi.fn();
/** Who is signed in on the device, and the key the server gave for it. */
export const ORRIN = { owner: "1-1", username: "orrin" };
export const KEY = "b3JyaW4tb3JyaW4tb3JyaW4tb3JyaW4tb3JyaW4tMzI=";

export const rows = new Map<string, unknown>();
