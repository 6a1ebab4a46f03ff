import { NOTE_VALUES, assertNever, type Effect, type NoteValue } from '@rackle/core';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { dbText, hzText, noteText } from '../../ui/format';

const percent = (value: number): string => `${Math.round(value)} %`;
const NOTES = NOTE_VALUES.map((note) => ({ value: note as string, label: noteText(note) }));

/** The settings of an effect as a few words, edited in place. */
export function EffectWords({ effect, number, onChange }: { effect: Effect; number: number; onChange: (next: Effect) => void }) {
  const field = <K extends string>(name: K, label: string, min: number, max: number, step: number, show: (value: number) => string) => (
    <NumberField label={`${label} of ${effect.kind} ${number}`} value={(effect as unknown as Record<K, number>)[name]} min={min} max={max} step={step} show={show} onChange={(value) => onChange({ ...effect, [name]: value })} />
  );
  const note = (value: NoteValue | null, free: string | null) => (
    <Choice label={`note value of ${effect.kind} ${number}`} value={value ?? '-'} groups={[{ name: '', items: [...(free === null ? [] : [{ value: '-', label: free }]), ...NOTES] }]} onChange={(chosen) => onChange({ ...effect, note: chosen === '-' ? null : chosen } as Effect)} />
  );
  const mix = () => field('mix', 'mix', 0, 100, 1, percent);
  switch (effect.kind) {
    case 'equaliser': return <>low {field('lowDb', 'low', -18, 18, 0.5, dbText)}, middle {field('middleDb', 'middle', -18, 18, 0.5, dbText)} at {field('middleHz', 'middle frequency', 150, 8000, 50, hzText)}, high {field('highDb', 'high', -18, 18, 0.5, dbText)}</>;
    case 'drive': return <>{field('amount', 'amount', 0, 100, 1, percent)}, mixed in {mix()}</>;
    case 'chorus': case 'phaser': return <>{field('rateHz', 'rate', 0.05, 12, 0.1, hzText)}, {field('depth', 'depth', 0, 100, 1, percent)} deep, mixed in {mix()}</>;
    case 'tremolo': return <>{note(effect.note, 'at its own rate')}{effect.note === null && <>, {field('rateHz', 'rate', 0.05, 12, 0.1, hzText)}</>}, {field('depth', 'depth', 0, 100, 1, percent)} deep</>;
    case 'delay': return <>{note(effect.note, null)}, repeats {field('repeats', 'repeats', 0, 95, 1, percent)}, mixed in {mix()}</>;
    case 'compressor': return <>from {field('thresholdDb', 'threshold', -60, 0, 1, dbText)}, {field('ratio', 'ratio', 1, 20, 0.5, (value) => `${value} : 1`)}, made up by {field('makeUpDb', 'make-up', 0, 24, 0.5, dbText)}</>;
    case 'filter': return <><Choice label={`type of filter ${number}`} value={effect.type} groups={[{ name: '', items: [{ value: 'lowpass', label: 'low pass' }, { value: 'highpass', label: 'high pass' }, { value: 'bandpass', label: 'band pass' }] }]} onChange={(type) => onChange({ ...effect, type: type as typeof effect.type })} /> at {field('hz', 'frequency', 20, 20_000, 50, hzText)}, resonance {field('resonance', 'resonance', 0, 100, 1, percent)}</>;
    case 'reverb': return <>{field('seconds', 'length', 0.2, 12, 0.1, (value) => `${value.toFixed(1)} s`)} long, mixed in {mix()}</>;
    case 'limiter': return <>at {field('ceilingDb', 'ceiling', -24, 0, 0.5, dbText)}</>;
    default: return assertNever(effect);
  }
}
