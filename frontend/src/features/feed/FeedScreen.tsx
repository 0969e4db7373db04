import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { useCursor } from "../../api/cursor";
import { useGear } from "../../api/library";
import { useDesk, useRun } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { OfferedContext } from "../../ui/Fields";
import { freeId } from "../../ui/ids";
import { useMoments } from "../../ui/useMoments";
import { FindingItem } from "../checks/FindingItem";
import { greatest, indexAt } from "../outage/series";
import { Arrangements } from "./Arrangements";
import { Conductors } from "./Conductors";
import { FeedEditor } from "./FeedEditor";
import { isToFeed, type Lead, type Source, type ToLoads } from "./feedFields";
import { HookupFigure } from "./HookupFigure";
import { feedingSources, outletsOf, splitSource } from "./leads";
import { NeutralMatrix } from "./NeutralMatrix";
import { Opened } from "./Opened";
import { PathFigure } from "./PathFigure";
import { WaysIn } from "./WaysIn";

/** How the words about the neutral look; a stop where nothing else is said. */
const NEUTRAL_COLOURS: Record<string, string> = {
  right: "",
  floats: "",
  island: "",
  note: "",
  "neutral-unknown": "text-caution",
  "neutral-double-bond": "text-caution",
};

/** Feeds that nothing is plugged into. */
function Unplugged() {
  const { view, command } = useDesk();
  const { feeds = {}, leads = {}, panels = {} } = view.plan;
  const ended = Object.values(leads).map((lead) => (isToFeed(lead.to) ? lead.to.feed_id : ""));
  const alone = Object.entries(feeds).filter(([id]) => !ended.includes(id));
  return alone.map(([id, feed]) => (
    <p key={id} className="mb-2 border-l-4 border-caution pl-3">
      Nothing is plugged into {feed.name ?? `the inlet of ${panels[feed.panel_id]?.name ?? feed.panel_id}`}.{" "}
      <button
        type="button"
        className="act"
        onClick={() => command({ command: "remove", part: `feeds/${id}` })}
      >
        Take this feed away
      </button>
    </p>
  ));
}

