import type { Sheet } from "./kinds";
import type { Tick } from "./progress";

/** The end of a sheet: what was left off, what did not fit, what was not read, and what comes next. */
export function Ended({ sheet, ticks }: { sheet: Sheet; ticks: readonly Tick[] }) {
  const steps = sheet.steps ?? [];
  const unread = ticks.reduce((count, tick) => count + tick.unread.length, 0);
  const some = (kind: Tick["kind"]) =>
    ticks.flatMap((tick, index) =>
      tick.kind === kind ? [{ tick, action: steps[index]?.action ?? "" }] : [],
    );
  const off = some("left_off");
  const wrong = some("deviates");
  return (
    <div data-testid="ended">
      <p className="my-4 text-[20px]">
        All {steps.length} steps are gone through
        {off.length + wrong.length > 0 ? ", not all as written." : "."}
      </p>
      {wrong.length > 0 && (
        <ul className="my-2 border-l-4 border-stop py-1 pl-3" aria-label="Not as it should be">
          {wrong.map(({ tick, action }) => (
            <li key={tick.id}>
              {action}: {tick.wrong.join(" ") || "not as written"}
            </li>
          ))}
        </ul>
      )}
      {off.length > 0 && (
        <ul className="my-2 border-l-4 border-caution py-1 pl-3" aria-label="Left off">
          {off.map(({ tick, action }) => (
            <li key={tick.id}>Left off: {action}</li>
          ))}
        </ul>
      )}
      {unread > 0 && (
        <p className="my-2 border-l-4 border-caution py-1 pl-3">
          {unread === 1 ? "1 reading was" : `${unread} readings were`} not taken.
        </p>
      )}
      <h3 className="text-faint">Next</h3>
      <ul className="list-disc pl-5 text-[18px]">
        {sheet.next?.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </div>
  );
}
