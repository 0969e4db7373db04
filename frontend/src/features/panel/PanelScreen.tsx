import { Fragment, useState } from "react";
import { useSearchParams } from "react-router";
import { answer, client, type Mark, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { freeId } from "../../ui/ids";
import { useNarrow } from "../../ui/useNarrow";
import { BreakerTable } from "../breakers/BreakerTable";
import { freshCircuit } from "../load/fresh";
import { MomentBar } from "../outage/MomentBar";
import { BalanceSheet } from "./BalanceSheet";
import { CircuitSheet } from "./CircuitSheet";
import { FeedSheet } from "./FeedSheet";
import { FindBreaker } from "./FindBreaker";
import { LegFigure } from "./LegFigure";
import { PanelFields } from "./PanelFields";
import { ScheduleGrid } from "./ScheduleGrid";
import { ScheduleList } from "./ScheduleList";
import { SwitchSheet } from "./SwitchSheet";

export function withMark(plan: Plan, circuitId: string, mark: Mark): Plan {
  const circuit = plan.circuits?.[circuitId];
  return circuit ? { ...plan, circuits: { ...plan.circuits, [circuitId]: { ...circuit, mark } } } : plan;
}

function withBreaker(plan: Plan, id: string, panel_id: string, space: number): Plan {
  const circuit = freshCircuit(panel_id, space, "New breaker", "off");
  return { ...plan, circuits: { ...plan.circuits, [id]: circuit } };
}

/** The panel schedule: what stays on, what may, what never, and what that does to the legs. */
export function PanelScreen() {
  const { view, edit, request } = useDesk();
  const [chosen, setChosen] = useState<string | null>(null);
  const [feedId, setFeed] = useState<string | null>(null);
  const narrow = useNarrow();
  const [asked, ask] = useSearchParams();
  const choose = (id: string) => {
    setFeed(null);
    setChosen(id);
  };
  if (asked.get("as") === "table")
    return (
      <>
        <h1 className="sr-only">Panel</h1>
        <BreakerTable onDone={() => ask({})} />
      </>
    );
  const circuits = view.plan.circuits ?? {};
  const Schedule = narrow ? ScheduleList : ScheduleGrid;
  const shown = chosen && circuits[chosen] ? chosen : (Object.keys(circuits)[0] ?? null);
  const panelId = feedId
    ? view.plan.feeds?.[feedId]?.panel_id
    : shown
      ? circuits[shown]?.panel_id
      : undefined;
  const here = view.schedules.find((item) => item.panel_id === panelId) ?? view.schedules[0];
  return (
    <>
      <h1 className="sr-only">Panel</h1>
      <p className="mb-2 text-faint">
        Mark each breaker: <b className="text-ink">keep</b> it on, <b className="text-ink">room</b> when there
        is room, or <b className="text-ink">off</b>. Choose one to see and change what is on it. Arrow keys
        move, K, R and O mark; drag a breaker, or hold Alt with an arrow key, to move it to another space.{" "}
        <button type="button" className="act" onClick={() => ask({ as: "table" })}>
          Paste or edit as a table
        </button>
      </p>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1fr)_340px]">
        <div className="min-w-0">
          {view.schedules.map((schedule) => (
            <Fragment key={schedule.panel_id}>
              <Schedule
                schedule={schedule}
                plan={view.plan}
                chosen={shown}
                onChoose={choose}
                onChooseFeed={setFeed}
                onMark={(id, mark) => edit((plan) => withMark(plan, id, mark))}
                onMove={(circuit_id, to_space) =>
                  request((header) =>
                    answer(
                      client.POST("/api/plans/{plan_id}/panels/{panel_id}/move", {
                        params: { path: { plan_id: view.id, panel_id: schedule.panel_id }, header },
                        body: { circuit_id, to_space },
                      }),
                    ),
                  )
                }
                onAdd={(space) => {
                  const id = freeId("breaker", view.plan.circuits ?? {});
                  edit((plan) => withBreaker(plan, id, schedule.panel_id, space));
                  choose(id);
                }}
              />
              <PanelFields schedule={schedule} />
            </Fragment>
          ))}
          <MomentBar />
          <FindBreaker circuitId={shown} />
        </div>
        <aside className="min-w-0 lg:sticky lg:top-[92px] lg:self-start">
          {here && <LegFigure schedule={here} named={view.schedules.length > 1} />}
          {feedId && view.plan.feeds?.[feedId] ? (
            <FeedSheet feedId={feedId} key={feedId} />
          ) : (
            shown && <CircuitSheet circuitId={shown} key={shown} />
          )}
        </aside>
      </div>
      {view.schedules.map((schedule) => (
        <div key={schedule.panel_id} className="mt-6 grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-2">
          <BalanceSheet panelId={schedule.panel_id} />
          <SwitchSheet panelId={schedule.panel_id} />
        </div>
      ))}
    </>
  );
}
