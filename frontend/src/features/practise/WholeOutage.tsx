import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { CountField } from "../../ui/CountField";
import { whole } from "../../ui/format";
import { useMoments } from "../../ui/useMoments";

type Stop = components["schemas"]["Stop"];
type Talk = components["schemas"]["AfterTalk"];
type Outcome = components["schemas"]["Outcome"];

interface Props {
  person: string;
  onLeave: () => void;
}

/** A whole outage in ten minutes: it stops where someone decides; afterwards each choice is weighed. */
export function WholeOutage({ person, onLeave }: Props) {
  const { view } = useDesk();
  const [seed, setSeed] = useState(() => String(1 + Math.floor(Math.random() * 1_000)));
  const [begun, setBegun] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const number = Math.max(0, Math.round(Number(seed)) || 1);
  const params = { path: { plan_id: view.id } };
  const body = { seed: number, chosen, person };
  const play = useQuery({
    queryKey: ["whole outage", view.id, view.revision, number, chosen],
    enabled: begun,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
    retry: false,
    queryFn: () => answer(client.POST("/api/plans/{plan_id}/drill/outage", { params, body })),
  });
  const talk = useMutation({
    mutationFn: () => answer(client.POST("/api/plans/{plan_id}/drill/outage/talk", { params, body })),
  });
  const again = () => {
    setChosen([]);
    talk.reset();
  };
  const found = play.data;
  return (
    <section aria-label="A whole outage" className="max-w-[900px]">
      <h2 className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        A whole outage
        <button type="button" className="act font-normal" onClick={onLeave}>
          Leave it
        </button>
      </h2>
      {!begun && (
        <>
          <p className="my-2">
            The outage of the plan, hurried: loads, sky, engine and readings are off as they may be, drawn by
            its number. It stops where someone has to decide, at most ten times; afterwards each choice is set
            against the best there was. The same number is the same outage: two people can compare.
          </p>
          <p className="flex flex-wrap items-baseline gap-x-4">
            <CountField label="number of the outage" value={seed} onSave={setSeed} />
            <button type="button" className="act min-h-11 font-semibold" onClick={() => setBegun(true)}>
              Let the utility go
            </button>
          </p>
        </>
      )}
      {begun && <CannotShow asked={play} what="outage" />}
      {begun && !found && !play.isError && (
        <p role="status" className="text-faint">
          Running…
        </p>
      )}
      {found?.stop && (
        <Deciding
          stop={found.stop}
          number={found.stops + 1}
          busy={play.isFetching}
          onChoose={(key) => setChosen([...chosen, key])}
        />
      )}
      {found && !found.stop && found.outcome && (
        <>
          <p className="my-2 text-[1.05rem]" data-testid="whole-end">
            The outage is over. {found.outcome.sentence}.
          </p>
          {!talk.data && (
            <button
              type="button"
              className="act min-h-11 font-semibold"
              disabled={talk.isPending}
              onClick={() => talk.mutate()}
            >
              {talk.isPending ? "Weighing each choice…" : "What each choice was worth"}
            </button>
          )}
          {talk.isError && (
            <p role="alert" className="border-l-4 border-stop pl-3">
              {talk.error.message}
            </p>
          )}
          {talk.data && <Weighed talk={talk.data} />}
          <p className="mt-2 flex gap-x-3">
            <button type="button" className="act min-h-11" onClick={again}>
              The same outage again
            </button>
            <button
              type="button"
              className="act min-h-11"
              onClick={() => {
                setSeed(String(number + 1));
                again();
              }}
            >
              Another one
            </button>
          </p>
        </>
      )}
    </section>
  );
}

interface DecidingProps {
  stop: Stop;
  number: number;
  busy: boolean;
  onChoose: (key: string) => void;
}

