import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { ChoiceField } from "../../ui/ChoiceField";
import { CountField } from "../../ui/CountField";
import { CouldNot } from "./CouldNot";
import { Decides } from "./Decides";
import { fresh, type Given, newPlan, usualPlate } from "./given";
import { PlanSoFar } from "./PlanSoFar";
import { RoomsField } from "./RoomsField";
import { StationField } from "./StationField";

const NOT_YET = ["", "not yet"] as const;
const NOTHING = ["", "nothing yet"] as const;

const REACH = [
  NOT_YET,
  ["interlock_inlet", "an inlet and an interlocked breaker"],
  ["transfer_switch", "a transfer switch for some circuits"],
  ["transfer_panel", "a transfer switch for the whole panel"],
  ["appliance_switch", "a switch or inlet for one appliance"],
  ["bridged", "one 120 V hot on both legs"],
  ["cords", "cords to the appliances"],
] as const;

const COPIES = [
  ["foothill", "the foothill house"],
  ["canal", "the canal-side duplex"],
  ["hut", "the pass keeper's hut, 230 V"],
  ["orchard", "the orchard and workshop"],
] as const;
type Copy = (typeof COPIES)[number][0];

/** A few questions that build a plan before one's eyes. Every answer may be “not yet”. */
export function Begin() {
  const [given, setGiven] = useState<Given>(fresh);
  const [copy, setCopy] = useState<Copy>("foothill");
  const queries = useQueryClient();
  const navigate = useNavigate();
  const set = (part: Partial<Given>) => setGiven((now) => ({ ...now, ...part }));
  const climates = useQuery({
    queryKey: ["climates"],
    queryFn: () => answer(client.GET("/api/library/climates")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const gear = useQuery({
    queryKey: ["gear"],
    queryFn: () => answer(client.GET("/api/library/gear")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const begin = useMutation({
    mutationFn: (body: ReturnType<typeof newPlan>) => answer(client.POST("/api/plans", { body })),
    onSuccess: (plan) => {
      queries.invalidateQueries({ queryKey: ["plans"] });
      navigate(`/plans/${plan.id}/needs`);
    },
  });
  return (
    <main className="mx-auto max-w-[1200px] px-5 py-6">
      <p className="font-semibold text-cedar">
        <Link to="/plans">Weary Cedar</Link>
      </p>
      <h1>Begin a plan</h1>
      <p className="mb-4 max-w-[760px] text-faint">
        Five questions; every answer can wait, and everything can be changed later. Nothing is put into the
        plan that you do not say.
      </p>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
        <form
          aria-label="Begin a plan"
          onSubmit={(event) => {
            event.preventDefault();
            begin.mutate(newPlan(given));
          }}
        >
          <Question number={1} title="Where is it?">
            <label className="inline-flex items-baseline gap-1">
              <span className="text-faint">name of the plan</span>
              <input
                className="field w-52"
                required
                maxLength={80}
                value={given.name}
                onChange={(event) => set({ name: event.target.value })}
              />
            </label>
            <ChoiceField
              label="climate"
              value={given.climate_id}
              choices={[NOT_YET, ...(climates ?? []).map((item) => [item.climate_id, item.name] as const)]}
              onSave={(climate_id) =>
                set({
                  climate_id,
                  ...(given.station === "plate"
                    ? {}
                    : usualPlate(climates?.find((item) => item.climate_id === climate_id)?.system)),
                })
              }
            />
            <ChoiceField
              label="units"
              value={given.units}
              choices={[
                ["", "as is usual there"],
                ["us", "°F, feet, gallons"],
                ["metric", "°C, metres, litres"],
              ]}
              onSave={(units) => set({ units })}
            />
            <details className="w-full">
              <summary className="min-h-[26px] cursor-pointer text-faint">
                Or its latitude and longitude, and its coldest morning
              </summary>
              <span className="inline-flex flex-wrap gap-x-6 gap-y-1">
                <CountField
                  label="latitude, °, north"
                  value={given.latitude}
                  onSave={(latitude) => set({ latitude })}
                />
                <CountField
                  label="longitude, °, east"
                  value={given.longitude}
                  onSave={(longitude) => set({ longitude })}
                />
                <CountField
                  label="coldest morning, °C"
                  value={given.coldest}
                  onSave={(coldest) => set({ coldest })}
                />
              </span>
            </details>
            {given.climate_id === "" && (
              <ChoiceField
                label="supply"
                value={given.system}
                choices={[
                  ["", "120/240 V, two legs"],
                  ["single_phase_230", "230 V"],
                ]}
                onSave={(system) => set({ system, ...usualPlate(system || "split_phase_120_240") })}
              />
            )}
          </Question>
          <Question number={2} title="What do you have that gives power?">
            <StationField
              given={given}
              set={set}
              classes={gear?.stations ?? []}
              receptacles={gear?.receptacle_kinds ?? []}
            />
            <span className="inline-flex flex-wrap items-baseline gap-x-3">
              <ChoiceField
                label="solar modules"
                value={given.modules}
                choices={[
                  NOTHING,
                  ...(gear?.modules ?? []).map((item) => [item.class_id, item.array.name] as const),
                ]}
                onSave={(modules) => set({ modules })}
              />
              {given.modules !== "" && (
                <CountField
                  label={given.how_many === "one" ? "how many modules" : "how many modules on each"}
                  value={given.count}
                  onSave={(count) => set({ count })}
                />
              )}
            </span>
            <ChoiceField
              label="engine"
              value={given.engine}
              choices={[
                NOTHING,
                ...(gear?.generators ?? []).map((item) => [item.class_id, item.generator.name] as const),
              ]}
              onSave={(engine) => set({ engine })}
            />
            <ChoiceField
              label="car that gives power"
              value={given.car}
              choices={[
                NOTHING,
                ...(gear?.vehicles ?? []).map((item) => [item.class_id, item.vehicle.name] as const),
              ]}
              onSave={(car) => set({ car })}
            />
          </Question>
          <Question number={3} title="How does it reach the house?">
            <ChoiceField
              label="by"
              value={given.reach}
              choices={REACH}
              onSave={(reach) => set({ reach: reach as Given["reach"] })}
            />
          </Question>
          <Question number={4} title="What must run, and what may when there is room?">
            <Decides given={given} set={set} />
            <RoomsField
              given={given}
              set={set}
              system={
                given.climate_id === ""
                  ? given.system || "split_phase_120_240"
                  : ((climates ?? []).find((item) => item.climate_id === given.climate_id)?.system ??
                    "split_phase_120_240")
              }
            />
          </Question>
          <Question number={5} title="For how long?">
            <CountField
              label="hours without the utility"
              value={given.hours}
              onSave={(hours) => set({ hours })}
            />
          </Question>
          {begin.isError && <CouldNot error={begin.error} kept="Your answers are still here." />}
          <button
            type="submit"
            className="mt-4 min-h-[44px] border border-cedar bg-cedar px-5 font-semibold text-paper"
          >
            Open the plan
          </button>
        </form>
        <div className="lg:sticky lg:top-4 lg:self-start">
          <PlanSoFar given={given} />
          <p className="mt-6 flex flex-wrap items-baseline gap-3 border-t border-rule pt-2">
            <ChoiceField label="or take a copy of" value={copy} choices={COPIES} onSave={setCopy} />
            <button
              type="button"
              className="act"
              onClick={() => {
                const words = COPIES.find(([key]) => key === copy)?.[1] ?? copy;
                const name = given.name.trim() || `A copy of ${words}`.slice(0, 80);
                begin.mutate({ ...newPlan(fresh), name, begin: copy, answers: null });
              }}
            >
              Copy it
            </button>
          </p>
        </div>
      </div>
    </main>
  );
}

function Question({ number, title, children }: { number: number; title: string; children: ReactNode }) {
  return (
    <fieldset className="mb-4">
      <legend className="w-full border-b border-ink pb-1 font-semibold">
        <span className="mr-2 text-faint">{number}</span>
        {title}
      </legend>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 pt-2">{children}</div>
    </fieldset>
  );
}
