import { useQuery } from "@tanstack/react-query";
import { answer, client, type Inventory } from "../../api/client";
import { useDesk } from "../../api/plan";

/** Everything that the plan owns or thinks of. */
export function useInventory(): Inventory | undefined {
  const { view } = useDesk();
  return useQuery({
    queryKey: ["inventory", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/inventory", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  }).data;
}

/** What each part of a room does for the plan, in one line, by id; empty where the run does not say. */
export function useDeeds(room: string): Record<string, string> {
  const items = useInventory()?.items.filter((item) => item.room === room && item.does) ?? [];
  return Object.fromEntries(items.map((item) => [item.id, item.does ?? ""]));
}

/** The figures by which each part of a room is known, by id; the first of a part is its own. */
export function useWords(room: string): Record<string, string> {
  const items = useInventory()?.items.filter((item) => item.room === room) ?? [];
  return Object.fromEntries(items.reverse().map((item) => [item.id, item.words]));
}
