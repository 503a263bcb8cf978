/** Entries of a log on their way to the server: kept in the browser's storage until they are there. */
import { Refused } from "../api/client";
import type { LogEntry } from "../api/types";
import { freshId } from "../app/ids";
import { keep, kept, letGo } from "../ui/storage";
import type { NewEntry } from "./runApi";

const AT_ONCE = 50;
const PLAIN = { step: "", round: 1, of: "", text: "", unit: "" };

export interface Waiting {
  count: number;
  problem: string | null;
}

export class Outbox {
  private unsent: LogEntry[];
  private sending = false;
  private known: Waiting;
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly place: string,
    private readonly send: (entries: LogEntry[]) => Promise<void>,
  ) {
    this.unsent = stored(place);
    this.known = { count: this.unsent.length, problem: null };
  }

  readonly state = () => this.known;

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => {
      this.listeners.delete(listener);
    };
  };

  /** Adds entries and sends them. */
  readonly add = (...entries: NewEntry[]) => {
    const fresh = entries.map((one) => ({ ...PLAIN, ...one, key: freshId("entry") }));
    this.now([...this.unsent, ...fresh], this.known.problem);
    void this.flush();
  };

  /** Sends what waits. What does not arrive waits on; what is refused is of no use again. */
  readonly flush = async () => {
    if (this.sending || !this.unsent.length) return;
    this.sending = true;
    const batch = this.unsent.slice(0, AT_ONCE);
    const others = () => this.unsent.filter((one) => !batch.includes(one));
    try {
      await this.send(batch);
      this.now(others(), null);
    } catch (failure) {
      const refused = failure instanceof Refused && failure.status < 500;
      this.now(refused ? others() : this.unsent, (failure as Error).message);
    } finally {
      this.sending = false;
    }
    if (!this.known.problem) void this.flush();
  };

  private now(unsent: LogEntry[], problem: string | null) {
    this.unsent = unsent;
    if (unsent.length) keep(this.place, JSON.stringify(unsent));
    else letGo(this.place);
    this.known = { count: unsent.length, problem };
    for (const listener of this.listeners) listener();
  }
}

function stored(place: string): LogEntry[] {
  try {
    return JSON.parse(kept(place) ?? "[]") as LogEntry[];
  } catch {
    return [];
  }
}
