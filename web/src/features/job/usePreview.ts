import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { client, NoAnswer, take } from "../../api/client.ts";
import type { JobState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { CoreRefused } from "../../engine/engine.ts";
import { useEngine } from "../../engine/useEngine.ts";
import { judge } from "../../job/onDevice.ts";
import type { OutboxState } from "../../outbox/outbox.ts";

const SETTLES_MS = 220;
const GOES_ON_MS = 15_000; // a hold and a pull go on while nothing is typed

/** What was typed and put, once it rests for a moment. */
function useSettledStamps({ drafts, items }: OutboxState): { stamps: string; settled: boolean } {
  const stamps = [...Object.values(drafts).map((draft) => draft.stamp), ...items.map((item) => item.key)].join();
  const [rested, setRested] = useState(stamps);
  useEffect(() => {
    const timer = setTimeout(() => setRested(stamps), SETTLES_MS);
    return () => clearTimeout(timer);
  }, [stamps]);
  return { stamps: rested, settled: rested === stamps };
}

/** What the job says with what is typed: by the server, and where it does not answer by the core on this device. */
export function usePreview(state: JobState | undefined, waits: OutboxState, online: boolean) {
  const { me } = useSession();
  const engine = useEngine();
  const { stamps, settled } = useSettledStamps(waits);
  const able = engine.at === "kept" || engine.at === "starting" || engine.at === "ready";
  const code = state?.code ?? "";
  const seq = state?.seq ?? 0;
  const office = useQuery({
    queryKey: ["preview", code, seq, stamps],
    queryFn: () => {
      const changes = Object.values(waits.drafts).map(({ path, seen, value, force }) => ({ path, seen, value, force }));
      return take(client.POST("/api/jobs/{code}/preview", { params: { path: { code } }, body: { changes } }));
    },
    enabled: online && Object.keys(waits.drafts).length > 0 && settled,
    placeholderData: (before) => before,
    retry: false,
    gcTime: 10_000,
  });
  const silent = !online || office.error instanceof NoAnswer;
  const device = useQuery({
    queryKey: ["here", code, seq, stamps],
    queryFn: () => (state ? judge(state, waits, { by: me.name }) : null),
    enabled: silent && able && settled && state !== undefined,
    refetchInterval: silent && able ? GOES_ON_MS : false,
    placeholderData: (before) => before,
    structuralSharing: false,
    retry: false,
    gcTime: 10_000,
  });
  const refused = device.error instanceof CoreRefused; // the job is of a later version than the rules here
  return {
    office: silent ? null : (office.data ?? null),
    device: silent && able && !refused ? (device.data ?? null) : null,
    able: able && !refused,
    silent,
  };
}
