import { LEVELS } from "./FindingItem";

/** The gravest finding of something, as a sign with its word; notes are left to the list. */
export function LevelMark({ level }: { level: keyof typeof LEVELS | undefined }) {
  if (!level || level === "note") return null;
  const [Sign, colour, word] = LEVELS[level];
  return (
    <span className={`ml-3 inline-flex items-baseline gap-1 ${colour}`}>
      <Sign size={14} aria-hidden className="self-center" />
      {word}
    </span>
  );
}
