import createClient from "openapi-fetch";
import { base } from "./base";
import type { components, paths } from "./schema.gen";

type S = components["schemas"];
export type Seen = S["Seen"];
export type Round = S["Round"];
export type Sure = S["MonthSure"];
export type Step = S["Step"];
export type RoundChange = S["Change"];
export type Elevation = S["Elevation"];
export type Feature = S["Feature"];
export type Place = S["Place"];
export type Revision = S["Revision"];
export type Between = S["Between"];
export type BetweenThing = S["BetweenThing"];
export type Thing = S["Thing"];
export type Item = S["Item"];
export type Why = S["Why"];
export type Answer = S["Answer"];
export type Spot = S["Spot"];
export type Found = S["Found"];
export type LabelStock = S["Stock"];
export type Label = S["Label"];
export type LookRound = S["LookRound"];
export type LookStop = S["LookroundStop"];
export type Scanned = S["Scanned"];
export type Happened = S["Event"];
export type Habits = S["Habits"];
export type Guard = S["Guard"];
export type Wooden = S["Wooden"];
export type WoodPiece = S["WoodPiece"];
export type WoodServes = S["WoodServes"];
export type WoodDelivery = S["WoodDelivery"];
export type CutList = S["ShopCutList"];
export type Cuts = S["Cuts"];
export type CutPiece = S["CuttingPiece"];
export type HabitLies = S["Lies"];
export type OutNow = S["OutNow"];
export type GatherRound = S["GatherRound"];
export type Needed = S["Needed"];
export type Run = S["Run"];
export type Proposal = S["Proposal"];
export type Surveyed = S["Surveyed"];
export type Field = S["SurveyField"];
export type WallNotes = S["SurveyWallNotes"];
export type Fixture = S["SurveyThing"];
export type Report = S["SurveyReport"];
export type Entered = S["Entry"];
export type FreeSpace = S["FreeSpace"];
export type FreeWall = S["FreeWall"];
export type Region = S["FreeRegion"];
export type Limit = S["FreeLimit"];
export type Zone = S["FreeZone"];
export type Dead = S["FreeDead"];
export type Verdict = S["PassageVerdict"];
export type Line = S["Read"];
export type Chip = S["Chip"];
export type FactField = S["FactsField"];
export type Effect = S["Effect"];
export type Station = S["ShopStation"];
export type StationTrial = S["StationTrial"];
export type Takes = S["Takes"];
export type StationNeed = S["SupplyNeed"];
export type FloorLayout = S["ModeLayout"];
export type FloorShape = S["ModeShape"];
export type Arrangement = S["ArrangeProposal"];
export type Judged = S["Judged"];
export type Change = S["ShiftPlan"];
export type Move = S["ShiftMove"];
export type Evenings = S["Evenings"];
export type Evening = S["MovesEvening"];
export type EveningStep = S["MovesStep"];
export type Worthwhile = S["MovesWorthwhile"];
export type Piled = S["Piled"];
export type Target = S["ShopTarget"];
export type Advice = S["Advice"];
export type Sheet = S["Sheet"];
export type Mapping = S["TableMapping"];
export type Fault = S["TableFault"];
export type Imported = S["Imported"];
export type Layout = S["StorageLayout"];
export type Trial = S["StorageTrial"];
export type Checked = S["Checked"];
export type Compared = S["Compared"];
export type WishCosts = S["WishCosts"];
export type Built = S["ProposeProposal"];
export type Opened = S["Opened"];
export type Designed = S["Designed"];
export type Whereabout = S["Whereabout"];
export type KindName = S["KindName"];
export type TickRow = S["TickRow"];
export type Problem = S["ErrorModel"];

/** own are the revisions that this window made, by the one each was made on. */
const own = new Map<number, number>();

/** exactly says that a change is meant for one revision and no later one. */
export const exactly = (revision: number): Record<string, string> => ({ "If-Match": `"${revision}"` });

/**
 * onto says on which revision a change is made: the server refuses it when the shop has moved on. What this window itself
 * changed since is known to whoever sits at it, even where the screen has not been drawn anew yet.
 */
export const onto = (revision: number): Record<string, string> => {
  let at = revision;
  for (let next = own.get(at); next !== undefined; next = own.get(at)) at = next;
  return exactly(at);
};

/** noteOwn remembers which revision a change of this window made. */
async function noteOwn(request: Request, answer: Response) {
  const base = Number(request.headers.get("If-Match")?.replaceAll('"', ""));
  if (!answer.ok || !base || !answer.headers.get("Content-Type")?.includes("json")) return;
  const made = (await answer
    .clone()
    .json()
    .catch(() => ({}))) as { id?: unknown; revision?: { id?: unknown } | number };
  const id = typeof made.revision === "object" ? made.revision.id : made.id;
  if (id === base + 1) own.set(base, id);
}

/** changed is the request of a change that was made on a base. */
export const changed = <T extends { base: number }>({ base, ...body }: T) => ({ headers: onto(base), body });

/** away is said when the server cannot be reached. */
const away = "Hobrak doesn't answer. Start it again; what you typed is kept.";

export const api = createClient<paths>({
  baseUrl: base,
  fetch: async (request) => {
    const answer = await globalThis.fetch(request).catch((e: unknown) => {
      if (request.signal.aborted) throw e;
      throw new Error(away);
    });
    await noteOwn(request, answer);
    return answer;
  },
});

