import { CircleCheck, CircleHelp, OctagonAlert } from "lucide-react";
import { type RefObject, useEffect, useRef, useState } from "react";
import { Link, useLocation } from "react-router";
import { Refused } from "../api/client";
import { useDesk } from "../api/plan";
import { useChance } from "../api/useChance";
import { unbroken } from "../ui/format";
import { SCREENS } from "./screens";

const SIGNS = {
  lasts: [CircleCheck, "text-good"],
  does_not_last: [OctagonAlert, "text-stop"],
  cannot_judge: [CircleHelp, "text-caution"],
} as const;

/** As far as the chance is worked out for every screen. */
const OUTAGES = 40;

/** Does it last, until when, what is the pinch: on every screen, each part a link to its cause. */
export function VerdictLine() {
  const { view, saving } = useDesk();
  const verdict = view.verdict;
  const stops = view.findings.filter((finding) => finding.level === "stop" && !finding.answered).length;
  const stopped = stops > 0;
  const [Sign, colour] = stopped ? ([OctagonAlert, "text-stop"] as const) : SIGNS[verdict.status];
  const to = `/plans/${view.id}`;
  const pinch = verdict.pinch;
  const doubtful = [verdict.least, verdict.most].some((one) => one && one.status !== verdict.status);
  const start = verdict.start_pinch;
  const chance = useChance(OUTAGES);
  const whole = useRef<HTMLElement>(null);
  const away = useAway(whole);
  return (
    <div className={`border-b border-rule bg-paper transition-opacity ${saving ? "opacity-60" : ""}`}>
      {away && (
        <button
          type="button"
          className="fixed inset-x-0 top-0 z-10 hidden h-11 items-center gap-2 border-b border-rule bg-paper px-5 text-left max-sm:[@media(min-height:520px)]:flex"
          data-testid="verdict-short"
          onClick={() => window.scrollTo({ top: 0 })}
        >
          <Sign size={18} aria-hidden className={`shrink-0 ${colour}`} />
          <strong className={`shrink-0 ${colour}`}>{stopped ? "Do not energise" : verdict.headline}</strong>
          <span className="truncate">
            {stopped ? `${stops} ${stops === 1 ? "stop" : "stops"}` : verdict.sentence}
          </span>
          <Where />
          <span className="sr-only">, to the top</span>
        </button>
      )}
      <section
        ref={whole}
        aria-label="Verdict"
        data-testid="verdict"
        data-status={verdict.status}
        data-revision={view.revision}
        className="mx-auto flex max-w-[1360px] flex-wrap items-baseline gap-x-6 gap-y-0.5 px-5 pt-1 pb-2"
        aria-live="polite"
      >
        {stopped && <Counts />}
        <Link to={`${to}/outage`} className="text-[1.05rem] hover:text-cedar">
          <Sign size={18} aria-hidden className={`-mt-1 mr-2 inline ${colour}`} />
          <strong className={`mr-2 ${colour}`}>{verdict.headline}</strong>
          <span data-testid="verdict-sentence">{unbroken(verdict.sentence)}</span>
        </Link>
        {!stopped && <Counts />}
        {!stopped && verdict.status === "does_not_last" && (
          <Link
            to={`${to}/outage#would-last`}
            className="underline hover:text-cedar"
            data-testid="ask-would-last"
          >
            what would make it last?
          </Link>
        )}
        {verdict.left_out && verdict.left_out.length > 0 && (
          <span className="text-faint" data-testid="left-out">
            not counted yet: {verdict.left_out.join(", ")}
          </span>
        )}
        {verdict.how_sure && (
          <span
            className={`${doubtful ? "font-semibold text-caution" : "text-faint"} ${chance.chance ? "max-sm:hidden" : ""}`}
            data-testid="how-sure"
          >
            how sure: {unbroken(verdict.how_sure)}
          </span>
        )}
        {verdict.status !== "cannot_judge" && !stopped && <ChanceWords {...chance} />}
        {verdict.assumed && verdict.assumed.length > 0 && <Assumed words={verdict.assumed} />}
        {pinch && (
          <Link
            to={`${to}/outage#flows`}
            className="text-faint hover:text-cedar max-sm:hidden"
            data-testid="pinch"
          >
            pinch: {pinch.name}, {Math.round(100 * pinch.share)} %
            {start ? `; ${start.name}, ${Math.round(100 * start.share)} %` : ""}
          </Link>
        )}
      </section>
    </div>
  );
}

