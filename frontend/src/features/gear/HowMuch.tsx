import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { ChoiceField } from "../../ui/ChoiceField";
import { energy, whole } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";
import { useWidth } from "../../ui/useWidth";
import { AsVariant } from "../variants/AsVariant";

type Found = components["schemas"]["Size"];
type Choice = components["schemas"]["Choice"];

const MONTHS = Array.from({ length: 12 }, (_, month) =>
  new Intl.DateTimeFormat("en-US", { month: "long", timeZone: "UTC" }).format(Date.UTC(2026, month, 15)),
);

/** How much to buy: for so many days at a chance, the choices that no other beats. */
export function HowMuch() {
  const { view } = useDesk();
  const [days, setDays] = useState<number | null>(null);
  const [chance, setChance] = useState(90);
  const [month, setMonth] = useState("");
  const [asked, setAsked] = useState(-1);
  const now = asked === view.revision;
  const { found, piece } = useSize(now, { days, chance, month });
  const begin = () => setAsked(view.revision);
  return (
    <section aria-label="How much to buy" id="how-much" className="mb-6 scroll-mt-60 sm:scroll-mt-40">
      <h2 className="border-b border-ink pb-1">How much to buy</h2>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <NumberField
          label="an outage of"
          value={days === null ? (view.plan.outage.length_s ?? 0) / 3_600 : days * 24}
          unit="h"
          width="w-16"
          onSave={(hours) => setDays(hours / 24)}
        />
        <NumberField label="with a chance of" value={chance} unit="%" width="w-12" onSave={setChance} />
        <ChoiceField
          label="in"
          value={month}
          choices={[["", "the plan's month"], ...MONTHS.map((name, at) => [String(at + 1), name] as const)]}
          onSave={setMonth}
        />
      </div>
      {!now && (
        <p className="mt-1">
          <button type="button" className="act font-semibold" onClick={begin}>
            Find what is enough
          </button>{" "}
          <span className="text-faint">
            {asked === -1
              ? "packs, modules and engine hours, each in outages as they may be: up to a minute"
              : "the plan has changed since it was worked out"}
          </span>
        </p>
      )}
      {now && <CannotShow asked={piece} what="choices" />}
      {now && !found && !piece.error && (
        <p role="status" className="mt-1 text-faint">
          Outages are being run …
        </p>
      )}
      {now && found && <Answer found={found} working={!found.done && !piece.error} />}
    </section>
  );
}

/** The answer piece by piece: it is asked again until it is done, and the rest is left when one edits on. */
function useSize(now: boolean, asked: { days: number | null; chance: number; month: string }) {
  const { view } = useDesk();
  const about = [view.id, view.revision, asked];
  const piece = useQuery<Found>({
    queryKey: ["size", ...about],
    enabled: now,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    refetchInterval: ({ state }) => (state.data && !state.data.done && !state.error ? 10 : false),
    queryFn: ({ signal }) => {
      const query = {
        chance: asked.chance / 100,
        ...(asked.days === null ? {} : { days: asked.days }),
        ...(asked.month ? { month: Number(asked.month) } : {}),
      };
      const params = { path: { plan_id: view.id }, query };
      return answer(client.GET("/api/plans/{plan_id}/size", { params, signal }));
    },
  });
  return { found: piece.data, piece };
}

function Answer({ found, working }: { found: Found; working: boolean }) {
  const choices = found.choices ?? [];
  return (
    <>
      <p className="mt-1 text-[1.05rem]" data-testid="size-sentence">
        {found.sentence}
      </p>
      <p className="text-faint" role="status">
        {whole(found.tried ?? 0)} choices, {whole(found.outages ?? 0)} outages run.{" "}
        {working ? "More are being run …" : ""}
      </p>
      {(found.notes ?? []).map((note) => (
        <p key={note} className="border-l-4 border-cedar pl-3">
          {note}
        </p>
      ))}
      {choices.length > 0 && <Picture choices={choices} />}
      {choices.length > 0 && <Table choices={choices} />}
    </>
  );
}

