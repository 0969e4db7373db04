import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useMemo, useRef, useState } from "react";
import { UnitsContext } from "../ui/quantity";
import { answer, client, type Plan, type PlanView, Refused } from "./client";
import { LibraryContext, useLibraryQuery } from "./library";
import { mergePatch } from "./patch";

type Patch = Record<string, unknown>;

interface Conflict {
  patch: Patch;
  refused: Refused;
}

interface PlanDesk {
  view: PlanView;
  /** Edit by giving the plan as it should be; saved by itself. */
  edit: (change: (plan: Plan) => Plan) => void;
  undo: () => void;
  redo: () => void;
  /** Let the server make an edit on the present revision: move a breaker, balance a panel. */
  request: (ask: (revision: { "if-match": string }) => Promise<PlanView>) => void;
  /** Bring an older revision back, as a new one. */
  restore: (revision: number) => void;
  saving: boolean;
  problem: Refused | null;
  dismiss: () => void;
  conflict: Conflict | null;
  settle: (whose: "mine" | "theirs") => void;
}

const Desk = createContext<PlanDesk | null>(null);

export function useDesk(): PlanDesk {
  const desk = useContext(Desk);
  if (!desk) throw new Error("outside a plan");
  return desk;
}

/** An edit up to this length goes on though its page is closed or loaded again; browsers allow 64 KiB. */
const MOST_KEPT_ALIVE = 60_000;

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

export function PlanDeskProvider({ planId, children, opening, unopened }: ProviderProps) {
  const queries = useQueryClient();
  const [problem, setProblem] = useState<Refused | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const key = useMemo(() => ["plan", planId] as const, [planId]);
  const path = { plan_id: planId };
  const current = () => queries.getQueryData<PlanView>(key) as PlanView;
  const query = useQuery({
    queryKey: key,
    queryFn: () => answer(client.GET("/api/plans/{plan_id}", { params: { path } })),
  });

  const library = useLibraryQuery();

  /** Edits that are on their way: until the last one is back, the screen keeps showing them all. */
  const underway = useRef(0);
  const taken = (view: PlanView) => {
    queries.setQueryData(key, underway.current > 1 ? { ...view, plan: current().plan } : view);
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
    mutationFn: ({ patch, base }: { patch: Patch; base?: number }) =>
      answer(
        client.PATCH("/api/plans/{plan_id}", {
          params: { path, header: match(base ?? current().revision) },
          body: patch as never,
          headers: { "Content-Type": "application/merge-patch+json" },
          keepalive: JSON.stringify(patch).length < MOST_KEPT_ALIVE,
        }),
      ),
    onSuccess: taken,
    onError: (error, { patch }) => refused(error, patch),
    onSettled: () => {
      underway.current -= 1;
    },
  });
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

  const failed = [query, library].find((asked) => asked.isError && !asked.data);
  if (failed) {
    const told = failed.error instanceof Refused ? failed.error : refusal(failed.error);
    return <>{unopened(told, () => void failed.refetch())}</>;
  }
  if (!query.data || !library.data) return <>{opening}</>;
  const view = query.data;

  const send = (edited: { patch: Patch; base?: number }) => {
    underway.current += 1;
    save.mutate(edited);
  };
  const edit = (change: (plan: Plan) => Plan) => {
    const before = current();
    const after = change(before.plan);
    const patch = mergePatch(before.plan as Patch, after as Patch);
    if (Object.keys(patch).length === 0) return;
    void queries.cancelQueries({ queryKey: key });
    queries.setQueryData(key, { ...before, plan: after });
    send({ patch });
  };
  const settle = (whose: "mine" | "theirs") => {
    if (conflict && whose === "mine") {
      const base = conflict.refused.problem.revision ?? current().revision;
      send({ patch: conflict.patch, base });
    }
    setConflict(null);
  };

  return (
    <Desk.Provider
      value={{
        view,
        edit,
        undo: () => step.mutate("undo"),
        redo: () => step.mutate("redo"),
        request: (ask) => asked.mutate(ask),
        restore: (revision) => step.mutate(revision),
        saving: save.isPending || step.isPending || asked.isPending,
        problem,
        dismiss: () => setProblem(null),
        conflict,
        settle,
      }}
    >
      <LibraryContext.Provider value={library.data}>
        <UnitsContext.Provider value={view.plan.site.units}>{children}</UnitsContext.Provider>
      </LibraryContext.Provider>
    </Desk.Provider>
  );
}

/** The whole run of the plan as it stands; follows every edit. */
export function useRun() {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["run", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/run", { params: { path: { plan_id: view.id } } })),
    placeholderData: (previous) => previous,
  });
}
