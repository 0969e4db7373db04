import { useState } from "react";
import { usePalette } from "../app/palette";
import { AtPanel } from "../features/runbook/AtPanel";
import { keepsNothing } from "../features/runbook/kept";
import { RecordLines } from "../features/runbook/RecordLines";
import { keepRow, tripsOf, useRows } from "../features/runbook/rows";
import { SheetList } from "../features/runbook/SheetList";
import { SheetOf } from "../features/runbook/SheetOf";
import type { Held } from "./main";

/** The sheets of a plan without a server: to read, to go through, and what was done given back. */
export function Pocket({ held }: { held: Held }) {
  const [key, setKey] = useState(held.sheets[0]?.key);
  const [panel, setPanel] = useState(false);
  const [palette, setPalette] = usePalette();
  const { waiting: rows } = useRows(held.plan_id);
  const shown = held.sheets.find((sheet) => sheet.key === key);
  const lost = keepsNothing() && (
    <p role="alert" className="my-2 border-l-4 border-stop py-1 pl-3">
      This device keeps nothing for this page: give the record back before it is closed.
    </p>
  );
  if (shown && panel)
    return (
      <AtPanel
        key={shown.key}
        sheet={shown}
        sheets={held.sheets}
        planId={held.plan_id}
        born={held.born}
        revision={held.revision}
        zone={held.zone}
        trips={tripsOf(rows)}
        above={lost}
        onRow={(row) => keepRow(held.plan_id, row)}
        onGo={setKey}
        onClose={() => setPanel(false)}
      />
    );
  return (
    <main className="mx-auto max-w-[1100px] px-5 py-3">
      <h1 className="flex flex-wrap items-baseline gap-x-4">
        <span className="font-semibold">{held.name}</span>
        <span className="text-[14px] text-faint">
          Pocket file, {held.revision ? `of revision ${held.revision} of the plan` : "of a plan in a file"}
        </span>
        <button
          type="button"
          className="act ml-auto text-[14px]"
          onClick={() => setPalette(palette === "night" ? "day" : "night")}
        >
          {palette === "night" ? "Day colours" : "Night colours"}
        </button>
      </h1>
      {lost}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[280px_minmax(0,1fr)]">
        <SheetList sheets={held.sheets} shown={shown} onChoose={(sheet) => setKey(sheet.key)} />
        {shown && <SheetOf sheet={shown} cautions={held.cautions} onPanel={() => setPanel(true)} />}
      </div>
      <GiveBack held={held} />
      <RecordLines
        rows={rows}
        zone={held.zone}
        current={new Map(held.sheets.map((sheet) => [sheet.key, sheet.fingerprint]))}
      />
    </main>
  );
}

/** The record as a file, or as text to be pasted; the plan's Runbook takes both in. */
function GiveBack({ held }: { held: Held }) {
  const { waiting: rows } = useRows(held.plan_id);
  const [told, setTold] = useState("");
  const text = JSON.stringify({ record: 1, plan_id: held.plan_id, rows });
  const file = () => {
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
    link.download = `${held.plan_id}-record.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  };
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(text);
      setTold("Copied.");
    } catch {
      setTold("This browser does not copy from a file: mark the text below and copy it.");
    }
  };
  return (
    <section aria-label="What was done" className="mt-8">
      <h2 className="border-b border-rule pb-1">What was done</h2>
      {rows.length === 0 ? (
        <p className="text-faint">Nothing yet: ticks and readings come here and stay on this device.</p>
      ) : (
        <>
          <p className="mt-2 flex flex-wrap gap-3">
            <button type="button" className="big" onClick={file}>
              Save the record
            </button>
            <button type="button" className="big" onClick={copy}>
              Copy its text
            </button>
          </p>
          <p className="text-faint">
            On the Runbook of the plan it is taken in, as a file or pasted; twice counts once.
          </p>
          <p role="status">{told}</p>
          <details>
            <summary className="min-h-[44px] cursor-pointer py-2 text-faint">The text</summary>
            <textarea readOnly aria-label="Text of the record" className="field h-32 w-full" value={text} />
          </details>
        </>
      )}
    </section>
  );
}
