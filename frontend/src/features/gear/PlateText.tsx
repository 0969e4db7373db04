import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";

type Kind = components["schemas"]["PlateText"]["kind"];

const EXAMPLES: Record<Kind, string> = {
  dc_input: "12–60 V 15 A 500 W",
  ac_input: "AC 120 V 60 Hz 15 A 1800 W",
  module: "Voc 37.1 V Vmp 31.2 V Isc 13.6 A Imp 12.8 A",
  generator: "1800 W rated 2200 W max",
};

interface Props {
  kind: Kind;
  label: string;
  onRead: (fields: Record<string, number>) => void;
}

/** A plate typed as it is printed; what can be read goes into the fields. */
export function PlateText({ kind, label, onRead }: Props) {
  const [text, setText] = useState("");
  const read = useMutation({
    mutationFn: () => answer(client.POST("/api/plates/read", { body: { kind, text } })),
    onSuccess: (fields) => {
      onRead(fields);
      setText("");
    },
  });
  return (
    <p className="flex flex-wrap items-baseline gap-x-2">
      <label className="inline-flex max-w-full flex-wrap items-baseline gap-x-2">
        <span className="text-faint">{label}</span>
        <input
          className="field w-80 max-w-full"
          placeholder={EXAMPLES[kind]}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && text.trim() && read.mutate()}
        />
      </label>
      <button type="button" className="act" disabled={text.trim() === ""} onClick={() => read.mutate()}>
        Read it
      </button>
      {read.isError && (
        <span role="alert" className="basis-full text-stop">
          {read.error.message}
        </span>
      )}
    </p>
  );
}
