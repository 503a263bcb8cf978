import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { Saver, type Desk, type Kept, type Saving } from "./saver";

type Doc = Record<string, string>;
const KEY = "test:unsent";
const settle = () => vi.advanceTimersByTimeAsync(0);

/** A server that holds one document, answers when told to, and can be made to fail. */
class Shelf implements Desk<Doc, Kept<Doc>> {
  key = KEY;
  sent: { kept: Kept<Doc>; preferMine: boolean }[] = [];
  failure: Error | null = null;
  private here: Kept<Doc> = { revision: 1, doc: { fat: "24" } };
  server: Kept<Doc> = this.here;
  known = () => this.here;
  send = (kept: Kept<Doc>, preferMine: boolean) => {
    this.sent.push({ kept, preferMine });
    if (this.failure) return Promise.reject(this.failure);
    this.server = { revision: this.server.revision + 1, doc: { ...this.server.doc, ...kept.doc } };
    return Promise.resolve(this.server);
  };
  take = (answer: Kept<Doc>) => void (this.here = answer);
  newest = () => Promise.resolve(this.server);
}

const refused = (status: number) => new Refused(status, { code: "x", message: "refused", field: null });

function saverOf(shelf: Shelf) {
  const drafts: (Doc | null)[] = [];
  const said: Saving[] = [];
  const saver = new Saver(
    shelf,
    (draft) => drafts.push(draft),
    (saving) => said.push(saving),
  );
  return { saver, draft: () => drafts.at(-1), said: () => said.at(-1) };
}

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
});
afterEach(() => vi.useRealTimers());

describe("saving", () => {
  it("sends edits together when they are made while one is under way, each on the newest revision", async () => {
    const shelf = new Shelf();
    const { saver, said, draft } = saverOf(shelf);
    saver.change((doc) => ({ ...doc, fat: "25" }));
    saver.change((doc) => ({ ...doc, sugars: "50" }));
    saver.change((doc) => ({ ...doc, salt: "1" }));
    await settle();
    expect(shelf.sent.map((one) => one.kept)).toEqual([
      { revision: 1, doc: { fat: "25" } },
      { revision: 2, doc: { fat: "25", sugars: "50", salt: "1" } },
    ]);
    expect(said()).toEqual({ kind: "safe" });
    expect(draft()).toBeNull();
    expect(localStorage.getItem(KEY)).toBeNull();
  });
  it("keeps edits in the browser while the server is away, and sends them when it is back", async () => {
    const shelf = new Shelf();
    shelf.failure = new TypeError("no connection");
    const { saver, said, draft } = saverOf(shelf);
    saver.change((doc) => ({ ...doc, fat: "25" }));
    await settle();
    expect(said()).toEqual({ kind: "waiting", message: "no connection" });
    expect(JSON.parse(localStorage.getItem(KEY) ?? "null")).toEqual({ revision: 1, doc: { fat: "25" } });
    expect(draft()).toEqual({ fat: "25" });
    shelf.failure = null;
    await vi.advanceTimersByTimeAsync(2000);
    expect(shelf.server.doc).toEqual({ fat: "25" });
    expect(said()).toEqual({ kind: "safe" });
  });
  it("sends what an earlier page left, on the revision it was made on, before anything new", async () => {
    localStorage.setItem(KEY, JSON.stringify({ revision: 0, doc: { fat: "30" } }));
    const shelf = new Shelf();
    const { saver, draft } = saverOf(shelf);
    expect(draft()).toEqual({ fat: "30" });
    await settle();
    saver.change((doc) => ({ ...doc, salt: "1" }));
    await settle();
    expect(shelf.sent.map((one) => one.kept)).toEqual([
      { revision: 0, doc: { fat: "30" } },
      { revision: 2, doc: { fat: "30", salt: "1" } },
    ]);
  });
  it("starts afresh where the browser's storage holds no document", async () => {
    localStorage.setItem(KEY, "{broken");
    const shelf = new Shelf();
    saverOf(shelf);
    await settle();
    expect(shelf.sent).toEqual([]);
    expect(localStorage.getItem(KEY)).toBeNull();
  });
});

describe("a clash with another window", () => {
  async function clash(stored = false) {
    const shelf = new Shelf();
    shelf.failure = refused(409);
    shelf.server = { revision: 5, doc: { fat: "99" } };
    if (stored) localStorage.setItem(KEY, JSON.stringify({ revision: 0, doc: { fat: "25" } }));
    const made = saverOf(shelf);
    if (!stored) made.saver.change((doc) => ({ ...doc, fat: "25" }));
    await settle();
    expect(made.said()).toEqual({ kind: "conflict", message: "refused" });
    expect(made.draft()).toEqual({ fat: "25" });
    shelf.failure = null;
    return { shelf, ...made };
  }
  it.each([false, true])(
    "sends what I typed again, preferred, when I keep mine (left by an earlier page: %s)",
    async (stored) => {
      const { shelf, saver, said } = await clash(stored);
      await saver.resolve("mine");
      await settle();
      expect(shelf.sent.at(-1)).toMatchObject({ preferMine: true, kept: { doc: { fat: "25" } } });
      expect(said()).toEqual({ kind: "safe" });
      saver.change((doc) => ({ ...doc, salt: "1" }));
      await settle();
      expect(shelf.sent.at(-1)?.preferMine).toBe(false);
    },
  );
  it("shows the other window's when I take theirs, and sends nothing", async () => {
    const { shelf, saver, draft, said } = await clash();
    const before = shelf.sent.length;
    await saver.resolve("theirs");
    await settle();
    expect(shelf.known().doc).toEqual({ fat: "99" });
    expect(draft()).toBeNull();
    expect(said()).toEqual({ kind: "safe" });
    expect(shelf.sent).toHaveLength(before);
  });
});

it("says what the server will not take, and keeps what was typed", async () => {
  const shelf = new Shelf();
  shelf.failure = refused(422);
  const { saver, said, draft } = saverOf(shelf);
  saver.change((doc) => ({ ...doc, fat: "x".repeat(300) }));
  await settle();
  expect(said()).toEqual({ kind: "waiting", message: "refused" });
  expect(draft()?.fat).toHaveLength(300);
});
