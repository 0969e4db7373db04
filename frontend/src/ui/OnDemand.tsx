import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useDesk } from "../api/plan";
import { CannotShow } from "./CannotShow";

interface Asked<T> {
  title: string;
  /** Place on the page, for links from elsewhere. */
  id?: string;
  /** What the button says, and what it takes. */
  button: string;
  takes: string;
  /** What is said while it is worked out. */
  waiting: string;
  /** What does not come where it fails. */
  what: string;
  /** What is asked besides the plan, and how. */
  about?: unknown[];
  ask: (signal: AbortSignal) => Promise<T>;
  children: (data: T) => ReactNode;
  /** Fields that say what is asked. */
  fields?: ReactNode;
  /** Whether it is asked at once. */
  open?: boolean;
  /** What it is kept for, where that is not the revision of the plan. */
  version?: number;
  /** Said where that has changed. */
  changed?: string;
}

/**
 * An answer that takes seconds: asked for, kept for the plan as it is, and asked anew once that has changed.
 */
export function OnDemand<T>(props: Asked<T>) {
  const { view } = useDesk();
  const version = props.version ?? view.revision;
  const [asked, setAsked] = useState(props.open ? version : -1);
  const now = asked === version;
  const found = useQuery({
    queryKey: [props.title, view.id, version, ...(props.about ?? [])],
    enabled: now,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    queryFn: ({ signal }) => props.ask(signal),
  });
  return (
    <section aria-label={props.title} id={props.id} className="mb-4 scroll-mt-60 sm:scroll-mt-40">
      <h2 className="border-b border-ink pb-1">{props.title}</h2>
      {props.fields && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-5 gap-y-1">{props.fields}</div>
      )}
      {!now && (
        <p className="mt-1">
          <button type="button" className="act font-semibold" onClick={() => setAsked(version)}>
            {props.button}
          </button>{" "}
          <span className="text-faint">
            {asked === -1 ? props.takes : (props.changed ?? "the plan has changed since it was worked out")}
          </span>
        </p>
      )}
      {now && <CannotShow asked={found} what={props.what} />}
      {now && found.isFetching && (
        <p role="status" className="mt-1 text-faint">
          {props.waiting}
        </p>
      )}
      {now && found.data !== undefined && !found.isFetching && props.children(found.data)}
    </section>
  );
}
