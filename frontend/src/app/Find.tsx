import { Search } from "lucide-react";
import { Dialog } from "radix-ui";
import { type KeyboardEvent, useEffect, useId, useReducer, useState } from "react";
import { useNavigate } from "react-router";
import type { Plan } from "../api/client";
import { useDesk } from "../api/plan";
import type { GuidePage } from "../features/guide/pages";
import { SCREENS } from "./screens";
import { showElement } from "./useShown";

interface Item {
  label: string;
  /** Where it is. */
  where: string;
  /** What else it is found by, after all that is called so. */
  more?: string;
  go: () => void;
}

const MOST = 12;

/** Finds a part of the plan, a screen, or anything on this one that can be pressed or filled in: by keys alone. */
export function Find() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const pressed = (event: globalThis.KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches("input, textarea, select, [contenteditable]");
      const busy = document.querySelector("[role=dialog]") !== null;
      const chord = event.ctrlKey || event.metaKey;
      if (event.key !== "/" || busy || event.altKey || (typing && !chord)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger
        className="act inline-flex items-center"
        aria-label="Find"
        title="Find: /, in a field Ctrl and /"
      >
        <Search size={16} aria-hidden />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-16 left-1/2 z-30 w-[min(94vw,560px)] -translate-x-1/2 border border-ink bg-paper p-4"
          onCloseAutoFocus={(event) => event.preventDefault()}
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Choices onDone={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Choices({ onDone }: { onDone: () => void }) {
  const { view } = useDesk();
  const navigate = useNavigate();
  const list = useId();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [, comes] = useReducer((count: number) => count + 1, 0);
  const [guide, setGuide] = useState<readonly GuidePage[]>([]);
  useEffect(() => {
    void import("../features/guide/pages").then((found) => setGuide(found.GUIDE));
  }, []);
  /** A screen may still be coming: what it has is read anew with every letter, and whenever it changes. */
  useEffect(() => {
    const work = document.querySelector("#work");
    const watch = new MutationObserver(comes);
    if (work) watch.observe(work, { childList: true, subtree: true });
    return () => watch.disconnect();
  }, []);
  const go = (to: string) => navigate(to.startsWith("/") ? to : `/plans/${view.id}/${to}`);
  const items = [
    ...placesOf(view.plan, go),
    ...controls(),
    ...CALLED.map(([label, to]) => ({ label, where: "what one looks for", go: () => go(to) })),
    ...guide.map((page) => ({
      label: page.title,
      where: "guide",
      more: page.text,
      go: () => navigate(`/guide/${page.key}`),
    })),
  ];
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = items
    .map((item) => ({ item, rank: rank(item, words) }))
    .filter(({ rank }) => rank < UNFIT)
    .sort((one, other) => one.rank - other.rank)
    .slice(0, MOST)
    .map(({ item }) => item);
  const chosen = Math.min(at, shown.length - 1);
  const take = (item: Item | undefined) => {
    if (!item) return;
    onDone();
    /** Once the dialog is gone: it gives the focus back to the page. */
    window.setTimeout(item.go, 0);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt(Math.min(shown.length - 1, chosen + 1));
    else if (event.key === "ArrowUp") setAt(Math.max(0, chosen - 1));
    else if (event.key === "Enter") take(shown[chosen]);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <input
        className="field w-full"
        role="combobox"
        aria-label="Find a breaker, a part, a screen or a field"
        aria-expanded="true"
        aria-controls={list}
        aria-activedescendant={shown[chosen] ? `${list}-${chosen}` : undefined}
        placeholder="a breaker's number, a name, what you want to do"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={keys}
      />
      <div id={list} role="listbox" aria-label="Found" className="mt-2">
        {shown.map((item, index) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: keys are the field's
          // biome-ignore lint/a11y/useFocusableInteractive: the field keeps the focus and names the active one
          <div
            key={`${item.where} ${item.label}`}
            id={`${list}-${index}`}
            role="option"
            aria-selected={index === chosen}
            className={`flex min-h-[28px] cursor-pointer items-baseline gap-3 px-2 py-0.5 ${index === chosen ? "bg-rule/60" : ""}`}
            onMouseMove={() => setAt(index)}
            onClick={() => take(item)}
          >
            <span className="min-w-0 flex-1">{item.label}</span>
            <span className="text-faint">{item.where}</span>
          </div>
        ))}
      </div>
      {shown.length === 0 && <p className="mt-2 text-faint">Nothing here is called that.</p>}
      <p className="mt-2 text-faint">Arrow keys choose, Enter goes there, Escape leaves.</p>
    </>
  );
}

const LAST = 3;
const UNFIT = 4;

/** How well an item fits what was typed: its beginning, the beginning of words, anywhere. */
function rank({ label, where, more }: Item, words: readonly string[]): number {
  const own = label.toLowerCase();
  const all = `${own} ${where.toLowerCase()}`;
  if (words.length === 0) return 2;
  if (!words.every((word) => all.includes(word)))
    return more && words.every((word) => word.length > 2 && more.toLowerCase().includes(word)) ? LAST : UNFIT;
  if (own.startsWith(words.join(" "))) return 0;
  return words.every((word) => all.split(/[\s·(]+/).some((part) => part.startsWith(word))) ? 1 : 2;
}

/** What people call things, and where they are. */
const CALLED = [
  ["Compare variants", "variants"],
  ["Backup: save the plan as a file", "/plans"],
  ["Undo further back: earlier states", "history"],
  ["Print sheets, signs, one-line, everything", "runbook"],
  ["Print breaker labels, panel schedule", "panel"],
  ["Paste breakers, spreadsheet, Excel, CSV", "panel?as=table"],
  ["How likely, probability, risk", "outage"],
  ["Training, drill, quiz", "practise"],
  ["Phone, QR code, pocket file", "runbook"],
  ["What to buy, how big, sizing", "gear"],
  ["Generator, charging, fuel", "gear"],
  ["Safety findings, code, inspection", "checks"],
] as const;

type Named = Record<string, { name?: string | null; label?: string }>;

/** Screens, and parts of the plan on their screens. */
function placesOf(plan: Plan, go: (to: string) => void): Item[] {
  const circuits = Object.entries(plan.circuits ?? {}).map(([id, circuit]) => ({
    label: `${circuit.spaces.join(", ")} · ${circuit.label}`,
    where: plan.panels?.[circuit.panel_id]?.name ?? "Panel",
    go: () => go(`panel#circuits/${id}`),
  }));
  const rooms = [
    ["loads", "needs", "Needs"],
    ["stations", "gear", "Gear"],
    ["generators", "gear", "Gear"],
    ["arrays", "gear", "Gear"],
    ["vehicles", "gear", "Gear"],
    ["externals", "gear", "Gear"],
    ["places", "gear", "Gear"],
  ] as const;
  const parts = rooms.flatMap(([room, screen, where]) =>
    Object.entries((plan[room] ?? {}) as Named).map(([id, part]) => ({
      label: part.name ?? id,
      where,
      go: () => go(`${screen}#${room}/${id}`),
    })),
  );
  const screens = SCREENS.map(([to, label]) => ({ label, where: "screen", go: () => go(to) }));
  return [
    ...screens,
    { label: "History", where: "screen", go: () => go("history") },
    { label: "Practise", where: "screen", go: () => go("practise") },
    ...circuits,
    ...parts,
  ];
}

const CONTROLS = "button, a[href], input, select, textarea, summary, [tabindex='0']";

/** Everything on this screen that can be pressed or filled in, by its name. */
function controls(): Item[] {
  const seen = new Set<string>();
  return (
    [...document.querySelectorAll<HTMLElement>(`header :is(${CONTROLS}), #work :is(${CONTROLS})`)]
      .filter((element) => !element.matches(":disabled, [hidden], .sr-only"))
      /** What is closed on the screen is opened; what the head does not show at this width cannot be. */
      .filter((element) => element.closest("#work") || element.getClientRects().length > 0)
      .map((element) => ({ element, label: nameOf(element), where: aroundOf(element) }))
      .filter(({ label, where }) => {
        const known = seen.has(`${where} ${label}`);
        seen.add(`${where} ${label}`);
        return label !== "" && !known;
      })
      .map(({ element, label, where }) => ({ label, where, go: () => showElement(element) }))
  );
}

function nameOf(element: HTMLElement): string {
  const label = (element as HTMLInputElement).labels?.[0]?.textContent;
  const name = element.getAttribute("aria-label") ?? label ?? element.textContent ?? element.title;
  return name.replace(/\s+/g, " ").trim().slice(0, 90);
}

function aroundOf(element: HTMLElement): string {
  const box = element.closest(
    "section[aria-label], [role=group][aria-label], aside[aria-label], nav[aria-label]",
  );
  return box?.getAttribute("aria-label") ?? "on this screen";
}
