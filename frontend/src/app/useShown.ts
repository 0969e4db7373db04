import { useEffect } from "react";
import { useLocation } from "react-router";

/** So long a part is waited for after its screen was opened, ms; looked for every so often. */
const PATIENCE_MS = 3_000;
const LOOKED_MS = 60;

function found(part: string): HTMLElement | null {
  const circuit = /^circuits\/(.+)$/.exec(part)?.[1];
  const selector = circuit ? `[data-circuit="${CSS.escape(circuit)}"]` : `[data-part="${CSS.escape(part)}"]`;
  return document.querySelector<HTMLElement>(selector);
}

/** Open, bring into sight and focus an element; one that is closed up in others is opened out of them. */
export function showElement(element: HTMLElement) {
  for (let box = element.closest("details"); box; box = box.parentElement?.closest("details") ?? null)
    box.open = true;
  element.scrollIntoView({ block: "center" });
  const inside = element.matches("details, tr, li")
    ? element.querySelector<HTMLElement>("summary, button, input")
    : null;
  (inside ?? element).focus();
}

/** An address such as /plans/x/gear#stations/main opens that part on its screen. */
export function useShown() {
  const { hash, key } = useLocation();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the same address chosen again shows its part again
  useEffect(() => {
    const part = decodeURIComponent(hash.slice(1));
    if (!part.includes("/")) return;
    const since = Date.now();
    const timer = window.setInterval(() => {
      const element = found(part);
      if (element || Date.now() - since > PATIENCE_MS) window.clearInterval(timer);
      if (!element) return;
      if (element.dataset.circuit) element.click();
      showElement(element);
    }, LOOKED_MS);
    return () => window.clearInterval(timer);
  }, [hash, key]);
}
