import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import { UnitsContext } from "../ui/quantity";
import { answer, type Command, client, type Plan, type PlanView, Refused } from "./client";
import { LibraryContext, useLibraryQuery } from "./library";
import { applyPatch, asSent, mergePatch } from "./patch";
import { keepUnsent, keptUnsent, type Pending } from "./unsent";
import { useElsewhere } from "./useElsewhere";

type Patch = Record<string, unknown>;

interface Conflict {
  patch: Patch;
  refused: Refused;
}

interface PlanDesk {
  view: PlanView;
  /** Edit by giving the plan as it should be; saved by itself. */
  edit: (change: (plan: Plan) => Plan) => void;
  /** Have something done to the plan by the rules of its parts: take one away, plug, swap. */
  command: (told: Command) => void;
  undo: () => void;
  redo: () => void;
  /** Let the server make an edit on the present revision: move a breaker, balance a panel. */
  request: (ask: (revision: { "if-match": string }) => Promise<PlanView>) => void;
  /** Bring an older revision back, as a new one. */
  restore: (revision: number) => void;
  saving: boolean;
  /** The server does not answer: what was edited is kept in this window and sent again by itself. */
  unreached: boolean;
  problem: Refused | null;
  dismiss: () => void;
  conflict: Conflict | null;
  settle: (whose: "mine" | "theirs") => void;
  /** What was changed in another window and is shown now, as the history says it. */
  elsewhere: string | null;
}

const Desk = createContext<PlanDesk | null>(null);

export function useDesk(): PlanDesk {
  const desk = useContext(Desk);
  if (!desk) throw new Error("outside a plan");
  return desk;
}

/** An edit up to this length goes on though its page is closed or loaded again; browsers allow 64 KiB. */
const MOST_KEPT_ALIVE = 60_000;

/** So often an edit is sent again while the server does not answer, ms. */
const TRIED_EVERY_MS = 2_000;

const match = (revision: number) => ({ "if-match": `"${revision}"` });

const refusal = (error: unknown) => new Refused(0, { title: "Refused", status: 0, detail: String(error) });

interface ProviderProps {
  planId: string;
  children: ReactNode;
  /** Shown while the plan is worked out. */
  opening: ReactNode;
  /** Shown instead of a plan that cannot be opened. */
  unopened: (refused: Refused, again: () => void) => ReactNode;
}

