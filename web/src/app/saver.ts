/** Saving one document: edits go out in order, wait in the browser's storage until the server has them, and ask when another
 * window changed the same. An edit that the server refuses steps aside and holds nothing up. */
import { useCallback, useEffect, useRef, useState } from "react";
import { Refused } from "../api/client";
import { keep, kept, letGo } from "../ui/storage";
import { counted } from "./underway";
import { takeOver, thisWindow } from "./windows";

export type Saving =
  | { kind: "safe" }
  | { kind: "sending" }
  | { kind: "waiting"; message: string }
  | { kind: "refused"; message: string }
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
  /** `decidedOn`: the revision up to which the user has decided for this document. */
  send: (kept: Kept<Doc>, decidedOn: number | null) => Promise<Answer>;
  take: (answer: Answer) => void;
  newest: () => Promise<Answer>;
}

export type Edit<Doc> = (doc: Doc) => Doc;

const RETRY_MS = 2000;
const ONLY_HERE = "The browser’s storage is full or off: leave this page open until it is saved.";
const LOOK_AGAIN_MS = 3000;

/** Sends edits one after the other, each applied to the newest document known; keeps them until the server has them. */
export class Saver<Doc, Answer> {
  private edits: Edit<Doc>[] = [];
  /** What the server refused: shown until it is dropped or typed over, not sent again. */
  private refused: Edit<Doc>[] = [];
  private refusal = "";
  /** What an earlier page could not send; it goes out first, on the revision it was made on. */
  private stored: Kept<Doc> | null = null;
  private decidedOn: number | null = null;
  private asked: number | null = null;
  /** How many edits go out together: all, or after a refusal one, to find which it is. */
  private together = Infinity;
  private running = false;
  private closed = false;
  private paused = false;
  /** Whether the browser keeps nothing for a later page: what is unsent is in this one alone. */
  private onlyHere = false;
  private readonly place: string;
  private readonly looking: ReturnType<typeof setInterval>;

  constructor(
    private readonly desk: Desk<Doc, Answer>,
    private readonly show: (draft: Doc | null) => void,
    private readonly say: (saving: Saving) => void,
  ) {
    this.place = `${desk.key}:${thisWindow}`;
    this.stored = parsed<Doc>(kept(this.place));
    if (this.stored) {
      this.showDraft();
      void this.send();
    }
    this.adopt();
    this.looking = setInterval(() => this.adopt(), LOOK_AGAIN_MS);
  }

  close() {
    this.closed = true;
    clearInterval(this.looking);
  }

  change(edit: Edit<Doc>) {
    if (!this.desk.known()) return;
    this.edits.push(edit);
    this.showDraft();
    void this.send();
  }

  async resolve(keep: "mine" | "theirs") {
    this.decidedOn = keep === "mine" ? this.asked : null;
    if (keep === "theirs") {
      this.edits = [];
      this.stored = null;
      this.desk.take(await this.desk.newest());
      this.showDraft();
    }
    this.paused = false;
    this.settle();
    void this.send();
  }

  /** Lets go of what was refused. */
  drop() {
    this.refused = [];
    this.showDraft();
    this.settle();
  }

  /** Takes over what a window that is closed now could not send. */
  private adopt() {
    if (this.stored || this.closed) return;
    this.stored = parsed<Doc>(takeOver(this.desk.key));
    if (!this.stored) return;
    this.showDraft();
    void this.send();
  }

  /** All that is to be sent next, on what it was made on; null when there is nothing. */
  private unsent(count: number): Kept<Doc> | null {
    const base = this.stored ?? this.desk.known();
    if (!base || (!this.stored && this.edits.length === 0)) return null;
    return { revision: base.revision, doc: applied(this.edits.slice(0, count), base.doc) };
  }

  /** The draft stands on the page, and in the browser's storage while anything is unsent. */
  private showDraft() {
    const unsent = this.unsent(Infinity);
    if (unsent) this.onlyHere = !keep(this.place, JSON.stringify(unsent));
    else letGo(this.place);
    const base = this.stored ?? this.desk.known();
    const seen = base && (unsent || this.refused.length > 0);
    this.show(seen ? applied(this.edits, applied(this.refused, base.doc)) : null);
  }

  /** Says how safe everything is, once nothing is under way. */
  private settle() {
    if (this.refused.length > 0) this.say({ kind: "refused", message: this.refusal });
    else this.say({ kind: "safe" });
  }

  private async send() {
    if (this.running) return;
    this.running = true;
    const arrived = counted();
    while (!this.closed && !this.paused) {
      const count = this.stored ? 0 : Math.min(this.together, this.edits.length);
      const unsent = this.unsent(count);
      if (!unsent) break;
      await this.attempt(unsent, count);
    }
    this.running = false;
    arrived();
  }

  /** Sends one state, which holds so many edits. */
  private async attempt(sending: Kept<Doc>, count: number) {
    this.say({ kind: "sending" });
    try {
      const answer = await this.desk.send(sending, this.decidedOn);
      this.decidedOn = null;
      this.stored = null;
      this.edits = this.edits.slice(count);
      if (this.edits.length === 0) this.together = Infinity;
      this.desk.take(answer);
      this.showDraft();
      if (!this.unsent(Infinity)) this.settle();
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      if (!(error instanceof Refused) || error.status >= 500) {
        this.say({ kind: "waiting", message: this.onlyHere ? `${message} ${ONLY_HERE}` : message });
        await new Promise((done) => setTimeout(done, RETRY_MS));
      } else if (error.status === 409) {
        this.asked = error.problem.revision ?? null;
        this.paused = true;
        this.say({ kind: "conflict", message });
      } else {
        this.stepAside(count, message);
      }
    }
  }

  /** A refused edit is kept aside; of several, each is tried alone. */
  private stepAside(count: number, message: string) {
    if (count > 1) {
      this.together = 1;
      return;
    }
    this.refusal = message;
    if (this.stored) {
      const left = this.stored.doc;
      this.stored = null;
      this.refused.push(() => left);
    } else {
      this.refused.push(...this.edits.splice(0, 1));
    }
    this.showDraft();
    if (!this.unsent(Infinity)) this.settle();
  }
}

const applied = <Doc>(edits: Edit<Doc>[], doc: Doc): Doc => edits.reduce((before, edit) => edit(before), doc);

function parsed<Doc>(text: string | null): Kept<Doc> | null {
  if (!text) return null;
  try {
    return JSON.parse(text) as Kept<Doc>;
  } catch {
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
  const drop = useCallback(() => saver.current?.drop(), []);
  useEffect(() => {
    if (saving.kind === "safe") return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [saving.kind]);
  return { draft, change, saving, resolve, drop };
}
