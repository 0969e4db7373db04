import createClient from "openapi-fetch";
import type { components, paths } from "./schema.gen";
import { noteServer } from "./server";

type Schemas = components["schemas"];
export type PlanView = Schemas["PlanView"];
/** What the server does to a plan by the rules of its parts. */
export type Command = NonNullable<
  paths["/api/plans/{plan_id}/commands"]["post"]["requestBody"]
>["content"]["application/json"];
export type Plan = Schemas["Plan"];
export type Circuit = Schemas["Circuit"];
export type Load = Schemas["Load"];
export type Mark = "keep" | "room" | "off";
export type PanelSchedule = Schemas["PanelSchedule"];
export type Cell = Schemas["Cell"];
export type Verdict = Schemas["Verdict"];
export type RunResult = Schemas["RunResult"];
export type RunEvent = Schemas["Event"];
export type Problem = Pick<Schemas["ProblemDetails"], "title" | "status" | "detail"> &
  Partial<Schemas["ProblemDetails"]>;
export type NeedList = Schemas["NeedList"];
export type MeterReport = Schemas["MeterReport"];
export type ColumnProposal = Schemas["ColumnProposal"];
export type Finding = Schemas["Finding"];
export type FeedPath = Schemas["FeedPath"];
export type HookupDrawing = Schemas["HookupDrawing"];
export type BoxPart = NonNullable<Plan["box"]>[string];
export type Inventory = Schemas["Inventory"];
export type GearLibrary = Schemas["GearLibrary"];
export type Clash = Schemas["Clash"];

export const client = createClient<paths>({ baseUrl: "/" });
client.use({
  onResponse: ({ response }) => noteServer(response.headers.get("x-kept") === null),
  onError: () => noteServer(false),
});

/** An answer that was refused, or a server that did not answer. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail);
  }
}

const AWAY: Problem = {
  title: "The server does not answer",
  status: 0,
  detail: "The server does not answer. What was saved is kept; start it again and repeat the last edit.",
};

/** Unwrap an answer; throws what was refused in words. */
export async function answer<T>(
  asked: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got: Awaited<typeof asked>;
  try {
    got = await asked;
  } catch {
    throw new Refused(0, AWAY);
  }
  if (got.response.ok) return got.data as T;
  const problem = got.error as Problem | undefined;
  throw new Refused(
    got.response.status,
    problem?.detail ? problem : { ...AWAY, status: got.response.status },
  );
}
