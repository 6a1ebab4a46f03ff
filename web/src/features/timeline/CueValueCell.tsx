import { MessageBytes, TICKS_PER_QUARTER, type Cue, type CueKind } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { hexOf, readBytes } from './newCue';
import { useTimeline } from './timelineContext';
import { useChangedCue } from './useChangedCue';

// What a cue makes of what it concerns, typed in its place.

type CellProps = { row: Cue };
type Of<K extends CueKind> = Extract<Cue, { kind: K }>;

export function ValueCell({ row }: CellProps) {
  switch (row.kind) {
    case 'recall':
      return <RecallNumber row={row} />;
    case 'preset':
      return null;
    case 'program':
      return <ProgramValue row={row} />;
    case 'controller':
      return <ControllerValue row={row} />;
    case 'note':
      return <NoteValue row={row} />;
    case 'message':
      return <BytesValue row={row} />;
    case 'lights':
      return <LightsValue row={row} />;
    case 'text':
      return <TextValue row={row} />;
    case 'tempo':
      return <TempoValue row={row} />;
  }
}

function RecallNumber({ row }: { row: Of<'recall'> }) {
  const { names } = useTimeline();
  return <span className="mono">{names.number(row.patchId, row.blendId)}</span>;
}

function ProgramValue({ row }: { row: Of<'program'> }) {
  const { names } = useTimeline();
  const change = useChangedCue(row);
  const from = names.programsFrom;
  return (
    <>
      <NumberField
        label="program of the cue"
        value={row.program + from}
        min={from}
        max={127 + from}
        className="mono"
        onChange={(program) => change({ program: program - from })}
      />{' '}
      of bank <BankByte label="bank MSB of the cue" value={row.msb} onChange={(msb) => change({ msb })} /> /{' '}
      <BankByte label="bank LSB of the cue" value={row.lsb} onChange={(lsb) => change({ lsb })} />
    </>
  );
}

/** A bank byte, or “–” for none. */
const BankByte = (props: { label: string; value: number | null; onChange: (value: number | null) => void }) => (
  <NumberField
    label={props.label}
    value={props.value ?? -1}
    min={-1}
    max={127}
    show={(byte) => (byte < 0 ? '–' : String(byte))}
    read={(text) => (/^\s*[–-]?\s*$/.test(text) ? -1 : /^\d{1,3}$/.test(text.trim()) ? Number(text) : null)}
    form="0 to 127, or – for none"
    className="mono"
    onChange={(byte) => props.onChange(byte < 0 ? null : byte)}
  />
);

const quarters = (ticks: number): string => `${Math.round((ticks / TICKS_PER_QUARTER) * 1000) / 1000} ♩`;
const readQuarters = (text: string): number | null => {
  const match = /^\s*(\d+(?:[.,]\d+)?)\s*♩?\s*$/.exec(text);
  return match ? Math.round(Number(match[1].replace(',', '.')) * TICKS_PER_QUARTER) : null;
};

/** A length in quarter notes. */
function Length({ label, value, onChange }: { label: string; value: number; onChange: (ticks: number) => void }) {
  return (
    <NumberField
      label={label}
      value={value}
      min={1}
      max={100_000_000}
      step={TICKS_PER_QUARTER / 4}
      show={quarters}
      read={readQuarters}
      form="a number of quarter notes"
      className="mono"
      onChange={onChange}
    />
  );
}

function ControllerValue({ row }: { row: Of<'controller'> }) {
  const change = useChangedCue(row);
  const { ramp } = row;
  const seven = (label: string, value: number, onChange: (value: number) => void, max = 127) => (
    <NumberField label={label} value={value} min={0} max={max} className="mono" onChange={onChange} />
  );
  return (
    <>
      controller {seven('controller of the cue', row.controller, (controller) => change({ controller }), 119)} ={' '}
      {seven('value of the cue', row.value, (value) => change({ value }))}
      {ramp === null ? (
        <Button
          look="plain"
          onClick={() => change({ ramp: { toValue: 127 - row.value, lengthTicks: 3840, curve: 0 } })}
        >
          then on its way
        </Button>
      ) : (
        <>
          {' '}
          to {seven('end value of the cue', ramp.toValue, (toValue) => change({ ramp: { ...ramp, toValue } }))} in{' '}
          <Length
            label="length of the way"
            value={ramp.lengthTicks}
            onChange={(lengthTicks) => change({ ramp: { ...ramp, lengthTicks } })}
          />
          , bend{' '}
          <NumberField
            label="bend of the way"
            value={ramp.curve}
            min={-100}
            max={100}
            step={10}
            className="mono"
            onChange={(curve) => change({ ramp: { ...ramp, curve } })}
          />
          <Button look="plain" aria-label="no way, only the value" onClick={() => change({ ramp: null })}>
            ×
          </Button>
        </>
      )}
    </>
  );
}

function NoteValue({ row }: { row: Of<'note'> }) {
  const { names } = useTimeline();
  const change = useChangedCue(row);
  return (
    <>
      <NumberField
        label="key of the note"
        value={row.key}
        min={0}
        max={127}
        show={names.key}
        read={names.readKey}
        form="a key"
        className="mono"
        onChange={(key) => change({ key })}
      />{' '}
      at{' '}
      <NumberField
        label="velocity of the note"
        value={row.velocity}
        min={1}
        max={127}
        className="mono"
        onChange={(velocity) => change({ velocity })}
      />{' '}
      for{' '}
      <Length label="length of the note" value={row.lengthTicks} onChange={(lengthTicks) => change({ lengthTicks })} />
    </>
  );
}

/** Bytes of a message, in hexadecimal. */
function BytesValue({ row }: { row: Of<'message' | 'lights'> }) {
  const change = useChangedCue(row);
  const faultOf = (text: string): string | null => {
    const read = MessageBytes.safeParse(readBytes(text) ?? []);
    return read.success ? null : 'one message in hexadecimal, as B0 07 64 or F0 … F7; a note is a cue of its own';
  };
  return (
    <EditableText
      label="bytes of the cue"
      className="mono"
      value={hexOf(row.bytes)}
      check={faultOf}
      onChange={(text) => change({ bytes: readBytes(text)! })}
    />
  );
}

function LightsValue({ row }: { row: Of<'lights'> }) {
  const change = useChangedCue(row);
  return (
    <>
      <EditableText
        label="what the lights do"
        className="named text-lg"
        value={row.name}
        onChange={(name: string) => change({ name })}
      />{' '}
      <BytesValue row={row} />
    </>
  );
}

function TextValue({ row }: { row: Of<'text'> }) {
  const change = useChangedCue(row);
  return (
    <EditableText
      label="text of the cue"
      className="named text-lg"
      value={row.text}
      check={(text) => (text.length > 200 ? 'at most 200 characters' : null)}
      onChange={(text: string) => change({ text })}
    />
  );
}

function TempoValue({ row }: { row: Of<'tempo'> }) {
  const change = useChangedCue(row);
  return (
    <NumberField
      label="tempo of the cue"
      value={row.percent}
      min={50}
      max={200}
      unit=" %"
      className="mono"
      onChange={(percent) => change({ percent })}
    />
  );
}
