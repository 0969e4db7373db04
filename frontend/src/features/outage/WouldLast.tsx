import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useLocation } from "react-router";
import { answer, client, type Plan } from "../../api/client";
import { applyPatch } from "../../api/patch";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { tenth, whole } from "../../ui/format";
import { AsVariant } from "../variants/AsVariant";

type Suggestion = components["schemas"]["Suggestion"];
type Together = NonNullable<components["schemas"]["Suggestions"]["together"]>;

/** Where the question is answered, for links from elsewhere. */
export const WOULD_LAST = "would-last";

/** What would make it last: asked for, since each answer is a run of its own; applied as one edit. */
export function WouldLast() {
  const { view } = useDesk();
  const { hash } = useLocation();
  const [asked, setAsked] = useState(hash === `#${WOULD_LAST}`);
  const [gear, setGear] = useState(false);
  useEffect(() => {
    if (hash === `#${WOULD_LAST}`) setAsked(true);
  }, [hash]);
  const found = useQuery({
    queryKey: ["would last", view.id, view.revision, gear],
    enabled: asked && view.verdict.status === "does_not_last",
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) => {
      const params = { path: { plan_id: view.id }, query: { gear } };
      return answer(client.GET("/api/plans/{plan_id}/suggestions", { params, signal }));
    },
  });
  if (view.verdict.status !== "does_not_last") return null;
  return (
    <section
      aria-label="What would make it last"
      id={WOULD_LAST}
      className="mb-4 scroll-mt-60 sm:scroll-mt-40"
    >
      <h2 className="border-b border-ink pb-1">What would make it last</h2>
      {!asked && (
        <p className="mt-1">
          <button type="button" className="act font-semibold" onClick={() => setAsked(true)}>
            Try changes
          </button>{" "}
          <span className="text-faint">some forty, each by a run of its own: it takes a few seconds</span>
        </p>
      )}
      <CannotShow asked={found} what="suggestions" />
      {asked && found.isFetching && (
        <p role="status" className="mt-1 text-faint">
          Changes are being tried, each by a run …
        </p>
      )}
      {found.data && !found.isFetching && (
        <>
          <p className="mt-1" data-testid="would-last">
            {found.data.sentence}
          </p>
          {found.data.together && <AllTogether together={found.data.together} />}
          <Singles found={found.data.singles ?? []} />
          {!gear && !found.data.held && (
            <button type="button" className="act mt-1" onClick={() => setGear(true)}>
              With other gear, too
            </button>
          )}
          {gear && (found.data.with_gear ?? []).length > 0 && (
            <>
              <h3 className="mt-2 font-semibold">With something that is not owned yet</h3>
              <Singles found={found.data.with_gear ?? []} />
            </>
          )}
          {gear && (found.data.with_gear ?? []).length === 0 && (
            <p className="text-faint">No other gear that was tried gains half an hour.</p>
          )}
        </>
      )}
    </section>
  );
}

function AllTogether({ together }: { together: Together }) {
  const { edit } = useDesk();
  return (
    <div className="mt-1 border-l-4 border-good pl-3" data-testid="together">
      <ul className="ml-4 list-disc">
        {together.words.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <button
        type="button"
        className="act font-semibold"
        onClick={() => edit((plan) => applyPatch(plan, together.patch) as Plan)}
      >
        Do all of these
      </button>{" "}
      <span className="text-faint">{together.verdict}</span>
    </div>
  );
}

/** What a change asks of the household, in words. */
function asks(item: Suggestion): string {
  return [
    item.minutes_day >= 1 && `${whole(item.minutes_day)} min a day`,
    item.litres_day >= 0.05 && `about ${tenth(item.litres_day)} L a day more`,
    item.without && !item.words.includes(item.without) && `without ${item.without}`,
  ]
    .filter(Boolean)
    .join(", ");
}

function Singles({ found }: { found: Suggestion[] }) {
  const { edit } = useDesk();
  return (
    <ul className="mt-1">
      {found.map((item) => (
        <li key={item.words} className="py-1">
          <button
            type="button"
            className="act mr-2 text-left font-semibold"
            onClick={() => edit((plan) => applyPatch(plan, item.patch) as Plan)}
          >
            {item.words}
          </button>
          <strong className={item.lasts ? "text-good" : ""}>{item.outcome}</strong>
          {asks(item) && <span className="text-faint"> · {asks(item)}</span>}{" "}
          <AsVariant patch={item.patch} words="As a variant beside" />
        </li>
      ))}
    </ul>
  );
}
