import { Dialog } from "radix-ui";
import { Fragment, useEffect, useState } from "react";
import { Link, useLocation } from "react-router";

const KEYS: readonly (readonly [string, readonly (readonly [string, string])[]])[] = [
  [
    "Everywhere",
    [
      ["/ or Ctrl /", "find a breaker, a part, a screen, a field or a button"],
      ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
      ["?", "this sheet"],
    ],
  ],
  [
    "Panel",
    [
      ["arrow keys", "from breaker to breaker"],
      ["K, R, O", "keep, room, off"],
      ["Alt and an arrow key", "move the breaker to another space"],
      ["Enter or E", "into the sheet of the breaker"],
    ],
  ],
  [
    "The strip",
    [
      [
        "left, right",
        "the cursor by five minutes, with Shift by an hour; ten seconds and two minutes when close",
      ],
      ["Page up, Page down", "the event before, the next event"],
      ["Home, End", "the beginning, the end"],
      ["+, −, 0", "show less of it, more of it, the whole"],
    ],
  ],
  [
    "Blocks",
    [
      ["left, right", "earlier, later by a quarter hour; a day of sky by a day"],
      ["Shift and left, right", "shorter, longer"],
      ["Enter, Escape", "keep it there, let go"],
      ["Delete", "take it away"],
    ],
  ],
];

/** The keys of all screens on one sheet. */
export function Keys() {
  const [open, setOpen] = useState(false);
  const screen = useLocation().pathname.split("/")[3] ?? "";
  const here = { variants: "compare", history: "compare" }[screen] ?? screen;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).matches("input, textarea, select");
      if (event.key !== "?" || typing || document.querySelector("[role=dialog]")) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="act" aria-label="Keys" title="Keys: ?">
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-8 left-1/2 z-30 max-h-[90vh] w-[min(94vw,640px)] -translate-x-1/2 overflow-auto border border-ink bg-paper p-4"
        >
          <div className="flex items-baseline justify-between border-b border-ink pb-1">
            <Dialog.Title className="text-[1rem] font-[650]">Keys</Dialog.Title>
            <Dialog.Close className="act">Close</Dialog.Close>
          </div>
          <p className="mt-2">
            <Link className="act" to={`/guide/${here}`} onClick={() => setOpen(false)}>
              What this screen is for, in the guide
            </Link>
          </p>
          <dl className="mt-2 grid grid-cols-[minmax(0,9rem)_minmax(0,1fr)] gap-x-4 gap-y-0.5">
            {KEYS.map(([where, keys]) => (
              <Fragment key={where}>
                <dt className="col-span-2 mt-2 font-semibold">{where}</dt>
                {keys.map(([key, words]) => (
                  <Fragment key={key}>
                    <dt>{key}</dt>
                    <dd className="text-faint">{words}</dd>
                  </Fragment>
                ))}
              </Fragment>
            ))}
          </dl>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
