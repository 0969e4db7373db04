import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { RunResult } from "../../api/client";
import { useCursor } from "../../api/cursor";
import { useDesk, useRun } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { useWidth } from "../../ui/useWidth";
import { Accounts } from "./Accounts";
import { BlockLanes } from "./BlockLanes";
import { BlockList } from "./BlockList";
import { Circumstances } from "./Circumstances";
import { DayPlan } from "./DayPlan";
import { EventList } from "./EventList";
import { ForEver } from "./ForEver";
import { HowLikely } from "./HowLikely";
import { joined } from "./joined";
import { MayStart } from "./MayStart";
import { Moment } from "./Moment";
import { OutageFields } from "./OutageFields";
import { RuleMarks } from "./RuleMarks";
import { Rules } from "./Rules";
import { Schedule } from "./Schedule";
import { Strip } from "./Strip";
import { holding, type Span, SpanContext } from "./span";
import { useBlocks } from "./useBlocks";
import { useStretch } from "./useStretch";
import { Why } from "./Why";
import { WouldLast } from "./WouldLast";
import { ZoomBar } from "./ZoomBar";

/** The outage over its days: legs, charge, events, blocks, and the moment under the cursor. */
export function OutageScreen() {
  const run = useRun();
  /** What can be changed stands at one place whatever the run is, so that nothing opened or typed is lost. */
  const played = run.data?.ledger && !run.isError ? run.data : null;
  return (
    <>
      <h1 className="sr-only">Outage</h1>
      <p className="mb-2 text-faint">
        The whole outage from left to right. Point at a moment to read what runs then; drag the blocks under
        the strip, or change the outage below, and the strip answers.{" "}
        <Link className="underline" to="../variants" relative="path">
          Side by side with a variant
        </Link>
      </p>
      <CannotShow asked={run} what="run" />
      {played && <Played run={played} />}
      {played && <WouldLast />}
      {played && <Why />}
      {played && <Schedule start={played.start} />}
      {played && <HowLikely />}
      {played && <ForEver />}
      {run.data && !run.isError && !played && <Nothing run={run.data} />}
      <Rules />
      <OutageFields />
      <Circumstances />
      {played && <Told run={played} />}
    </>
  );
}

function Nothing({ run }: { run: RunResult }) {
  return (
    <p className="mb-3 border-l-4 border-caution py-2 pl-3">
      There is nothing to run yet: {run.verdict.missing?.join("; ")}.
    </p>
  );
}

/** The cursor where nothing was pointed at yet, s. */
const FIRST = 7_200;

/** The strip with its blocks, and the moment under the cursor. */
function Played({ run }: { run: RunResult }) {
  const { view } = useDesk();
  const [cursor, setAt] = useCursor();
  const blocks = useBlocks(run);
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const [chosen, setSpan] = useState<Span | null>(null);
  const span = useMemo(
    () => (chosen && chosen.to <= run.length_s ? chosen : { from: 0, to: run.length_s }),
    [chosen, run.length_s],
  );
  const zone = view.plan.site.time_zone ?? "UTC";
  const at = Math.min(cursor ?? FIRST, run.length_s);
  useEffect(() => {
    setSpan((before) => before && holding(before, at, run.length_s));
  }, [at, run.length_s]);
  const show = (next: Span) => setSpan(next.to - next.from >= run.length_s ? null : next);
  const trial = blocks.tried?.trial;
  const tried = useMemo(() => (trial ? joined(run, trial.run, trial.until_s) : run), [run, trial]);
  const shown = useStretch(tried, span, blocks.tried !== null);
  return (
    <SpanContext.Provider value={span}>
      <Moment run={shown} at={at} plan={view.plan} />
      <MayStart at={at} begins={run.start} zone={zone} />
      <ZoomBar run={run} at={at} zone={zone} onAt={setAt} onSpan={show} />
      <div ref={box}>
        <Strip
          run={shown}
          at={at}
          zone={zone}
          split={view.plan.site.system !== "single_phase_230"}
          width={width}
          onAt={setAt}
          onSpan={show}
          until={trial?.until_s ?? run.length_s}
        />
        <RuleMarks run={shown} width={width} zone={zone} />
        <CannotShow asked={blocks.stored} what="blocks" />
        <BlockLanes blocks={blocks} start={run.start} width={width} at={at} zone={zone} />
      </div>
      <BlockList blocks={blocks} run={run} at={at} zone={zone} />
    </SpanContext.Provider>
  );
}

/** What happens, the days in words, and the accounts. */
function Told({ run }: { run: RunResult }) {
  const { view } = useDesk();
  const [cursor, setAt] = useCursor();
  const at = Math.min(cursor ?? FIRST, run.length_s);
  return (
    <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_440px]">
      <div>
        <EventList run={run} at={at} zone={view.plan.site.time_zone ?? "UTC"} onAt={setAt} />
        <DayPlan />
      </div>
      <Accounts run={run} />
    </div>
  );
}
