import { useQuery } from "@tanstack/react-query";
import { Navigate } from "react-router";
import { answer, client } from "../api/client";

/** Leads to the plan that was saved last. */
export function FirstPlan() {
  const plans = useQuery({ queryKey: ["plans"], queryFn: () => answer(client.GET("/api/plans")) });
  if (plans.isError) return <p className="p-6 text-stop">{plans.error.message}</p>;
  if (!plans.data) return <p className="p-6 text-faint">Opening…</p>;
  const first = plans.data[0];
  return <Navigate to={first ? `/plans/${first.id}/panel` : "/plans"} replace />;
}
