import type { Plan, RunResult } from "../../api/client";
import { percent, tenth, watts, whole } from "../../ui/format";
import { told, useUnits } from "../../ui/quantity";
import { useMoments } from "../../ui/useMoments";
import { chargeAt, coldAt, feedingAt, indexAt, runningAt } from "./series";

/** What is true at the moment under the cursor, in a line or two. */
export function Moment({ run, at, plan }: { run: RunResult; at: number; plan: Plan }) {
  const series = run.series;
  const { moment } = useMoments(plan.site.time_zone ?? "UTC");
  const units = useUnits();
  const index = indexAt(series?.t_s ?? [], at);
  const read = (values?: readonly number[]) => values?.[index] ?? 0;
  const running = runningAt(run, at);
  const instant = new Date(run.start).getTime() + at * 1000;
  const split = plan.site.system !== "single_phase_230";
  return (
    <section aria-label="The moment" data-testid="moment" className="min-h-[64px]">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <strong className="w-36 text-[1.05rem]">{moment(instant)}</strong>
        <span className="w-44">
          <b className="text-leg-a">{split ? "Leg A" : "Line"}</b> {watts(read(series?.a_w))},{" "}
          {tenth(read(series?.a_a))} A
        </span>
        {split && (
          <span className="w-44">
            <b className="text-leg-b">Leg B</b> {watts(read(series?.b_w))}, {tenth(read(series?.b_a))} A
          </span>
        )}
        {split && <span className="w-28">neutral {tenth(read(series?.neutral_a))} A</span>}
        <strong>{whole(chargeAt(run, at))} % charged</strong>
        {read(series?.account) > 0 && (
          <span className="text-caution">overload account {percent(read(series?.account))}</span>
        )}
      </div>
      <p>
        {feedingAt(run, at).join(" · ") || "Nothing gives power."}
        {coldAt(run, at).map(([name, celsius, over]) => (
          <span key={name} className={over ? "text-stop" : undefined}>
            {" "}
            · {name} {told(celsius, "°C", units)}
          </span>
        ))}
      </p>
      <p className="line-clamp-2 text-faint">
        {running.length === 0
          ? "Nothing draws power."
          : running.map(({ id, watts: w }) => `${plan.loads?.[id]?.name} ${watts(w)}`).join(" · ")}
      </p>
    </section>
  );
}
