import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { type At, BREAKS, blockOf, filledDown, type RowView, type Sheet, WIDTH, withBlock } from "./sheet";

interface Props {
  sheet: Sheet;
  /** Places of the columns that are shown. */
  shown: number[];
  titles: string[];
  rows: RowView[];
  onChange: (rows: string[][]) => void;
  onUndo: () => void;
}

const MOVES: Record<string, [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};

/** Cells that are edited by keyboard: typing begins, Enter goes down, Ctrl and D fills down, blocks are pasted. */
export function CellGrid({ sheet, shown, titles, rows, onChange, onUndo }: Props) {
  const [at, setAt] = useState<At>({ row: 0, column: 0 });
  const [end, setEnd] = useState<number | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const grid = useRef<HTMLTableElement>(null);
  const follow = useRef(false);
  const last = sheet.rows.length;
  useEffect(() => {
    if (!follow.current) return;
    follow.current = false;
    grid.current?.querySelector<HTMLElement>(`[data-at="${at.row} ${at.column}"]`)?.focus();
  }, [at]);
  const go = (row: number, column: number) => {
    follow.current = true;
    setTyped(null);
    setAt({
      row: Math.max(0, Math.min(last, row)),
      column: Math.max(0, Math.min(shown.length - 1, column)),
    });
  };
  const put = (text: string) => onChange(withBlock(sheet, shown, at, [[text]]));
  const takeOut = () => onChange(sheet.rows.filter((_, row) => row !== at.row));
  const enter = (text: string, down: number, right: number) => {
    if (text.trim() !== (sheet.rows[at.row]?.[shown[at.column] ?? -1] ?? "")) put(text);
    setTyped(null);
    go(at.row + down, at.column + right);
  };
  const onKey = (event: KeyboardEvent) => {
    if (typed !== null) return;
    const chord = event.ctrlKey || event.metaKey;
    const way = MOVES[event.key];
    const column = shown[at.column];
    if (way) {
      event.preventDefault();
      if (event.shiftKey && way[0] !== 0) {
        setEnd(Math.max(0, Math.min(last - 1, (end ?? at.row) + way[0])));
        return;
      }
      setEnd(null);
      go(at.row + way[0], at.column + way[1]);
    } else if (event.key === "Home" || event.key === "End") {
      event.preventDefault();
      go(chord ? (event.key === "Home" ? 0 : last) : at.row, event.key === "Home" ? 0 : shown.length - 1);
    } else if (event.key === "Enter" || event.key === "F2") {
      event.preventDefault();
      setTyped(sheet.rows[at.row]?.[column ?? -1] ?? "");
    } else if (chord && event.key.toLowerCase() === "d" && column !== undefined) {
      event.preventDefault();
      const to = end ?? at.row + 1;
      onChange(filledDown(sheet.rows, column, Math.min(at.row, to), Math.max(at.row, to)));
    } else if (chord && event.key.toLowerCase() === "z") {
      event.preventDefault();
      event.stopPropagation();
      onUndo();
    } else if (chord && event.key === "Delete") {
      event.preventDefault();
      takeOut();
    } else if ((event.key === "Delete" || event.key === "Backspace") && column !== undefined) {
      event.preventDefault();
      put("");
    } else if (event.key.length === 1 && !chord && !event.altKey) {
      event.preventDefault();
      setTyped(event.key);
    }
  };
  const onPaste = (event: ClipboardEvent) => {
    if (typed !== null) return;
    const text = event.clipboardData.getData("text/plain");
    if (!text) return;
    event.preventDefault();
    onChange(withBlock(sheet, shown, at, blockOf(text)));
  };
  const label = sheet.rows[at.row]?.[sheet.columns.indexOf("label")];
  return (
    <>
      {last > 0 && (
        <p className="mb-1">
          <button type="button" className="act" disabled={at.row >= last} onClick={takeOut}>
            Take row {Math.min(at.row + 1, last)} out{label ? `: ${label}` : ""}
          </button>
        </p>
      )}
      <div className="overflow-auto border border-rule [max-height:min(70vh,640px)]">
        <table
          ref={grid}
          // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a grid that is edited cell by cell
          role="grid"
          aria-label="Breakers"
          aria-rowcount={last + 2}
          className="border-separate border-spacing-0 text-[13px]"
          onKeyDown={onKey}
          onPaste={onPaste}
        >
          <thead>
            <tr>
              <th scope="col" className="sticky top-0 z-10 bg-leaf px-1 text-right font-normal text-faint">
                <span className="sr-only">row</span>
              </th>
              {shown.map((column, index) => (
                <th
                  key={sheet.columns[column]}
                  scope="col"
                  className={`sticky top-0 z-10 bg-leaf px-1.5 text-left align-bottom ${index === 1 ? "max-sm:left-0 max-sm:z-20" : ""}`}
                >
                  {titles[column]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {[...sheet.rows, sheet.columns.map(() => "")].map((cells, row) => {
              const seen = rows[row];
              const faults = seen?.faults ?? [];
              const wrong = new Set(faults.map((fault) => fault.column));
              const key = `${row}`;
              return [
                <tr key={key}>
                  <th scope="row" className="px-1 text-right font-normal text-faint">
                    {row === last ? "+" : row + 1}
                  </th>
                  {shown.map((column, index) => {
                    const name = sheet.columns[column] ?? "";
                    const here = at.row === row && at.column === index;
                    const among =
                      end !== null &&
                      at.column === index &&
                      row >= Math.min(at.row, end) &&
                      row <= Math.max(at.row, end);
                    const cell = cells[column] ?? "";
                    const usual = name === "loads" && cell === "" ? seen?.usual : null;
                    return (
                      <td
                        key={name}
                        // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of the grid
                        role="gridcell"
                        tabIndex={here ? 0 : -1}
                        data-at={`${row} ${index}`}
                        aria-label={`${titles[column]}${row === last ? ", new row" : `, row ${row + 1}`}: ${cell || "empty"}${wrong.has(name) ? ", to be mended" : ""}`}
                        aria-invalid={wrong.has(name) || undefined}
                        className={`h-[26px] border-r border-b border-rule px-1.5 ${among || here ? "bg-leaf" : "bg-paper"} ${wrong.has(name) ? "border-l-4 border-l-stop" : ""} ${index === 1 ? "max-sm:sticky max-sm:left-0" : ""} ${BREAKS.has(name) ? "" : "whitespace-nowrap"}`}
                        style={{ minWidth: `${WIDTH[name] ?? 9}ch`, maxWidth: `${(WIDTH[name] ?? 9) + 6}ch` }}
                        onFocus={() => {
                          if (!here) {
                            setEnd(null);
                            setTyped(null);
                            setAt({ row, column: index });
                          }
                        }}
                        onDoubleClick={() => setTyped(cell)}
                      >
                        {here && typed !== null ? (
                          <Typed
                            text={typed}
                            title={titles[column] ?? name}
                            onEnter={enter}
                            onLeave={() => go(row, index)}
                          />
                        ) : (
                          <span className={cell ? "" : "text-faint"}>
                            {cell || (usual ? `usually ${usual}` : "")}
                          </span>
                        )}
                      </td>
                    );
                  })}
                </tr>,
                faults.length > 0 && (
                  <tr key={`${key} faults`}>
                    <td />
                    <td colSpan={shown.length} className="pb-1 text-stop">
                      {faults.map((fault) => (
                        <span key={fault.column} className="block">
                          {titles[sheet.columns.indexOf(fault.column)] ?? fault.column}: got {fault.got};{" "}
                          {fault.right}
                        </span>
                      ))}
                    </td>
                  </tr>
                ),
              ];
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}

interface TypedProps {
  text: string;
  title: string;
  onEnter: (text: string, down: number, right: number) => void;
  onLeave: () => void;
}

function Typed({ text, title, onEnter, onLeave }: TypedProps) {
  const [now, setNow] = useState(text);
  const left = useRef(false);
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: whoever began to type goes on in the field
      autoFocus
      aria-label={title}
      className="field w-full min-w-[8ch]"
      value={now}
      onChange={(event) => setNow(event.target.value)}
      onBlur={() => {
        if (!left.current) onEnter(now, 0, 0);
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        const go: Record<string, [number, number]> = { Enter: [1, 0], Tab: [0, event.shiftKey ? -1 : 1] };
        const way = go[event.key];
        if (way) {
          event.preventDefault();
          left.current = true;
          onEnter(now, ...way);
        } else if (event.key === "Escape") {
          left.current = true;
          onLeave();
        }
      }}
    />
  );
}
