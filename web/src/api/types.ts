/** The types of the API by the names the interface uses; all come from the generated schema. */
import type { components } from "./schema.gen.ts";

type Schemas = components["schemas"];
export type Message = Schemas["Message"];
export type Amount = Schemas["Amount"];
export type Findings = Schemas["Findings"];
export type StepResult = Schemas["StepResult"];
export type Figure = Schemas["Figure"];
export type Why = Schemas["Why"];
export type Verdict = Schemas["Verdict"];
export type Word = Verdict["word"];
export type Mark = Schemas["Mark"];
export type Band = Schemas["Band"];
export type Part = Schemas["Part"];
export type Problem = Schemas["Problem"];
export type Question = Schemas["Question"];
export type Echo = Schemas["Echo"];
export type JobState = Schemas["JobState"];
export type JobSaved = Schemas["JobSaved"];
export type Previewed = Schemas["Previewed"];
export type JobRow = Schemas["JobRow"];
export type CircuitRow = Schemas["CircuitRow"];
export type Me = Schemas["Me"];
export type RefrigerantRow = Schemas["RefrigerantRow"];
export type ProfileState = Schemas["ProfileState"];
export type SaturationState = Schemas["SaturationState"];
export type ProblemBody = Schemas["ProblemBody"];
export type System = "us" | "si";

export type CauseRow = Schemas["CauseRow"];
export type NextCheck = Schemas["NextCheck"];
export type PlaceRow = Schemas["PlaceRow"];
export type Rung = Schemas["Rung"];
export type Account = Schemas["Account"];
export type BookRow = Schemas["BookRow"];
export type BookState = Schemas["BookState"];
export type CircuitCard = Schemas["CircuitCard"];
export type CircuitState = Schemas["CircuitState"];
export type ChargeEvent = Schemas["ChargeEvent"];
/** A field's stored figure; `text` and `unit` are as typed. */
export type Entry = Schemas["Entry"];
export type Chart = Schemas["Chart"];
export type Curve = Schemas["Curve"];
export type PlanRow = Schemas["PlanRow"];
export type Waiting = Schemas["Waiting"];
export type GatewayRow = Schemas["GatewayRow"];
export type InstrumentRow = Schemas["InstrumentRow"];
export type KitState = Schemas["KitState"];
