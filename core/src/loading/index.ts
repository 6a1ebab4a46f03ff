export { eveningOf, presetKey, type Evening, type EveningOptions, type PresetWeight } from './evening';
export { jumpWaits, type JumpWaits } from './jump';
export { planLoading } from './plan';
export {
  type LoadPlan,
  type LoadStop,
  type LoadTask,
  type LoadUnit,
  type PlanCost,
  type PlannedStop,
} from './task';
