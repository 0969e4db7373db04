import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { startPalette } from "../app/palette";
import type { Sheet } from "../features/runbook/kinds";
import { UnitsContext } from "../ui/quantity";
import "../index.css";
import { Pocket } from "./Pocket";

/** What the file holds, written into it when it was made. */
export interface Held {
  plan_id: string;
  name: string;
  /** 0 of a plan in a file, which has none. */
  revision: number;
  born: string;
  zone: string;
  clock: "24" | "12";
  cautions: string[];
  sheets: Sheet[];
}

startPalette();
const held = JSON.parse(document.getElementById("pocket")?.textContent ?? "{}") as Held;
createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <UnitsContext.Provider
      value={{ temperature: "c", length: "m", volume: "l", wire: "mm2", clock: held.clock }}
    >
      <Pocket held={held} />
    </UnitsContext.Provider>
  </StrictMode>,
);
