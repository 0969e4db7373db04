import { useQuery } from "@tanstack/react-query";
import { answer, client, type Load, type MeterReport } from "../../api/client";
import { useDesk } from "../../api/plan";
import { energy, percent, tenth, watts, whole } from "../../ui/format";

interface Props {
  report: MeterReport;
  load: Load;
  loadId: string;
  onAccept: (load: Load) => void;
  onDrop: () => void;
}

/** What the series says, and what would change if it is accepted. */
export function Report({ report, load, loadId, onAccept, onDrop }: Props) {
  const { view } = useDesk();
  const next = {
    ...load,
    origin: "measured",
    behaviour: report.behaviour,
    start: report.start ?? load.start,
  } as Load;
  const trial = useQuery({
    queryKey: ["trial", view.id, view.revision, loadId, report],
    queryFn: () =>
      answer(
        client.POST("/api/plans/{plan_id}/try", {
          params: { path: { plan_id: view.id } },
          body: { loads: { [loadId]: next } } as never,
        }),
      ),
  });
  const mended = [
    [report.gap_hours > 0.05, `${tenth(report.gap_hours)} h of gaps left out`],
    [report.bad_rows > 0, `${report.bad_rows} rows passed over`],
    [report.duplicates > 0, `${whole(report.duplicates)} repeated rows counted once`],
    [report.resets > 0, `${report.resets} resets of the counter`],
    [report.clock_changes > 0, "the clock was set back once"],
  ] as const;
  const notes = mended.filter(([is]) => is).map(([, words]) => words);
  return (
    <div className="my-2 border-l-4 border-rule pl-3" data-testid="meter-report">
      <p>
        <strong>
          {energy(report.wh_day)} a day ± {whole(report.wh_day_error)}
        </strong>
        , watched {tenth(report.hours)} h in {whole(report.rows)} rows.
      </p>
      {report.cycles ? (
        <p>
          On {watts(report.on_w)}, off {tenth(report.off_w)} W, on for {percent(report.duty)}
          {report.period_s ? ` of every ${tenth(report.period_s / 60)} min` : ""}; {report.cycles_seen} cycles
          seen
          {report.start_w ? `; starts at ${whole(report.start_w)} W` : "; too coarse to see a start"}.
        </p>
      ) : (
        <p>Steady at {watts(report.mean_w)}.</p>
      )}
      {report.unusual.slice(0, 3).map((stretch) => (
        <p key={stretch.begins_s} className="text-faint">
          After {tenth(stretch.begins_s / 3600)} h, for {whole((stretch.ends_s - stretch.begins_s) / 60)} min
          at {watts(stretch.mean_w)}: {stretch.what}
        </p>
      ))}
      {report.unusual.length > 3 && (
        <p className="text-faint">and {report.unusual.length - 3} more like these.</p>
      )}
      {notes.length > 0 && <p className="text-faint">{notes.join("; ")}.</p>}
      {trial.data && (
        <p className="mt-1" data-testid="trial">
          If accepted, the day takes {energy(trial.data.after.wh_day)} instead of{" "}
          {energy(trial.data.before.wh_day)}, give or take {energy(trial.data.after.wh_day_error)} instead of{" "}
          {energy(trial.data.before.wh_day_error)}. The plan:{" "}
          {trial.data.after.verdict.headline.toLowerCase()}, {trial.data.after.verdict.sentence}.
        </p>
      )}
      <button type="button" className="act font-semibold" onClick={() => onAccept(next)}>
        Accept
      </button>{" "}
      <button type="button" className="act" onClick={onDrop}>
        Leave it as it was
      </button>
    </div>
  );
}
