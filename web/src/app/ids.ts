/** Ids of entries that a user adds: no other window makes the same. */

/** Eight hexadecimal digits; also where the page is not served securely. */
export function freshId(prefix: string): string {
  const bytes = crypto.getRandomValues(new Uint8Array(4));
  return `${prefix}-${[...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("")}`;
}
