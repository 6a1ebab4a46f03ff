import { controllerName } from '@rackle/core/midi';
import { Arpeggio, NOTE_VALUES, type GearList, type Layer, type Part } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { noteText } from '../../ui/format';

interface Props {
  layer: Layer;
  part: Part;
  gear: GearList | null;
  at: string;
  /** Layers that it can cross over with, in words, and the edit. */
  crossings: { words: string; cross: () => void }[];
  onPart: (label: string, apply: (part: Part) => Part, mergeKey?: string) => void;
  onLayer: (label: string, next: Partial<Layer>, mergeKey?: string) => void;
}

const REMAP_TO = [1, 2, 4, 7, 10, 11, 71, 72, 73, 74, 76, 77, 80, 81, 91, 93];
const IGNORABLE = [1, 2, 4, 7, 10, 11, 64, 66, 67, 71, 74];
const ORDERS: { value: Arpeggio['order']; label: string }[] = [
  { value: 'up', label: 'upwards' },
  { value: 'down', label: 'downwards' },
  { value: 'upDown', label: 'up and down' },
  { value: 'asPlayed', label: 'as they are struck' },
];
const NOTES = NOTE_VALUES.map((note) => ({ value: note, label: noteText(note) }));
const CHORDS = [
  { value: '', label: 'nothing' },
  { value: '12', label: 'the octave' },
  { value: '7', label: 'the fifth' },
  { value: '7,12', label: 'fifth and octave' },
  { value: '4,7', label: 'a major chord' },
  { value: '3,7', label: 'a minor chord' },
  { value: '5,7', label: 'a fourth and a fifth' },
  { value: '4,7,11', label: 'a major seventh' },
  { value: '3,7,10', label: 'a minor seventh' },
  { value: '4,7,10', label: 'a dominant seventh' },
];

/** What a layer does with what is played: who plays it, fades, chords, arpeggios, and what it listens to. */
export function LayerTools(props: Props) {
  return (
    <div className="leading-7">
      <PlayedBy {...props} />
      <KeysBecome {...props} />
      <Hears {...props} />
    </div>
  );
}

/** Which keyboard and channels play it, how its zone begins and ends, and whom it crosses over with. */
function PlayedBy({ part: { zone }, gear, at, crossings, onPart }: Props) {
  const inputs =
    gear?.ports.filter((port) => port.direction === 'in' && port.plays).map((port) => port.alias as string) ?? [];
  const setZone = (label: string, next: Partial<Part['zone']>): void =>
    onPart(label, (current) => ({ ...current, zone: { ...current.zone, ...next } }), `${label} ${at}`);
  const fade = (label: string, name: 'fadeLowKeys' | 'fadeHighKeys' | 'fadeSoft' | 'fadeHard', unit: string) => (
    <NumberField
      label={label}
      value={zone[name]}
      min={0}
      max={60}
      show={(value) => (value === 0 ? 'hard' : `over ${value} ${unit}`)}
      read={readFade}
      onChange={(value) => setZone('change a fade', { [name]: value })}
    />
  );
  return (
    <p>
      Played by{' '}
      <Choice
        label="keyboard that plays it"
        value={zone.input ?? '-'}
        items={[
          { value: '-', label: 'every keyboard' },
          ...[...new Set([...inputs, ...(zone.input === null ? [] : [zone.input as string])])].map((alias) => ({
            value: alias,
            label: alias,
          })),
        ]}
        onChange={(value) =>
          setZone('change the keyboard', { input: value === '-' ? null : (value as Part['zone']['input']) })
        }
      />{' '}
      on <ChannelList value={zone.channels} onChange={(channels) => setZone('change the channels', { channels })} />.{' '}
      Its keys begin {fade('fade at the lowest key', 'fadeLowKeys', 'keys')} and end{' '}
      {fade('fade at the highest key', 'fadeHighKeys', 'keys')}; velocities begin{' '}
      {fade('fade at the softest', 'fadeSoft', 'steps')} and end {fade('fade at the hardest', 'fadeHard', 'steps')}.
      {crossings.length > 0 && (
        <>
          {' '}
          <Choice
            label="cross over with a neighbour"
            value="-"
            items={[
              { value: '-', label: 'cross over with …' },
              ...crossings.map(({ words }, i) => ({ value: String(i), label: words })),
            ]}
            onChange={(i) => {
              if (i !== '-') crossings[Number(i)].cross();
            }}
          />
        </>
      )}
    </p>
  );
}

