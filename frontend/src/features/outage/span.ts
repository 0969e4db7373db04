import { type ScaleLinear, scaleLinear } from "d3-scale";
import { createContext, useContext, useMemo } from "react";
import { LEFT, RIGHT } from "./lanes";

/** The stretch of the outage that the strip shows, s from the start. */
export interface Span {
  from: number;
  to: number;
}

export type Scale = ScaleLinear<number, number>;

export const SpanContext = createContext<Span>({ from: 0, to: 1 });

export const useSpan = () => useContext(SpanContext);

export const scaleOf = (span: Span, width: number): Scale =>
  scaleLinear()
    .domain([span.from, span.to])
    .range([LEFT, width - RIGHT]);

/** Where a moment stands on the strip, px. */
export function useScale(width: number): Scale {
  const span = useSpan();
  return useMemo(() => scaleOf(span, width), [span, width]);
}

/** The shortest stretch that is shown, s. */
export const SHORTEST = 600;

/** A stretch of a length around a moment, within the outage. */
export function around(at: number, length: number, whole: number): Span {
  const held = Math.min(whole, Math.max(SHORTEST, length));
  const from = Math.min(Math.max(0, at - held / 2), whole - held);
  return { from, to: from + held };
}

/** The same stretch, moved as little as it takes to have a moment in it. */
export function holding(span: Span, at: number, whole: number): Span {
  if (at >= span.from && at <= span.to) return span;
  const length = span.to - span.from;
  const from = at < span.from ? at - length / 10 : at - (9 * length) / 10;
  const held = Math.min(Math.max(0, from), Math.max(0, whole - length));
  return { from: held, to: held + length };
}
