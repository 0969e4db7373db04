import { useQuery } from "@tanstack/react-query";
import { answer, client, type Plan } from "../../api/client";
import { useDesk } from "../../api/plan";
import { CannotShow } from "../../ui/CannotShow";
import { ChoiceField } from "../../ui/ChoiceField";
import { TextField } from "../../ui/TextField";

type Site = Plan["site"];

const CODES: readonly (readonly [NonNullable<Site["code"]>, string])[] = [
  ["unknown", "not said: that of its supply counts"],
  ["us_2020", "NFPA 70 of 2020"],
  ["us_2023", "NFPA 70 of 2023"],
  ["us_2026", "NFPA 70 of 2026"],
  ["uk_18", "BS 7671, 18th edition"],
  ["other", "another code"],
];

/** The code that the house goes by, what local rules add, and every clause that is cited from memory. */
export function Clauses() {
  const { view, edit } = useDesk();
  const site = view.plan.site;
  const set = (part: Partial<Site>) => edit((plan) => ({ ...plan, site: { ...plan.site, ...part } }));
  return (
    <section aria-label="Code" className="mb-4">
      <ChoiceField
        label="the house goes by"
        value={site.code ?? "unknown"}
        choices={CODES}
        onSave={(code) => set({ code })}
      />
      <TextField
        long
        label="local rules that apply"
        value={site.code_note ?? ""}
        onSave={(code_note) => set({ code_note })}
        onEmpty={() => set({ code_note: "" })}
      />
      <details>
        <summary className="min-h-[24px] cursor-pointer">
          Clauses to look up, all cited from memory: for a person with the book
        </summary>
        <ClauseList amendments={site.amendments ?? {}} onAmend={(amendments) => set({ amendments })} />
      </details>
    </section>
  );
}

interface ListProps {
  amendments: Record<string, string>;
  onAmend: (amendments: Record<string, string>) => void;
}

function ClauseList({ amendments, onAmend }: ListProps) {
  const { view } = useDesk();
  const listed = useQuery({
    queryKey: ["clauses", view.id, view.revision],
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/clauses", { params: { path: { plan_id: view.id } } })),
    placeholderData: (before) => before,
  });
  const amend = (check: string, words: string) => {
    const { [check]: _before, ...others } = amendments;
    onAmend(words ? { ...others, [check]: words } : others);
  };
  return (
    <>
      <CannotShow asked={listed} what="clauses" />
      <ul data-testid="clauses">
        {listed.data?.map((clause) => (
          <li key={clause.check_id} className="border-b border-rule py-1">
            <strong>{clause.title}</strong>
            <p className="text-[12px] text-faint">
              {clause.source}
              {clause.sure && `; ${clause.sure}`}
            </p>
            {clause.differs && <p className="text-[12px]">{clause.differs}.</p>}
            <TextField
              label="local amendment"
              value={amendments[clause.check_id] ?? ""}
              onSave={(words) => amend(clause.check_id, words)}
              onEmpty={() => amend(clause.check_id, "")}
            />
          </li>
        ))}
      </ul>
    </>
  );
}