/** Chord memory and arpeggio. */
function KeysBecome({ part, at, onPart }: Props) {
  const { arpeggio } = part;
  const chord = part.chord.join(',');
  const setArpeggio = (next: Partial<Arpeggio> | null): void =>
    onPart(
      next === null ? 'no arpeggio' : 'change the arpeggio',
      (current) => ({ ...current, arpeggio: next === null ? null : Arpeggio.parse({ ...current.arpeggio, ...next }) }),
      `arpeggio ${at}`,
    );
  return (
    <p>
      Each key also plays{' '}
      <Choice
        label="chord memory"
        value={CHORDS.some(({ value }) => value === chord) ? chord || '-' : 'own'}
        items={[
          ...CHORDS.map((item) => ({ ...item, value: item.value || '-' })),
          ...(CHORDS.some(({ value }) => value === chord) ? [] : [{ value: 'own', label: chord }]),
        ]}
        onChange={(value) => {
          if (value !== 'own')
            onPart('change the chord memory', (current) => ({
              ...current,
              chord: value === '-' ? [] : value.split(',').map(Number),
            }));
        }}
      />
      . What is held sounds{' '}
      <Choice
        label="arpeggio"
        value={arpeggio ? arpeggio.order : '-'}
        items={[
          { value: '-', label: 'together' },
          ...ORDERS.map((order) => ({ ...order, label: `one by one, ${order.label}` })),
        ]}
        onChange={(order) => setArpeggio(order === '-' ? null : { order: order })}
      />
      {arpeggio && (
        <>
          , a{' '}
          <Choice
            label="note value of the arpeggio"
            value={arpeggio.note}
            items={NOTES}
            onChange={(note) => setArpeggio({ note: note })}
          />{' '}
          each, over{' '}
          <NumberField
            label="octaves of the arpeggio"
            value={arpeggio.octaves}
            min={1}
            max={4}
            show={(value) => `${value} octave${value === 1 ? '' : 's'}`}
            onChange={(octaves) => setArpeggio({ octaves })}
          />
          , sounding{' '}
          <NumberField
            label="length of its notes"
            value={arpeggio.gate}
            min={5}
            max={100}
            step={5}
            unit=" %"
            onChange={(gate) => setArpeggio({ gate })}
          />{' '}
          of it
        </>
      )}
      .
    </p>
  );
}

