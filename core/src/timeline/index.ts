export { TICKS_PER_QUARTER, formatPosition, parsePosition, ticksPerBar, ticksPerBeat, type Position } from './position';
export { TempoMap, tempoMapOf } from './tempoMap';
export { withMeterAt, withTempoAt, withoutMeterAt, withoutTempoAt } from './mapEdits';
