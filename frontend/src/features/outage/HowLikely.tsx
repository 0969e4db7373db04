import { useMutation } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import { type Chance, useChance, useVaried, type Varied } from "../../api/useChance";
import { CannotShow } from "../../ui/CannotShow";
import { ChoiceField } from "../../ui/ChoiceField";
import { percent, whole } from "../../ui/format";
import { NumberField } from "../../ui/NumberField";
import { useWidth } from "../../ui/useWidth";
import { ChargeBands } from "./ChargeBands";

/** As far as it is worked out by itself, and when asked for more. */
const FIRST = 120;
const MOST = 500;

/** How likely it is that the plan lasts: the answer, what fails first, what it hangs on, and what was varied. */
export function HowLikely() {
  const [varied, setVaried] = useVaried();
  const [upTo, setUpTo] = useState(FIRST);
  const { chance, asked, working } = useChance(upTo);
  return (
    <section aria-label="Chance" id="chance" className="mb-4 scroll-mt-60 sm:scroll-mt-40">
      <h2 className="border-b border-ink pb-1">How likely it lasts</h2>
      {!chance && <CannotShow asked={asked} what="chance" />}
      {!chance && !asked.error && (
        <p className="mt-1 text-faint" role="status">
          It is worked out once nothing was changed for a moment …
        </p>
      )}
      {chance?.why_not && (
        <p className="mt-1 border-l-4 border-caution pl-3">Not worked out: {chance.why_not}.</p>
      )}
      {chance && !chance.why_not && (
        <>
          <Answer chance={chance} working={working} onMore={upTo < MOST ? () => setUpTo(MOST) : null} />
          {(chance.notes ?? []).map((note) => (
            <p key={note} className="border-l-4 border-caution pl-3">
              {note}
            </p>
          ))}
          {asked.error && (
            <p role="alert" className="border-l-4 border-caution pl-3">
              More could not be run: {asked.error.message}{" "}
              <button type="button" className="act" onClick={() => void asked.refetch()}>
                Try again
              </button>
            </p>
          )}
          <Found chance={chance} />
          <Bands chance={chance} />
          <Opened chance={chance} varied={varied} />
        </>
      )}
      <Circumstance varied={varied} usual={chance?.varying} onVary={setVaried} />
    </section>
  );
}

function Answer({
  chance,
  working,
  onMore,
}: {
  chance: Chance;
  working: boolean;
  onMore: (() => void) | null;
}) {
  return (
    <>
      <p className="mt-1 text-[1.05rem]" data-testid="chance-sentence" aria-live="off">
        {capital(chance.sentence)}.
      </p>
      <Interval chance={chance} />
      <p className="text-faint" data-testid="chance-count">
        {whole(chance.lasted)} of {whole(chance.outages)} outages that were run
        {chance.skipped ? `; ${whole(chance.skipped)} changed too often to be run` : ""}.{" "}
        {working
          ? "More are being run …"
          : chance.done
            ? "That is sure enough: more would hardly change it."
            : ""}{" "}
        {!working && !chance.done && onMore && (
          <button type="button" className="act" onClick={onMore}>
            Run more
          </button>
        )}
      </p>
    </>
  );
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** The interval on a line from never to always. */
function Interval({ chance }: { chance: Chance }) {
  const at = (share: number) => `${100 * share}%`;
  return (
    <div className="relative my-1 h-4 max-w-[520px] border-b border-ink" aria-hidden>
      <div
        className="absolute bottom-0 h-2.5 bg-cedar opacity-35"
        style={{ left: at(chance.low), width: at(chance.high - chance.low) }}
      />
      <div className="absolute bottom-0 h-4 w-0.5 bg-ink" style={{ left: at(chance.share) }} />
    </div>
  );
}

/** What fails first and what that hangs on, each with its share. */
function Found({ chance }: { chance: Chance }) {
  const { view } = useDesk();
  const failures = chance.first_failures ?? [];
  const doubts = chance.doubts ?? [];
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 md:grid-cols-2">
      <div>
        <h3 className="font-semibold">What fails first, where it does not last</h3>
        {failures.length === 0 && <p className="text-faint">Nothing failed in these outages.</p>}
        <ul>
          {failures.map((item) => (
            <Share key={item.words} share={item.share}>
              {capital(item.words)}
            </Share>
          ))}
        </ul>
      </div>
      <div>
        <h3 className="font-semibold">What it hangs on</h3>
        {doubts.length === 0 && <p className="text-faint">No doubt stands out.</p>}
        <ul>
          {doubts.map((item) => (
            <Share key={item.words} share={item.share}>
              {item.part ? (
                <Link to={`/plans/${view.id}/${placeOf(item.part)}`} className="underline">
                  {capital(item.words)}
                </Link>
              ) : (
                capital(item.words)
              )}
              {item.remedy && <span className="text-faint"> · {item.remedy}</span>}
            </Share>
          ))}
        </ul>
        {chance.next && (
          <p className="mt-1 border-l-4 border-cedar pl-3" data-testid="chance-next">
            Next: {chance.next}.
          </p>
        )}
      </div>
    </div>
  );
}

