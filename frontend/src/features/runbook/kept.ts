/**
 * What this device keeps of what was done at the panel: until the server has it, or for good in a pocket file.
 * A device that keeps nothing (a private window, a full store) keeps it as long as the page is open.
 */

const memory = new Map<string, string>();
let refused = false;

/** Whether something could not be kept, so that it is gone with this page. */
export const keepsNothing = () => refused;

export function keep(key: string, value: unknown) {
  const text = value === null ? null : JSON.stringify(value);
  if (text === null) memory.delete(key);
  else memory.set(key, text);
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
  } catch {
    refused = true;
  }
}

/** Hear of what another window keeps or lets go; of all of it where no key is said. */
export function listenElsewhere(listener: (key: string | null) => void): () => void {
  const hear = (event: StorageEvent) => {
    if (event.key === null) memory.clear();
    else memory.delete(event.key);
    listener(event.key);
  };
  window.addEventListener("storage", hear);
  return () => window.removeEventListener("storage", hear);
}

function textOf(key: string): string | null {
  try {
    return localStorage.getItem(key) ?? memory.get(key) ?? null;
  } catch {
    return memory.get(key) ?? null;
  }
}

/** Keys of what is kept that begin so. */
export function keysWith(prefix: string): string[] {
  const found = new Set([...memory.keys()].filter((key) => key.startsWith(prefix)));
  try {
    for (let index = 0; index < localStorage.length; index += 1) {
      const key = localStorage.key(index);
      if (key?.startsWith(prefix)) found.add(key);
    }
  } catch {
    refused = true;
  }
  return [...found];
}

/** What is kept under a key; what cannot be read stays there, and counts as nothing. */
export function kept<T>(key: string): T | null {
  const text = textOf(key);
  try {
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}
