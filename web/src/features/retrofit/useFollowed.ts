import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type RetrofitAsk, retrofitQuery } from "../../api/queries.ts";
import type { RetrofitTable } from "../../api/types.ts";

/** The comparison for what is asked last: one question at a time, so that dragging asks no faster than it is answered. */
export function useFollowed(id: number, first: RetrofitAsk) {
  const [wanted, setWanted] = useState(first);
  const [put, setPut] = useState(first);
  const [kept, setKept] = useState<RetrofitTable>();
  const { data, error, isFetching } = useQuery(retrofitQuery(id, put));
  useEffect(() => {
    if (!isFetching && JSON.stringify(put) !== JSON.stringify(wanted)) setPut(wanted);
  }, [isFetching, put, wanted]);
  useEffect(() => {
    if (data) setKept(data);
  }, [data]);
  return { table: data ?? kept, error, ask: setWanted };
}
