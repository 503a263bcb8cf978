// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from "vitest";
import { Refused, Unreachable } from "../api/client";
import type { LogEntry } from "../api/types";
import { Outbox } from "./outbox";

const settled = () => new Promise((done) => setTimeout(done, 0));

describe("the outbox", () => {
  beforeEach(() => localStorage.clear());

  it("sends what is added, each with a key of its own, and keeps nothing of it", async () => {
    const sent: LogEntry[] = [];
    const box = new Outbox("place", (entries) => {
      sent.push(...entries);
      return Promise.resolve();
    });
    box.add({ kind: "opened", step: "a" }, { kind: "note", text: "b" });
    await settled();
    expect(sent.map((one) => one.kind)).toEqual(["opened", "note"]);
    expect(new Set(sent.map((one) => one.key)).size).toBe(2);
    expect(box.state()).toEqual({ count: 0, problem: null });
    expect(localStorage.getItem("place")).toBeNull();
  });

  it("keeps what does not arrive, over a reload, and sends it later under the same key", async () => {
    const box = new Outbox("place", () => Promise.reject(new Unreachable()));
    box.add({ kind: "done", step: "a" });
    await settled();
    expect(box.state().count).toBe(1);
    const keys: string[] = [];
    const after = new Outbox("place", (entries) => {
      keys.push(...entries.map((one) => one.key));
      return Promise.resolve();
    });
    const [waiting] = JSON.parse(localStorage.getItem("place") ?? "[]") as LogEntry[];
    await after.flush();
    expect(keys).toEqual([waiting?.key]);
    expect(localStorage.getItem("place")).toBeNull();
  });

  it("lets go of what is refused, and says why", async () => {
    const problem = { code: "Unread", message: "“hot” was not read.", field: null, revision: null };
    const box = new Outbox("place", () => Promise.reject(new Refused(422, problem)));
    box.add({ kind: "reading", text: "hot" });
    await settled();
    expect(box.state()).toEqual({ count: 0, problem: "“hot” was not read." });
  });
});
