import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { answer, client } from "../../api/client";
import { useDesk } from "../../api/plan";
import type { components } from "../../api/schema.gen";

type Exercise = components["schemas"]["Exercise"];
type Played = components["schemas"]["Played"];
type Move = components["schemas"]["Move"];

/** What is sent: all that was done from the beginning on. */
interface Asked {
  acts: Move[];
  chosen: string[];
  hints: number;
  hint: boolean;
  finished: boolean;
}

/** An exercise as it goes: what was done so far is sent each time, so that nothing is kept elsewhere. */
export function usePlay(exercise: Exercise, person: string) {
  const { view } = useDesk();
  const [seed, setSeed] = useState(1 + Math.floor(Math.random() * 100_000));
  const [acts, setActs] = useState<Move[]>([]);
  const [chosen, setChosen] = useState<string[]>([]);
  const [hints, setHints] = useState(0);
  const [played, setPlayed] = useState<Played | null>(null);
  const [over, setOver] = useState(false);
  const latest = useRef<Asked | null>(null);
  const asked = useMutation({
    mutationFn: (more: Asked) =>
      answer(
        client.POST("/api/plans/{plan_id}/drill/play", {
          params: { path: { plan_id: view.id } },
          body: { ...more, exercise: exercise.key, seed, person },
        }),
      ),
    // Answers may come in another order than they were asked: an earlier one is of no use any more.
    onSuccess: (found, more) => more === latest.current && setPlayed(found),
  });
  const send = (more: Partial<Asked>) => {
    latest.current = { acts, chosen, hints, hint: false, finished: false, ...more };
    asked.mutate(latest.current);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked once at the beginning, and once anew
  useEffect(() => send({}), [seed]);
  return {
    played,
    over,
    seed,
    acts,
    chosen,
    error: asked.error,
    pending: asked.isPending,
    act: (move: Move) => {
      setActs([...acts, move]);
      send({ acts: [...acts, move] });
    },
    choose: (words: string) => {
      setChosen([...chosen, words]);
      send({ chosen: [...chosen, words] });
    },
    hint: () => {
      setHints(hints + 1);
      send({ hints: hints + 1, hint: true });
    },
    /** Goes back to before the last act. */
    back: () => {
      const [a, c] = [acts.slice(0, -1), chosen.slice(0, -1)];
      setActs(a);
      setChosen(c);
      send({ acts: a, chosen: c });
    },
    finish: () => {
      setOver(true);
      send({ finished: true });
    },
    again: () => {
      setActs([]);
      setChosen([]);
      setHints(0);
      setOver(false);
      setPlayed(null);
      setSeed(seed + 1);
    },
  };
}
