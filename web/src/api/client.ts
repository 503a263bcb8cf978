/** The typed client, and errors as sentences. */
import createClient from "openapi-fetch";
import type { paths } from "./generated/schema";
import type { Problem } from "./types";

export const client = createClient<paths>({ baseUrl: window.location.origin });

/** The server refused, with a sentence for the user. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.message);
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super("The app’s server does not answer. What you typed is kept here and will be saved when it is back.");
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Asks until what takes the server a while is worked out; each answer that it is not comes when it has waited a little. */
export async function workedOut<T extends { status: string }>(
  ask: () => Promise<T>,
): Promise<Exclude<T, { status: "computing" }>> {
  for (;;) {
    const found = await ask();
    if (found.status !== "computing") return found as Exclude<T, { status: "computing" }>;
  }
}

/** The data of an answer; a refusal or a lost connection becomes an error with a sentence. */
export async function answered<T>(request: Promise<Answer<T>>): Promise<T> {
  const answer = await request.catch(() => {
    throw new Unreachable();
  });
  if (!answer.response.ok) {
    const problem = answer.error as Problem | undefined;
    throw new Refused(
      answer.response.status,
      problem?.message ? problem : { code: "Unknown", message: "The server refused without saying why." },
    );
  }
  return answer.data as T;
}
