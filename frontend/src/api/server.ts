import { useSyncExternalStore } from "react";

/** Whether the server answered when it was last asked; an answer that this device had kept is none of it. */

let there = true;
const listeners = new Set<() => void>();

export function noteServer(answered: boolean) {
  if (there === answered) return;
  there = answered;
  for (const listener of listeners) listener();
}

export const useServerThere = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => there,
  );

/** Keep screens and sheets on this device, where the browser does that: on the machine itself, or by https. */
export function keepScreens() {
  if (import.meta.env.PROD) void navigator.serviceWorker?.register("/worker.js").catch(() => undefined);
}

/**
 * Everything that a sheet at the panel needs, asked for once more where the worker keeps it; whether it is kept.
 * Browsers keep nothing for a page that comes neither from the machine itself nor by https.
 */
export async function keepSheets(planId: string): Promise<boolean> {
  const worker = navigator.serviceWorker;
  if (!worker || !import.meta.env.PROD) return false;
  await worker.ready;
  if (!worker.controller) await new Promise((done) => worker.addEventListener("controllerchange", done));
  const of = `/api/plans/${encodeURIComponent(planId)}`;
  const needed = [of, `${of}/sheets`, `${of}/record`, "/api/library/gear", "/api/library/behaviours"];
  const answers = await Promise.allSettled(needed.map((path) => fetch(path)));
  return answers.every((answer) => answer.status === "fulfilled" && answer.value.ok);
}
