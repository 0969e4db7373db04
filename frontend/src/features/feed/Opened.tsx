import { Link } from "react-router";
import type { HookupDrawing } from "../../api/client";
import { useDesk } from "../../api/plan";
import { FindingsOf } from "../checks/FindingsOf";
import { Charging } from "../gear/Charging";
import { isToInput } from "./feedFields";

interface Props {
  drawing: HookupDrawing;
  chosen: string;
}

/** A part of the hook-up that was chosen in the drawing; a lead that feeds something has more below. */
export function Opened({ drawing, chosen }: Props) {
  const { view } = useDesk();
  const part = drawing.parts.find((item) => item.key === chosen);
  const stroke = drawing.strokes.find((item) => item.key === chosen);
  const found = part ?? stroke;
  if (!found) return null;
  const lead = found.room === "leads" ? view.plan.leads?.[found.id] : undefined;
  if (lead && !isToInput(lead.to) && stroke) return null;
  const where = found.room === "panels" || found.room === "circuits" ? "panel" : "gear";
  return (
    <section aria-label={found.name} className="mb-8 max-w-[900px]">
      <h2 className="mb-2 border-b border-ink pb-1">{found.name}</h2>
      <p className="mb-2">
        {found.words}
        {part?.bond && "; neutral and ground are bonded here, for some source that reaches it"}.
      </p>
      {lead && isToInput(lead.to) && <Charging id={found.id} lead={lead} />}
      <FindingsOf of={[[found.room, found.id]]} />
      {(!lead || !isToInput(lead.to)) && (
        <p>
          <Link className="act" to={`../${where}`}>
            {where === "panel" ? "Open the panel" : "Open the gear"}
          </Link>
        </p>
      )}
    </section>
  );
}
