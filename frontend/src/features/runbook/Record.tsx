import { useRef, useState } from "react";
import { Refused } from "../../api/client";
import { ProblemLines } from "../../ui/ProblemLines";
import { HeldRows } from "./HeldRows";
import { RecordLines } from "./RecordLines";
import type { useRecord } from "./useRecord";

interface Props {
  record: ReturnType<typeof useRecord>;
  zone: string;
  current: ReadonlyMap<string, string>;
}

/** The record of the plan, and where that of a pocket file is taken in. */
export function Record({ record, zone, current }: Props) {
  const [text, setText] = useState("");
  const [told, setTold] = useState("");
  const [refused, setRefused] = useState<Refused | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const take = async (given: string) => {
    setTold("");
    setRefused(null);
    try {
      const { taken = 0, refused: wrong = [] } = await record.takeIn(given);
      setText("");
      const told = taken === 0 ? "All of it was known already." : `${taken} new rows were taken in.`;
      setTold(wrong.length === 0 ? told : `${told} ${wrong.length} could not be, and are kept here.`);
    } catch (error) {
      if (error instanceof Refused) setRefused(error);
      else throw error;
    }
  };
  const known = new Set(record.known.map((row) => row.id));
  const rows = [...record.known, ...record.waiting.filter((row) => !known.has(row.id))];
  return (
    <section aria-label="What was done" className="unprinted mt-8">
      <h2 className="border-b border-rule pb-1">What was done</h2>
      {rows.length === 0 && <p className="text-faint">Nothing yet: ticks and readings come here.</p>}
      <HeldRows planId={record.planId} held={record.held} />
      <RecordLines rows={rows} zone={zone} current={current} />
      <details className="mt-3">
        <summary className="min-h-[24px] cursor-pointer text-faint">
          Take in the record of a pocket file
        </summary>
        <p className="mt-2 flex flex-wrap items-center gap-3">
          <button type="button" className="act" onClick={() => file.current?.click()}>
            Choose the file
          </button>
          <input
            ref={file}
            type="file"
            hidden
            aria-label="Record of a pocket file"
            accept=".json,.txt,application/json,text/plain"
            onChange={async (event) => {
              const chosen = event.target.files?.[0];
              event.target.value = "";
              if (chosen) await take(await chosen.text());
            }}
          />
          <span className="text-faint">or paste its text:</span>
        </p>
        <textarea
          aria-label="Text of a record"
          className="field mt-2 h-24 w-full max-w-[760px]"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <p>
          <button type="button" className="act" disabled={text.trim() === ""} onClick={() => take(text)}>
            Take it in
          </button>
        </p>
      </details>
      <p role="status">{told}</p>
      {refused && (
        <div role="alert" className="border-l-4 border-stop py-1 pl-3">
          <ProblemLines problem={refused.problem} />
        </div>
      )}
    </section>
  );
}
