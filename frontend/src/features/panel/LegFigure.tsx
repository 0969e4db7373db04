import { scaleLinear } from "d3-scale";
import type { PanelSchedule } from "../../api/client";
import { energy, percent, tenth, watts, whole } from "../../ui/format";

const HALF = 74;

/** Leg A up, leg B down from one axis: everything on at once, and a day's energy. */
export function LegFigure({ schedule, named }: { schedule: PanelSchedule; named: boolean }) {
  const one = schedule.legs.L;
  const a = one ?? schedule.legs.A;
  const b = schedule.legs.B;
  if (!a) return null;
  const limitW = a.limit_a && a.most_a > 0 ? a.limit_a : null;
  const most = Math.max(a.keep_w + a.room_w, b ? b.keep_w + b.room_w : 0, 1);
  const mostDay = Math.max(a.keep_wh_day + a.room_wh_day, b ? b.keep_wh_day + b.room_wh_day : 0, 1);
  return (
    <section aria-label="Legs" className="mb-4">
      <h2 className="border-b border-ink pb-1">
        Legs{named && ` of ${schedule.name}`}, everything marked on at once
      </h2>
      <div className="flex gap-4 pt-2">
        <svg viewBox="0 0 150 160" className="h-[160px] w-[150px] shrink-0" aria-hidden="true">
          <Bar x={8} keep={a.keep_w} room={a.room_w} most={most} up leg={one ? "L" : "A"} />
          {b && <Bar x={8} keep={b.keep_w} room={b.room_w} most={most} leg="B" />}
          <Bar x={82} keep={a.keep_wh_day} room={a.room_wh_day} most={mostDay} up leg={one ? "L" : "A"} />
          {b && <Bar x={82} keep={b.keep_wh_day} room={b.room_wh_day} most={mostDay} leg="B" />}
          <line x1="0" x2="150" y1="80" y2="80" stroke="var(--ink)" strokeWidth="1.5" />
        </svg>
        <dl className="grow leading-snug">
          <LegLine leg={one ? "L" : "A"} load={a} limit={limitW} />
          {b && <LegLine leg="B" load={b} limit={limitW} />}
          <dt className="sr-only">Neutral and lean</dt>
          <dd className="mt-2 text-faint">
            neutral {tenth(schedule.neutral_a)} A
            <br />
            {b && (
              <span data-testid="lean">
                lean {percent(schedule.lean_w)} in W, {percent(schedule.lean_wh)} in Wh
              </span>
            )}
          </dd>
        </dl>
      </div>
      <p className="text-[12px] text-faint">
        left: watts at once; right: energy of a day. Solid keep, open room.
      </p>
    </section>
  );
}

type LegLoad = NonNullable<PanelSchedule["legs"][string]>;

function LegLine({ leg, load, limit }: { leg: "A" | "B" | "L"; load: LegLoad; limit: number | null }) {
  return (
    <>
      <dt className={`mt-1 font-semibold ${leg === "B" ? "text-leg-b" : "text-leg-a"}`}>Leg {leg}</dt>
      <dd data-testid={`leg-${leg}`}>
        {watts(load.keep_w + load.room_w)}, {tenth(load.most_a)} A{limit ? ` of ${whole(limit)} A` : ""}
        {(load.share ?? 0) > 1 && <strong className="text-caution"> over</strong>}
        <br />
        <span className="text-faint">{energy(load.keep_wh_day + load.room_wh_day)} a day</span>
      </dd>
    </>
  );
}

function Bar(props: {
  x: number;
  keep: number;
  room: number;
  most: number;
  up?: boolean;
  leg: "A" | "B" | "L";
}) {
  const { x, keep, room, most, up, leg } = props;
  const height = scaleLinear().domain([0, most]).range([0, HALF]);
  const colour = leg === "B" ? "var(--leg-b)" : "var(--leg-a)";
  const keepH = height(keep);
  const roomH = height(room);
  return (
    <g>
      <rect x={x} width={46} y={up ? 80 - keepH : 80} height={keepH} fill={colour} />
      <rect
        x={x + 0.75}
        width={44.5}
        y={up ? 80 - keepH - roomH : 80 + keepH}
        height={Math.max(0, roomH)}
        fill="none"
        stroke={colour}
        strokeWidth="1.5"
      />
      <text x={x + 50} y={up ? 72 : 96} fontSize="12" fontWeight="600" fill={colour}>
        {leg}
      </text>
    </g>
  );
}
