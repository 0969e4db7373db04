import { useEffect, useState } from "react";

const QUERY = "(max-width: 639px)";

/** Whether the screen is as narrow as a phone. */
export function useNarrow(): boolean {
  const [narrow, setNarrow] = useState(() => window.matchMedia(QUERY).matches);
  useEffect(() => {
    const media = window.matchMedia(QUERY);
    const told = () => setNarrow(media.matches);
    media.addEventListener("change", told);
    return () => media.removeEventListener("change", told);
  }, []);
  return narrow;
}
