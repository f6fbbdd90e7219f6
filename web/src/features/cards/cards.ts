import { infiniteQueryOptions, queryOptions, useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, Refused, take } from "../../api/client.ts";
import type { components } from "../../api/schema.gen.ts";
import { useAsk } from "../../parts/useAsk.ts";

type Schemas = components["schemas"];
export type CardState = Schemas["CardState"];
export type BlankCard = Schemas["BlankCard"];
export type MergePreview = Schemas["MergePreview"];
export type Kind = CardState["kind"];

export const KIND_WORDS: Record<Kind, string> = {
  customer: "customer",
  site: "site",
  system: "system",
  circuit: "circuit",
  cylinder: "cylinder",
};

export const cardQuery = (kind: Kind, card: number) =>
  queryOptions({
    queryKey: ["card", kind, card],
    queryFn: () => take(client.GET("/api/cards/{kind}/{card}", { params: { path: { kind, card } } })),
  });

export const blankQuery = (kind: Kind) =>
  queryOptions({
    queryKey: ["card", kind, "blank"],
    queryFn: () => take(client.GET("/api/cards/{kind}/blank", { params: { path: { kind } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const mergeQuery = (kind: Kind, card: number, other: number) =>
  queryOptions({
    queryKey: ["card", kind, card, "merge", other],
    queryFn: () =>
      take(client.GET("/api/cards/{kind}/{card}/merge/{other}", { params: { path: { kind, card, other } } })),
    staleTime: 0,
  });

const cardsQuery = (kind: Kind, search: string, archived: boolean) =>
  infiniteQueryOptions({
    queryKey: ["cards", kind, search, archived],
    queryFn: ({ pageParam }) =>
      take(
        client.GET("/api/cards/{kind}", {
          params: { path: { kind }, query: { search, archived, after: pageParam ?? null } },
        }),
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => last.next ?? undefined,
    placeholderData: (before) => before,
  });

export function useCards(kind: Kind, search: string, archived = false) {
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery(cardsQuery(kind, search, archived));
  return {
    rows: data?.pages.flatMap((page) => page.rows) ?? [],
    loaded: data !== undefined,
    error,
    hasMore: hasNextPage,
    more: hasNextPage ? () => void fetchNextPage() : null,
  };
}

/** A write on a card, safe to send again while no answer came: every list that may show it is read anew. */
export function useCardWrite() {
  const queries = useQueryClient();
  const asked = useAsk();
  const [key, setKey] = useState(newKey);
  const write = (work: (key: string) => Promise<unknown>) =>
    asked.ask(async () => {
      try {
        await work(key);
      } catch (error) {
        if (error instanceof Refused) setKey(newKey());
        throw error;
      }
      setKey(newKey());
      const touched = ["card", "cards", "systems", "circuit", "circuits", "cylinders", "cylinder", "jobs"];
      await Promise.all(touched.map((name) => queries.invalidateQueries({ queryKey: [name] })));
    });
  return { ...asked, write };
}
