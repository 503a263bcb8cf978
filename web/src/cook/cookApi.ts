/** Server state of cooks: their plans and schedules. */
import { queryOptions, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { answered, client } from "../api/client";
import type { CookOut, CookPlan, OwnStep, StepChange } from "../api/types";
import { inMatch, matchKey, newer, refreshMatch } from "../app/queries";
import { useSaver, type Desk } from "../app/saver";

export const cooksQuery = (matchId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "cooks"),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/cooks", { ...inMatch(matchId), signal })),
  });

export const cookQuery = (matchId: string, cookId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "cook", cookId),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/cooks/{cook_id}", { ...inCook(matchId, cookId), signal })),
  });

export const scheduleQuery = (matchId: string, cookId: string) =>
  queryOptions({
    queryKey: matchKey(matchId, "schedule", cookId),
    structuralSharing: newer,
    queryFn: ({ signal }) =>
      answered(
        client.GET("/api/matches/{match_id}/cooks/{cook_id}/schedule", {
          ...inCook(matchId, cookId),
          signal,
        }),
      ),
  });

export const inCook = (matchId: string, cookId: string) => ({
  params: { path: { match_id: matchId, cook_id: cookId } },
});

export const beginCook = (matchId: string, batch: string, revision: number) =>
  answered(client.POST("/api/matches/{match_id}/cooks", { ...inMatch(matchId), body: { revision, batch } }));

export const deleteCook = (matchId: string, cookId: string, revision: number) =>
  answered(
    client.DELETE("/api/matches/{match_id}/cooks/{cook_id}", {
      ...inCook(matchId, cookId),
      body: { revision },
    }),
  );

/** One plan as typed, edits not yet answered included, and how safe it is. */
export function useCook(matchId: string, cook: CookOut) {
  const queries = useQueryClient();
  const id = cook.plan.id;
  const desk = useMemo(() => cookDesk(queries, matchId, id), [queries, matchId, id]);
  const { draft, ...saver } = useSaver(desk);
  return { plan: draft ?? cook.plan, ...saver };
}

function cookDesk(queries: QueryClient, matchId: string, cookId: string): Desk<CookPlan, CookOut> {
  const { queryKey } = cookQuery(matchId, cookId);
  return {
    key: `fern-match:unsent:cook:${matchId}:${cookId}`,
    known: () => {
      const known = queries.getQueryData(queryKey);
      return known ? { revision: known.revision, doc: known.plan } : null;
    },
    send: ({ revision, doc }, decidedOn) =>
      answered(
        client.PUT("/api/matches/{match_id}/cooks/{cook_id}", {
          ...inCook(matchId, cookId),
          body: { revision, plan: doc, decided_on: decidedOn },
        }),
      ),
    take: (saved) => {
      queries.setQueryData(queryKey, saved);
      void refreshMatch(queries, matchId, "cook");
    },
    newest: () => answered(client.GET("/api/matches/{match_id}/cooks/{cook_id}", inCook(matchId, cookId))),
  };
}

const UNCHANGED = { hands_on: "", wait: "", heat: "", note: "", left_out: false, after: "" };

/** A plan with one step changed; a step that is as planned again needs no entry. */
export function withChange(
  plan: CookPlan,
  step: { id: string; title: string },
  part: Partial<StepChange>,
): CookPlan {
  const known = plan.changes.find((one) => one.id === step.id);
  const changed = { ...UNCHANGED, ...known, id: step.id, title: step.title.slice(0, 120), ...part };
  const plain = Object.entries(UNCHANGED).every(([key, value]) => changed[key as keyof StepChange] === value);
  const others = plan.changes.filter((one) => one.id !== step.id);
  return { ...plan, changes: plain ? others : [...others, changed] };
}

/** A plan with a step of one's own after another one. */
export const withOwn = (plan: CookPlan, id: string, after: string): CookPlan => ({
  ...plan,
  own: [...plan.own, { id, after, title: "", note: "", hands_on: "5", wait: "", heat: "" }],
});

export const withOwnChanged = (plan: CookPlan, id: string, part: Partial<OwnStep>): CookPlan => ({
  ...plan,
  own: plan.own.map((one) => (one.id === id ? { ...one, ...part } : one)),
});

export const withoutOwn = (plan: CookPlan, id: string): CookPlan => ({
  ...plan,
  own: plan.own.filter((one) => one.id !== id),
});
