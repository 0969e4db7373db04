import { useDesk } from "../../api/plan";
import { whole } from "../../ui/format";
import { told, useUnits } from "../../ui/quantity";
import { useInventory } from "./useInventory";

/** Everything that is owned or thought of, with what it costs and weighs together. */
export function InventoryTable() {
  const units = useUnits();
  const { view } = useDesk();
  const data = useInventory();
  if (!data || data.items.length === 0) return null;
  const without = (count: number, words: string) => (count > 0 ? ` (${count} ${words})` : "");
  const priced = data.without_price < data.items.length;
  return (
    <details className="mt-6 border-l-2 border-rule pl-3">
      <summary className="min-h-[26px] cursor-pointer">
        All of it:{" "}
        {priced ? `price ${whole(data.price)}${without(data.without_price, "without one")}` : "no prices yet"}
        , {told(data.weight_kg, "kg", units)}
        {without(data.without_weight, "not weighed")}
      </summary>
      <p>
        <a className="act" href={`/api/plans/${view.id}/inventory.csv`} download>
          Save the list as CSV
        </a>
      </p>
      <div className="relative overflow-x-auto">
        <table className="w-full text-left" data-testid="inventory">
          <thead className="text-faint">
            <tr className="border-b border-ink [&>th]:py-1 [&>th]:font-normal">
              <th>thing</th>
              <th className="text-right">how many</th>
              <th className="pl-4">stands in</th>
              <th className="text-right">price</th>
              <th className="text-right">weighs</th>
            </tr>
          </thead>
          <tbody>
            {data.items.map((item, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: one part may hold several things
              <tr key={`${item.room} ${item.id} ${index}`} className="border-b border-rule">
                <td className="named">{item.name}</td>
                <td className="text-right">{item.count}</td>
                <td className="named pl-4 text-faint">{item.place ?? ""}</td>
                <td className="text-right">{item.price === null ? "" : whole(item.price)}</td>
                <td className="text-right">
                  {item.weight_kg === null ? "" : told(item.weight_kg, "kg", units)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
