import { memo } from "react";
import type { RunResult } from "../../api/client";
import { useMoments } from "../../ui/useMoments";
import { LEFT, RIGHT } from "./lanes";
import { inSight } from "./series";
import { useScale, useSpan } from "./span";

/** Numbers that would stand closer than this are not written again, px. */
const APART = 14;

/** Height of a row of what a rule keeps off, px. */
const ROW = 20;

interface Props {
  run: RunResult;
  width: number;
  zone: string;
}

/** When each rule acted, its number; under that, when it kept something off. */
export const RuleMarks = memo(function RuleMarks({ run, width, zone }: Props) {
  return (
    <>
      <ActedMarks run={run} width={width} zone={zone} />
      <KeptOff run={run} width={width} zone={zone} />
    </>
  );
});

/** Off times as bars, a row for each rule that keeps something off: by hand, below a charge, over night. */
function KeptOff({ run, width, zone }: Props) {
  const x = useScale(width);
  const { moment } = useMoments(zone);
  const start = new Date(run.start).getTime();
  const rows = (run.rules ?? [])
    .map((rule, index) => ({ number: index + 1, words: rule.keeps_off ?? "", spans: rule.off ?? [] }))
    .filter(({ spans }) => spans.length > 0);
  if (rows.length === 0) return null;
  const label = rows
    .map(({ number, words, spans }) => `rule ${number} keeps off ${words}, ${times(spans.length)}`)
    .join("; ");
  return (
    <svg
      width={width}
      height={rows.length * ROW}
      role="img"
      aria-label={label}
      className="block"
      data-testid="kept-off"
    >
      <clipPath id="kept-off-span">
        <rect x={LEFT} y={0} width={Math.max(0, width - LEFT - RIGHT)} height={rows.length * ROW} />
      </clipPath>
      {rows.map(({ number, words, spans }, row) => (
        <g key={number} transform={`translate(0 ${row * ROW})`} fontSize="11.5">
          <text x={LEFT - 8} y={14} textAnchor="end" fill="var(--cedar)">
            {number} off
          </text>
          <g clipPath="url(#kept-off-span)">
            {spans
              .filter(({ begins_s: from, ends_s: to }) => inSight(from, to, x))
              .map(({ begins_s: from, ends_s: to }) => (
                <rect
                  key={from}
                  x={x(from)}
                  y={4}
                  width={Math.max(1.5, x(to) - x(from))}
                  height={13}
                  fill="var(--rule)"
                >
                  <title>
                    {words}: off from {moment(start + from * 1000)} to {moment(start + to * 1000)}
                  </title>
                </rect>
              ))}
          </g>
          <text x={LEFT + 6} y={14} fill="var(--ink)" className="halo">
            {words}
          </text>
        </g>
      ))}
    </svg>
  );
}

const times = (count: number) => (count === 1 ? "once" : `${count} times`);

/** When each rule acted: its number, on a line of its own under the strip. */
function ActedMarks({ run, width, zone }: Props) {
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
  (run.rules ?? []).map((rule, index) => `rule ${index + 1} acted ${times(rule.acted)}`).join(", ");
