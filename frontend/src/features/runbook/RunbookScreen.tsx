import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { keepSheets, useServerThere } from "../../api/server";
import { CannotShow } from "../../ui/CannotShow";
import { Schools } from "../feed/Schools";
import { AtPanel } from "./AtPanel";
import { keepsNothing } from "./kept";
import { Record } from "./Record";
import { tripsOf } from "./rows";
import { SheetList } from "./SheetList";
import { SheetOf } from "./SheetOf";
import { useRecord } from "./useRecord";

/** So often the server is asked whether it is back, ms. */
const ASKED_AGAIN_MS = 5_000;

/** What is done at the panel, in which order: a sheet for every act, made from the plan. */
export function RunbookScreen() {
  const { view } = useDesk();
  const [asked, ask] = useSearchParams();
  const there = useServerThere();
  const record = useRecord(view.id);
  const found = useQuery({
    queryKey: ["sheets", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/sheets", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
    refetchInterval: there ? false : ASKED_AGAIN_MS,
    networkMode: "always",
  });
  const sheets = found.data?.sheets ?? [];
  const shown = sheets.find((sheet) => sheet.key === asked.get("sheet")) ?? sheets[0];
  const zone = view.plan.site.time_zone ?? "UTC";
  const rows = [...record.known, ...record.waiting];
  const current = new Map(sheets.map((sheet) => [sheet.key, sheet.fingerprint]));
  const told = <Away there={there} waiting={record.waiting.length} refused={record.refused?.message} />;
  if (shown && asked.get("at") === "panel" && (shown.steps ?? []).length > 0)
    return (
      <AtPanel
        key={shown.key}
        sheet={shown}
        sheets={sheets}
        planId={view.id}
        born={found.data?.born ?? ""}
        revision={found.data?.revision ?? view.revision}
        zone={zone}
        trips={tripsOf(rows)}
        above={told}
        onRow={record.add}
        onGo={(key) => ask({ sheet: key, at: "panel" }, { replace: true })}
        onClose={() => ask({ sheet: shown.key }, { replace: true })}
      />
    );
  const leadId = shown?.key.split("/")[1] ?? "";
  const end = view.plan.leads?.[leadId]?.to;
  const feedId = end && "feed_id" in end ? end.feed_id : undefined;
  const paper = `/api/plans/${view.id}/sheets.pdf`;
  return (
    <>
      <h1 className="sr-only">Runbook</h1>
      {told}
      <CannotShow asked={found} what="sheets" />
      {found.data && sheets.length === 0 && (
        <p className="border-l-4 border-caution py-2 pl-3">
          No sheet can be made: nothing feeds anything in this plan yet. Say on Feed how a source reaches the
          house.
        </p>
      )}
      {shown && (
        <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[280px_minmax(0,1fr)]">
          <div>
            <SheetList
              sheets={sheets}
              shown={shown}
              onChoose={(sheet) => ask({ sheet: sheet.key }, { replace: true })}
            />
            <p className="mt-3">
              <Link className="act font-semibold" to={`/plans/${view.id}/practise`}>
                Practise these on your own panel
              </Link>
            </p>
            <Papers planId={view.id} />
            <KeptHere planId={view.id} revision={view.revision} />
          </div>
          <SheetOf
            sheet={shown}
            cautions={found.data?.cautions ?? []}
            beside={
              <a
                className="act ml-auto text-[14px] font-normal unprinted"
                href={`${paper}?sheet=${encodeURIComponent(shown.key)}`}
                download
              >
                On paper
              </a>
            }
            choices={feedId && shown.key === `change-over/${leadId}` && <SchoolsOf feedId={feedId} />}
            onPanel={() => ask({ sheet: shown.key, at: "panel" })}
          />
        </div>
      )}
      <Record record={record} zone={zone} current={current} />
    </>
  );
}

const PAPERS = [
  ["sheets.pdf", "All sheets on paper"],
  ["pocket.html", "Pocket file, for a phone’s own storage"],
  ["signs.pdf", "Sign at the inlet"],
  ["one-line.pdf", "One-line diagram on paper"],
  ["one-line.svg", "One-line diagram as SVG"],
  ["bundle.pdf", "Everything, for a client and whoever inspects it"],
] as const;

/** What is taken away from the plan; schedules and labels are on Panel, too. */
function Papers({ planId }: { planId: string }) {
  return (
    <nav aria-label="Paper and files" className="unprinted mt-4">
      <h2 className="text-faint">Paper and files</h2>
      <ul>
        {PAPERS.map(([file, words]) => (
          <li key={file}>
            <a className="act inline-block py-1" href={`/api/plans/${planId}/${file}`} download>
              {words}
            </a>
          </li>
        ))}
      </ul>
    </nav>
  );
}

/** Whether this device has what it needs when the server is away. */
function KeptHere({ planId, revision }: { planId: string; revision: number }) {
  const [kept, setKept] = useState(false);
  // biome-ignore lint/correctness/useExhaustiveDependencies: kept anew after every edit
  useEffect(() => {
    let over = false;
    setKept(false);
    void keepSheets(planId).then((found) => {
      if (!over) setKept(found);
    });
    return () => {
      over = true;
    };
  }, [planId, revision]);
  return (
    <p className="unprinted mt-4 text-faint" data-testid="kept-here">
      {kept
        ? "This device keeps these sheets: they go on when the server is away."
        : "This device does not keep these sheets yet: take the pocket file or paper along."}
    </p>
  );
}

function SchoolsOf({ feedId }: { feedId: string }) {
  return (
    <details className="my-3 unprinted">
      <summary className="min-h-[24px] cursor-pointer text-faint">
        Ways that practitioners differ in: what is off before, when the output goes on, what comes back first
      </summary>
      <Schools feedId={feedId} />
    </details>
  );
}

interface AwayProps {
  there: boolean;
  waiting: number;
  refused: string | undefined;
}

/** That the server is away, and what waits for it. */
function Away({ there, waiting, refused }: AwayProps) {
  const rows = waiting === 1 ? "1 row waits" : `${waiting} rows wait`;
  return (
    <div role="status" data-testid="away">
      {!there && (
        <p className="my-2 border-l-4 border-caution py-1 pl-3">
          The server does not answer. The sheets are those that this device kept, and go on
          {waiting > 0 ? `; ${rows} here and are sent when it is back` : ""}.
        </p>
      )}
      {there && refused && waiting > 0 && (
        <p className="my-2 border-l-4 border-stop py-1 pl-3">
          {rows} here and cannot be taken in: {refused}
        </p>
      )}
      {keepsNothing() && (
        <p className="my-2 border-l-4 border-stop py-1 pl-3">
          This device keeps nothing for this page: ticks are gone when it is closed.
        </p>
      )}
    </div>
  );
}
