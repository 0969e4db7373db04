import { useSyncExternalStore } from "react";

export type Palette = "system" | "day" | "night";

const KEY = "weary-cedar-palette";
const dark = window.matchMedia("(prefers-color-scheme: dark)");
const listeners = new Set<() => void>();

const chosen = (): Palette => (localStorage.getItem(KEY) as Palette | null) ?? "system";

function apply() {
  const palette = chosen();
  const night = palette === "night" || (palette === "system" && dark.matches);
  document.documentElement.dataset.palette = night ? "night" : "day";
}

export function startPalette() {
  apply();
  dark.addEventListener("change", apply);
}

export function usePalette(): [Palette, (palette: Palette) => void] {
  const palette = useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, chosen);
  const set = (next: Palette) => {
    localStorage.setItem(KEY, next);
    apply();
    for (const listener of listeners) listener();
  };
  return [palette, set];
}
