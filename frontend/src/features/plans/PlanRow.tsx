import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";
import { here, percent, unbroken } from "../../ui/format";
import { LastPractised } from "../practise/LastPractised";

type Line = components["schemas"]["PlanLine"];
type Outline = components["schemas"]["Outline"];

const COLOURS: Record<string, string> = { lasts: "text-good", does_not_last: "text-stop" };

/** One plan: its name, its verdict, its pinch, and the charge over the outage. */
export function PlanRow({ plan, children }: { plan: Line; children: React.ReactNode }) {
  const outline = useQuery({
    queryKey: ["outline", plan.id, plan.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/outline", { params: { path: { plan_id: plan.id } } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: 0,
  });
  const found = outline.data;
  return (
    <li className="grid gap-x-5 gap-y-1 border-b border-rule py-3 sm:grid-cols-[minmax(0,1fr)_180px]">
      <div className="min-w-0">
        <Link to={`/plans/${plan.id}/panel`} className="text-[16px] font-semibold hover:text-cedar">
          {plan.name}
        </Link>
        <p data-testid="outline">
          {found ? <Words outline={found} /> : outline.isError ? outline.error.message : "…"}
        </p>
        <p className="flex flex-wrap items-baseline gap-x-4 text-faint">
          <span>saved {here(plan.saved_at)}</span>
          <LastPractised planId={plan.id} />
          {children}
        </p>
      </div>
      {found && found.charge_percent.length > 1 && <Course outline={found} name={plan.name} />}
    </li>
  );
}

function Words({ outline }: { outline: Outline }) {
  const { verdict, stops, cautions } = outline;
  return (
    <>
      <strong className={COLOURS[verdict.status] ?? ""}>{verdict.headline}</strong>{" "}
      {unbroken(verdict.sentence)}
      {verdict.how_sure && <span className="text-faint"> · how sure: {unbroken(verdict.how_sure)}</span>}
      {verdict.pinch && (
        <span className="text-faint">
          {" "}
          · pinch: {verdict.pinch.name}, {unbroken(percent(verdict.pinch.share))}
        </span>
      )}
      {stops > 0 && (
        <strong className="text-stop"> · {stops === 1 ? "1 stop" : `${stops} stops`}: do not energise</strong>
      )}
      {stops === 0 && cautions > 0 && (
        <span className="text-caution"> · {cautions === 1 ? "1 caution" : `${cautions} cautions`}</span>
      )}
    </>
  );
}

const WIDTH = 180;
const HEIGHT = 44;

/** Charge from the beginning of the outage to its end, 0 to 100 %. */
function Course({ outline, name }: { outline: Outline; name: string }) {
  const last = outline.t_s.at(-1) || 1;
  const points = outline.charge_percent.map((charge, index) => {
    const x = ((outline.t_s[index] ?? 0) / last) * WIDTH;
    return `${x.toFixed(1)},${(HEIGHT - (charge / 100) * (HEIGHT - 2)).toFixed(1)}`;
  });
  const lowest = Math.min(...outline.charge_percent);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-[44px] w-[180px] max-sm:w-full"
      preserveAspectRatio="none"
      role="img"
      aria-label={`Charge of ${name} over the outage, lowest ${Math.round(lowest)} %`}
    >
      <polygon points={`0,${HEIGHT} ${points.join(" ")} ${WIDTH},${HEIGHT}`} fill="var(--leaf)" />
      <polyline points={points.join(" ")} fill="none" stroke="var(--cedar)" strokeWidth="1.5" />
      <line x1="0" x2={WIDTH} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} stroke="var(--ink)" />
    </svg>
  );
}