const MOST_WIDTH = 560;
const HEIGHT = 170;
const LEFT = 58;
const BOTTOM = 30;

/** Each choice by what it stores and how long an engine runs a day; its number is that of the table. */
function Picture({ choices }: { choices: Choice[] }) {
  const box = useRef<HTMLDivElement>(null);
  const width = Math.min(MOST_WIDTH, useWidth(box));
  const most = Math.max(1000, ...choices.map((item) => item.storage_wh)) * 1.1;
  const hours = Math.max(2, ...choices.map((item) => item.engine_h));
  const x = (wh: number) => LEFT + ((width - LEFT - 16) * wh) / most;
  const y = (h: number) => HEIGHT - BOTTOM - ((HEIGHT - BOTTOM - 18) * h) / hours;
  const told = choices.map((item, at) => `${at + 1}: ${item.words}`).join("; ");
  return (
    <div ref={box} className="mt-2">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Choices by what they store and hours of an engine. ${told}`}
      >
        <g fontSize="12" fill="var(--ink)">
          <line x1={LEFT} x2={width - 8} y1={y(0)} y2={y(0)} stroke="var(--ink)" />
          <line x1={LEFT} x2={LEFT} y1={8} y2={y(0)} stroke="var(--ink)" />
          <text x={LEFT - 6} y={y(0) + 4} textAnchor="end">
            0 h
          </text>
          <text x={LEFT - 6} y={y(hours) + 4} textAnchor="end">
            {hours} h
          </text>
          <text x={LEFT} y={HEIGHT - 6}>
            engine a day, against what is stored
          </text>
          <text x={width - 8} y={HEIGHT - 6} textAnchor="end">
            {energy(most / 1.1)}
          </text>
          {choices.map((item, at) => (
            <g key={item.words}>
              <circle
                cx={x(item.storage_wh)}
                cy={y(item.engine_h)}
                r="9"
                fill="var(--cedar)"
                opacity="0.25"
              />
              <text x={x(item.storage_wh)} y={y(item.engine_h) + 4} textAnchor="middle" fontWeight="600">
                {at + 1}
              </text>
              {item.strings > 0 && (
                <text x={x(item.storage_wh) + 12} y={y(item.engine_h) + 4}>
                  +{item.strings} modules
                </text>
              )}
            </g>
          ))}
        </g>
      </svg>
    </div>
  );
}

/** What a choice asks, by column. */
function asked(item: Choice): [string, string][] {
  const noise = item.noise_db == null ? "not said" : `${whole(item.noise_db)} dB`;
  return [
    ["lasts in", `${item.lasted} of ${item.outages}`],
    ["stored", energy(item.storage_wh)],
    ["price", item.money == null ? "not said" : whole(item.money)],
    ["weight", item.weight_kg == null ? "not said" : `${whole(item.weight_kg)} kg`],
    ["fuel a day", item.fuel_day],
    ["work a day", `${whole(item.minutes_day)} min`],
    ["noise", item.engine_h === 0 ? "none" : noise],
  ];
}

function Table({ choices }: { choices: Choice[] }) {
  return (
    <ol data-testid="size-choices">
      {choices.map((item, at) => (
        <li key={item.words} className="border-b border-rule py-1">
          <strong>
            {at + 1} · {item.words}
          </strong>
          <dl className="flex flex-wrap items-baseline gap-x-5">
            {asked(item).map(([name, value]) => (
              <div key={name} className="flex gap-x-1.5 sm:w-[8.5rem]">
                <dt className="text-faint">{name}</dt>
                <dd className="whitespace-nowrap tabular-nums">{value}</dd>
              </div>
            ))}
          </dl>
          <AsVariant patch={item.patch} words="Open as a variant" />
        </li>
      ))}
    </ol>
  );
}
