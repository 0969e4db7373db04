import { ClockField } from "./ClockField";

type Hours = { begins: string; ends: string };

/** Hours of every day in which something may run, or none. */
export function HoursField({
  hours,
  onSave,
}: {
  hours: Hours | null;
  onSave: (hours: Hours | null) => void;
}) {
  if (hours === null)
    return (
      <button type="button" className="act" onClick={() => onSave({ begins: "08:00:00", ends: "20:00:00" })}>
        Only in some hours
      </button>
    );
  const clock = (label: string, key: keyof Hours) => (
    <ClockField label={label} value={hours[key]} onSave={(at) => onSave({ ...hours, [key]: at })} />
  );
  return (
    <>
      {clock("from", "begins")}
      {clock("to", "ends")}
      <button type="button" className="act" onClick={() => onSave(null)}>
        At any hour
      </button>
    </>
  );
}
