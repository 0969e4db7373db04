import { Dialog } from "radix-ui";
import { useDesk } from "../api/plan";

/** Two people changed the same thing: shows both versions and lets this one choose. */
export function ConflictDialog() {
  const { conflict, settle, view } = useDesk();
  const shown = (value: unknown) =>
    typeof value === "string"
      ? value
      : value === null || value === undefined
        ? "nothing"
        : JSON.stringify(value);
  const named = (field: string) => {
    const [, room = "", id = "", ...rest] = field.split("/");
    const parts = view.plan[room as "circuits"] as
      | Record<string, { label?: string; name?: string }>
      | undefined;
    const part = parts?.[id];
    return [part?.label ?? part?.name ?? id, ...rest].join(" · ").replaceAll("_", " ");
  };
  return (
    <Dialog.Root open={conflict !== null}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/40" />
        <Dialog.Content
          className="fixed top-1/4 left-1/2 z-30 w-[min(92vw,640px)] -translate-x-1/2 border border-rule bg-paper p-5"
          onEscapeKeyDown={() => settle("theirs")}
        >
          <Dialog.Title className="text-lg font-semibold">Someone else changed the same thing</Dialog.Title>
          <Dialog.Description className="mt-1 text-faint">
            Your edit is not saved yet. Choose which version the plan keeps; the other stays in the history.
          </Dialog.Description>
          <table className="named mt-3 w-full text-left">
            <thead>
              <tr className="border-b border-rule">
                <th className="py-1 font-semibold">What</th>
                <th className="font-semibold">Was</th>
                <th className="font-semibold">Theirs</th>
                <th className="font-semibold">Yours</th>
              </tr>
            </thead>
            <tbody>
              {(conflict?.refused.problem.clashes ?? []).map((clash) => (
                <tr key={clash.field} className="border-b border-rule align-top">
                  <td className="py-1">{named(clash.field)}</td>
                  <td className="py-1">{shown(clash.base)}</td>
                  <td className="py-1">{shown(clash.theirs)}</td>
                  <td className="py-1">{shown(clash.yours)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-4 flex gap-3">
            <button type="button" className="act font-semibold" onClick={() => settle("theirs")}>
              Keep theirs
            </button>
            <button type="button" className="act font-semibold" onClick={() => settle("mine")}>
              Save mine
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