/** How sources reach the panel: one line whose bore is rating, and everything that is wrong with it. */
export function FeedScreen() {
  const { view, edit } = useDesk();
  const run = useRun();
  const gear = useGear();
  const { moment } = useMoments(view.plan.site.time_zone);
  const [at, setAt] = useCursor();
  const paths = useQuery({
    queryKey: ["paths", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/paths", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const drawing = useQuery({
    queryKey: ["hookup", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/hookup", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const [picked, setPicked] = useState<string | null>(null);
  const known = [...(drawing.data?.parts ?? []), ...(drawing.data?.strokes ?? [])].map((item) => item.key);
  /** What was chosen, or what carries most, or at least some lead: what is being edited never goes away. */
  const first = drawing.data?.main ?? drawing.data?.strokes.find(({ room }) => room === "leads")?.key ?? null;
  const leads = view.plan.leads ?? {};
  // A lead that was added just now is not drawn yet: until it is, no other stands open in its place.
  const added = picked !== null && picked.replace("leads/", "") in leads;
  const chosen = picked !== null && (added || known.includes(picked)) ? picked : first;
  const ampsOf = ({ kind, id }: Source) => {
    const source = run.data?.sources?.[`${kind}s/${id}`];
    if (!source?.t_s?.length) return null;
    if (at === null) return { a: greatest(source.a_a), b: greatest(source.b_a) };
    const index = indexAt(source.t_s, at);
    return { a: source.a_a?.[index] ?? 0, b: source.b_a?.[index] ?? 0 };
  };
  const legs = view.plan.site.system !== "single_phase_230";
  const source = feedingSources(view.plan)[0]?.[0];
  const add = () => {
    if (!source) return;
    const begins = splitSource(source);
    const receptacle = Object.entries(outletsOf(view.plan, begins))[0];
    if (!receptacle && begins.kind !== "vehicle") return;
    const fresh = gear.fresh.to_loads as Lead;
    const own = receptacle ? { plug: receptacle[1].kind, plug_a: receptacle[1].rating_a } : {};
    const lead: Lead = {
      ...fresh,
      source: { ...begins, outlet: receptacle?.[0] ?? null },
      to: { ...(fresh.to as ToLoads), ...own },
    };
    const id = freeId("lead", leads);
    edit((plan) => ({ ...plan, leads: { ...plan.leads, [id]: lead } }));
    setPicked(`leads/${id}`);
  };
  return (
    <OfferedContext.Provider value={{ receptacles: gear.receptacle_kinds }}>
      <h1 className="sr-only">Feed</h1>
      <p className="mb-2 max-w-[900px] text-faint">
        Everything that is plugged into what, from the sources to the panels: the height of a part is what it
        may carry, its fill what it carries. The narrowest against its flow is the pinch. Choose a part to
        open it below.
      </p>
      <CannotShow asked={run} what="flows" />
      <CannotShow asked={paths} what="paths" />
      {run.data?.ledger && (
        <label className="mb-2 flex items-baseline gap-3">
          <span className="text-faint">
            {at === null
              ? "at the greatest flow of the outage"
              : `at ${moment(new Date(run.data.start).getTime() + 1000 * at)}`}
          </span>
          <input
            type="range"
            aria-label="Moment of the outage"
            className="grow accent-cedar"
            min={0}
            max={run.data.length_s}
            step={300}
            value={at ?? 0}
            onChange={(event) => setAt(Number(event.target.value))}
          />
          {at !== null && (
            <button type="button" className="act" onClick={() => setAt(null)}>
              Greatest flow
            </button>
          )}
        </label>
      )}
      <CannotShow asked={drawing} what="hook-up" />
      {drawing.data && drawing.data.parts.length > 0 && (
        <HookupFigure drawing={drawing.data} run={run.data} at={at} chosen={chosen} onChoose={setPicked} />
      )}
      <Arrangements />
      {chosen !== null && drawing.data && <Opened drawing={drawing.data} chosen={chosen} />}
      {(paths.data ?? []).map((path) => {
        const lead = leads[path.lead_id];
        if (!lead || (drawing.data && chosen !== `leads/${path.lead_id}`)) return null;
        const findings = view.findings.filter(
          ({ element: { room, id } }) =>
            (room === "leads" && id === path.lead_id) || (room === "feeds" && id === path.feed_id),
        );
        const isRun = path.elements.some((element) => element.most_a != null);
        return (
          <section key={path.lead_id} aria-label={path.name} className="mb-8">
            <h2 className="mb-2 border-b border-ink pb-1">
              {path.name}
              {findings.some((item) => item.level === "stop") && (
                <strong className="ml-4 text-stop">Do not energise</strong>
              )}
            </h2>
            <PathFigure
              path={path}
              amps={isRun ? ampsOf(lead.source) : null}
              legs={legs}
              isPinch={view.verdict.pinch?.feed === path.lead_id}
            />
            <p className="mb-2">
              Neutral:{" "}
              <strong data-testid="neutral" className={NEUTRAL_COLOURS[path.neutral_cell] ?? "text-stop"}>
                {path.neutral_words}
              </strong>
              .{" "}
              <span className="text-faint">
                Reaches{" "}
                {path.circuits.length === 0 ? "no circuit that is marked on" : path.circuits.join(", ")}.
              </span>
            </p>
            <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_440px]">
              <div>
                <FeedEditor id={path.lead_id} lead={lead} />
                <NeutralMatrix path={path} />
              </div>
              <ul aria-label={`Findings of ${path.name}`}>
                {findings.map((finding) => (
                  <FindingItem key={finding.key} finding={finding} />
                ))}
                {findings.length === 0 && <li className="text-faint">Nothing was found on this way.</li>}
              </ul>
            </div>
          </section>
        );
      })}
      {(paths.data ?? []).length === 0 && <p>No source reaches the house yet.</p>}
      <Unplugged />
      {source ? (
        <button type="button" className="act font-semibold" onClick={add}>
          Add a lead
        </button>
      ) : (
        <p>
          Nothing in the plan gives power yet: add a station, an engine or a car on{" "}
          <Link className="underline" to={`/plans/${view.id}/gear`}>
            Gear
          </Link>
          , then say here how it reaches the house.
        </p>
      )}
      <div className="mt-6">
        <Conductors />
        <WaysIn />
      </div>
    </OfferedContext.Provider>
  );
}
