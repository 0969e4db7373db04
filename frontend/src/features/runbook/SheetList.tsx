import { useNarrow } from "../../ui/useNarrow";
import { FOLDED, KINDS, type Sheet } from "./kinds";

/** Kinds of which a sheet is known by its whole title. */
const NAMED: ReadonlySet<Sheet["kind"]> = new Set(["find_out", "trial"]);

interface Props {
  sheets: readonly Sheet[];
  shown: Sheet | undefined;
  onChoose: (sheet: Sheet) => void;
}

/** All sheets by what they are for. */
export function SheetList({ sheets, shown, onChoose }: Props) {
  const narrow = useNarrow();
  return (
    <nav aria-label="Sheets" className="unprinted">
      {KINDS.map(([kind, title]) => {
        const some = sheets.filter((sheet) => sheet.kind === kind);
        if (some.length === 0) return null;
        const lines = some.map((sheet) => (
          <button
            key={sheet.key}
            type="button"
            aria-current={sheet === shown ? "page" : undefined}
            className={`block min-h-[44px] w-full border-l-4 px-3 text-left ${
              sheet === shown ? "border-cedar font-semibold" : "border-rule"
            }`}
            onClick={() => {
              onChoose(sheet);
              if (narrow)
                requestAnimationFrame(() => document.querySelector("[data-testid=sheet]")?.scrollIntoView());
            }}
          >
            {NAMED.has(kind) ? sheet.title : sheet.title.replace(/^[^:]*: /, "")}
            {(sheet.held_by ?? []).length > 0 && <span className="ml-2 text-stop">held back</span>}
          </button>
        ));
        if (FOLDED.has(kind))
          return (
            <details key={kind} className="mb-2" open={shown?.kind === kind}>
              <summary className="min-h-[44px] cursor-pointer py-2 text-faint">
                {title} ({some.length})
              </summary>
              {lines}
            </details>
          );
        return (
          <div key={kind} className="mb-2">
            <h2 className="text-faint">{title}</h2>
            {lines}
          </div>
        );
      })}
    </nav>
  );
}
