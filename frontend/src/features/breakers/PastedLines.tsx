import { useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { answer, client } from "../../api/client";
import { CouldNot } from "../plans/CouldNot";

interface Props {
  text: string;
  usual: boolean;
  system: "split_phase_120_240" | "single_phase_230";
}

const SHOWN = ["panel", "spaces", "label", "breaker_a", "mark", "wire", "loads", "draw", "multiwire_partner"];

/** Pasted lines as they were understood, each fault beside its line. */
export function PastedLines({ text, usual, system }: Props) {
  const asked = useDeferredValue(JSON.stringify({ table: { text, usual }, system }));
  const found = useQuery({
    queryKey: ["pasted", asked],
    queryFn: () => answer(client.POST("/api/breakers/read", { body: JSON.parse(asked) })),
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
    retry: 0,
  });
  if (text.trim() === "") return null;
  if (found.isError) return <CouldNot error={found.error} kept="The lines are still here." />;
  const view = found.data;
  if (!view) return <p className="text-faint">Reading…</p>;
  const rows = view.rows.map((row, at) => ({ ...row, at }));
  rows.sort((one, other) => other.faults.length - one.faults.length);
  const titles = Object.fromEntries(view.columns.map((column) => [column.key, column.title]));
  const used = SHOWN.map((key) => view.columns.findIndex((column) => column.key === key)).filter(
    (at) =>
      at >= 0 &&
      view.rows.some((row) => row.cells[at] || (view.columns[at]?.key === "loads" && row.usual)) &&
      (view.columns[at]?.key !== "panel" ||
        new Set(view.rows.map((row) => row.cells[at]).filter(Boolean)).size > 1),
  );
  return (
    <div className="mt-2 overflow-x-auto" data-testid="pasted">
      <p className={view.faults > 0 ? "font-semibold text-stop" : ""}>
        {view.faults > 0
          ? `${view.faults === 1 ? "1 line has" : `${view.faults} things have`} to be mended below.`
          : `Understood: ${view.rows.length === 1 ? "1 breaker" : `${view.rows.length} breakers`}.`}
      </p>
      {view.notes.map((words) => (
        <p key={words} className="text-caution">
          {words}
        </p>
      ))}
      <table className="mt-1 w-full text-[13px]">
        <thead>
          <tr className="border-b border-rule text-left">
            {used.map((at) => (
              <th key={at} scope="col" className="pr-3 font-semibold">
                {view.columns[at]?.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.at} className="border-b border-rule align-baseline">
              {used.map((at) => (
                <td key={at} className="pr-3">
                  {row.cells[at]}
                  {view.columns[at]?.key === "loads" && !row.cells[at] && row.usual && (
                    <span className="text-faint">usually {row.usual}</span>
                  )}
                  {at === used.at(-1) &&
                    row.faults.map((fault) => (
                      <strong key={fault.column} className="block text-stop">
                        {titles[fault.column] ?? fault.column}: got {fault.got}; {fault.right}
                      </strong>
                    ))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
