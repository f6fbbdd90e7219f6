/** What a test answers in place of the server, and the device's store as a map: both fresh in every file, both wired in `test-setup.ts`. */
import { vi } from "vitest";

export const answer = vi.fn();
export const rows = new Map<string, unknown>();
