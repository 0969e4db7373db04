import { Ellipsis, History, Redo2, Undo2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link, NavLink, Outlet, useLocation, useParams } from "react-router";
import { CursorProvider } from "../api/cursor";
import { PlanDeskProvider, useDesk } from "../api/plan";
import { ProblemLines } from "../ui/ProblemLines";
import { useMoments } from "../ui/useMoments";
import { ConflictDialog } from "./ConflictDialog";
import { Find } from "./Find";
import { HalfTyped } from "./HalfTyped";
import { Keys } from "./Keys";
import { Settings } from "./Settings";
import { Sums } from "./Sums";
import { SCREENS } from "./screens";
import { Unopened } from "./Unopened";
import { useShown } from "./useShown";
import { VariantLine } from "./VariantLine";
import { VerdictLine } from "./VerdictLine";

/** What surrounds every screen of a plan: where you are, the verdict, undo. */
export function Frame() {
  const { planId = "" } = useParams();
  return (
    <PlanDeskProvider
      key={planId}
      planId={planId}
      opening={<Opening />}
      unopened={(refused, again) => <Unopened planId={planId} refused={refused} again={again} />}
    >
      <a
        href="#work"
        className="sr-only focus:not-sr-only focus:absolute focus:z-20 focus:bg-paper focus:p-2 focus:text-cedar"
      >
        Skip to the work
      </a>
      {/* On a phone only one line of the verdict stays while one scrolls. */}
      <header className="top-0 z-10 bg-paper max-sm:contents [@media(min-height:520px)]:sticky">
        <TopLine />
        <VariantLine />
        <VerdictLine />
      </header>
      <main id="work" tabIndex={-1} className="mx-auto max-w-[1360px] px-5 pt-3 pb-10 outline-none">
        <HalfTyped />
        <Told />
        <NotMade />
        <CursorProvider planId={planId}>
          <Outlet />
        </CursorProvider>
      </main>
      <ConflictDialog />
    </PlanDeskProvider>
  );
}

/** What undo takes back, as the history says it. */
function undoWords(change: string): string {
  return /^(Undo|Redo|Restored)/.test(change) ? "Undo once more" : `Undo: ${change}`;
}

function TopLine() {
  const { view, undo, redo, saving, unreached } = useDesk();
  const { time } = useMoments(Intl.DateTimeFormat().resolvedOptions().timeZone);
  const tabs = useCurrentTab();
  /** On a phone what is not a screen stands behind one button. */
  const [more, setMore] = useState(false);
  useUndoKeys();
  useShown();
  useEffect(() => {
    document.title = `${view.plan.name} · Weary Cedar`;
    return () => {
      document.title = "Weary Cedar";
    };
  }, [view.plan.name]);
  return (
    <div className="mx-auto flex max-w-[1360px] flex-wrap items-center gap-x-5 gap-y-1 px-5 pt-2">
      <Link to="/plans" className="font-semibold text-cedar" title="All plans">
        Weary Cedar
      </Link>
      <span className="font-semibold">{view.plan.name}</span>
      <nav
        ref={tabs}
        aria-label="Screens"
        className="flex flex-wrap gap-x-4 max-sm:order-last max-sm:-mx-5 max-sm:w-[100vw] max-sm:flex-nowrap max-sm:overflow-x-auto max-sm:px-5"
      >
        {SCREENS.map(([to, label]) => (
          <NavLink
            key={to}
            to={`/plans/${view.id}/${to}`}
            className={({ isActive }) =>
              `border-b-2 px-1 py-1 ${isActive ? "border-cedar font-semibold" : "border-transparent hover:border-rule"}`
            }
          >
            {label}
          </NavLink>
        ))}
      </nav>
      <button
        type="button"
        className="act ml-auto inline-flex items-center justify-center sm:hidden"
        aria-expanded={more}
        aria-controls="more"
        onClick={() => setMore(!more)}
      >
        <Ellipsis size={18} aria-hidden />
        <span className="sr-only">Undo, history, find, settings</span>
      </button>
      <span
        className={`ml-auto text-faint ${more || unreached ? "" : "max-sm:sr-only"}`}
        role="status"
        data-testid="saved"
      >
        {unreached ? (
          <strong>Not saved yet: the server does not answer. Kept here, sent again by itself.</strong>
        ) : saving ? (
          "Saving…"
        ) : (
          `Saved ${time(view.saved_at)}`
        )}
      </span>
      <div id="more" className={`flex items-center gap-1 ${more ? "" : "max-sm:hidden"}`}>
        <button
          type="button"
          className="act"
          onClick={undo}
          disabled={!view.can_undo && !saving}
          aria-label="Undo"
          title={view.can_undo ? undoWords(view.last_change) : "Nothing to undo"}
        >
          <Undo2 size={16} aria-hidden />
        </button>
        <button type="button" className="act" onClick={redo} disabled={!view.can_redo} aria-label="Redo">
          <Redo2 size={16} aria-hidden />
        </button>
        <Link to={`/plans/${view.id}/history`} className="act inline-flex items-center" aria-label="History">
          <History size={16} aria-hidden />
        </Link>
        <Find />
        <Sums />
        <Keys />
        <Settings />
      </div>
    </div>
  );
}

/** On a phone the tabs stand in one row that slides: the present one is brought into it. */
function useCurrentTab() {
  const { pathname } = useLocation();
  const row = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: which tab is current hangs on where one is
  useEffect(() => {
    const current = row.current?.querySelector<HTMLElement>("[aria-current='page']");
    if (row.current && current)
      row.current.scrollLeft = current.offsetLeft - (row.current.clientWidth - current.clientWidth) / 2;
  }, [pathname]);
  return row;
}

function useUndoKeys() {
  const { undo, redo, view, saving } = useDesk();
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      if (event.shiftKey && view.can_redo) redo();
      else if (!event.shiftKey && (view.can_undo || saving)) undo();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [undo, redo, view, saving]);
}

function Opening() {
  return (
    <main className="p-6">
      <p className="text-faint">Opening the plan…</p>
      <Link to="/plans" className="act mt-3 inline-block">
        All plans
      </Link>
    </main>
  );
}

/** What could not be made of this plan: nothing of it is judged on any screen. */
function NotMade() {
  const { view } = useDesk();
  if (view.failed.length === 0) return null;
  return (
    <div role="alert" className="mb-3 border-l-4 border-stop py-1 pl-3">
      <strong>Not everything could be worked out.</strong> What is missing is not judged; undo the last edit,
      or open the history and bring an earlier revision back.
      <ul className="mt-1">
        {view.failed.map((item) => (
          <li key={item.sheet}>
            {item.sheet}: {item.detail}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Told() {
  const { problem, dismiss, view, elsewhere } = useDesk();
  if (problem)
    return (
      <div role="alert" className="mb-3 flex items-start gap-4 border-l-4 border-stop py-1 pl-3">
        <div>
          <strong>{problem.problem.title}.</strong> Nothing was changed; the plan is as it was saved.
          <ProblemLines problem={problem.problem} plan={view.plan} />
        </div>
        <button type="button" className="act ml-auto" onClick={dismiss}>
          Close
        </button>
      </div>
    );
  const told = view.merged
    ? "Someone else saved a change to other things meanwhile. Both are in the plan."
    : elsewhere && `Changed in another window and shown now: ${elsewhere}.`;
  if (told)
    return (
      <p role="status" className="mb-3 border-l-4 border-rule pl-3 text-faint">
        {told}
      </p>
    );
  return null;
}