/** Refused carries the sentence the server gave. */
export class Refused extends Error {
  constructor(public problem: Problem) {
    super(problem.detail ?? problem.title ?? "Something failed in Hobrak. Nothing was changed; try again.");
  }
}

/** unwrap gives the data of an answer or throws what the server said. */
export function unwrap<T>(answer: { data?: T; error?: unknown }): T {
  if (answer.data !== undefined) return answer.data;
  // An answer that is no problem of ours, as from a proxy, says nothing that people could use.
  throw new Refused(typeof answer.error === "object" && answer.error !== null ? answer.error : {});
}

/** One factory of query keys for each resource. */
export const keys = {
  round: ["round"] as const,
  why: (id: string, revision: number) => ["why", id, revision] as const,
  find: (q: string, revision: number) => ["find", q, revision] as const,
  matching: (q: string, revision: number) => ["matching", q, revision] as const,
  proposal: (run: string) => ["proposal", run] as const,
  survey: (area: string) => ["survey", area] as const,
  surveys: ["survey"] as const,
  free: ["free"] as const,
  figures: (area: string, revision: number) => ["figures", area, revision] as const,
  meter: ["meter"] as const,
  line: (text: string, revision: number) => ["line", text, revision] as const,
  note: (about: string, text: string, revision: number) => ["note", about, text, revision] as const,
  facts: (revision: number) => ["facts", revision] as const,
  stations: (revision: number) => ["stations", revision] as const,
  needs: (station: string, revision: number) => ["needs", station, revision] as const,
  modes: (revision: number) => ["modes", revision] as const,
  judged: (mode: string, revision: number) => ["floor-judged", mode, revision] as const,
  layouts: (revision: number) => ["floor-layouts", revision] as const,
  evenings: (minutes: number, revision: number) => ["evenings", minutes, revision] as const,
  targets: (revision: number) => ["targets", revision] as const,
  targetRound: (id: string, revision: number) => ["target-round", id, revision] as const,
  setsOff: (id: string, revision: number) => ["sets-off", id, revision] as const,
  pile: (of: string, revision: number) => ["pile", of, revision] as const,
  bestUse: (minutes: number, revision: number) => ["best-use", minutes, revision] as const,
  changeOver: (from: string, to: string, revision: number) => ["change-over", from, to, revision] as const,
  takes: (id: string, mode: string, long: string, revision: number) => ["takes", id, mode, long, revision] as const,
  kinds: (q: string) => ["kinds", q] as const,
  ticks: (place: string, q: string, revision: number) => ["ticks", place, q, revision] as const,
  advice: (revision: number) => ["advice", revision] as const,
  leaving: (id: string, revision: number) => ["leaving", id, revision] as const,
  preview: (table: number, mapping: Mapping, stations: boolean, revision: number) =>
    ["preview", table, mapping, stations, revision] as const,
  designs: (wish: object, revision: number) => ["designs", wish, revision] as const,
  where: (wish: object, kind: string, revision: number) => ["where", wish, kind, revision] as const,
  layout: (id: string, revision: number) => ["layout", id, revision] as const,
  check: (revision: number) => ["check", revision] as const,
  choices: ["fit choices"] as const,
  worth: (id: string, revision: number) => ["worth", id, revision] as const,
  working: (revision: number) => ["working", revision] as const,
  learned: (revision: number) => ["learned", revision] as const,
  uses: ["uses"] as const,
  out: ["out"] as const,
  inOrder: (id: string, revision: number) => ["in-order", id, revision] as const,
  guards: ["guards"] as const,
  lining: (area: string, wall: string, revision: number) => ["lining", area, wall, revision] as const,
  supply: (area: string, mode: string, revision: number) => ["supply", area, mode, revision] as const,
  builds: (revision: number) => ["builds", revision] as const,
  apart: (id: string, chosen: string, revision: number) => ["apart", id, chosen, revision] as const,
  unit: (id: string, chosen: string, revision: number) => ["unit", id, chosen, revision] as const,
  wood: (revision: number) => ["wood", revision] as const,
  labelPrinter: ["label-printer"] as const,
  habits: (revision: number) => ["habits", revision] as const,
  log: (q: string, what: string) => ["log", q, what] as const,
  look: ["look"] as const,
  placePage: (id: string) => ["place-page", id] as const,
  labels: (items: boolean, stock: number, revision: number) => ["labels", items, stock, revision] as const,
  closing: (revision: number) => ["closing", revision] as const,
  needed: (revision: number) => ["needed", revision] as const,
  gather: (of: string, revision: number) => ["gather", of, revision] as const,
  swaps: (revision: number) => ["swaps", revision] as const,
  contradictions: (revision: number) => ["contradictions", revision] as const,
  admit: (id: string, others: number, revision: number) => ["admit", id, others, revision] as const,
  scale: ["scale"] as const,
  about: ["about"] as const,
  session: ["session"] as const,
  devices: ["devices"] as const,
  enough: (revision: number) => ["enough", revision] as const,
  shops: ["shops"] as const,
  next: (revision: number) => ["next", revision] as const,
  fits: ["fits"] as const,
  between: (from: number, to: number) => ["between", from, to] as const,
  history: (of: string, revision: number) => ["history", of, revision] as const,
};
