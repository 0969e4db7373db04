import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";
import { OnDemand } from "../../ui/OnDemand";

type Found = components["schemas"]["WaysIn"];
type Way = NonNullable<Found["ways"]>[number];

/** The same house by other ways in: money, what stays dark, minutes, permit, what can be taken along. */
export function WaysIn() {
  const { view } = useDesk();
  return (
    <OnDemand<Found>
      title="Other ways in"
      id="ways-in"
      button="Compare ways into this house"
      takes="by cords, a switch for one circuit, inlet and interlock, transfer switches"
      waiting="Each way is being worked out …"
      what="comparison"
      ask={(signal) => {
        const params = { path: { plan_id: view.id } };
        return answer(client.GET("/api/plans/{plan_id}/ways-in", { params, signal }));
      }}
    >
      {(found) => (
        <>
          <p className="mt-1 text-[1.05rem]" data-testid="ways-in-sentence">
            {found.sentence}
          </p>
          <ul>
            {(found.ways ?? []).map((way) => (
              <One key={way.name} way={way} />
            ))}
          </ul>
          <p className="mt-1 text-faint">
            Prices with labour, in dollars, and permits as is usual, from memory: ask for a quotation.{" "}
            {found.defers}
          </p>
        </>
      )}
    </OnDemand>
  );
}

function One({ way }: { way: Way }) {
  return (
    <li className="grid grid-cols-[minmax(0,1fr)] gap-x-4 border-b border-rule py-1 md:grid-cols-[16rem_minmax(0,1fr)]">
      <div>
        <strong>{way.name}</strong>
        {way.own && <span className="text-cedar"> · as it is now</span>}
        <span className="block tabular-nums">
          ${whole(way.money_low)} to ${whole(way.money_high)} · about {whole(way.minutes)} min
        </span>
      </div>
      <div>
        <Dark way={way} />
        <span className="block">{way.verdict}</span>
        <span className="block text-faint">
          {way.permit} {way.consent} {way.taken_along}
        </span>
      </div>
    </li>
  );
}

function Dark({ way }: { way: Way }) {
  if (way.dark.length === 0) return <span>Nothing that is wanted stays dark.</span>;
  return (
    <span className={way.dark_must ? "text-caution" : ""}>
      {way.dark_must > 0 && (
        <strong>Must run and stays dark: {way.dark.slice(0, way.dark_must).join(", ")}. </strong>
      )}
      {way.dark.length > way.dark_must && <>Dark, too: {way.dark.slice(way.dark_must).join(", ")}. </>}
      {whole(way.dark_wh_day)} Wh a day.
    </span>
  );
}
