/** Readings as they come: one event stream a job, the last value of every channel, and what the browser knows of its age. */
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { jobQuery } from "../../api/queries.ts";

export type Steady = "steady" | "rising" | "falling" | "new";
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

/** The newest reading of every channel; a reading that came late does not push a newer one aside. */
export function newest(before: LiveValues, news: Live[]): LiveValues {
  const after = { ...before };
  for (const reading of news) {
    const there = after[reading.channel];
    if (!there || there.at <= reading.at) after[reading.channel] = reading;
  }
  return after;
}

export function useLive(code: string): LiveValues {
  const queries = useQueryClient();
  const [values, setValues] = useState<LiveValues>({});
  useEffect(() => {
    if (typeof EventSource === "undefined") return;
    const source = new EventSource(`/api/jobs/${code}/live`);
    source.addEventListener("readings", (event) => {
      const news = JSON.parse(event.data) as Live[];
      setValues((before) => newest(before, news));
    });
    source.addEventListener("job", (event) => {
      const { queryKey } = jobQuery(code);
      const known = queries.getQueryData(queryKey)?.data.seq ?? 0;
      if ((JSON.parse(event.data) as { seq: number }).seq > known) void queries.invalidateQueries({ queryKey });
    });
    return () => source.close();
  }, [code, queries]);
  return values;
}
