/** Lists by pages, searched by the server. The first page as it stands is kept on the device; without a network it answers for all. */
import { infiniteQueryOptions, queryOptions, useInfiniteQuery } from "@tanstack/react-query";
import { client, NoAnswer, take } from "./client.ts";
import { asKept, type Kept, keep, kept, keptBefore } from "./kept.ts";
import type { CylinderAsk } from "./types.ts";

type Page<Row> = { rows: Row[]; next: number | null };
type Ask = Record<string, string | undefined>;

function pages<Row, A extends Ask>(name: string, ask: A, page: (after: number | undefined) => Promise<Page<Row>>) {
  const asked = Object.values(ask).some(Boolean);
  const read = async (after: number | undefined): Promise<Kept<Page<Row>>> => {
    try {
      const came = await page(after);
      return asked || after !== undefined ? asKept(came) : keep(name, came);
    } catch (error) {
      if (!(error instanceof NoAnswer) || after !== undefined) throw error;
      const here = await takenAlong<Row>(name);
      if (!here) throw error;
      return { ...here, data: { ...here.data, rows: here.data.rows.filter((row) => isAsked(row, ask)) } };
    }
  };
  return infiniteQueryOptions({
    queryKey: [name, ask],
    queryFn: ({ pageParam }) => read(pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => last.data.next ?? undefined,
    placeholderData: (before) => before,
    staleTime: 20_000,
    refetchInterval: name === "cylinders" ? 30_000 : false, // others draw from them meanwhile
  });
}

/** All of a list where a device took it along; else its first page as it was last seen. */
const takenAlong = async <Row>(name: string): Promise<Kept<Page<Row>> | undefined> =>
  (await keptBefore<Page<Row>>(`${name}:all`)) ?? keptBefore<Page<Row>>(name);

/** Whether a row is one of those asked for, as far as a device can tell: of that kind, and with every word searched for. */
function isAsked(row: unknown, { search = "", ...ask }: Ask): boolean {
  const said = JSON.stringify(row).toLowerCase();
  const columns = row as Record<string, unknown>;
  return (
    search
      .toLowerCase()
      .split(/\s+/)
      .every((word) => said.includes(word)) &&
    Object.entries(ask).every(([column, value]) => !value || !(column in columns) || columns[column] === value)
  );
}

export const cylindersQuery = (ask: CylinderAsk = {}) =>
  pages("cylinders", ask, (after) =>
    take(client.GET("/api/cylinders", { params: { query: { ...ask, after: after ?? null } } })),
  );

export const systemsQuery = (
  ask: { search?: string; refrigerant?: string; kind?: string; sort?: "site" | "name" } = {},
) =>
  pages("systems", ask, (after) =>
    take(client.GET("/api/systems", { params: { query: { ...ask, after: after ?? null } } })),
  );

export const circuitsQuery = (ask: { search?: string; code?: string } = {}) =>
  pages("circuits", ask, (after) =>
    take(client.GET("/api/circuits", { params: { query: { ...ask, after: after ?? null } } })),
  );

export const overviewQuery = queryOptions({
  queryKey: ["systems", "overview"],
  queryFn: () => kept("overview", () => take(client.GET("/api/systems/all/overview"))),
});

export const heldQuery = queryOptions({
  queryKey: ["cylinders", "held"],
  queryFn: () => kept("held", () => take(client.GET("/api/cylinders/all/held"))),
});

type Paged<Row> = ReturnType<typeof pages<Row, Ask>>;

/** The rows of all pages read so far, and how to read the next where there is one; `loaded` once they are those asked for. */
export function useRows<Row>(query: Paged<Row>) {
  const { data, error, isPlaceholderData, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(query);
  const first = data?.pages[0];
  return {
    rows: (data?.pages ?? []).flatMap((page) => page.data.rows),
    loaded: first !== undefined && !isPlaceholderData,
    keptAt: first?.fromDevice ? first.at : null,
    error,
    more: hasNextPage && !isFetchingNextPage ? () => void fetchNextPage() : null,
    hasMore: hasNextPage,
  };
}
