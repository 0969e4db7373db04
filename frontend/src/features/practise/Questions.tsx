import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";
import { CannotShow } from "../../ui/CannotShow";

type Kind = components["schemas"]["KindLine"];

/** Short questions from the plan's own figures, with the working, and the usual slips recognised. */
export function Questions({ kinds }: { kinds: Kind[] }) {
  const { view } = useDesk();
  const fitting = kinds.filter((kind) => !kind.why_not);
  const [at, setAt] = useState(() => Math.floor(Math.random() * Math.max(1, fitting.length)));
  const [seed, setSeed] = useState(() => 1 + Math.floor(Math.random() * 10_000));
  const [value, setValue] = useState("");
  const [right, setRight] = useState({ right: 0, all: 0 });
  const kind = fitting[at % Math.max(1, fitting.length)]?.kind ?? "";
  const path = { plan_id: view.id };
  const asked = useQuery({
    queryKey: ["question", view.id, view.revision, kind, seed],
    enabled: kind !== "",
    queryFn: () =>
      answer(client.GET("/api/plans/{plan_id}/drill/question", { params: { path, query: { kind, seed } } })),
  });
  const given = useMutation({
    mutationFn: (figure: number) =>
      answer(
        client.POST("/api/plans/{plan_id}/drill/answer", {
          params: { path },
          body: { kind, seed, value: figure },
        }),
      ),
    onSuccess: (found) => setRight({ right: right.right + (found.right ? 1 : 0), all: right.all + 1 }),
  });
  const next = () => {
    given.reset();
    setValue("");
    setAt(at + 1);
    setSeed(seed + 1);
  };
  if (fitting.length === 0) return <p className="text-faint">No question fits this plan yet.</p>;
  const found = asked.data;
  const figure = Number(value.replace(",", "."));
  return (
    <section aria-label="Questions">
      <h2 className="border-b border-ink pb-1">
        Questions{" "}
        <span className="font-normal text-faint">
          {fitting.length} kinds fit{right.all > 0 ? `; ${right.right} of ${right.all} right` : ""}
        </span>
      </h2>
      <CannotShow asked={asked} what="question" />
      {found && (
        <>
          <p className="mt-1 font-semibold">{found.title}</p>
          <p data-testid="question">{found.ask}</p>
          {found.choices.length > 0 ? (
            <ul className="mt-1 flex flex-col gap-2">
              {found.choices.map((words, index) => (
                <li key={words}>
                  <button
                    type="button"
                    className="act min-h-11 w-full border border-rule px-3 py-1 text-left"
                    disabled={given.data !== undefined || given.isPending}
                    onClick={() => given.mutate(index)}
                  >
                    {words}
                  </button>
                </li>
              ))}
            </ul>
          ) : (
            <form
              className="mt-1 flex flex-wrap items-baseline gap-x-3"
              onSubmit={(event) => {
                event.preventDefault();
                if (value.trim() && Number.isFinite(figure) && !given.data) given.mutate(figure);
              }}
            >
              <label>
                <span className="text-faint">Your answer </span>
                <input
                  className="field min-h-11 w-28"
                  inputMode="decimal"
                  value={value}
                  onChange={(event) => setValue(event.target.value)}
                />{" "}
                {found.unit}
              </label>
              <button
                type="submit"
                className="act min-h-11 font-semibold"
                disabled={!value.trim() || !Number.isFinite(figure) || given.data !== undefined}
              >
                Judge it
              </button>
            </form>
          )}
          {given.error && (
            <p role="alert" className="border-l-4 border-stop pl-3">
              {given.error.message}
            </p>
          )}
          {given.data && (
            <div
              role="status"
              data-testid="judged"
              className={`mt-2 border-l-4 pl-3 ${given.data.right ? "border-good" : "border-caution"}`}
            >
              <p className="font-semibold">{given.data.words}</p>
              {given.data.slip && <p>A usual slip: {given.data.slip}.</p>}
              <ol className="ml-4 list-decimal">
                {(given.data.working ?? []).map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ol>
              <button type="button" className="act min-h-11" onClick={next}>
                Next question
              </button>
            </div>
          )}
          {!given.data && (
            <p className="mt-2">
              <button type="button" className="act" onClick={next}>
                Another one
              </button>
            </p>
          )}
        </>
      )}
    </section>
  );
}
