import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";
import { OnDemand } from "../../ui/OnDemand";

type View = components["schemas"]["SessionView"];
type Found = components["schemas"]["Afterwards"];
type Books = components["schemas"]["MeterBooks"];
type Compared = components["schemas"]["Compared"];

const NEW_ROWS = "rows were added since it was worked out";

/** How it went: foretold against what was, meters against each other, files in and out. */
export function Afterwards({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const path = { plan_id: plan.id, session_id: view.id };
  return (
    <>
      <OnDemand<Found>
        title="How it went"
        button="Compare with what was foretold"
        takes="hours, charges, energy by load, what surprised"
        waiting="It is being compared …"
        what="comparison"
        version={view.rows_total}
        changed={NEW_ROWS}
        about={[view.id]}
        ask={(signal) =>
          answer(
            client.GET("/api/plans/{plan_id}/sessions/{session_id}/afterwards", { params: { path }, signal }),
          )
        }
      >
        {(found) => <HowItWent found={found} />}
      </OnDemand>
      <OnDemand<Books>
        title="Meters against each other"
        button="Compare the meters"
        takes="readings that say where: “1.2 kWh at the plug”, “310 W at the output”"
        waiting="Meters are being compared …"
        what="comparison of meters"
        version={view.rows_total}
        changed={NEW_ROWS}
        about={[view.id]}
        ask={(signal) =>
          answer(
            client.GET("/api/plans/{plan_id}/sessions/{session_id}/meters", { params: { path }, signal }),
          )
        }
      >
        {(found) => <Meters found={found} />}
      </OnDemand>
      <Files view={view} />
    </>
  );
}

function HowItWent({ found }: { found: Found }) {
  const { edit } = useDesk();
  return (
    <>
      <p data-testid="afterwards">{found.sentence}</p>
      <Figures rows={[...(found.figures ?? []), ...(found.loads ?? [])]} />
      {(found.surprises ?? []).map((words) => (
        <p key={words} className="border-l-4 border-caution pl-3">
          {words}
        </p>
      ))}
      {(found.follows ?? []).map((item) => (
        <p key={item.words}>
          {item.words}{" "}
          <button
            type="button"
            className="act min-h-9"
            onClick={() => edit((now) => applyPatch(now, item.patch) as Plan)}
          >
            Take it over into the plan
          </button>
        </p>
      ))}
    </>
  );
}

function Figures({ rows }: { rows: Compared[] }) {
  if (rows.length === 0) return null;
  const told = (value: number | null | undefined, unit: string) =>
    value === null || value === undefined ? "–" : `${whole(value)} ${unit}`;
  return (
    <table className="named my-1 w-full text-left">
      <thead>
        <tr className="border-b border-ink text-faint">
          <th className="font-normal">what</th>
          <th className="text-right font-normal">foretold</th>
          <th className="text-right font-normal">as it went</th>
          <th className="text-right font-normal">read</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.words} className="border-b border-rule">
            <th scope="row" className="font-normal">
              {row.words}
            </th>
            {[row.planned, row.as_it_went, row.read].map((value, place) => (
              <td key={["planned", "went", "read"][place]} className="text-right tabular-nums">
                {told(value, row.unit)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Meters({ found }: { found: Books }) {
  return (
    <>
      <p data-testid="meters">{found.sentence}</p>
      {(found.meters ?? []).length > 0 && (
        <ul className="ml-4 list-disc">
          {(found.meters ?? []).map((item) => (
            <li key={item.place}>
              {item.words}: {whole(item.read_wh)} Wh, {item.off_percent > 0 ? "+" : ""}
              {item.off_percent} % of what fits all
            </li>
          ))}
          {(found.sections ?? []).map((item) => (
            <li key={item.words}>
              {item.words}: {whole(item.lost_wh)} Wh lost, {whole(item.expected_wh)} Wh by the run
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function Files({ view }: { view: View }) {
  const { view: plan } = useDesk();
  const queries = useQueryClient();
  const base = `/api/plans/${plan.id}/sessions/${view.id}`;
  const params = { path: { plan_id: plan.id, session_id: view.id } };
  const read = useMutation({
    mutationFn: async (file: File) =>
      answer(
        client.POST("/api/plans/{plan_id}/sessions/{session_id}/rows.csv", {
          params,
          body: { csv: await file.text() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["session", view.id] }),
  });
  return (
    <p className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1" data-testid="session-files">
      <a className="act" href={`${base}/report.pdf`} download>
        Report on two pages (PDF)
      </a>
      <a className="act" href={`${base}/rows.csv`} download>
        Rows as CSV
      </a>
      <a className="act" href={`${base}/file`} download>
        The whole log (JSON)
      </a>
      <label>
        <span className="text-faint">rows out of a CSV </span>
        <input
          type="file"
          accept=".csv,text/csv"
          className="max-w-[220px]"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) read.mutate(file);
            event.target.value = "";
          }}
        />
      </label>
      {read.data && <span role="status">{read.data.new} new rows</span>}
      {read.error && (
        <span role="alert" className="border-l-4 border-stop pl-3">
          {read.error.message}
        </span>
      )}
    </p>
  );
}
