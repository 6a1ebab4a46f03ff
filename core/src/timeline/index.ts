export { TICKS_PER_QUARTER, ticksPerBar, ticksPerBeat } from '../show';
export { formatPosition, parsePosition, type Position } from './position';
export { TempoMap, tempoMapOf } from './tempoMap';
export { withMeterAt, withTempoAt, withUpbeat, withoutMeterAt, withoutTempoAt } from './mapEdits';
export { withMapAndBars, withMeterOfBar } from './keepBars';
export { usualNotes, type HandNote } from './usualNotes';
export { repeatedMap, tempoMapOfSong, withEqualMaps } from './repeatedMap';
export { MOST_PLACED_CUES, placedCues, type PlacedCue } from './placedCues';
export { rampPoints, rampShape, type Ramp } from './ramp';
export { compileTimeline, type NoteLane, type TrackTargets } from './compileTimeline';
export {
  AddressHow,
  TrackKind,
  type Track,
  type TrackMessage,
  type TrackNote,
  type TrackParameter,
  type TrackTouch,
} from './track';
export {
  BYTE_MS,
  MARGIN_MS,
  aheadOfHands,
  canGoAhead,
  freeChannel,
  leadsOf,
  withAllAhead,
  withGearAhead,
  withSecondChannel,
  type Lead,
} from './lead';
