import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { DateField } from "../../ui/ClockField";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";

type Weather = Plan["outage"]["weather"];

/** Weather out of a file of a typical year, as on a chosen day; or what the simulated forecast says. */
export function WeatherFile({ set }: { set: (part: Partial<Weather>) => void }) {
  const { view } = useDesk();
  const { site, outage } = view.plan;
  const [asOn, setAsOn] = useState("");
  const first = outage.start_local.slice(0, 10);
  const file = useMutation({
    mutationFn: (chosen: File) =>
      answer(
        client.POST("/api/plans/{plan_id}/weather-file", {
          params: { path: { plan_id: view.id } },
          ...filesBody({ file: chosen, as_on: asOn || first }),
        }),
      ),
    onSuccess: ({ hourly_c, hourly_sun }) => set({ hourly_c, hourly_sun }),
  });
  const days = Math.min(32, Math.ceil((outage.length_s ?? 86_400) / 86_400) + 1);
  const forecast = useMutation({
    mutationFn: () =>
      answer(
        client.GET("/api/stand-ins/forecast", {
          params: {
            query: { latitude: site.latitude ?? 40, longitude: site.longitude ?? -100, first, days },
          },
        }),
      ),
    onSuccess: ({ hourly_c, sky }) => {
      const hour = Number(outage.start_local.slice(11, 13));
      set({ hourly_c: hourly_c.slice(hour), sky, hourly_sun: null });
    },
  });
  const refused = file.error ?? forecast.error;
  return (
    <span className="inline-flex basis-full flex-wrap items-baseline gap-x-3">
      <span className="text-faint">or a weather file (EPW, TMY3)</span>
      <DateField label="as on" value={asOn || first} onSave={setAsOn} />
      <FileButton label="Weather file" accept=".epw,.csv,.txt" onChoose={(chosen) => file.mutate(chosen)}>
        Choose a weather file
      </FileButton>
      <button type="button" className="act" onClick={() => forecast.mutate()}>
        Ask the simulated forecast
      </button>
      {file.isPending && <span role="status">reading</span>}
      {refused && (
        <span role="alert" className="basis-full text-stop">
          {refused.message}
        </span>
      )}
    </span>
  );
}
