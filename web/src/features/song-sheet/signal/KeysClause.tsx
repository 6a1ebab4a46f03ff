import { keyName, parseKeyName } from '@rackle/core/midi';
import { shiftText } from '../../../ui/format';
import { KeysChoice } from '../../../ui/KeysChoice';
import { NumberField } from '../../../ui/NumberField';
import type { Signal } from './signal';

const velocityWords = (low: number, high: number): string =>
  low <= 1 && high >= 127 ? 'soft to hard' : low <= 1 ? 'soft' : high >= 127 ? 'hard' : 'middle';

/** Which keys and velocities it plays, whose they are, and how far they are shifted. */
export function KeysClause(signal: Signal) {
  const { part, at, stands, known, setPart } = signal;
  const { shift, keys } = part;
  return (
    <>
      {keys === 'none' ? 'Played' : <KeyRange {...signal} />}
      {(stands || known?.kind === 'recordings' || keys !== 'shared') && (
        <>
          {keys === 'none' ? ' ' : ', '}
          <KeysChoice
            label="whose its keys are"
            value={keys}
            onChange={(next) => setPart('change whose keys they are', (current) => ({ ...current, keys: next }))}
          />
        </>
      )}{' '}
      ·{' '}
      <NumberField
        label="shift"
        value={shift}
        min={-72}
        max={72}
        show={shiftText}
        read={readShift}
        form="an interval such as “up an octave” or +7"
        onChange={(next) => setPart('change the shift', (current) => ({ ...current, shift: next }), `shift ${at}`)}
      />
    </>
  );
}

/** Its zone. */
function KeyRange({ part: { zone }, middleC, setZone }: Signal) {
  return (
    <>
      Keys{' '}
      <KeyField
        label="lowest key"
        value={zone.lowKey}
        max={zone.highKey}
        middleC={middleC}
        onChange={(lowKey) => setZone('change a zone', { lowKey })}
      />{' '}
      to{' '}
      <KeyField
        label="highest key"
        value={zone.highKey}
        min={zone.lowKey}
        middleC={middleC}
        onChange={(highKey) => setZone('change a zone', { highKey })}
      />
      , {velocityWords(zone.lowVelocity, zone.highVelocity)}{' '}
      <NumberField
        label="lowest velocity"
        value={zone.lowVelocity}
        min={1}
        max={zone.highVelocity}
        className="mono"
        onChange={(lowVelocity) => setZone('change velocities', { lowVelocity })}
      />
      –
      <NumberField
        label="highest velocity"
        value={zone.highVelocity}
        min={zone.lowVelocity}
        max={127}
        className="mono"
        onChange={(highVelocity) => setZone('change velocities', { highVelocity })}
      />
    </>
  );
}

function KeyField({
  label,
  value,
  min = 0,
  max = 127,
  middleC,
  onChange,
}: {
  label: string;
  value: number;
  min?: number;
  max?: number;
  middleC: Signal['middleC'];
  onChange: (key: number) => void;
}) {
  return (
    <NumberField
      label={label}
      value={value}
      min={min}
      max={max}
      show={(key) => keyName(key, middleC)}
      read={(text) => parseKeyName(text, middleC)}
      form="a key such as C4, or its number"
      className="mono"
      onChange={onChange}
    />
  );
}

/** “+12”, “-7”, “up 3”, “down an octave”: in semitones. */
function readShift(text: string): number | null {
  const number = Number(
    text
      .replace('−', '-')
      .replace(/^\s*down\s*/i, '-')
      .replace(/^\s*up\s*/i, '')
      .replace(/an octave/i, '12'),
  );
  return text.trim() === '' || !Number.isInteger(number) ? null : number;
}
