/** Server state of the study: one query, and saves that go out in order, each on the revision it was made on. */
import {
  queryOptions,
  replaceEqualDeep,
  useQuery,
  useQueryClient,
  type QueryClient,
} from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { answered, client, Refused } from "../api/client";
import type { Study, StudyOut } from "../api/types";

export type StudyChange = (study: Study) => Study;
export type Saving =
  | { kind: "safe" }
  | { kind: "sending" }
  | { kind: "waiting"; message: string }
  | { kind: "conflict"; message: string };

const RETRY_MS = 2000;
const path = (matchId: string) => ({ params: { path: { match_id: matchId } } });

export const studyQuery = (matchId: string) =>
  queryOptions({
    queryKey: ["study", matchId],
    queryFn: ({ signal }) =>
      answered(client.GET("/api/matches/{match_id}/study", { ...path(matchId), signal })),
    structuralSharing: (known, fresh) => newer(known, fresh),
    retry: (count, error) => !(error instanceof Refused) && count < 3,
  });

/** Whichever is of the later revision: an answer that was overtaken on its way changes nothing. */
export function newer(known: unknown, fresh: unknown): unknown {
  const revision = (value: unknown) => (value as { revision?: number } | undefined)?.revision ?? -1;
  return revision(known) > revision(fresh) ? known : replaceEqualDeep(known, fresh);
}

/** Another step saved: the study stands on that revision now, and its words are asked for again. */
export function noteRevision(queries: QueryClient, matchId: string, revision: number) {
  const key = studyQuery(matchId).queryKey;
  queries.setQueryData(key, (known) => known && { ...known, revision });
  return queries.invalidateQueries({ queryKey: key });
}

export const pantryQuery = queryOptions({
  queryKey: ["pantry"],
  queryFn: () => answered(client.GET("/api/pantry")),
});
export const familiesQuery = queryOptions({
  queryKey: ["families"],
  queryFn: () => answered(client.GET("/api/families")),
});
export const starterBuildsQuery = queryOptions({
  queryKey: ["starter-builds"],
  queryFn: () => answered(client.GET("/api/starter-builds")),
});

/** The study as typed, and how safe it is. */
export function useStudy(matchId: string) {
  const queryClient = useQueryClient();
  const { data, error } = useQuery(studyQuery(matchId));
  const [unsent, setUnsent] = useState<Study | null>(null);
  const [saving, setSaving] = useState<Saving>({ kind: "safe" });
  const saver = useRef<Saver | null>(null);
  useEffect(() => {
    const made = new Saver(matchId, queryClient, setUnsent, setSaving);
    saver.current = made;
    return () => made.close();
  }, [matchId, queryClient]);
  const change = useCallback((edit: StudyChange) => saver.current?.change(edit), []);
  const resolve = useCallback((keep: "mine" | "theirs") => void saver.current?.resolve(keep), []);
  useEffect(() => {
    if (saving.kind === "safe") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [saving.kind]);
  const study: StudyOut | undefined = data && unsent ? { ...data, study: unsent } : data;
  return { study, error, change, saving, resolve };
}

/** Sends edits one after the other; keeps them until the server has them. */
class Saver {
  private draft: Study | null = null;
  private running = false;
  private closed = false;

  constructor(
    private readonly matchId: string,
    private readonly queries: QueryClient,
    private readonly show: (unsent: Study | null) => void,
    private readonly say: (saving: Saving) => void,
  ) {}

  close() {
    this.closed = true;
  }

  change(edit: StudyChange) {
    const known = this.known();
    if (!known) return;
    this.draft = edit(this.draft ?? known.study);
    this.show(this.draft);
    void this.send();
  }

  async resolve(keep: "mine" | "theirs") {
    const newest = await answered(client.GET("/api/matches/{match_id}/study", path(this.matchId)));
    this.queries.setQueryData(studyQuery(this.matchId).queryKey, newest);
    if (keep === "theirs") {
      this.draft = null;
      this.show(null);
      this.say({ kind: "safe" });
      return;
    }
    void this.send();
  }

  private known() {
    return this.queries.getQueryData<StudyOut>(studyQuery(this.matchId).queryKey);
  }

  private async send() {
    if (this.running) return;
    this.running = true;
    while (this.draft && !(await this.sendOne(this.draft)));
    this.running = false;
  }

  /** Sends one draft; true when sending should pause. */
  private async sendOne(sending: Study): Promise<boolean> {
    const revision = this.known()?.revision;
    if (revision === undefined) return true;
    this.say({ kind: "sending" });
    try {
      const saved = await answered(
        client.PUT("/api/matches/{match_id}/study", {
          ...path(this.matchId),
          body: { revision, study: sending },
        }),
      );
      this.queries.setQueryData(studyQuery(this.matchId).queryKey, saved);
      if (this.draft === sending) {
        this.draft = null;
        this.show(null);
        this.say({ kind: "safe" });
      }
      return false;
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      if (error instanceof Refused) {
        this.say(error.status === 409 ? { kind: "conflict", message } : { kind: "waiting", message });
        return true;
      }
      this.say({ kind: "waiting", message });
      await new Promise((done) => setTimeout(done, RETRY_MS));
      return this.closed;
    }
  }
}
