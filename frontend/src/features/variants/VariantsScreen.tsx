import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client } from "../../api/client";
import { useDesk, useRun } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";
import { Charges } from "./Charges";

type SideBySide = components["schemas"]["SideBySide"];

/** A plan and its variants on one axis of time, and what differs between them. */
export function VariantsScreen() {
  const { view } = useDesk();
  const run = useRun().data;
  const queries = useQueryClient();
  const navigate = useNavigate();
  const path = { plan_id: view.id };
  const found = useQuery({
    queryKey: ["variants", view.id, view.revision],
    queryFn: () => answer(client.GET("/api/plans/{plan_id}/variants", { params: { path } })),
    placeholderData: (before) => before,
    staleTime: 0,
  });
  const again = () => void queries.invalidateQueries({ queryKey: ["variants"] });
  const begin = useMutation({
    mutationFn: () => answer(client.POST("/api/plans/{plan_id}/variants", { params: { path } })),
    onSuccess: (made) => {
      again();
      navigate(`/plans/${made.id}/outage`);
    },
  });
  const remove = useMutation({
    mutationFn: (plan_id: string) =>
      answer(client.DELETE("/api/plans/{plan_id}", { params: { path: { plan_id } } })),
    onSuccess: (_, plan_id) => {
      again();
      const own = found.data?.plans.find((plan) => plan.own);
      if (plan_id === view.id && own) navigate(`/plans/${own.id}/variants`);
    },
  });
  const family = found.data;
  return (
    <>
      <h1>Side by side</h1>
      <p className="mb-3 max-w-[900px] text-faint">
        Duplicate the plan as a variant, change one thing in it, and see here what that does. A variant is
        called by its difference; it belongs to its plan until the plan adopts it.
      </p>
      <CannotShow asked={found} what="variants" />
      {(begin.error ?? remove.error) && (
        <p role="alert" className="mb-2 text-stop">
          {(begin.error ?? remove.error)?.message}
        </p>
      )}
      {family && (
        <>
          <Charges plans={family.plans} start={run?.start} zone={view.plan.site.time_zone ?? "UTC"} />
          <Table family={family} onRemove={(id) => remove.mutate(id)} />
          <p className="mt-3">
            <button
              type="button"
              className="act font-semibold"
              disabled={!family.room_for_more || begin.isPending}
              onClick={() => begin.mutate()}
            >
              {view.variant_of ? "Duplicate this variant" : "Duplicate as a variant"}
            </button>
            {!family.room_for_more && (
              <span className="ml-3 text-faint">Four stand side by side: take one away first.</span>
            )}
          </p>
        </>
      )}
    </>
  );
}

function Table({ family, onRemove }: { family: SideBySide; onRemove: (id: string) => void }) {
  const { view } = useDesk();
  const [all, setAll] = useState(false);
  const rows = family.rows.filter((row) => all || row.differs);
  return (
    <>
      <div className="overflow-x-auto">
        <table className="named mt-4 w-full text-left align-top" data-testid="differences">
          <thead>
            <tr className="border-b border-ink align-top">
              <th className="min-w-32 py-1 font-normal text-faint">what differs</th>
              {family.plans.map((plan, index) => (
                <th key={plan.id} className="min-w-36 py-1 pl-3 font-semibold">
                  <span aria-hidden="true" className="mr-1 text-cedar">
                    {index + 1}
                  </span>
                  <Link className="hover:text-cedar" to={`/plans/${plan.id}/outage`}>
                    {plan.name}
                  </Link>
                  {plan.id === view.id && <span className="block font-normal text-faint">this one</span>}
                  {!plan.own && (
                    <span className="flex flex-wrap gap-x-2 font-normal">
                      <Adopt own={family.plans[0]?.id ?? ""} variant={plan.id} name={plan.name} />
                      <button
                        type="button"
                        className="act"
                        aria-label={`Take the variant ${plan.name} away`}
                        onClick={() => onRemove(plan.id)}
                      >
                        Take away
                      </button>
                    </span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.what} className="border-b border-rule align-top">
                <th scope="row" className="py-1 font-normal text-faint">
                  {row.what}
                </th>
                {row.values.map((value, index) => (
                  <td
                    // biome-ignore lint/suspicious/noArrayIndexKey: one cell for each plan, in their order
                    key={index}
                    className={`py-1 pl-3 ${row.what === "stops" && value !== "none" ? "font-semibold text-stop" : ""}`}
                  >
                    {value}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length === 0 && (
        <p className="py-1 text-faint">
          {family.plans.length > 1
            ? "Nothing that decides differs so far."
            : "There is no variant yet to compare with."}
        </p>
      )}
      <label className="mt-2 inline-block min-h-[24px]">
        <input
          type="checkbox"
          className="size-4 accent-cedar"
          checked={all}
          onChange={(event) => setAll(event.target.checked)}
        />{" "}
        show what is alike, too
      </label>
    </>
  );
}

/** Makes the plan what a variant is: one edit, which undo takes back. */
function Adopt({ own, variant, name }: { own: string; variant: string; name: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const adopt = useMutation({
    mutationFn: async () => {
      const params = { path: { plan_id: own } };
      const head = await answer(client.GET("/api/plans/{plan_id}/head", { params }));
      return answer(
        client.POST("/api/plans/{plan_id}/adopt", {
          params: { ...params, query: { variant }, header: { "if-match": `"${head.revision}"` } },
        }),
      );
    },
    onSuccess: (view) => {
      queries.setQueryData(["plan", own], view);
      void queries.invalidateQueries({ queryKey: ["variants"] });
      navigate(`/plans/${own}/variants`);
    },
  });
  return (
    <>
      <button
        type="button"
        className="act"
        aria-label={`Adopt the variant ${name}`}
        onClick={() => adopt.mutate()}
      >
        Adopt
      </button>
      {adopt.error && (
        <span role="alert" className="text-stop">
          {adopt.error.message}
        </span>
      )}
    </>
  );
}