/** The screen on which the figures of a part are told. */
const placeOf = (part: string) => (part.startsWith("loads/") ? "needs" : "gear");

function Share({ share, children }: { share: number; children: React.ReactNode }) {
  return (
    <li className="grid grid-cols-[3.2rem_minmax(0,1fr)] gap-x-2 py-0.5">
      <span className="text-right font-semibold tabular-nums">{percent(share)}</span>
      <span>
        {children}
        <span
          className="mt-0.5 block h-1 bg-cedar opacity-50"
          style={{ width: `${100 * share}%` }}
          aria-hidden
        />
      </span>
    </li>
  );
}

function Bands({ chance }: { chance: Chance }) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const bands = useMemo(() => Object.entries(chance.bands ?? {}), [chance.bands]);
  return (
    <div ref={box} className="mt-2">
      {bands.map(([id, band]) => (
        <ChargeBands key={id} band={band} width={width} />
      ))}
    </div>
  );
}

/** The middle and the worst of these outages, each opened as a variant. */
function Opened({ chance, varied }: { chance: Chance; varied: Varied }) {
  const { view } = useDesk();
  const navigate = useNavigate();
  const made = useMutation({
    mutationFn: (number: number) => {
      const { one_in_ten_s, ...rest } = varied;
      const query = { ...rest, number, ...(one_in_ten_s == null ? {} : { one_in_ten_s }) };
      const params = { path: { plan_id: view.id }, query };
      return answer(client.POST("/api/plans/{plan_id}/variants/outage", { params }));
    },
    onSuccess: (variant) => navigate(`/plans/${variant.id}/outage`),
  });
  const open = (number: number | null | undefined, words: string) =>
    number != null && (
      <button type="button" className="act" disabled={made.isPending} onClick={() => made.mutate(number)}>
        {words}
      </button>
    );
  return (
    <p className="mt-1 flex flex-wrap gap-x-4">
      {open(chance.middle, "Open the middle outage as a variant")}
      {open(chance.worst, "Open the worst outage as a variant")}
      {made.error && (
        <span role="alert" className="text-stop">
          {made.error.message}
        </span>
      )}
    </p>
  );
}

/** What varies beside the figures, each of which can be said. */
function Circumstance({
  varied,
  usual,
  onVary,
}: {
  varied: Varied;
  usual: Varied | undefined;
  onVary: (next: Varied) => void;
}) {
  const shown = { ...usual, ...varied };
  const hundred = (share: number | undefined) => (share === undefined ? null : 100 * share);
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-2" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-faint hover:text-cedar">
        What varies: loads, stations, sun, fuel, days and warmth by how sure each is; and these
      </summary>
      {open && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1">
          <ChoiceField
            label="it begins"
            value={varied.begins ?? "as_said"}
            choices={[
              ["as_said", "when the plan says"],
              ["any_hour", "at any hour of that day"],
            ]}
            onSave={(begins) => onVary({ ...varied, begins })}
          />
          <NumberField
            label="one outage in ten goes on for"
            value={varied.one_in_ten_s == null ? null : varied.one_in_ten_s / 3600}
            unit="h"
            empty="as said"
            onSave={(hours) => onVary({ ...varied, one_in_ten_s: hours * 3600 })}
            onEmpty={() => onVary({ ...varied, one_in_ten_s: undefined })}
          />
          <NumberField
            label="an engine does not come on, of its starts"
            value={hundred(shown.no_start)}
            unit="%"
            width="w-12"
            onSave={(value) => onVary({ ...varied, no_start: value / 100 })}
          />
          <NumberField
            label="someone forgets an act, or comes late"
            value={hundred(shown.forgets)}
            unit="%"
            width="w-12"
            onSave={(value) => onVary({ ...varied, forgets: value / 100 })}
          />
        </div>
      )}
    </details>
  );
}
