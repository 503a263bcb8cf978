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

interface Unsent {
  revision: number;
  study: Study;
}

const unsentKey = (matchId: string) => `fern-match:unsent:${matchId}`;

/** What an earlier page could not send; it waits in the browser's storage. */
function storedUnsent(matchId: string): Unsent | null {
  const text = localStorage.getItem(unsentKey(matchId));
  return text ? (JSON.parse(text) as Unsent) : null;
}

/** Sends edits one after the other, each applied to the newest study known; keeps them until the server has them. */
class Saver {
  private edits: StudyChange[] = [];
  private preferMine = false;
  private running = false;
  private closed = false;

  constructor(
    private readonly matchId: string,
    private readonly queries: QueryClient,
    private readonly show: (unsent: Study | null) => void,
    private readonly say: (saving: Saving) => void,
  ) {
    void this.sendStored();
  }

  close() {
    this.closed = true;
  }

  change(edit: StudyChange) {
    if (!this.known()) return;
    this.edits.push(edit);
    this.showDraft();
    void this.send();
  }

  async resolve(keep: "mine" | "theirs") {
    if (keep === "mine") {
      this.preferMine = true;
    } else {
      this.edits = [];
      const newest = await answered(client.GET("/api/matches/{match_id}/study", path(this.matchId)));
      this.take(newest);
    }
    this.say({ kind: "safe" });
    void this.send();
  }

  private known() {
    return this.queries.getQueryData<StudyOut>(studyQuery(this.matchId).queryKey);
  }

  private take(saved: StudyOut) {
    this.queries.setQueryData(studyQuery(this.matchId).queryKey, saved);
    this.showDraft();
  }

  /** The newest study known with every unsent edit on it; kept in the browser's storage while there are any. */
  private showDraft() {
    const known = this.known();
    if (!known || this.edits.length === 0) {
      localStorage.removeItem(unsentKey(this.matchId));
      this.show(null);
      return;
    }
    const study = this.edits.reduce((before, edit) => edit(before), known.study);
    localStorage.setItem(
      unsentKey(this.matchId),
      JSON.stringify({ revision: known.revision, study } satisfies Unsent),
    );
    this.show(study);
  }

  /** Edits of an earlier page go out first, on the revision they were made on. */
  private async sendStored() {
    const stored = storedUnsent(this.matchId);
    if (!stored) return;
    this.running = true;
    await this.attempt(stored, 0);
    this.running = false;
    void this.send();
  }

  private async send() {
    if (this.running) return;
    this.running = true;
    let going = true;
    while (going && this.edits.length > 0) {
      const known = this.known();
      if (!known) break;
      const study = this.edits.reduce((before, edit) => edit(before), known.study);
      going = await this.attempt({ revision: known.revision, study }, this.edits.length);
    }
    this.running = false;
  }

  /** Sends one state, which holds so many edits; false when sending should pause. */
  private async attempt(sending: Unsent, count: number): Promise<boolean> {
    this.say({ kind: "sending" });
    try {
      const body = { ...sending, prefer_mine: this.preferMine };
      const saved = await answered(
        client.PUT("/api/matches/{match_id}/study", { ...path(this.matchId), body }),
      );
      this.preferMine = false;
      this.edits = this.edits.slice(count);
      this.take(saved);
      if (this.edits.length === 0) this.say({ kind: "safe" });
      void this.queries.invalidateQueries({ queryKey: ["moments", this.matchId] });
      return true;
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      if (error instanceof Refused) {
        this.say(error.status === 409 ? { kind: "conflict", message } : { kind: "waiting", message });
        return false;
      }
      this.say({ kind: "waiting", message });
      await new Promise((done) => setTimeout(done, RETRY_MS));
      return this.closed ? false : this.edits.length > 0 || this.attempt(sending, count);
    }
  }
}
