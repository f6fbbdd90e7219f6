import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { practising } from "../../device/practising.ts";
import { start } from "../../engine/engine.ts";
import { sendAll } from "../../outbox/room.ts";
import { bringUpToDate } from "./preparing.ts";

const EVERY_MS = 5 * 60_000;

/** Once somebody is signed in: sends what waits of every job, and keeps the device ready to work without signal. */
export default function KeepReady() {
  const queries = useQueryClient();
  useEffect(() => {
    const go = () => {
      if (practising()) return; // what is brought along is the shop's
      void sendAll().then(() => queries.invalidateQueries({ queryKey: ["jobs"] }));
      void bringUpToDate();
    };
    /** The core takes some seconds to start: begun when the signal goes, not when the first number is wanted. */
    const gone = () => void start().catch(() => undefined);
    go();
    if (!navigator.onLine) gone();
    window.addEventListener("offline", gone);
    const timer = setInterval(go, EVERY_MS);
    window.addEventListener("online", go);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", go);
      window.removeEventListener("offline", gone);
    };
  }, [queries]);
  return null;
}
