import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { energy } from "../../ui/format";

type Bar = components["schemas"]["Bar"];

/** Where the energy went until it failed: each bar leads to where it is changed. */
export function Why() {
  const { view } = useDesk();
  const fails = view.verdict.status === "does_not_last";
  const found = useQuery({
    queryKey: ["why", view.id, view.revision],
    enabled: fails,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) => {
      const params = { path: { plan_id: view.id } };
      return answer(client.GET("/api/plans/{plan_id}/why", { params, signal }));
    },
  });
  if (!fails) return null;
  const data = found.data;
  const most = Math.max(1, ...[...(data?.came ?? []), ...(data?.went ?? [])].map((bar) => bar.wh));
  return (
    <section aria-label="Where the energy went until then" className="mb-4">
      <h2 className="border-b border-ink pb-1">Where the energy went until then</h2>
      <CannotShow asked={found} what="account" />
      {data && (
        <>
          <p className="mt-1" data-testid="why">
            {data.sentence}
          </p>
          <div className="mt-1 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-2 md:grid-cols-2">
            <div>
              <Bars name="Stored and got" bars={data.came ?? []} most={most} colour="bg-cedar" />
              <Bars name="Offered and not taken" bars={data.not_taken ?? []} most={most} colour="bg-faint" />
            </div>
            <div>
              <Bars name="Where it went" bars={data.went ?? []} most={most} colour="bg-leg-a" />
            </div>
          </div>
        </>
      )}
    </section>
  );
}

function Bars({ name, bars, most, colour }: { name: string; bars: Bar[]; most: number; colour: string }) {
  const { view } = useDesk();
  if (bars.length === 0) return null;
  return (
    <>
      <h3 className="mt-1 font-semibold">{name}</h3>
      <ul>
        {bars.map((bar) => (
          <li key={bar.words} className="grid grid-cols-[5.2rem_minmax(0,1fr)] gap-x-2 py-0.5">
            <span className="text-right tabular-nums">{energy(bar.wh)}</span>
            <span>
              <Link to={`/plans/${view.id}/${bar.screen}`} className="hover:text-cedar">
                {bar.words}
              </Link>
              <span
                className={`mt-0.5 block h-1.5 opacity-60 ${colour}`}
                style={{ width: `${(100 * bar.wh) / most}%` }}
                aria-hidden
              />
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
