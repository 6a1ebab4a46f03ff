import { type NameStyle, keyName } from '@rackle/core/midi';
import { OutMessage, type GearList } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';

interface Props {
  when: string;
  messages: readonly OutMessage[];
  gear: GearList | null;
  style: NameStyle;
  onChange: (label: string, messages: OutMessage[]) => void;
}

const KINDS: Record<OutMessage['kind'], string> = {
  program: 'program',
  controller: 'controller',
  note: 'note',
  sysex: 'system exclusive',
};

/** What a patch sends to outboard gear as it is entered or left, each message as a few words edited in place. */
export function PatchMessages({ when, messages, gear, style, onChange }: Props) {
  const ports = [
    ...new Set([
      ...(gear?.ports.flatMap((port) => (port.direction === 'out' ? [port.alias as string] : [])) ?? []),
      ...messages.map((message) => message.port as string),
    ]),
  ];
  const change = (at: number, next: OutMessage | null): void =>
    onChange(
      `change what is sent on ${when}`,
      messages.flatMap((message, i) => (i === at ? (next === null ? [] : [next]) : [message])),
    );
  return (
    <p className="leading-7">
      <b>On {when}</b> it sends {messages.length === 0 && 'nothing'}
      {messages.map((message, i) => (
        <span key={i} className="whitespace-nowrap">
          {i > 0 ? '; ' : ''}
          <Choice
            label={`kind of message ${i + 1} on ${when}`}
            value={message.kind}
            items={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
            onChange={(kind) =>
              change(i, started(kind as OutMessage['kind'], message.port, 'channel' in message ? message.channel : 1))
            }
          />{' '}
          <Body
            message={message}
            label={`message ${i + 1} on ${when}`}
            style={style}
            onChange={(next) => change(i, next)}
          />{' '}
          to{' '}
          <Choice
            label={`port of message ${i + 1} on ${when}`}
            value={message.port}
            items={ports.map((port) => ({ value: port, label: port }))}
            onChange={(port) => change(i, OutMessage.parse({ ...message, port }))}
          />
          {'channel' in message && (
            <>
              , channel{' '}
              <NumberField
                label={`channel of message ${i + 1} on ${when}`}
                value={message.channel}
                min={1}
                max={16}
                className="mono"
                onChange={(channel) => change(i, { ...message, channel })}
              />
            </>
          )}
          <Button look="plain" aria-label={`take message ${i + 1} on ${when} away`} onClick={() => change(i, null)}>
            ×
          </Button>
        </span>
      ))}
      {ports.length > 0 && messages.length < 64 && (
        <Button
          look="plain"
          onClick={() => onChange(`send something on ${when}`, [...messages, started('controller', ports[0], 1)])}
        >
          add a message
        </Button>
      )}
    </p>
  );
}

function started(kind: OutMessage['kind'], port: string, channel: number): OutMessage {
  switch (kind) {
    case 'controller':
      return OutMessage.parse({ kind, port, channel, controller: 80, value: 127 });
    case 'program':
      return OutMessage.parse({ kind, port, channel, program: 0 });
    case 'note':
      return OutMessage.parse({ kind, port, channel, key: 60, velocity: 100, lengthMs: 500 });
    case 'sysex':
      return OutMessage.parse({ kind, port, bytes: [0x7e, 0x7f, 0x09, 0x01] });
  }
}

function Body({
  message,
  label,
  style,
  onChange,
}: {
  message: OutMessage;
  label: string;
  style: NameStyle;
  onChange: (next: OutMessage) => void;
}) {
  switch (message.kind) {
    case 'controller':
      return (
        <>
          <NumberField
            label={`controller of ${label}`}
            value={message.controller}
            min={0}
            max={119}
            className="mono"
            onChange={(controller) => onChange({ ...message, controller })}
          />{' '}
          ={' '}
          <NumberField
            label={`value of ${label}`}
            value={message.value}
            min={0}
            max={127}
            className="mono"
            onChange={(value) => onChange({ ...message, value })}
          />
        </>
      );
    case 'program':
      return (
        <>
          <NumberField
            label={`program of ${label}`}
            value={message.program + style.programsFrom}
            min={style.programsFrom}
            max={127 + style.programsFrom}
            className="mono"
            onChange={(program) => onChange({ ...message, program: program - style.programsFrom })}
          />{' '}
          of bank{' '}
          <Bank label={`bank MSB of ${label}`} value={message.msb} onChange={(msb) => onChange({ ...message, msb })} />/
          <Bank label={`bank LSB of ${label}`} value={message.lsb} onChange={(lsb) => onChange({ ...message, lsb })} />
        </>
      );
    case 'note':
      return (
        <>
          <NumberField
            label={`key of ${label}`}
            value={message.key}
            min={0}
            max={127}
            show={(key) => keyName(key, style.middleC)}
            className="mono"
            onChange={(key) => onChange({ ...message, key })}
          />{' '}
          at{' '}
          <NumberField
            label={`velocity of ${label}`}
            value={message.velocity}
            min={1}
            max={127}
            className="mono"
            onChange={(velocity) => onChange({ ...message, velocity })}
          />{' '}
          for{' '}
          <NumberField
            label={`length of ${label}`}
            value={message.lengthMs ?? 0}
            min={0}
            max={60_000}
            step={50}
            show={(ms) => (ms === 0 ? 'as long as the patch' : `${ms} ms`)}
            className="mono"
            onChange={(lengthMs) => onChange({ ...message, lengthMs: lengthMs === 0 ? null : lengthMs })}
          />
        </>
      );
    case 'sysex':
      return <SysexField label={label} bytes={message.bytes} onChange={(bytes) => onChange({ ...message, bytes })} />;
  }
}

/** A bank byte, or “–” for none. */
const Bank = ({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
}) => (
  <NumberField
    label={label}
    value={value ?? -1}
    min={-1}
    max={127}
    show={(byte) => (byte < 0 ? '–' : String(byte))}
    read={(text) => (/^\s*[–-]?\s*$/.test(text) ? -1 : /^\d{1,3}$/.test(text.trim()) ? Number(text) : null)}
    className="mono"
    onChange={(byte) => onChange(byte < 0 ? null : byte)}
  />
);

/** The bytes between F0 and F7, in hexadecimal. */
function SysexField({
  label,
  bytes,
  onChange,
}: {
  label: string;
  bytes: number[];
  onChange: (bytes: number[]) => void;
}) {
  const text = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join(' ');
  return (
    <input
      aria-label={`bytes of ${label}`}
      defaultValue={text}
      key={text}
      className="mono written bg-transparent"
      title="bytes between F0 and F7, 00 to 7f"
      onBlur={(event) => {
        const typed = event.target.value.trim().split(/[\s,]+/);
        if (typed.every((byte) => /^[0-7]?[0-9a-f]$/i.test(byte))) onChange(typed.map((byte) => parseInt(byte, 16)));
        else event.target.value = text;
      }}
    />
  );
}
