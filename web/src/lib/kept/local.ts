/** Keeps a text in this browser; false where it has no room, or is not allowed to. What reads it does without. */
export function keepLocal(key: string, value: string): boolean {
  try {
    localStorage.setItem(key, value);
    return true;
  } catch {
    return false;
  }
}

/** What was kept so, read from JSON; the other where nothing was, or it cannot be read. */
export function local<T>(key: string, otherwise: T): T {
  try {
    const kept = localStorage.getItem(key);
    return kept === null ? otherwise : (JSON.parse(kept) as T);
  } catch {
    return otherwise;
  }
}
