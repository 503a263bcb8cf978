// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { Saver, type Desk, type Kept, type Saving } from "./saver";
import { thisWindow } from "./windows";

type Doc = Record<string, string>;
const KEY = "test:unsent";
const MINE = `${KEY}:${thisWindow}`;
const settle = () => vi.advanceTimersByTimeAsync(0);

/** A server that holds one document, answers when told to, and can be made to fail. */
class Shelf implements Desk<Doc, Kept<Doc>> {
  key = KEY;
  sent: { kept: Kept<Doc>; decidedOn: number | null }[] = [];
  failure: Error | null = null;
  private here: Kept<Doc> = { revision: 1, doc: { fat: "24" } };
  server: Kept<Doc> = this.here;
  known = () => this.here;
  /** What it will not take: a document with such a value. */
  unfit: (doc: Doc) => boolean = () => false;
  send = (kept: Kept<Doc>, decidedOn: number | null) => {
    this.sent.push({ kept, decidedOn });
    if (this.failure) return Promise.reject(this.failure);
    if (this.unfit(kept.doc)) return Promise.reject(refused(422));
    this.server = { revision: this.server.revision + 1, doc: { ...this.server.doc, ...kept.doc } };
    return Promise.resolve(this.server);
  };
  take = (answer: Kept<Doc>) => void (this.here = answer);
  newest = () => Promise.resolve(this.server);
}

const refused = (status: number) =>
  new Refused(status, { code: "x", message: "refused", field: null, revision: 5 });

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
    expect(localStorage.getItem(MINE)).toBeNull();
  });
  it("keeps edits in the browser while the server is away, and sends them when it is back", async () => {
    const shelf = new Shelf();
    shelf.failure = new TypeError("no connection");
    const { saver, said, draft } = saverOf(shelf);
    saver.change((doc) => ({ ...doc, fat: "25" }));
    await settle();
    expect(said()).toEqual({ kind: "waiting", message: "no connection" });
    expect(JSON.parse(localStorage.getItem(MINE) ?? "null")).toEqual({ revision: 1, doc: { fat: "25" } });
    expect(draft()).toEqual({ fat: "25" });
    shelf.failure = null;
    await vi.advanceTimersByTimeAsync(2000);
    expect(shelf.server.doc).toEqual({ fat: "25" });
    expect(said()).toEqual({ kind: "safe" });
  });
  it("sends what an earlier page left, on the revision it was made on, before anything new", async () => {
    localStorage.setItem(`${KEY}:closed`, JSON.stringify({ revision: 0, doc: { fat: "30" } }));
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
    localStorage.setItem(MINE, "{broken");
    const shelf = new Shelf();
    saverOf(shelf);
    await settle();
    expect(shelf.sent).toEqual([]);
  });
});

describe("a clash with another window", () => {
  async function clash(stored = false) {
    const shelf = new Shelf();
    shelf.failure = refused(409);
    shelf.server = { revision: 5, doc: { fat: "99" } };
    if (stored) localStorage.setItem(MINE, JSON.stringify({ revision: 0, doc: { fat: "25" } }));
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
      expect(shelf.sent.at(-1)).toMatchObject({ decidedOn: 5, kept: { doc: { fat: "25" } } });
      expect(said()).toEqual({ kind: "safe" });
      saver.change((doc) => ({ ...doc, salt: "1" }));
      await settle();
      expect(shelf.sent.at(-1)?.decidedOn).toBeNull();
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

describe("an edit that the server refuses", () => {
  const long = "x".repeat(300);
  async function refusal() {
    const shelf = new Shelf();
    shelf.unfit = (doc) => doc.fat === long;
    const made = saverOf(shelf);
    made.saver.change((doc) => ({ ...doc, fat: long }));
    await settle();
    expect(made.said()).toEqual({ kind: "refused", message: "refused" });
    return { shelf, ...made };
  }
  it("stays on the page, and holds nothing up", async () => {
    const { shelf, saver, draft, said } = await refusal();
    saver.change((doc) => ({ ...doc, salt: "1" }));
    await settle();
    expect(shelf.server.doc).toEqual({ fat: "24", salt: "1" });
    expect(draft()).toEqual({ fat: long, salt: "1" });
    expect(said()?.kind).toBe("refused");
  });
  it("is found among several that went out together", async () => {
    const shelf = new Shelf();
    shelf.unfit = (doc) => doc.fat === long;
    const { saver } = saverOf(shelf);
    const parts: Doc[] = [{ salt: "1" }, { protein: "2" }, { fat: long }, { sugars: "50" }];
    for (const part of parts) saver.change((doc) => ({ ...doc, ...part }));
    await settle();
    expect(shelf.server.doc).toEqual({ fat: "24", salt: "1", protein: "2", sugars: "50" });
  });
  it("goes when it is dropped", async () => {
    const { saver, draft, said } = await refusal();
    saver.drop();
    expect(draft()).toBeNull();
    expect(said()).toEqual({ kind: "safe" });
  });
});

describe("two windows", () => {
  it("each keep their own unsent edits: one that saves leaves the other’s alone", async () => {
    localStorage.setItem("fern-match:window:other", String(Date.now()));
    localStorage.setItem(`${KEY}:other`, JSON.stringify({ revision: 1, doc: { fat: "77" } }));
    const shelf = new Shelf();
    const { saver } = saverOf(shelf);
    saver.change((doc) => ({ ...doc, salt: "1" }));
    await settle();
    expect(shelf.server.doc).toEqual({ fat: "24", salt: "1" });
    expect(localStorage.getItem(`${KEY}:other`)).toContain("77");
  });
  it("what a window left that gives no sign of life is sent by the one that is there", async () => {
    localStorage.setItem("fern-match:window:other", String(Date.now()));
    localStorage.setItem(`${KEY}:other`, JSON.stringify({ revision: 1, doc: { fat: "77" } }));
    const shelf = new Shelf();
    saverOf(shelf);
    await vi.advanceTimersByTimeAsync(12_000);
    expect(shelf.server.doc).toEqual({ fat: "77" });
    expect(localStorage.getItem(`${KEY}:other`)).toBeNull();
  });
});
