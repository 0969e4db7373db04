import type { RunResult } from "../../api/client";
import { useMoments } from "../../ui/useMoments";
import { LEFT } from "./lanes";
import { useScale, useSpan } from "./span";

/** Numbers that would stand closer than this are not written again, px. */
const APART = 14;

/** When each rule acted: its number, on a line of its own under the strip. */
export function RuleMarks({ run, width, zone }: { run: RunResult; width: number; zone: string }) {
  const x = useScale(width);
  const span = useSpan();
  const { moment } = useMoments(zone);
  const start = new Date(run.start).getTime();
  const acted = (run.rules ?? [])
    .flatMap((rule, index) => (rule.at_s ?? []).map((at) => ({ at, index, words: rule.words })))
    .filter(({ at }) => at >= span.from && at <= span.to)
    .sort((one, other) => one.at - other.at);
  if ((run.rules ?? []).every((rule) => (rule.at_s ?? []).length === 0)) return null;
  const ends = new Map<number, number>();
  return (
    <svg
      width={width}
      height={24}
      role="img"
      aria-label={inWords(run)}
      className="block"
      data-testid="rule-marks"
    >
      <text x={LEFT - 8} y={15} textAnchor="end" fontSize="12" fontWeight="600" fill="var(--cedar)">
        rules
      </text>
      {acted.map(({ at, index, words }) => {
        const here = x(at);
        const written = here - (ends.get(0) ?? Number.NEGATIVE_INFINITY) >= APART;
        if (written) ends.set(0, here);
        return (
          <g key={`${index} ${at}`} transform={`translate(${here} 0)`}>
            <line y1={16} y2={22} stroke="var(--ink)" />
            {written && (
              <text y={14} textAnchor="middle" fontSize="11.5" fill="var(--ink)">
                {index + 1}
              </text>
            )}
            <title>
              {moment(start + at * 1000)}: rule {index + 1}, {words}
            </title>
          </g>
        );
      })}
    </svg>
  );
}

const inWords = (run: RunResult) =>
  (run.rules ?? [])
    .map((rule, index) => `rule ${index + 1} acted ${rule.acted === 1 ? "once" : `${rule.acted} times`}`)
    .join(", ");
