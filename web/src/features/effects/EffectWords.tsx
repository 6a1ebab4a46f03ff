import { assertNever } from '@rackle/core/result';
import {
  NOTE_VALUES,
  effectParameter,
  effectValue,
  withEffectValue,
  type Effect,
  type NoteValue,
} from '@rackle/core/show';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { noteText, unitText } from '../../ui/format';

const NOTES = NOTE_VALUES.map((note) => ({ value: note as string, label: noteText(note) }));

/** The settings of an effect as a few words, edited in place. */
export function EffectWords({
  effect,
  number,
  differs,
  onChange,
}: {
  effect: Effect;
  number: number;
  differs: readonly string[];
  onChange: (next: Effect) => void;
}) {
  const field = (name: string, step = 1) => {
    const { words, low, high, unit } = effectParameter(effect.kind, name)!;
    return (
      <NumberField
        label={`${words} of ${effect.kind} ${number}`}
        value={effectValue(effect, name)}
        min={low}
        max={high}
        step={step}
        show={(value) => unitText(value, unit)}
        className={differs.includes(name) ? 'border-b-2 !border-solid font-bold' : ''}
        onChange={(value) => onChange(withEffectValue(effect, name, value))}
      />
    );
  };
  const note = (value: NoteValue | null, free: string | null) => (
    <Choice
      label={`note value of ${effect.kind} ${number}`}
      value={value ?? '-'}
      items={[...(free === null ? [] : [{ value: '-', label: free }]), ...NOTES]}
      onChange={(chosen) => onChange({ ...effect, note: chosen === '-' ? null : chosen } as Effect)}
    />
  );
  switch (effect.kind) {
    case 'equaliser':
      return (
        <>
          low {field('lowDb', 0.5)}, middle {field('middleDb', 0.5)} at {field('middleHz', 50)}, high{' '}
          {field('highDb', 0.5)}
        </>
      );
    case 'drive':
      return (
        <>
          {field('amount')}, mixed in {field('mix')}
        </>
      );
    case 'chorus':
    case 'phaser':
      return (
        <>
          {field('rateHz', 0.1)}, {field('depth')} deep, mixed in {field('mix')}
        </>
      );
    case 'tremolo':
      return (
        <>
          {note(effect.note, 'at its own rate')}
          {effect.note === null && <>, {field('rateHz', 0.1)}</>}, {field('depth')} deep
        </>
      );
    case 'rotary':
      return (
        <>
          <RotarySpeed effect={effect} number={number} onChange={onChange} />, there in {field('rampS', 0.1)},{' '}
          {field('depth')} deep
        </>
      );
    case 'delay':
      return (
        <>
          {note(effect.note, null)}, repeats {field('repeats')}, mixed in {field('mix')}
        </>
      );
    case 'compressor':
      return (
        <>
          from {field('thresholdDb')}, {field('ratio', 0.5)}, takes hold in {field('attackMs')}, lets go in{' '}
          {field('releaseMs', 10)}, made up by {field('makeUpDb', 0.5)}
        </>
      );
    case 'filter':
      return (
        <>
          <Choice
            label={`type of filter ${number}`}
            value={effect.type}
            items={[
              { value: 'lowpass', label: 'low pass' },
              { value: 'highpass', label: 'high pass' },
              { value: 'bandpass', label: 'band pass' },
            ]}
            onChange={(type) => onChange({ ...effect, type })}
          />{' '}
          at {field('hz', 50)}, resonance {field('resonance')}
        </>
      );
    case 'reverb':
      return (
        <>
          {field('seconds', 0.1)} long, mixed in {field('mix')}
        </>
      );
    case 'limiter':
      return <>at {field('ceilingDb', 0.5)}</>;
    default:
      return assertNever(effect);
  }
}

const SPEEDS = [
  { value: 0, label: 'brake' },
  { value: 50, label: 'slow' },
  { value: 100, label: 'fast' },
];

/** How fast the rotors are to turn; a role may have left them somewhere between. */
function RotarySpeed({
  effect,
  number,
  onChange,
}: {
  effect: Extract<Effect, { kind: 'rotary' }>;
  number: number;
  onChange: (next: Effect) => void;
}) {
  const { speed } = effect;
  const items = SPEEDS.some(({ value }) => value === speed)
    ? SPEEDS
    : [...SPEEDS, { value: speed, label: unitText(speed, '%') }];
  return (
    <Choice
      label={`speed of rotary ${number}`}
      value={String(speed)}
      items={items.map(({ value, label }) => ({ value: String(value), label }))}
      onChange={(to) => onChange({ ...effect, speed: Number(to) })}
    />
  );
}
