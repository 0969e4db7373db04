import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client } from "../../api/client";
import type { components } from "../../api/schema.gen";

type Code = components["schemas"]["PairingCode"];

/** Six digits and the same as squares for a phone's camera, for two minutes and one device. */
export function PairingCode() {
  const [left, setLeft] = useState(0);
  const made = useMutation({
    mutationFn: (role: "full" | "guest") => answer(client.POST("/api/network/code", { body: { role } })),
    onSuccess: (code) => setLeft(code.seconds),
  });
  useEffect(() => {
    if (left <= 0) return;
    const timer = setTimeout(() => setLeft(left - 1), 1000);
    return () => clearTimeout(timer);
  }, [left]);
  const code = left > 0 ? made.data : undefined;
  return (
    <section aria-label="Pair a device" className="mt-2">
      <p className="flex flex-wrap gap-x-4">
        <button type="button" className="act font-semibold" onClick={() => made.mutate("full")}>
          Pair a device
        </button>
        <button type="button" className="act" onClick={() => made.mutate("guest")}>
          Pair a guest, who only reads
        </button>
      </p>
      {code && (
        <div className="mt-2 flex flex-wrap items-center gap-x-5" data-testid="pairing">
          <Squares code={code} />
          <div>
            <p className="text-[2rem] tabular-nums">
              {code.digits.slice(0, 3)} {code.digits.slice(3)}
            </p>
            <p>
              at <span className="break-all">{code.address}</span>
            </p>
            <p className="text-faint">for {Math.ceil(left)} s, for one device, five tries</p>
          </div>
        </div>
      )}
      {made.error && (
        <p role="alert" className="border-l-4 border-stop pl-3">
          {made.error.message}
        </p>
      )}
    </section>
  );
}

function Squares({ code }: { code: Code }) {
  const side = code.rows.length;
  const dark = code.rows.flatMap((row, y) =>
    [...row].flatMap((cell, x) => (cell === "1" ? [`M${x + 4} ${y + 4}h1v1h-1z`] : [])),
  );
  return (
    <svg
      role="img"
      aria-label={`Code for a camera: ${code.address}, ${code.digits}`}
      viewBox={`0 0 ${side + 8} ${side + 8}`}
      className="h-[170px] w-[170px] bg-white"
    >
      <path d={dark.join("")} fill="#000" />
    </svg>
  );
}