function Deciding({ stop, number, busy, onChoose }: DecidingProps) {
  const { moment } = useMoments(useDesk().view.plan.site.time_zone);
  return (
    <div data-testid="whole-stop" aria-live="polite">
      <p className="mt-2 text-[1.05rem]">
        <strong>
          {number}. {moment(new Date(stop.at))}
        </strong>{" "}
        {stop.why}.
      </p>
      <div className="my-2 grid gap-x-8 gap-y-1 sm:grid-cols-2">
        <ul aria-label="What can be seen">
          {stop.charges.map((item) => (
            <li key={item.name}>
              {item.name} shows <strong>{item.percent} %</strong>
              {item.hours != null && `, ${item.hours > 99 ? "over 99" : item.hours} h left by its display`}
            </li>
          ))}
          {stop.fuel.map((words) => (
            <li key={words}>{words}</li>
          ))}
          <li>the sky today: {stop.sky}</li>
        </ul>
        {stop.happened.length > 0 && (
          <div>
            <span className="text-faint">Since then:</span>
            <ul className="ml-4 list-disc">
              {[...new Set(stop.happened)].map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          </div>
        )}
      </div>
      <ul className="flex flex-col gap-2">
        {stop.choices.map((choice) => (
          <li key={choice.key}>
            <button
              type="button"
              className="act min-h-11 w-full border border-rule px-3 py-1 text-left"
              disabled={busy}
              onClick={() => onChoose(choice.key)}
            >
              {choice.words}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

const hours = (value: number) => `${value > 0 ? "+" : ""}${whole(value) === "-0" ? "0" : whole(value)} h`;

function Weighed({ talk }: { talk: Talk }) {
  const { moment } = useMoments(useDesk().view.plan.site.time_zone);
  const rows: [string, Outcome][] = [
    ["as you chose", talk.played],
    ["as the plan says", talk.as_planned],
    ["the best that was found", talk.best],
  ];
  return (
    <div
      data-testid="whole-talk"
      className={`border-l-4 pl-3 ${talk.passed ? "border-good" : "border-caution"}`}
    >
      <p className="font-semibold">{talk.sentence}</p>
      <div className="overflow-x-auto">
        <table className="my-2 text-right">
          <thead className="text-faint">
            <tr className="border-b border-ink [&>th]:py-1 [&>th]:pl-4 [&>th]:font-normal">
              <th className="!pl-0 text-left">the outage</th>
              <th>lasts</th>
              <th>must run got</th>
              <th>when there is room</th>
              <th>left</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([words, outcome]) => (
              <tr key={words} className="border-b border-rule [&>td]:pl-4">
                <th scope="row" className="text-left font-normal">
                  {words}
                </th>
                <td>
                  {outcome.lasts
                    ? "to the end"
                    : outcome.until
                      ? `until ${moment(new Date(outcome.until))}`
                      : "not"}
                </td>
                <td>{(outcome.must_wh / 1000).toFixed(1)} kWh</td>
                <td>{(outcome.room_wh / 1000).toFixed(1)} kWh</td>
                <td>{whole(outcome.left_percent)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <h3 className="font-semibold">Choice by choice</h3>
      <ol className="ml-5 list-decimal">
        {talk.choices.map((item) => (
          <li key={item.at} className="py-0.5">
            <span className="text-faint">
              {moment(new Date(item.at))}, {item.why}:
            </span>{" "}
            {item.words}
            {Math.abs(item.won_h) >= 1 && <strong> {hours(item.won_h)} against going on</strong>}
            {item.best !== item.words && item.lost_h >= 1 && (
              <span>
                ; best from there: {item.best} ({hours(item.lost_h)})
              </span>
            )}
          </li>
        ))}
      </ol>
      {talk.best_choices.length > 0 && (
        <>
          <h3 className="mt-2 font-semibold">The best that was found</h3>
          <ol className="ml-5 list-decimal">
            {talk.best_choices.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        </>
      )}
      <p className="mt-1 text-faint">
        Found by trying each choice at each stop and going on as the plan says; among these choices only. In a
        real outage nobody knows the end.
      </p>
    </div>
  );
}
