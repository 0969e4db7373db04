import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";

/** Each day in a paragraph, made from the run: to be printed, or taken along as a calendar. */
export function DayPlan() {
  const { view } = useDesk();
  const path = { plan_id: view.id };
  const found = useQuery({
    queryKey: ["days", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/days", { params: { path } })),
    placeholderData: (before) => before,
  });
  const sheet = found.data;
  return (
    <section aria-label="Day by day" className="mt-6 printed" data-testid="days">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        Day by day
        <span className="ml-auto flex gap-3 text-[14px] font-normal unprinted">
          <button type="button" className="act" onClick={() => window.print()}>
            Print
          </button>
          <a className="act" href={`/api/plans/${view.id}/days.ics`} download>
            As a calendar
          </a>
          <a className="act" href={`/api/plans/${view.id}/results.zip`} download>
            The run as CSV
          </a>
        </span>
      </h2>
      <CannotShow asked={found} what="days" />
      {sheet && sheet.stops.length > 0 && (
        <p className="my-2 border-l-4 border-stop pl-3 font-semibold text-stop">
          Do not energise on this plan: {sheet.stops.join("; ")}.
        </p>
      )}
      {sheet && (
        <p className="py-1 text-faint">
          {view.plan.name}: {sheet.verdict}. A forecast, not a promise: read the display, and go by that.
        </p>
      )}
      <ol>
        {sheet?.days.map((day) => (
          <li key={day.begins} className="border-b border-rule py-1.5">
            <strong className="mr-2">{day.day}.</strong>
            {day.text}
          </li>
        ))}
      </ol>
    </section>
  );
}
