import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { matchKey, newer, refreshMatch } from "./queries";

describe("answers of a match", () => {
  it("asks again for a first answer that is still on its way when something is saved", async () => {
    const queries = new QueryClient();
    const ways: ((answer: { revision: number }) => void)[] = [];
    const observer = new QueryObserver(queries, {
      queryKey: matchKey("m", "batches"),
      structuralSharing: newer,
      queryFn: () => new Promise<{ revision: number }>((arrive) => ways.push(arrive)),
    });
    const stop = observer.subscribe(() => undefined);
    void refreshMatch(queries, "m", "study");
    await vi.waitFor(() => expect(ways).toHaveLength(2));
    ways[0]?.({ revision: 1 });
    ways[1]?.({ revision: 2 });
    await vi.waitFor(() => expect(observer.getCurrentResult().data).toEqual({ revision: 2 }));
    stop();
  });
  it("keeps the later of two answers", () => {
    expect(newer({ revision: 3 }, { revision: 2 })).toEqual({ revision: 3 });
    expect(newer({ revision: 3 }, { revision: 4 })).toEqual({ revision: 4 });
  });
});
