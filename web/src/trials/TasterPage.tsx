import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { changing } from "../app/queries";
import { Button, Notice } from "../ui/Parts";
import { answerPlate, plateQuery } from "./tasteApi";

/** A taster's plate on a phone: its codes, the question, one answer. Nothing here says what lies under which code. */
export function TasterPage() {
  const { matchId = "", trialId = "", token = "" } = useParams();
  const queries = useQueryClient();
  const query = plateQuery(matchId, trialId, token);
  const { data, error } = useQuery(query);
  const [name, setName] = useState("");
  const [picked, setPicked] = useState<string | null>(null);
  const send = useMutation({
    mutationKey: changing(matchId),
    mutationFn: (answer: string) => answerPlate(matchId, trialId, token, answer, name),
    onSuccess: (plate) => {
      queries.setQueryData(query.queryKey, plate);
      setPicked(null);
    },
  });
  if (error)
    return (
      <main className="mx-auto max-w-md p-6">
        <Notice>{error.message} Ask whoever gave it to you for the address again.</Notice>
      </main>
    );
  if (!data) return <p className="p-6 text-ink-2">Opening your plate …</p>;
  const chosen = picked ?? data.answered;
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col gap-5 p-6 text-lg">
      <h1 className="text-2xl">{data.taster ? `${data.taster}, your plate` : "Your plate"}</h1>
      <p>{data.question}</p>
      {!data.taster && (
        <label className="text-base text-ink-2">
          Your name, if you like
          <input
            className="mt-1 block w-full rounded border border-line bg-card px-3 py-2 text-lg text-ink"
            value={name}
            maxLength={200}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
      )}
      <div role="radiogroup" aria-label="Codes, from left to right" className="grid gap-3">
        {[...data.codes, ...(data.may_have_none ? ["-"] : [])].map((code) => (
          <label
            key={code}
            className={`flex items-center gap-3 rounded-lg border-2 bg-card px-4 py-4 ${chosen === code ? "border-fern-700" : "border-line"}`}
          >
            <input
              type="radio"
              name="code"
              className="size-5 accent-fern-700"
              checked={chosen === code}
              onChange={() => setPicked(code)}
            />
            <span className={code === "-" ? "" : "text-3xl font-semibold tracking-widest"}>
              {code === "-" ? "No preference" : code}
            </span>
          </label>
        ))}
      </div>
      <Button
        look="main"
        className="py-3 text-lg"
        disabled={!picked || send.isPending}
        onClick={() => picked && send.mutate(picked)}
      >
        {data.answered ? "Change my answer" : "That is my answer"}
      </Button>
      {data.answered && !picked && (
        <p role="status">Noted: {data.answered === "-" ? "no preference" : data.answered}. Thank you.</p>
      )}
      {send.error && <Notice>{send.error.message}</Notice>}
    </main>
  );
}
