import { useQuery } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Load, type NeedList, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { energy, percent, watts, whole } from "../../ui/format";
import { freeId } from "../../ui/ids";
import { freshLoad } from "../load/fresh";
import { hangsOn } from "../load/hangs";
import { AddNeeds } from "./AddNeeds";
import { HeatWays } from "./HeatWays";
import { MeasureSheet } from "./MeasureSheet";
import { hiddenParts } from "./parts";
import { HouseReadings } from "./Readings";

const PRESETS = [
  ["an evening", 5],
  ["a day", 24],
  ["three days", 72],
  ["a week", 168],
] as const;

/** The standby of the house as a load, on the first circuit that is kept on. */
function standbyLoad(plan: Plan, circuit_id: string, watts: number): Record<string, Load> {
  const load = freshLoad("standby of the house", circuit_id, Math.round(watts * 10) / 10, "measured");
  return { [freeId("standby", plan.loads ?? {})]: load };
}

/** What must run, what each costs, how sure that is, and how to know it better. */
export function NeedsScreen() {
  const { view, edit } = useDesk();
  const [chosen, setChosen] = useState<string | null>(null);
  const path = { plan_id: view.id };
  const needs = useQuery({
    queryKey: ["needs", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/needs", { params: { path } })),
    placeholderData: (before) => before,
  });
  const hours = (view.plan.outage.length_s ?? 0) / 3600;
  const list = needs.data;
  const shown = chosen && view.plan.loads?.[chosen] ? chosen : (list?.measure_next ?? null);
  return (
    <>
      <h1 className="sr-only">Needs</h1>
      <p className="mb-2 text-faint">
        List what must run, the costliest first, and measure what is only guessed: guesses are off by a factor
        of two.
      </p>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <span className="text-faint">The outage lasts</span>
        {PRESETS.map(([words, length]) => (
          <button
            key={words}
            type="button"
            className="act aria-pressed:border-cedar aria-pressed:font-semibold"
            aria-pressed={hours === length}
            onClick={() => edit((plan) => ({ ...plan, outage: { ...plan.outage, length_s: length * 3600 } }))}
          >
            {words}
          </button>
        ))}
        {!PRESETS.some(([, length]) => length === hours) && <span>{whole(hours)} h</span>}
      </div>
      <CannotShow asked={needs} what="list of needs" />
      {list && <Summary list={list} onMeasure={setChosen} />}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div className="min-w-0 overflow-x-auto">
          {list && <NeedTable list={list} chosen={shown} onChoose={setChosen} />}
          {list && list.needs.length > 0 && (
            <p className="mt-2 flex flex-wrap gap-x-3">
              <a className="act" href={`/api/plans/${view.id}/needs.csv`} download>
                Save the list as CSV
              </a>
              <a className="act" href={`/api/plans/${view.id}/needs.xlsx`} download>
                As a spreadsheet
              </a>
              <Link className="act" to={`/plans/${view.id}/panel?as=table`}>
                With their breakers as a table
              </Link>
            </p>
          )}
          <div className="mt-6">
            <HeatWays />
          </div>
        </div>
        <div className="min-w-0 [overflow-wrap:anywhere]">
          {shown && <MeasureSheet loadId={shown} key={shown} />}
          <AddNeeds />
          <HouseReadings
            onStandby={(watts) => {
              const circuit = Object.entries(view.plan.circuits ?? {}).find(
                ([, item]) => item.mark === "keep",
              );
              if (!circuit) return;
              edit((plan) => ({
                ...plan,
                loads: { ...plan.loads, ...standbyLoad(plan, circuit[0], watts) },
              }));
            }}
          />
        </div>
      </div>
    </>
  );
}

function Summary({ list, onMeasure }: { list: NeedList; onMeasure: (id: string) => void }) {
  const long = list.how_long;
  const next = list.needs.find((need) => need.load_id === list.measure_next);
  if (list.needs.length === 0)
    return (
      <p className="mb-3 text-[1.05rem]" data-testid="needs-summary">
        Nothing is on the list yet. Find what must run under “Add what must run”, or type it as lines there.
      </p>
    );
  return (
    <p className="mb-3 text-[1.05rem]" data-testid="needs-summary">
      <strong>{energy(list.wh_day)} a day</strong>, give or take {energy(list.wh_day_error)}
      {long.hours != null && long.low_h != null && long.high_h != null && (
        <>
          . It lasts about {whole(long.hours)} h ({whole(long.low_h)} to {whole(long.high_h)} h): {long.basis}
        </>
      )}
      .
      {next && (
        <>
          {" "}
          Measure next:{" "}
          <button type="button" className="act font-semibold" onClick={() => onMeasure(next.load_id)}>
            {next.name}
          </button>{" "}
          <span className="text-faint">its doubt moves the runtime most</span>
        </>
      )}
    </p>
  );
}

const SURE: Record<string, string> = {
  measured: "measured",
  plate: "from the plate",
  estimate: "a guess",
  library: "typical of its class",
};

interface TableProps {
  list: NeedList;
  chosen: string | null;
  onChoose: (id: string) => void;
}

function NeedTable({ list, chosen, onChoose }: TableProps) {
  const { view, command } = useDesk();
  const remove = (id: string) => command({ command: "remove", part: `loads/${id}` });
  const needs = [...list.needs].sort((a, b) => Number(a.mark === "off") - Number(b.mark === "off"));
  const firstOff = needs.find((need) => need.mark === "off")?.load_id;
  return (
    <>
      <table
        className="w-full text-left [&_.text-right]:pl-3 [&_.text-right]:whitespace-nowrap max-sm:[&_.aside]:hidden max-sm:[&_.text-right]:pl-2"
        data-testid="needs"
      >
        <thead className="text-faint">
          <tr className="border-b border-ink [&>th]:py-1 [&>th]:font-normal">
            <th>need</th>
            <th className="text-right">running</th>
            <th className="aside text-right">start</th>
            <th className="text-right">a day</th>
            <th className="aside pl-3">how sure</th>
            <th className="aside text-right">alone</th>
            <th className="text-right">costs</th>
            <th className="aside text-right">share</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {needs.map((need) => (
            <Fragment key={need.load_id}>
              {need.load_id === firstOff && (
                <tr className="border-b border-ink">
                  <th colSpan={9} scope="rowgroup" className="pt-3 pb-1 text-left font-normal text-faint">
                    Off in the outage: not counted above
                  </th>
                </tr>
              )}
              <tr
                data-part={`loads/${need.load_id}`}
                className={`border-b border-rule [&>td]:py-0.5 ${chosen === need.load_id ? "bg-leaf" : ""} ${need.mark === "off" ? "text-faint" : ""}`}
              >
                <td className="named">
                  <button
                    type="button"
                    className="min-h-[26px] text-left font-semibold hover:text-cedar"
                    aria-pressed={chosen === need.load_id}
                    onClick={() => onChoose(need.load_id)}
                  >
                    {need.name}
                  </button>
                  <span className="block text-[12px] text-faint">
                    {hangsOn(view.plan, need.circuit_id, need.lead_id)}, {need.mark}
                    <span className="sm:hidden">, {SURE[need.origin]}</span>
                    {hiddenParts(view.plan.loads?.[need.load_id]) && (
                      <span className="block">{hiddenParts(view.plan.loads?.[need.load_id])}</span>
                    )}
                    {need.hog && (
                      <strong className="text-caution"> · empties the station in under two hours</strong>
                    )}
                  </span>
                </td>
                <td className="text-right">{watts(need.running_w)}</td>
                <td className="aside text-right">
                  {need.start_va != null ? `${whole(need.start_va)} VA` : ""}
                </td>
                <td className="text-right">
                  {energy(need.wh_day)}
                  <span className="block text-[12px] text-faint">± {energy(need.wh_day_error)}</span>
                </td>
                <td className="aside pl-3">{SURE[need.origin]}</td>
                <td className="aside text-right">{need.alone_h != null ? `${whole(need.alone_h)} h` : ""}</td>
                <td className="text-right">
                  {need.costs_h != null ? `${need.costs_h.toFixed(1)} h` : "none"}
                </td>
                <td className="aside text-right">{percent(need.share)}</td>
                <td className="text-right">
                  <button
                    type="button"
                    className="act"
                    aria-label={`Take ${need.name} off the list`}
                    onClick={() => remove(need.load_id)}
                  >
                    ×
                  </button>
                </td>
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
      <details className="mt-2 text-[13px] text-faint">
        <summary className="min-h-[24px] cursor-pointer">What the columns mean</summary>
        <ul>
          <li>running: what it draws while it runs; start: what it takes to start, for a moment</li>
          <li>
            a day: its energy on a day with power, and how far that may be off by where the figure is from
          </li>
          <li>alone: how long what is stored would carry this one thing and nothing else</li>
          <li>costs: by how many hours everything lasts less because of it</li>
          <li>share: its part of all that is on</li>
          <li>
            These are means of a day without sun, engine or utility; the verdict above is the run with them.
          </li>
        </ul>
      </details>
    </>
  );
}
