import { ToggleGroup } from "radix-ui";
import type { Mark } from "../../api/client";

export const MARKS: readonly Mark[] = ["keep", "room", "off"];
export const MARK_WORDS: Record<Mark, string> = { keep: "keep", room: "when there is room", off: "off" };

/** Keep, when there is room, or off. */
export function MarkChoice({
  label,
  mark,
  onMark,
}: {
  label: string;
  mark: Mark;
  onMark: (mark: Mark) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      value={mark}
      onValueChange={(next) => next && onMark(next as Mark)}
      aria-label={`Mark of ${label}`}
      className="flex shrink-0"
    >
      {MARKS.map((item) => (
        <ToggleGroup.Item
          key={item}
          value={item}
          title={MARK_WORDS[item]}
          aria-label={MARK_WORDS[item]}
          tabIndex={-1}
          className="h-[26px] min-w-[30px] max-sm:h-[40px] max-sm:min-w-[52px] border-b-2 border-transparent px-1 text-[12px] text-faint hover:text-cedar data-[state=on]:border-cedar data-[state=on]:font-bold data-[state=on]:text-ink"
        >
          {item}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
