import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { FileButton } from "../../ui/FileButton";
import { filesBody } from "../../ui/files";
import { placeInWords } from "../../ui/places";
import { CouldNot } from "../plans/CouldNot";
import { CellGrid } from "./CellGrid";
import { FIRST, keepRows, keptRows, type Sheet, sheetOf, showCell, type TableView } from "./sheet";

/** All breakers of a plan as a table of cells: pasted into, filled, read as one goes, and taken over at once. */
export function BreakerTable({ onDone }: { onDone: () => void }) {
  const { view } = useDesk();
  const stored = useQuery({
    queryKey: ["breakers", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/breakers", { params: { path: { plan_id: view.id } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  });
  if (stored.isError) return <CouldNot error={stored.error} kept="The plan stands as it was." />;
  if (!stored.data) return <p className="text-faint">Writing the table…</p>;
  return <Editor stored={stored.data} onDone={onDone} />;
}

function Editor({ stored, onDone }: { stored: TableView; onDone: () => void }) {
  const { view, request, saving, problem } = useDesk();
  const [kept] = useState(() => keptRows(view.id, stored));
  const [past, setPast] = useState<string[][][]>(kept ? [sheetOf(stored).rows] : []);
  const [sheet, setSheet] = useState<Sheet>(() => ({ ...sheetOf(stored), ...(kept && { rows: kept }) }));
  const [all, setAll] = useState(false);
  const [lines, setLines] = useState("");
  const [told, setTold] = useState<string[]>([]);
  const [failed, setFailed] = useState<Error | null>(null);
  /** Whether the table is on its way into the plan: what comes back is shown then, else what was typed stays. */
  const taking = useRef(false);
  const untouched = past.length === 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: when another table is stored
  useEffect(() => {
    if (!untouched && !taking.current) return;
    taking.current = false;
    setPast([]);
    setTold([]);
    setSheet(sheetOf(stored));
  }, [stored]);
  useEffect(() => {
    if (problem) taking.current = false;
  }, [problem]);
  /** What was not taken over yet is there again after a look at another screen. */
  useEffect(() => keepRows(view.id, untouched ? null : sheet.rows), [view.id, untouched, sheet.rows]);
  const path = { plan_id: view.id };
  const change = (rows: string[][]) => {
    setPast((before) => [...before.slice(-200), sheet.rows]);
    setSheet({ ...sheet, rows });
  };
  const undo = () => {
    const before = past.at(-1);
    if (!before) return;
    setPast(past.slice(0, -1));
    setSheet({ ...sheet, rows: before });
  };
  const given = { text: "", columns: sheet.columns, rows: sheet.rows, usual: false };
  const read = useQuery({
    queryKey: ["breakers read", view.id, view.revision, JSON.stringify(sheet.rows)],
    queryFn: () =>
      answer(client.POST("/api/plans/{plan_id}/breakers/read", { params: { path }, body: given })),
    enabled: past.length > 0,
    placeholderData: (before) => before,
    retry: 0,
  });
  const now = past.length > 0 && read.data ? read.data : stored;
  const lay = async (text: string, usual: boolean) => {
    setFailed(null);
    try {
      const found = await answer(
        client.POST("/api/plans/{plan_id}/breakers/read", {
          params: { path },
          body: { text, columns: sheet.columns, rows: sheet.rows, usual },
        }),
      );
      change(sheetOf(found).rows);
      setTold(found.notes);
      setLines("");
    } catch (error) {
      setFailed(error as Error);
    }
  };
  const open = async (chosen: File) => {
    setFailed(null);
    try {
      const found = await answer(client.POST("/api/breakers/cells", filesBody({ file: chosen })));
      await lay(found.text, false);
      setTold((more) => [...found.notes, ...more]);
    } catch (error) {
      setFailed(error as Error);
    }
  };
  const usual = now.rows.filter((row) => row.usual).length;
  const putUsual = () => {
    const loads = sheet.columns.indexOf("loads");
    change(
      sheet.rows.map((row, at) => {
        const name = now.rows[at]?.usual;
        return name && !row[loads] ? row.map((cell, column) => (column === loads ? name : cell)) : row;
      }),
    );
  };
  const take = () => {
    taking.current = true;
    request((header) =>
      answer(client.POST("/api/plans/{plan_id}/breakers", { params: { path, header }, body: given })),
    );
  };
  const used = new Set(sheet.columns.filter((_, at) => sheet.rows.some((row) => row[at])));
  const several = new Set(sheet.rows.map((row) => row[sheet.columns.indexOf("panel")])).size > 1;
  const more = ["panel", "feeds", "read_on"].filter((key) => used.has(key) && (key !== "panel" || several));
  const wanted = all ? sheet.columns.filter((key) => key !== "id") : [...FIRST, ...more];
  const shown = wanted.map((key) => sheet.columns.indexOf(key)).filter((at) => at >= 0);
  const faults = past.length > 0 ? now.faults : 0;
  const toMend = now.rows
    .map((row, at) => ({ number: at + 1, column: row.faults[0]?.column ?? "" }))
    .filter(({ column }) => column !== "");
  const changed = past.length > 0 && (now.changes.length > 0 || faults > 0);
  return (
    <section aria-label="Breakers as a table" className="mb-4">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-ink pb-1">
        <h2>Breakers as a table</h2>
        <button type="button" className="act" onClick={onDone}>
          Back to the drawing
        </button>
      </div>
      <label className="mt-2 block">
        <span className="text-faint">
          Paste lines, CSV or cells of a spreadsheet with their names: they are laid over what is there. Such
          as: 18 20 well pump 20A 12 AWG 60 ft keep, 8 A at 240 V by plate
        </span>
        <textarea
          className="field mt-1 block h-[68px] w-full border border-rule"
          value={lines}
          onChange={(event) => setLines(event.target.value)}
        />
      </label>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <button type="button" className="act" disabled={!lines.trim()} onClick={() => lay(lines, false)}>
          Lay them into the table
        </button>
        <button type="button" className="act" disabled={!lines.trim()} onClick={() => lay(lines, true)}>
          With what labels usually mean
        </button>
        <FileButton
          label="File with breakers"
          accept=".csv,.xlsx,text/csv"
          onChoose={(chosen) => void open(chosen)}
        >
          Open a CSV or spreadsheet
        </FileButton>
        <a className="act" href={`/api/plans/${view.id}/breakers.csv`} download>
          Save as CSV
        </a>
        <a className="act" href={`/api/plans/${view.id}/breakers.xlsx`} download>
          Save as spreadsheet
        </a>
      </p>
      {failed && <CouldNot error={failed} kept="Lines and table are still here." />}
      <div className="my-2" data-testid="table-changes" aria-live="polite">
        {changed ? (
          <ul>
            {faults > 0 && (
              <li className="font-semibold text-stop">
                {faults === 1 ? "1 thing" : `${faults} things`} to be mended; until then nothing can be taken
                over:{" "}
                {(now.loose ?? []).map((fault) => (
                  <span key={`${fault.column} ${fault.got}`} className="block">
                    {placeInWords(fault.column, view.plan)}: {fault.got}; {fault.right}
                  </span>
                ))}
                {toMend.map(({ number, column }) => (
                  <button
                    key={number}
                    type="button"
                    className="act"
                    onClick={() => showCell(number - 1, Math.max(0, wanted.indexOf(column)))}
                  >
                    row {number}
                  </button>
                ))}
              </li>
            )}
            {[...now.changes, ...told, ...(past.length > 0 ? now.notes : [])].map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        ) : (
          <p className="text-faint">
            The table stands in the plan as it is. Arrow keys move, typing changes a cell, Ctrl and D fills
            down (with Shift and an arrow first: over more rows), Ctrl and Z takes back, Ctrl and Delete takes
            a row out; copied cells can be pasted.
          </p>
        )}
        {read.isError && past.length > 0 && <CouldNot error={read.error} kept="The table is still here." />}
      </div>
      <p className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <button
          type="button"
          className="act border-cedar bg-cedar font-semibold text-paper disabled:border-rule disabled:bg-transparent disabled:text-faint"
          disabled={!changed || faults > 0 || read.isFetching || saving}
          onClick={take}
        >
          Take the table over
        </button>
        <button type="button" className="act" disabled={past.length === 0} onClick={undo}>
          Undo in the table
        </button>
        {usual > 0 && (
          <button type="button" className="act" disabled={read.isFetching} onClick={putUsual}>
            Put what is usual on {usual === 1 ? "1 breaker" : `${usual} breakers`}
          </button>
        )}
        <label className="inline-flex items-baseline gap-1">
          <input
            type="checkbox"
            className="size-4 accent-cedar"
            checked={all}
            onChange={(event) => setAll(event.target.checked)}
          />
          all columns
        </label>
      </p>
      <CellGrid
        sheet={sheet}
        shown={shown}
        titles={stored.columns.map((column) => column.title)}
        rows={now.rows}
        onChange={change}
        onUndo={undo}
      />
    </section>
  );
}