/** Whether something is scrolled out of sight. */
function useAway(of: RefObject<HTMLElement | null>): boolean {
  const [away, setAway] = useState(false);
  useEffect(() => {
    const watcher = new IntersectionObserver(([entry]) => entry && setAway(!entry.isIntersecting));
    if (of.current) watcher.observe(of.current);
    return () => watcher.disconnect();
  }, [of]);
  return away;
}

/** The screen that one is on, by its name. */
function Where() {
  const { pathname } = useLocation();
  const here = pathname.split("/")[3];
  const name = SCREENS.find(([to]) => to === here)?.[1];
  return name ? <span className="ml-auto shrink-0 font-semibold">{name}</span> : null;
}

/** How likely it is: it comes by itself a moment after the last edit. */
function ChanceWords({ chance, asked }: Pick<ReturnType<typeof useChance>, "chance" | "asked">) {
  const { view } = useDesk();
  if (!chance || chance.why_not) {
    const away = asked.error instanceof Refused && asked.error.status === 0;
    if (!asked.error || away) return null;
    return <span className="text-faint">chance not worked out: {asked.error.message}</span>;
  }
  return (
    <Link
      to={`/plans/${view.id}/outage#chance`}
      className={chance.likely ? "text-faint hover:text-cedar" : "font-semibold text-caution"}
      data-testid="chance"
      aria-live="off"
    >
      chance: {chance.brief}
      <span className="max-sm:hidden">
        {chance.first_failures?.[0] ? `; if not, ${chance.first_failures[0].words}` : ""}
      </span>
    </Link>
  );
}

/** Every figure that nobody said, opened from the verdict. */
function Assumed({ words }: { words: string[] }) {
  return (
    <details className="text-faint" data-testid="assumed">
      <summary className="cursor-pointer hover:text-cedar">
        {words.length} {words.length === 1 ? "thing is" : "things are"} taken for granted
      </summary>
      <ul className="mt-1 mb-1 ml-5 list-disc">
        {words.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </details>
  );
}

/** How many stops, cautions and open questions there are. */
function Counts() {
  const { view } = useDesk();
  const open = view.findings.filter((finding) => !finding.answered);
  const count = (level: string) => open.filter((finding) => finding.level === level).length;
  const [stops, cautions, unknown] = [count("stop"), count("caution"), count("cannot_judge")];
  const many = (number: number, word: string) => `${number} ${word}${number === 1 ? "" : "s"}`;
  return (
    <Link
      to={`/plans/${view.id}/checks`}
      className="flex flex-wrap items-baseline gap-x-3 whitespace-nowrap hover:text-cedar"
      data-testid="counts"
    >
      {stops > 0 && (
        <strong className="inline-flex items-center gap-1 text-stop">
          <OctagonAlert size={16} aria-hidden />
          {many(stops, "stop")}: do not energise
        </strong>
      )}
      {cautions > 0 && <span className="font-semibold text-caution">{many(cautions, "caution")}</span>}
      {unknown > 0 && <span className="text-caution">{many(unknown, "open question")}</span>}
      {stops + cautions + unknown === 0 &&
        (view.verdict.status === "lasts" ? (
          <span className="text-good">no stops, no cautions</span>
        ) : (
          <span className="text-faint">
            {view.verdict.status === "does_not_last"
              ? "nothing dangerous found, but it does not last"
              : "nothing dangerous found so far"}
          </span>
        ))}
    </Link>
  );
}
