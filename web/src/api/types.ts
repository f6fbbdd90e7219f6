/** The types of the API by the names the interface uses; all come from the generated schema. */
import type { components } from "./schema.gen.ts";

type Schemas = components["schemas"];
export type Message = Schemas["Message"];
/** A name by itself, or a sentence with something of this job in it. */
export type Label = string | Message;
/** What a name in a sentence stands for beside amounts: words, another sentence, or a row of these. */
export type Named = Label | Label[];
export type Amount = Schemas["Amount"];
/** What a device takes along to work without signal. */
export type Along = Schemas["TakenAlong"];
export type Findings = Schemas["Findings"];
/** What each step's picture is drawn from. */
export type Pictures = {
  identify: Schemas["IdentifyPicture"];
  as_found: Schemas["AsFoundPicture"];
  plan_change: Schemas["PlanChangePicture"];
  leak_search: Schemas["LeakSearchPicture"];
  recover: Schemas["RecoverPicture"];
  repair: Schemas["NoPicture"];
  change_over: Schemas["ChangeOverPicture"];
  pressure_hold: Schemas["PressureHoldPicture"];
  evacuate: Schemas["EvacuatePicture"];
  weigh_in: Schemas["WeighInPicture"];
  verify: Schemas["VerifyPicture"];
  close_out: Schemas["CloseOutPicture"];
};
/** A step's result; its picture is the step's own. */
export type StepResult<S extends keyof Pictures = keyof Pictures> = Omit<Schemas["StepResult"], "picture"> & {
  picture: Pictures[S];
};
export type Claim = Schemas["Claim"];
export type Way = Schemas["Way"];
export type Figure = Schemas["Figure"];
export type Why = Schemas["Why"];
export type Word = Schemas["Verdict"]["word"];
export type Mark = Schemas["Mark"];
export type Band = Schemas["Band"];
export type TrimRow = Schemas["TrimRow"];
export type TrimTape = Schemas["TrimTape"];
export type RetrofitTable = Schemas["RetrofitTable"];
export type RetrofitRow = Schemas["RetrofitRow"];
export type RetrofitProperty = Schemas["RetrofitProperty"];
export type PhChart = Schemas["PhChart"];
export type PhPoint = Schemas["PhPoint"];
export type JobPoints = Schemas["JobPoints"];
export type CycleWay = Schemas["CycleWay"];
export type BeforeAfter = Schemas["BeforeAfter"];
export type Part = Schemas["Part"];
export type Problem = Schemas["Problem"];
export type Question = Schemas["Question"];
export type Echo = Schemas["Echo"];
export type JobState = Schemas["JobState"];
export type JobSaved = Schemas["JobSaved"];
export type JobRow = Schemas["JobRow"];
export type Me = Schemas["Me"];
export type RefrigerantRow = Schemas["RefrigerantRow"];
export type ProfileState = Schemas["ProfileState"];
export type SaturationState = Schemas["SaturationState"];
export type ProblemBody = Schemas["ProblemBody"];
/** `grams`: as `us`, with masses in grams first; a job of a small charge is shown so. */
export type System = Units | "grams";
/** What a person chose to read in. */
export type Units = "us" | "si";

export type CauseRow = Schemas["CauseRow"];
export type NextCheck = Schemas["NextCheck"];
export type PlaceRow = Schemas["PlaceRow"];
export type Rung = Schemas["Rung"];
export type BookRow = Schemas["BookRow"];
export type Held = Schemas["HeldRow"];
/** What of the shop's cylinders is asked for; what is not named is not asked. */
export type CylinderAsk = {
  search?: string;
  kind?: "new" | "recovery";
  refrigerant?: string;
  code?: string;
  sort?: "number" | "refrigerant" | "retest";
};
export type Report = { written: number; rows: { row?: number; label?: string; problem?: string }[] };
export type BookState = Schemas["BookState"];
export type CircuitCard = Schemas["CircuitCard"];
export type CircuitState = Schemas["CircuitState"];
export type ChargeEvent = Schemas["ChargeEvent"];
/** A field's stored figure; `text` and `unit` are as typed. */
export type Entry = Schemas["Entry"];
export type Chart = Schemas["Chart"];
export type Curve = Schemas["Curve"];
export type PlanRow = Schemas["PlanRow"];
export type GatewayRow = Schemas["GatewayRow"];
export type InstrumentRow = Schemas["InstrumentRow"];
export type KitState = Schemas["KitState"];
export type LogColumns = Schemas["LogColumns"];
export type DayState = Schemas["DayState"];
export type WaitingJob = Schemas["WaitingJob"];
export type DayJob = Schemas["DayJob"];
export type Card = Schemas["Card"];
export type ExerciseRow = Schemas["ExerciseRow"];
export type Practice = Schemas["Practice"];
export type RunState = Schemas["RunState"];
export type RunDebrief = Schemas["RunDebrief"];
export type Debrief = Schemas["Debrief"];
export type RunSide = Schemas["Side"];
export type Seen = Schemas["Seen"];
export type LookInside = Schemas["LookInside"];
export type CutPart = Schemas["CutPart"];
export type Opinion = Schemas["Opinion"];
export type Candidate = Schemas["Candidate"];
export type SlotRow = Schemas["SlotRow"];
