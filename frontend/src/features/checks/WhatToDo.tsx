import type { Finding } from "../../api/client";
import { alike, anchor } from "./alike";
import { LEVELS } from "./FindingItem";

const WHEN = [
  ["today", "Today, whether there is an outage or not"],
  ["outage", "Before the next outage"],
  ["electrician", "By a licensed electrician"],
] as const;

/** What stops and cautions ask for, by when and by whom: each leads to where it is told in full. */
export function WhatToDo({ findings }: { findings: Finding[] }) {
  const grave = findings.filter((finding) => finding.level === "stop" || finding.level === "caution");
  if (grave.length === 0) return null;
  return (
    <section aria-label="What to do first" className="mb-5 max-w-[900px]">
      <h2 className="border-b border-ink pb-1">What to do first</h2>
      <dl>
        {WHEN.map(([when, title]) => {
          const own = grave.filter((finding) => finding.who === when);
          if (own.length === 0) return null;
          return (
            <div key={when} className="border-b border-rule py-1">
              <dt className="font-semibold">
                {title} <span className="font-normal text-faint">· {own.length}</span>
              </dt>
              <dd>
                <ul>
                  {alike(own).map((group) => (
                    <Line key={`${group[0]?.check_id} ${group[0]?.level}`} group={group} />
                  ))}
                </ul>
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}

function Line({ group }: { group: Finding[] }) {
  const [first] = group;
  if (!first) return null;
  const [Sign, colour, word] = LEVELS[first.level];
  return (
    <li className="flex gap-2">
      <Sign size={15} aria-hidden className={`mt-0.5 shrink-0 ${colour}`} />
      <span>
        <span className="sr-only">{word}: </span>
        <a
          className="underline decoration-rule underline-offset-2 hover:text-cedar"
          href={`#${anchor(first)}`}
        >
          {first.title}
        </a>
        {group.length > 1 && <span className="text-faint"> · {group.length} places</span>}: {first.remedy}
      </span>
    </li>
  );
}
