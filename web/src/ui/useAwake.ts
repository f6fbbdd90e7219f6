import { useEffect } from "react";

/** Keeps the screen on while `on`; where a browser cannot, or is low on power, it goes off as it would. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !navigator.wakeLock) return;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const take = async () => {
      if (document.visibilityState !== "visible") return;
      const taken = await navigator.wakeLock.request("screen").catch(() => null);
      if (gone) void taken?.release();
      else lock = taken;
    };
    const back = () => void take(); // it is let go whenever another page is in front
    void take();
    document.addEventListener("visibilitychange", back);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", back);
      void lock?.release();
    };
  }, [on]);
}
