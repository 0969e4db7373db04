import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { tenth } from "../../ui/format";
import { told, useUnits } from "../../ui/quantity";

type Lead = components["schemas"]["LeadConductors"];
type Conductor = components["schemas"]["Conductor"];

/** Every lead as the row of its conductors, each with what it may carry, what protects it, what flows. */
export function Conductors() {
  const { view } = useDesk();
  const asked = useQuery({
    queryKey: ["conductors", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/conductors", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  if (asked.data && asked.data.length === 0) return null;
  return (
    <section aria-label="Every conductor" className="mb-6">
      <h2 className="mb-1 border-b border-ink pb-1">Every conductor</h2>
      <CannotShow asked={asked} what="conductors" />
      {asked.data?.map((lead) => (
        <LeadRows key={lead.lead_id} lead={lead} />
      ))}
    </section>
  );
}

const share = (volts: number, of: number) => `${tenth(volts)} V (${tenth((100 * volts) / of)} %)`;

function LeadRows({ lead }: { lead: Lead }) {
  const units = useUnits();
  const wrong = lead.conductors.filter((row) => row.wrong?.length);
  const open = lead.conductors.filter((row) => row.not_known?.length);
  const legs = lead.conductors.some((row) => row.b_a != null);
  return (
    <details className="mb-1 border-l-2 border-rule pl-3">
      <summary className="min-h-[26px] cursor-pointer">
        {lead.name}
        {lead.drop_v != null && <>: loses {share(lead.drop_v, lead.volts)} at the greatest flow</>}
        {lead.farthest_v != null && (
          <>
            {" "}
            · to {lead.farthest}: {share(lead.farthest_v, lead.volts)}
          </>
        )}
        {lead.words?.map((words) => (
          <span key={words} className="text-caution">
            {" "}
            · {words}
          </span>
        ))}
        {wrong.length > 0 && <strong className="text-stop"> · {wrong.length} with too much</strong>}
        {open.length > 0 && <span className="text-caution"> · {open.length} not all known</span>}
      </summary>
      <InEachState lead={lead} legs={legs} />
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: on a phone it scrolls sideways, by keyboard too */}
      <div className="relative overflow-x-auto" tabIndex={0}>
        <table className="w-full text-left [&_td]:pr-4 [&_th]:pr-4" aria-label={`Conductors of ${lead.name}`}>
          <thead className="text-faint">
            <tr className="border-b border-ink [&>th]:py-1 [&>th]:font-normal">
              <th>conductor</th>
              <th className="text-right">may carry</th>
              <th className="text-right">protected at</th>
              <th className="text-right">{legs ? "leg A" : "carries"}</th>
              {legs && <th className="text-right">leg B</th>}
              <th className="text-right">neutral</th>
              <th className="text-right">length</th>
              <th className="text-right">counted at</th>
              <th className="text-right">loses</th>
            </tr>
          </thead>
          <tbody>
            {lead.conductors.map((row) => (
              <tr key={`${row.kind} ${row.name}`} className="border-b border-rule align-top">
                <td className="named min-w-[12rem]">
                  {row.name}
                  <Words words={row.wrong} colour="text-stop" />
                </td>
                <Figures row={row} legs={legs} />
                <td className="whitespace-nowrap text-right">
                  {row.length_m == null ? "" : told(row.length_m, "m", units)}
                </td>
                <td className="whitespace-nowrap text-right">
                  {row.warm_c == null ? "" : told(row.warm_c, "°C", units)}
                </td>
                <td className="whitespace-nowrap text-right">
                  {row.drop_v == null ? <Open said={!row.long} /> : share(row.drop_v, lead.volts)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-faint">
        Currents are the greatest of the run, each at its own moment. Cords are counted stranded, wires of the
        house as warm as their cable may be. What is lost is counted only where length and gauge are known:
        they are said here for leads, and on Panel for each breaker.
      </p>
    </details>
  );
}

/** What flows along a lead by what its source does meanwhile. */
function InEachState({ lead, legs }: { lead: Lead; legs: boolean }) {
  if (!lead.states?.length) return null;
  return (
    <ul aria-label={`${lead.name} in each state`} className="my-1 border-l-2 border-rule pl-3">
      {lead.states.map((state) => (
        <li key={state.words}>
          {state.words}:{" "}
          {[
            [legs ? "leg A" : "", state.a_a, "A"],
            ["leg B", legs ? state.b_a : null, "A"],
            ["neutral", state.neutral_a, "A"],
            ["loses", state.drop_v, "V"],
          ]
            .filter(([, value]) => value != null)
            .map(([name, value, unit]) => `${name} ${tenth(Number(value))} ${unit}`.trim())
            .join(" · ")}
        </li>
      ))}
    </ul>
  );
}

function Figures({ row, legs }: { row: Conductor; legs: boolean }) {
  const cells = [
    { name: "rating", value: row.rating_a, said: false },
    { name: "protected", value: row.protected_a, said: !row.long },
    { name: "a", value: row.a_a, said: true },
    ...(legs ? [{ name: "b", value: row.b_a, said: true }] : []),
    { name: "neutral", value: row.neutral_a, said: true },
  ];
  return cells.map(({ name, value, said }) => (
    <td key={name} className="whitespace-nowrap text-right">
      {value == null ? <Open said={said} /> : `${tenth(value)} A`}
    </td>
  ));
}

/** An empty cell: nothing that could be said of it, or what nobody has said. */
function Open({ said }: { said: boolean }) {
  return said ? null : <span className="text-caution">not known</span>;
}

function Words({ words, colour }: { words: readonly string[] | undefined; colour: string }) {
  return words?.map((each) => (
    <span key={each} className={`block ${colour}`}>
      {each}
    </span>
  ));
}
