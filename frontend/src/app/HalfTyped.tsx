import { useEffect, useRef, useState } from "react";
import { keepHalfTyped, putBack, takeHalfTyped } from "./halfTyped";

/** So long a field is waited for when a page was loaded anew, ms; looked for every so often. */
const PATIENCE_MS = 4_000;
const LOOKED_MS = 100;

/** Brings back what was typed and not saved when the page was loaded anew, and says so. */
export function HalfTyped() {
  const [told, setTold] = useState<string[]>([]);
  const kept = useRef<ReturnType<typeof takeHalfTyped> | null>(null);
  useEffect(() => {
    window.addEventListener("pagehide", keepHalfTyped);
    kept.current ??= takeHalfTyped();
    const since = Date.now();
    const timer = window.setInterval(() => {
      const open = kept.current ?? [];
      const late = Date.now() - since > PATIENCE_MS;
      const done = open.filter((item) => putBack(item));
      const words = (item: (typeof open)[number], end: string) => `“${item.text}” in ${item.label} ${end}`;
      const lines = done.map((item) => words(item, "is back in its field, not saved yet."));
      if (late)
        lines.push(
          ...open
            .filter((item) => !done.includes(item))
            .map((item) => words(item, "was not saved when the page was closed; its field is not open now.")),
        );
      if (lines.length > 0) setTold((before) => [...before, ...lines]);
      kept.current = late ? [] : open.filter((item) => !done.includes(item));
      if (kept.current.length === 0) window.clearInterval(timer);
    }, LOOKED_MS);
    return () => {
      window.removeEventListener("pagehide", keepHalfTyped);
      window.clearInterval(timer);
    };
  }, []);
  if (told.length === 0) return null;
  return (
    <div role="status" className="mb-3 flex items-start gap-4 border-l-4 border-caution py-1 pl-3">
      <p>{told.join(" ")}</p>
      <button type="button" className="act ml-auto" onClick={() => setTold([])}>
        Close
      </button>
    </div>
  );
}
