import { type ReactNode, useEffect } from "react";
import { useLocation } from "react-router";
import type { Finding } from "../../api/client";
import { useDesk } from "../../api/plan";
import { LastPractised } from "../practise/LastPractised";
import { alike, anchor } from "./alike";
import { Clauses } from "./Clauses";
import { FindingItem } from "./FindingItem";
import { Survey } from "./Survey";
import { WhatToDo } from "./WhatToDo";

const GROUPS = [
  ["stop", "Stop: do not energise"],
  ["caution", "Caution: works, with a condition that must be read"],
  ["cannot_judge", "Cannot be judged: something is not known"],
  ["note", "Worth knowing"],
] as const;

/** Everything that must not be allowed, must be read, or is worth knowing. */
export function ChecksScreen() {
  const { view } = useDesk();
  const findings = view.findings;
  const open = findings.filter((finding) => !finding.answered);
  const unasked = open.filter((finding) => !(finding.asks && finding.level === "cannot_judge"));
  const asked = open.length - unasked.length;
  useAnchor();
  const answered = findings.filter((finding) => finding.answered);
  return (
    <>
      <h1 className="sr-only">Checks</h1>
      <p className="mb-3 max-w-[900px] text-faint">
        What could hurt someone, burn or not work, with the figures and where the rule is from. Answer the
        questions of the survey; take a remedy with one click. Local code and the authority having
        jurisdiction decide; permanent wiring is a licensed electrician's work. Nothing here is an approval.
      </p>
      <WhatToDo findings={open} />
      <div className="grid grid-cols-[minmax(0,1fr)] gap-8 lg:grid-cols-[minmax(0,1fr)_420px]">
        <div data-testid="findings">
          {findings.length === 0 && <p>Nothing was found.</p>}
          {GROUPS.map(([level, title]) => (
            <Group key={level} title={title} findings={unasked.filter((finding) => finding.level === level)}>
              {level === "cannot_judge" && asked > 0 && (
                <p className="border-b border-rule py-2">
                  {asked === 1 ? "One question" : `${asked} questions`} of the survey{" "}
                  {asked === 1 ? "has" : "have"} no answer yet:{" "}
                  <a className="underline" href="#survey">
                    walk through the house
                  </a>
                  .
                </p>
              )}
            </Group>
          ))}
          <Group title="Answered by an electrician" findings={answered} />
        </div>
        <div>
          <p className="mb-3">
            Going through it at the panel: <LastPractised planId={view.id} />.
          </p>
          <Clauses />
          <Survey />
        </div>
      </div>
    </>
  );
}

/** Go to the row of the survey that a link names, once it is there. */
function useAnchor() {
  const { hash } = useLocation();
  useEffect(() => {
    if (!hash) return;
    const wait = setInterval(() => {
      const row = document.getElementById(decodeURIComponent(hash.slice(1)));
      if (!row) return;
      row.scrollIntoView({ block: "center" });
      row.querySelector<HTMLElement>("button")?.focus();
      clearInterval(wait);
    }, 50);
    return () => clearInterval(wait);
  }, [hash]);
}

interface GroupProps {
  title: string;
  findings: Finding[];
  children?: ReactNode;
}

function Group({ title, findings, children }: GroupProps) {
  if (findings.length === 0 && !children) return null;
  return (
    <section className="mb-5">
      <h2 className="border-b border-ink pb-1">
        {title}
        {findings.length > 0 && <span className="font-normal text-faint"> · {findings.length}</span>}
      </h2>
      {children}
      <ul>
        {alike(findings).map(([finding, ...more]) =>
          finding ? (
            <FindingItem
              key={finding.key}
              finding={finding}
              more={more}
              {...(finding.answered ? {} : { id: anchor(finding) })}
            />
          ) : null,
        )}
      </ul>
    </section>
  );
}
