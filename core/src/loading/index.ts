export { eveningOf, type Evening, type EveningOptions } from './evening';
export { estimatedParts, type SoundPart } from './soundParts';
export { asMeasured, measuredMs, sharedOut, withLoad, type LoadHeard, type MeasuredPart } from './measured';
export { heldAt, type HeldByStep } from './held';
export { AHEAD_AFTER_MS, jumpWaits, type JumpWaits } from './jump';
export { planLoading } from './plan';
export { type LoadPlan, type LoadStop, type LoadTask, type LoadUnit, type PlanCost, type PlannedStop } from './task';
export { LoadingPictures, loadingPicture, type LoadingPicture, type PinHint, type SongLoading } from './picture';
