import { useState } from "react";
import type { RunResult } from "../../api/client";
import { useDesk, useRun } from "../../api/plan";
import { Accounts } from "./Accounts";
import { Circumstances } from "./Circumstances";
import { EventList } from "./EventList";
import { Moment } from "./Moment";
import { OutageFields } from "./OutageFields";
import { Strip } from "./Strip";

/** The outage over its days: legs, charge, events, and the moment under the cursor. */
export function OutageScreen() {
  const run = useRun();
  return (
    <>
      <h1 className="sr-only">Outage</h1>
      <p className="mb-2 text-faint">
        The whole outage from left to right. Point at a moment, or use the arrow keys on the strip, to read
        what runs then; change the outage below and the strip answers.
      </p>
      <OutageFields />
      <Circumstances />
      {run.isError && (
        <p role="alert" className="text-stop">
          {run.error.message}
        </p>
      )}
      {run.data && (run.data.ledger ? <Whole run={run.data} /> : <Nothing run={run.data} />)}
    </>
  );
}

function Nothing({ run }: { run: RunResult }) {
  return (
    <p className="border-l-4 border-caution py-2 pl-3">
      There is nothing to run yet: {run.verdict.missing?.join("; ")}.
    </p>
  );
}

function Whole({ run }: { run: RunResult }) {
  const { view } = useDesk();
  const [at, setAt] = useState(() => Math.min(run.length_s, 3600 * 2));
  const moment = Math.min(at, run.length_s);
  return (
    <>
      <Moment run={run} at={moment} plan={view.plan} />
      <Strip
        run={run}
        at={moment}
        zone={view.plan.site.time_zone ?? "UTC"}
        split={view.plan.site.system !== "single_phase_230"}
        onAt={setAt}
      />
      <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_440px]">
        <EventList run={run} at={moment} zone={view.plan.site.time_zone ?? "UTC"} onAt={setAt} />
        <Accounts run={run} />
      </div>
    </>
  );
}