/** What of controllers reaches it, and as what. */
function Hears({ layer, onLayer }: Props) {
  const ignored = [
    ...layer.ignoredControllers.map((controller) => ({ key: String(controller), name: controllerName(controller) })),
    ...(layer.ignoresWheel ? [{ key: 'wheel', name: 'the wheel' }] : []),
    ...(layer.ignoresPressure ? [{ key: 'pressure', name: 'pressure' }] : []),
  ];
  const setDeaf = (key: string, deaf: boolean): void => {
    if (key === 'wheel') onLayer('change what it listens to', { ignoresWheel: deaf });
    else if (key === 'pressure') onLayer('change what it listens to', { ignoresPressure: deaf });
    else
      onLayer('change what it listens to', {
        ignoredControllers: deaf
          ? [...layer.ignoredControllers, Number(key)]
          : layer.ignoredControllers.filter((controller) => controller !== Number(key)),
      });
  };
  return (
    <p>
      It hears every controller
      {ignored.length > 0 && (
        <>
          {' '}
          but{' '}
          {ignored.map(({ key, name }, i) => (
            <span key={key}>
              {i > 0 && ', '}
              {name}
              <Button
                look="plain"
                className="not-pointer-coarse:min-h-0!"
                aria-label={`hear ${name} again`}
                onClick={() => setDeaf(key, false)}
              >
                ×
              </Button>
            </span>
          ))}
        </>
      )}{' '}
      <Choice
        label="leave a controller out"
        value="-"
        items={[
          { value: '-', label: 'leave one out …' },
          { value: 'wheel', label: 'the wheel' },
          { value: 'pressure', label: 'pressure' },
          ...IGNORABLE.filter((controller) => !layer.ignoredControllers.includes(controller)).map((controller) => ({
            value: String(controller),
            label: controllerName(controller),
          })),
        ]}
        onChange={(key) => {
          if (key !== '-') setDeaf(key, true);
        }}
      />
      {layer.remapped.map(({ from, to }, i) => (
        <span key={i}>
          ; {controllerName(from)} as{' '}
          <Choice
            label={`what ${controllerName(from)} becomes`}
            value={String(to)}
            items={[...new Set([...REMAP_TO, to])].map((controller) => ({
              value: String(controller),
              label: controllerName(controller),
            }))}
            onChange={(value) =>
              onLayer('change a controller', {
                remapped: layer.remapped.map((other, o) => (o === i ? { ...other, to: Number(value) } : other)),
              })
            }
          />
          <Button
            look="plain"
            className="not-pointer-coarse:min-h-0!"
            aria-label={`leave ${controllerName(from)} as it is`}
            onClick={() =>
              onLayer('leave a controller as it is', { remapped: layer.remapped.filter((_, o) => o !== i) })
            }
          >
            ×
          </Button>
        </span>
      ))}{' '}
      ·{' '}
      <Choice
        label="take a controller as another"
        value="-"
        items={[
          { value: '-', label: 'take one as another …' },
          ...REMAP_TO.filter((controller) => !layer.remapped.some(({ from }) => from === controller)).map(
            (controller) => ({ value: String(controller), label: controllerName(controller) }),
          ),
        ]}
        onChange={(value) => {
          if (value !== '-')
            onLayer('take a controller as another', {
              remapped: [...layer.remapped, { from: Number(value), to: value === '1' ? 74 : 1 }],
            });
        }}
      />{' '}
      <label className="whitespace-nowrap">
        <input
          type="checkbox"
          checked={layer.followsTranspose}
          onChange={(event) => onLayer('change transposition', { followsTranspose: event.target.checked })}
        />{' '}
        it transposes with the song
      </label>
    </p>
  );
}

const readFade = (text: string): number | null =>
  /hard/i.test(text) ? 0 : /\d+/.test(text) ? Number(/\d+/.exec(text)![0]) : null;

/** “every channel”, or the channels typed with commas: “1, 3–6”. */
function ChannelList({
  value,
  onChange,
}: {
  value: readonly number[] | null;
  onChange: (channels: number[] | null) => void;
}) {
  const text = channelsText(value);
  return (
    <input
      aria-label="channels"
      key={text}
      defaultValue={text}
      size={Math.max(4, text.length)}
      className="written bg-transparent focus:outline-none"
      title="every channel, or as 1, 3–6"
      onFocus={(event) => event.target.select()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
      onBlur={(event) => {
        const read = readChannels(event.target.value);
        if (read === undefined) event.target.value = text;
        else if (channelsText(read) !== text) onChange(read);
      }}
    />
  );
}

/** “every channel”, “channels 1, 3”. */
export const channelsText = (channels: readonly number[] | null): string =>
  channels === null ? 'every channel' : `channel${channels.length === 1 ? '' : 's'} ${channels.join(', ')}`;

/** Undefined: it cannot be read. */
export function readChannels(text: string): number[] | null | undefined {
  if (/every|all/i.test(text) || text.trim() === '') return null;
  const found = new Set<number>();
  for (const part of text
    .replace(/channels?/i, '')
    .split(/[,\s]+/)
    .filter((piece) => piece !== '')) {
    const match = /^(\d{1,2})(?:[–-](\d{1,2}))?$/.exec(part);
    if (!match) return undefined;
    for (let channel = Number(match[1]); channel <= Number(match[2] ?? match[1]); channel++)
      if (channel >= 1 && channel <= 16) found.add(channel);
  }
  return found.size === 0 ? undefined : [...found].sort((a, b) => a - b);
}
