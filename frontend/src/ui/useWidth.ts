import { type RefObject, useEffect, useState } from "react";

/** The width of a drawing's box, px; at least that of a phone. */
export function useWidth(box: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(1200);
  useEffect(() => {
    const watcher = new ResizeObserver(
      ([entry]) => entry && setWidth(Math.max(320, entry.contentRect.width)),
    );
    if (box.current) watcher.observe(box.current);
    return () => watcher.disconnect();
  }, [box]);
  return width;
}
