/** The browser's storage, where it may be full or denied: then nothing is kept there, and the page works on. */

type Where = "localStorage" | "sessionStorage";

export function kept(key: string, where: Where = "localStorage"): string | null {
  try {
    return window[where].getItem(key);
  } catch {
    return null;
  }
}

/** Whether it could be kept. */
export function keep(key: string, text: string, where: Where = "localStorage"): boolean {
  try {
    window[where].setItem(key, text);
    return true;
  } catch {
    return false;
  }
}

export function letGo(key: string, where: Where = "localStorage") {
  try {
    window[where].removeItem(key);
  } catch {
    // nothing can have been kept
  }
}

export function keptKeys(): string[] {
  try {
    return Object.keys(window.localStorage);
  } catch {
    return [];
  }
}
