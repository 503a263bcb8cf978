/** Saving one document of a match: edits go out in order, wait in the browser's storage until the server has them, and ask
 * when another window changed the same field. */
import { useCallback, useEffect, useRef, useState } from "react";
import { Refused } from "../api/client";

export type Saving =
  | { kind: "safe" }
  | { kind: "sending" }
  | { kind: "waiting"; message: string }
  | { kind: "conflict"; message: string };

/** A document with the revision it stands on. */
export interface Kept<Doc> {
  revision: number;
  doc: Doc;
}

/** Where a document is kept: how to find it, send it and take the server's answer. */
export interface Desk<Doc, Answer> {
  /** Of the browser's storage. */
  key: string;
  known: () => Kept<Doc> | null;
  send: (kept: Kept<Doc>, preferMine: boolean) => Promise<Answer>;
  take: (answer: Answer) => void;
  newest: () => Promise<Answer>;
}

export type Edit<Doc> = (doc: Doc) => Doc;

const RETRY_MS = 2000;

/** Sends edits one after the other, each applied to the newest document known; keeps them until the server has them. */
export class Saver<Doc, Answer> {
  private edits: Edit<Doc>[] = [];
  /** What an earlier page could not send; it goes out first, on the revision it was made on. */
  private stored: Kept<Doc> | null;
  private preferMine = false;
  private running = false;
  private closed = false;

  constructor(
    private readonly desk: Desk<Doc, Answer>,
    private readonly show: (draft: Doc | null) => void,
    private readonly say: (saving: Saving) => void,
  ) {
    this.stored = readStored(desk.key);
    if (this.stored) this.showDraft();
    void this.send();
  }

  close() {
    this.closed = true;
  }

  change(edit: Edit<Doc>) {
    if (!this.desk.known()) return;
    this.edits.push(edit);
    this.showDraft();
    void this.send();
  }

  async resolve(keep: "mine" | "theirs") {
    this.preferMine = keep === "mine";
    if (keep === "theirs") {
      this.edits = [];
      this.stored = null;
      this.desk.take(await this.desk.newest());
      this.showDraft();
    }
    this.say({ kind: "safe" });
    void this.send();
  }

  /** All that is not sent, on what it was made on; null when there is nothing. */
  private unsent(): Kept<Doc> | null {
    const base = this.stored ?? this.desk.known();
    if (!base || (!this.stored && this.edits.length === 0)) return null;
    return { revision: base.revision, doc: this.edits.reduce((before, edit) => edit(before), base.doc) };
  }

  /** The draft stands on the page and in the browser's storage while anything is unsent. */
  private showDraft() {
    const unsent = this.unsent();
    if (unsent) localStorage.setItem(this.desk.key, JSON.stringify(unsent));
    else localStorage.removeItem(this.desk.key);
    this.show(unsent && unsent.doc);
  }

  private async send() {
    if (this.running) return;
    this.running = true;
    let going = true;
    while (going && !this.closed) {
      const unsent = this.unsent();
      if (!unsent) break;
      going = await this.attempt(unsent, this.edits.length);
    }
    this.running = false;
  }

  /** Sends one state, which holds so many edits; false when sending should pause. */
  private async attempt(sending: Kept<Doc>, count: number): Promise<boolean> {
    this.say({ kind: "sending" });
    try {
      const answer = await this.desk.send(sending, this.preferMine);
      this.preferMine = false;
      this.stored = null;
      this.edits = this.edits.slice(count);
      this.desk.take(answer);
      this.showDraft();
      if (!this.unsent()) this.say({ kind: "safe" });
      return true;
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      if (error instanceof Refused) {
        this.say({ kind: error.status === 409 ? "conflict" : "waiting", message });
        return false;
      }
      this.say({ kind: "waiting", message });
      await new Promise((done) => setTimeout(done, RETRY_MS));
      return true;
    }
  }
}

function readStored<Doc>(key: string): Kept<Doc> | null {
  try {
    const text = localStorage.getItem(key);
    return text ? (JSON.parse(text) as Kept<Doc>) : null;
  } catch {
    localStorage.removeItem(key);
    return null;
  }
}

/** The unsent draft of a document, how to change it, and how safe it is; closing the page with unsent edits warns. */
export function useSaver<Doc, Answer>(desk: Desk<Doc, Answer>) {
  const [draft, setDraft] = useState<Doc | null>(null);
  const [saving, setSaving] = useState<Saving>({ kind: "safe" });
  const saver = useRef<Saver<Doc, Answer> | null>(null);
  useEffect(() => {
    const made = new Saver(desk, setDraft, setSaving);
    saver.current = made;
    return () => made.close();
  }, [desk]);
  const change = useCallback((edit: Edit<Doc>) => saver.current?.change(edit), []);
  const resolve = useCallback((keep: "mine" | "theirs") => void saver.current?.resolve(keep), []);
  useEffect(() => {
    if (saving.kind === "safe") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [saving.kind]);
  return { draft, change, saving, resolve };
}
