/** Readings as they come: one event stream a job, the last value of every channel, and what the browser knows of its age. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { jobQuery } from "../api/queries.ts";
import type { Message } from "../api/types.ts";

type Steady = "steady" | "rising" | "falling" | "new";
export type Live = {
  channel: string;
  instrument: string;
  value: number;
  at: string;
  received: string;
  limit: number;
  steady: Steady;
  seq: number;
  battery?: number | null;
};
export type LiveValues = Record<string, Live>;

/** Where a weigh-in stands on its live scale, as the core says; masses in kg. */
export type Following = {
  state: "mount" | "ready" | "flowing" | "near" | "close_now" | "past" | "stalled" | "still" | "jumped" | "gone";
  text: Message;
  draw: string;
  gross_kg: number;
  inside_kg: number;
  limit_kg: number;
  mark: string;
  mark_kg: number;
  to_mark_kg: number;
  flow_kg_s: number | null;
  seconds: number | null;
  lead_kg: number;
  last_good_kg: number | null;
  warning: Message | null;
};

/** The newest reading of every channel; a reading that came late does not push a newer one aside. */
export function newest(before: LiveValues, news: Live[]): LiveValues {
  const after = { ...before };
  for (const reading of news) {
    const there = after[reading.channel];
    if (!there || there.at <= reading.at) after[reading.channel] = reading;
  }
  return after;
}

export function useLive(code: string): { values: LiveValues; following: Following | null } {
  const queries = useQueryClient();
  const [values, setValues] = useState<LiveValues>({});
  const [following, setFollowing] = useState<Following | null>(null);
  useEffect(() => {
    if (typeof EventSource === "undefined") return;
    const source = new EventSource(`/api/jobs/${code}/live`);
    source.addEventListener("readings", (event) => {
      const news = JSON.parse(event.data) as Live[];
      setValues((before) => newest(before, news));
    });
    source.addEventListener("scale", (event) => setFollowing(JSON.parse(event.data) as Following));
    source.addEventListener("job", (event) => {
      const { queryKey } = jobQuery(code);
      const known = queries.getQueryData(queryKey)?.data.seq ?? 0;
      if ((JSON.parse(event.data) as { seq: number }).seq > known) void queries.invalidateQueries({ queryKey });
    });
    return () => source.close();
  }, [code, queries]);
  return { values, following };
}
