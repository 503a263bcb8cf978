/** The run of a cook: what the server keeps of it, and entries on their way there. An entry has a key of its own, so that what
 * is sent twice is there once; what could not be sent waits in the browser's storage and goes out with the next. */
import { queryOptions, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useSyncExternalStore } from "react";
import { answered, client } from "../api/client";
import type { EntryKind, LogEntry, Run } from "../api/types";
import { matchKey } from "../app/queries";
import { inCook } from "./cookApi";
import { Outbox, type Waiting } from "./outbox";

const PRACTICE_MS = 1000;
const USUAL_MS = 3000;

/** An answer, and when it came by the page's own steady clock [ms]. */
interface RunAnswer {
  run: Run;
  at: number;
}

const came = (run: Run): RunAnswer => ({ run, at: performance.now() });

export const runQuery = (matchId: string, cookId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "run", cookId),
    queryFn: async ({ signal }) =>
      came(
        await answered(
          client.GET("/api/matches/{match_id}/cooks/{cook_id}/run", { ...inCook(matchId, cookId), signal }),
        ),
      ),
  });

export type NewEntry = { kind: EntryKind } & Partial<Omit<LogEntry, "key" | "kind">>;

export interface RunDesk {
  run: Run | undefined;
  answeredAt: number;
  problem: string | null;
  waiting: number;
  log: (...entries: NewEntry[]) => void;
}

/** A run as it is, asked again and again, and what adds to it. */
export function useRun(matchId: string, cookId: string): RunDesk {
  const queries = useQueryClient();
  const outbox = useMemo(() => outboxOf(queries, matchId, cookId), [queries, matchId, cookId]);
  const state: Waiting = useSyncExternalStore(outbox.subscribe, outbox.state);
  const { data, error } = useQuery({
    ...runQuery(matchId, cookId),
    refetchInterval: (query) => (query.state.data?.run.speed ? PRACTICE_MS : USUAL_MS),
    refetchIntervalInBackground: true,
  });
  useEffect(() => {
    const again = setInterval(() => void outbox.flush(), USUAL_MS);
    return () => clearInterval(again);
  }, [outbox]);
  return {
    run: data?.run,
    answeredAt: data?.at ?? 0,
    problem: state.problem ?? error?.message ?? null,
    waiting: state.count,
    log: outbox.add,
  };
}

function outboxOf(queries: QueryClient, matchId: string, cookId: string): Outbox {
  const { queryKey } = runQuery(matchId, cookId);
  return new Outbox(`fern-match:unsent:run:${matchId}:${cookId}`, async (entries) => {
    await answered(
      client.POST("/api/matches/{match_id}/cooks/{cook_id}/run", {
        ...inCook(matchId, cookId),
        body: { entries },
      }),
    );
    await queries.cancelQueries({ queryKey });
    await queries.refetchQueries({ queryKey });
  });
}