/** The plan as the server knows it, with the edits on their way laid over it: a newer answer loses none of them. */
export function PlanDeskProvider({ planId, children, opening, unopened }: ProviderProps) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Refused | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const [pending, setPending] = useState(() => keptUnsent(planId));
  /** The same, for whoever asks before the next drawing. */
  const underway = useRef(pending);
  const lay = (next: readonly Pending[]) => {
    underway.current = next;
    keepUnsent(planId, next);
    setPending(next);
  };
  const key = useMemo(() => ["plan", planId] as const, [planId]);
  const path = { plan_id: planId };
  const current = () => queries.getQueryData<PlanView>(key) as PlanView;
  const query = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}", { params: { path } })),
  });
  const library = useLibraryQuery();
  const seen = useElsewhere(planId, query.data);

  const taken = (view: PlanView) => {
    seen.own(view);
    queries.setQueryData(key, view);
    setProblem(null);
    void queries.invalidateQueries({ queryKey: ["history", planId] });
  };
  const refused = (error: unknown, patch?: Patch) => {
    const told = error instanceof Refused ? error : refusal(error);
    if (told.status === 412 && patch && told.problem.clashes?.length) setConflict({ patch, refused: told });
    else setProblem(told);
    void queries.invalidateQueries({ queryKey: key });
  };

  const save = useMutation({
    scope: { id: planId },
    mutationFn: (edited: Pending) => {
      const params = { path, header: match(edited.base) };
      if (edited.command)
        return answer(
          client.POST("/api/plans/{plan_id}/commands", { params, body: edited.command, keepalive: true }),
        );
      return answer(
        client.PATCH("/api/plans/{plan_id}", {
          params,
          body: asSent(edited.patch) as never,
          headers: { "Content-Type": "application/merge-patch+json" },
          keepalive: JSON.stringify(edited.patch).length < MOST_KEPT_ALIVE,
        }),
      );
    },
    networkMode: "always",
    retry: (_times, error) => error instanceof Refused && error.status === 0,
    retryDelay: TRIED_EVERY_MS,
    onSuccess: (view, edited) => {
      /** What was typed meanwhile was typed over this one: it is made on its revision. */
      for (const later of underway.current) later.base = Math.max(later.base, view.revision);
      lay(underway.current.filter((other) => other !== edited));
      taken(view);
    },
    onError: (error, edited) => {
      lay(underway.current.filter((other) => other !== edited));
      refused(error, edited.command ? undefined : edited.patch);
    },
  });
  /** Those of this page before it was loaded anew. */
  const kept = useRef(pending);
  const opened = query.data !== undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the plan has come
  useEffect(() => {
    if (!opened) return;
    for (const edited of kept.current) save.mutate(edited);
    kept.current = [];
  }, [opened]);
  const step = useMutation({
    scope: { id: planId },
    mutationFn: (way: "undo" | "redo" | number) => {
      const header = match(current().revision);
      if (way === "undo")
        return answer(client.POST("/api/plans/{plan_id}/undo", { params: { path, header } }));
      if (way === "redo")
        return answer(client.POST("/api/plans/{plan_id}/redo", { params: { path, header } }));
      const params = { path: { ...path, number: way }, header };
      return answer(client.POST("/api/plans/{plan_id}/revisions/{number}/restore", { params }));
    },
    onSuccess: taken,
    onError: (error) => refused(error),
  });

  const asked = useMutation({
    scope: { id: planId },
    mutationFn: (ask: (header: { "if-match": string }) => Promise<PlanView>) =>
      ask(match(current().revision)),
    onSuccess: taken,
    onError: (error) => refused(error),
  });

  /** My version of a conflict, kept in the history though theirs stands. */
  const aside = useMutation({
    scope: { id: planId },
    mutationFn: (patch: Patch) =>
      answer(
        client.POST("/api/plans/{plan_id}/aside", {
          params: { path },
          body: asSent(patch) as never,
          headers: { "Content-Type": "application/merge-patch+json" },
        }),
      ),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["history", planId] }),
    onError: (error) => refused(error),
  });

  const failed = [query, library].find((wanted) => wanted.isError && !wanted.data);
  if (failed) {
    const told = failed.error instanceof Refused ? failed.error : refusal(failed.error);
    return <>{unopened(told, () => void failed.refetch())}</>;
  }
  if (!query.data || !library.data) return <>{opening}</>;
  const view = { ...query.data, plan: laid(query.data.plan, pending) };

  const queue = (edited: Pending) => {
    lay([...underway.current, edited]);
    save.mutate(edited);
  };
  const send = (patch: Patch, base: number) => queue({ patch, base });
  const edit = (change: (plan: Plan) => Plan) => {
    const acknowledged = current();
    const before = laid(acknowledged.plan, underway.current);
    const patch = mergePatch(before as Patch, change(before) as Patch);
    if (Object.keys(patch).length > 0) send(patch, acknowledged.revision);
    seen.forget();
  };
  const settle = (whose: "mine" | "theirs") => {
    if (conflict && whose === "mine")
      send(conflict.patch, conflict.refused.problem.revision ?? current().revision);
    else if (conflict) aside.mutate(conflict.patch);
    setConflict(null);
  };

  return (
    <Desk.Provider
      value={{
        view,
        edit,
        command: (told) => queue({ patch: {}, command: told, base: current().revision }),
        undo: () => step.mutate("undo"),
        redo: () => step.mutate("redo"),
        request: (ask) => asked.mutate(ask),
        restore: (revision) => step.mutate(revision),
        saving: pending.length > 0 || step.isPending || asked.isPending,
        unreached: save.isPending && save.failureCount > 0,
        problem,
        dismiss: () => setProblem(null),
        conflict,
        settle,
        elsewhere: seen.elsewhere,
      }}
    >
      <LibraryContext.Provider value={library.data}>
        <UnitsContext.Provider value={view.plan.site.units}>{children}</UnitsContext.Provider>
      </LibraryContext.Provider>
    </Desk.Provider>
  );
}

const laid = (plan: Plan, pending: readonly Pending[]): Plan =>
  pending.reduce((under, { patch }) => applyPatch(under, patch) as Plan, plan);

/** The whole run of the plan as it stands; follows every edit. */
export function useRun() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["run", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/run", { params: { path: { plan_id: view.id } } })),
    placeholderData: (previous) => previous,
  });
}
