import { type Clock, dateOf, readDate, readTime, timeOf } from "./clock";
import { useUnits } from "./quantity";
import { ReadField } from "./ReadField";

interface Props {
  label: string;
  value: string;
  onSave: (value: string) => void;
  hideLabel?: boolean;
}

const EXAMPLES: Record<Clock, string> = { "24": "18:30", "12": "6:30 pm" };

/** A time of day, stored as 18:30:00, written in 12 or 24 hours as set. */
export function ClockField(props: Props) {
  const clock = useUnits().clock;
  return (
    <ReadField
      {...props}
      width={clock === "12" ? "w-20" : "w-14"}
      written={(stored) => timeOf(stored, clock)}
      read={(text) => readTime(text, clock)}
      example={EXAMPLES[clock]}
    />
  );
}

/** A day of the calendar, stored as 2026-10-14. */
export function DateField(props: Props) {
  return (
    <ReadField
      {...props}
      width="w-28"
      written={dateOf}
      read={(text) => readDate(text, props.value)}
      example="14 Oct 2026"
    />
  );
}
