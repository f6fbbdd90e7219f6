import { useSyncExternalStore } from "react";
import { type EngineState, snapshot, subscribe } from "./engine.ts";

/** Whether the core is on this device, and whether it runs. */
export const useEngine = (): EngineState => useSyncExternalStore(subscribe, snapshot);
