export { TempoField, TempoNote } from './TempoField';
export { countedTempo, tempoSign, tempoText } from './tempoNote';
