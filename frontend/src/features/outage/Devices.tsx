import type { ReactNode } from "react";
import type { RunResult } from "../../api/client";
import { useDesk } from "../../api/plan";
import { energy, tenth, whole } from "../../ui/format";
import { told, useUnits } from "../../ui/quantity";
import { useMoments } from "../../ui/useMoments";

/** What every device gave and took over the outage, in a sentence each, and what was not used. */
export function Devices({ run }: { run: RunResult }) {
  const units = useUnits();
  const { moment } = useMoments(useDesk().view.plan.site.time_zone ?? "UTC");
  const start = new Date(run.start).getTime();
  const sources = Object.entries(run.sources ?? {}).filter(([, source]) => source.kind !== "station");
  const unused = run.unused ?? [];
  return (
    <section aria-label="By device" className="mt-4">
      <h2 className="border-b border-ink pb-1">By device</h2>
      <ul className="pt-1">
        {Object.entries(run.batteries ?? {}).map(([id, cell]) => (
          <Device key={id} name={cell.name}>
            {whole(cell.start_percent)} to {whole(cell.end_percent)} %, lowest {whole(cell.lowest_percent)} %;
            gave {energy(cell.given_wh)}
            {cell.charged_wh > 0.5 && `, took ${energy(cell.charged_wh)}`}
            {Object.values(cell.readings ?? {}).map(
              (own) =>
                `; ${own.name} ${whole(own.start_percent)} to ${whole(own.end_percent)} %, lowest ${whole(own.lowest_percent)} %`,
            )}
          </Device>
        ))}
        {Object.entries(run.suns ?? {}).map(([id, sun]) => (
          <Device key={id} name={sun.name}>
            offered {energy(sun.offered_wh)}, taken {energy(sun.taken_wh)}
            {sun.clipped_wh > 0.5 && `, over its input ${energy(sun.clipped_wh)}`}
            {sun.curtailed_wh > 0.5 && `, no room for ${energy(sun.curtailed_wh)}`}
          </Device>
        ))}
        {sources.map(([id, source]) => (
          <Device key={id} name={source.name}>
            gave {energy(source.given_wh)} in {tenth(source.on_s / 3600)} h
            {source.starts != null && `, ${whole(source.starts)} starts`}
            {source.engine_h != null && `, its engine ${tenth(source.engine_h)} h`}
            {source.burned_l != null && `, burned ${told(source.burned_l, "L", units)}`}
            {source.left_l != null && `, ${told(source.left_l, "L", units)} left`}
            {(source.light_s ?? 0) > 60 &&
              `, ${tenth((source.light_s ?? 0) / 3600)} h under its healthy minimum`}
          </Device>
        ))}
        {Object.entries(run.compartments ?? {}).map(([id, part]) => (
          <Device key={id} name={part.name}>
            contents {told(part.start_c, "°C", units)} at the start, warmest{" "}
            {told(part.highest_c, "°C", units)}, {told(part.end_c, "°C", units)} at the end
            {part.over_s > 0 && (
              <span className="text-stop">
                ; over {told(part.limit_c, "°C", units)} for {tenth(part.over_s / 3600)} h
                {part.spoils_at_s != null &&
                  `: throw away what spoils from ${moment(start + part.spoils_at_s * 1000)} on`}
              </span>
            )}
          </Device>
        ))}
        {Object.entries(run.indoor ?? {}).map(
          ([id, room]) =>
            room.under_at_s != null &&
            room.limit_c != null && (
              <Device key={id} name="indoors">
                <span className="text-stop">
                  colder than {told(room.limit_c, "°C", units)} from {moment(start + room.under_at_s * 1000)}{" "}
                  on: pipes may freeze
                </span>
              </Device>
            ),
        )}
        {unused.map((part) => (
          <Device key={part.name} name={part.name}>
            <span className="text-caution">not used: {part.why}</span>
          </Device>
        ))}
      </ul>
    </section>
  );
}

function Device({ name, children }: { name: string; children: ReactNode }) {
  return (
    <li className="py-0.5">
      <b>{name}</b>: <span>{children}</span>
    </li>
  );
}
