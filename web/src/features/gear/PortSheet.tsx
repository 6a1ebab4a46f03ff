import type { ReactNode } from 'react';
import {
  ProgramListening,
  withRenamedPort,
  type GearList,
  type GearPort,
  type InputPort,
  type OutputPort,
} from '@rackle/core/show';
import { useApp, useEdit } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { ChannelPicker } from './ChannelPicker';
import { InstrumentsOfPort } from './InstrumentsOfPort';
import { withPort, withoutPort } from './gearEdits';

interface Props {
  gear: GearList;
  port: GearPort;
  onClose: () => void;
  onRenamed: (alias: string) => void;
}

const AS_SETLIST = 'as the setlist';

/** Everything about one port of the gear list. */
export function PortSheet({ gear, port, onClose, onRenamed }: Props) {
  const edit = useEdit();
  const { songs, setlists, instruments, gearLists } = useApp(({ show }) => show.working);
  const ports = useApp(({ live }) => live.ports);
  const devices = [
    ...new Set([
      port.device,
      ...ports.filter((candidate) => candidate.direction === port.direction).map((candidate) => candidate.name),
    ]),
  ];
  const change = (label: string, next: Partial<InputPort> | Partial<OutputPort>): void =>
    edit({
      label: `${label} of ${port.alias}`,
      mergeKey: `${label} ${port.alias}`,
      gearLists: [withPort(gear, port.alias, port.direction, (current) => ({ ...current, ...next }) as GearPort)],
    });
  const rename = (alias: string): void => {
    const named = withRenamedPort(gear.id, port.direction, port.alias, alias, {
      songs: Object.values(songs),
      setlists: Object.values(setlists),
      instruments: Object.values(instruments),
      gearLists: Object.values(gearLists),
    });
    edit({
      label: `change the name of ${port.alias}`,
      gearLists: [
        withPort(gear, port.alias, port.direction, (current) => ({ ...current, alias: alias as GearPort['alias'] })),
      ],
      ...named,
    });
    onRenamed(alias);
  };
  const taken = (alias: string): string | null =>
    gear.ports.some((other) => other !== port && other.direction === port.direction && other.alias === alias.trim())
      ? 'another port has this name'
      : alias.length > 120
        ? 'at most 120 characters'
        : null;
  return (
    <Sheet
      open
      title={port.alias}
      about={
        port.direction === 'in'
          ? 'An input: a keyboard, pedal, pad or player.'
          : 'An output: gear or a program that is sent to.'
      }
      onClose={onClose}
    >
      <div className="grid grid-cols-[10rem_1fr] items-baseline gap-x-4 gap-y-2">
        <Row name="the songs call it">
          <EditableText
            label="name of the port"
            value={port.alias}
            check={taken}
            className="named text-lg"
            width="14rem"
            onChange={rename}
          />
        </Row>
        <Row name="tonight it is">
          <Choice
            label="device"
            value={port.device}
            groups={[{ name: '', items: devices.map((device) => ({ value: device, label: device })) }]}
            onChange={(device) => change('change the device', { device })}
          />
        </Row>
        <Row name="switched">
          <Check name="on" on={port.on} onChange={(on) => change('switch', { on })} />
        </Row>
        {port.direction === 'in' ? (
          <InputRows gear={gear} port={port} change={change} />
        ) : (
          <>
            <Row name="instruments there">
              <InstrumentsOfPort alias={port.alias} />
            </Row>
            <Row name="clock">
              <Check
                name="gets clock, start, stop and song position"
                on={port.sendsClock}
                onChange={(sendsClock) => change('change the clock', { sendsClock })}
              />
            </Row>
            <Row name="system exclusive">
              <Check
                name="may be sent here"
                on={port.allowsSysex}
                onChange={(allowsSysex) => change('change the permission', { allowsSysex })}
              />
            </Row>
          </>
        )}
        <Row name="its panel reads">
          programs{' '}
          <Choice
            label="programs on its panel"
            value={port.programsFrom === null ? AS_SETLIST : String(port.programsFrom)}
            groups={[
              {
                name: '',
                items: [
                  { value: AS_SETLIST, label: AS_SETLIST },
                  { value: '0', label: 'from 0' },
                  { value: '1', label: 'from 1' },
                ],
              },
            ]}
            onChange={(value) =>
              change('change how its panel counts', {
                programsFrom: value === AS_SETLIST ? null : value === '0' ? 0 : 1,
              })
            }
          />
          , middle C{' '}
          <Choice
            label="middle C on its panel"
            value={port.middleC ?? AS_SETLIST}
            groups={[
              {
                name: '',
                items: [
                  { value: AS_SETLIST, label: AS_SETLIST },
                  { value: 'C3', label: 'C3' },
                  { value: 'C4', label: 'C4' },
                ],
              },
            ]}
            onChange={(value) =>
              change('change how its panel names keys', {
                middleC: value === AS_SETLIST ? null : (value as 'C3' | 'C4'),
              })
            }
          />
        </Row>
        <Row name="names of channels">
          <span className="flex flex-wrap gap-x-3">
            {port.channelNames.map((entry) => (
              <span key={entry.channel} className="whitespace-nowrap">
                {entry.channel}{' '}
                <EditableText
                  label={`name of channel ${entry.channel}`}
                  value={entry.name}
                  onChange={(name) =>
                    change('name a channel', {
                      channelNames: port.channelNames.map((other) => (other === entry ? { ...other, name } : other)),
                    })
                  }
                />
                <Button
                  look="plain"
                  aria-label={`forget the name of channel ${entry.channel}`}
                  onClick={() =>
                    change('forget a name', { channelNames: port.channelNames.filter((other) => other !== entry) })
                  }
                >
                  ×
                </Button>
              </span>
            ))}
            {port.channelNames.length < 16 && (
              <Button
                look="plain"
                onClick={() => {
                  const channel = Array.from({ length: 16 }, (_, i) => i + 1).find(
                    (candidate) => !port.channelNames.some((entry) => entry.channel === candidate),
                  )!;
                  change('name a channel', {
                    channelNames: [...port.channelNames, { channel, name: `channel ${channel}` }].sort(
                      (a, b) => a.channel - b.channel,
                    ),
                  });
                }}
              >
                name one
              </Button>
            )}
          </span>
        </Row>
      </div>
      <p className="mt-5 flex gap-2">
        <Button
          onClick={() => {
            edit({ label: `take ${port.alias} out`, gearLists: [withoutPort(gear, port.alias, port.direction)] });
            onClose();
          }}
        >
          Take it out of the gear list
        </Button>
        <Button look="filled" className="ml-auto" onClick={onClose}>
          Done
        </Button>
      </p>
    </Sheet>
  );
}

type Change = (label: string, next: Partial<InputPort>) => void;
const PROGRAMS: Record<ProgramListening['kind'], string> = {
  direct: 'recall what the program map says',
  counter: 'count: only their direction matters',
  off: 'are not listened to',
};
const PEDALS = [
  [64, 'sustain'],
  [66, 'sostenuto'],
  [67, 'soft'],
  [11, 'expression'],
  [4, 'foot'],
] as const;

function InputRows({ gear, port, change }: { gear: GearList; port: InputPort; change: Change }) {
  const edit = useEdit();
  const others = gear.ports.filter((other): other is InputPort => other.direction === 'in' && other !== port);
  const pedals = (label: string, name: 'reversedPedals' | 'ignoredPedals') => (
    <span className="flex flex-wrap gap-x-3">
      {PEDALS.map(([controller, words]) => (
        <Check
          key={controller}
          name={words}
          on={port[name].includes(controller)}
          onChange={(on) =>
            change(label, {
              [name]: on ? [...port[name], controller] : port[name].filter((other) => other !== controller),
            })
          }
        />
      ))}
    </span>
  );
  return (
    <>
      <Row name="its keys">
        <span className="flex flex-wrap gap-x-3">
          <Check
            name="play layers"
            on={port.plays}
            onChange={(plays) => change('change what its keys do', { plays })}
          />
          {port.plays && (
            <ChannelPicker
              label="channels that play"
              none="on every channel"
              value={port.playsOn}
              onChange={(playsOn) => change('change the channels that play', { playsOn })}
            />
          )}
        </span>
      </Row>
      <Row name="whole keyboard">
        <NumberField
          label="shift of the keyboard"
          value={port.keyShift}
          min={-60}
          max={60}
          unit=" semitones"
          className="mono"
          onChange={(keyShift) => change('shift', { keyShift })}
        />{' '}
        before the zones
      </Row>
      <Row name="listened to">
        <ChannelPicker
          label="channels listened to"
          none="on every channel"
          value={port.channels}
          onChange={(channels) => change('change the channels', { channels })}
        />
      </Row>
      <Row name="program changes">
        <Choice
          label="program changes"
          value={port.programs.kind}
          groups={[{ name: '', items: Object.entries(PROGRAMS).map(([value, label]) => ({ value, label })) }]}
          onChange={(kind) => change('change what programs do', { programs: ProgramListening.parse({ kind }) })}
        />
        {port.programs.kind === 'direct' && (
          <>
            ,{' '}
            <Choice
              label="bank"
              value={port.programs.bank}
              groups={[
                {
                  name: '',
                  items: [
                    { value: 'both', label: 'with both bank bytes' },
                    { value: 'lsb', label: 'with the bank’s LSB' },
                    { value: 'none', label: 'whatever the bank' },
                  ],
                },
              ]}
              onChange={(bank) =>
                change('change the bank', { programs: ProgramListening.parse({ ...port.programs, bank }) })
              }
            />
          </>
        )}
        {port.programs.kind === 'counter' && (
          <>
            {' '}
            from{' '}
            <NumberField
              label="lowest number"
              value={port.programs.lowest}
              min={0}
              max={126}
              className="mono"
              onChange={(lowest) =>
                change('change the counter', { programs: ProgramListening.parse({ ...port.programs, lowest }) })
              }
            />{' '}
            to{' '}
            <NumberField
              label="highest number"
              value={port.programs.highest}
              min={1}
              max={127}
              className="mono"
              onChange={(highest) =>
                change('change the counter', { programs: ProgramListening.parse({ ...port.programs, highest }) })
              }
            />{' '}
            (on the wire)
          </>
        )}
      </Row>
      {port.programs.kind === 'direct' && (
        <Row name="buttons">
          {port.buttons === null ? (
            <Button look="plain" onClick={() => change('describe the buttons', { buttons: { count: 6, pages: 1 } })}>
              it has buttons that can be programmed
            </Button>
          ) : (
            <>
              <NumberField
                label="buttons at a time"
                value={port.buttons.count}
                min={1}
                max={64}
                className="mono"
                onChange={(count) => change('describe the buttons', { buttons: { ...port.buttons!, count } })}
              />{' '}
              at a time,{' '}
              <NumberField
                label="pages"
                value={port.buttons.pages}
                min={1}
                max={128}
                className="mono"
                onChange={(pages) => change('describe the buttons', { buttons: { ...port.buttons!, pages } })}
              />{' '}
              pages{' '}
              <Button look="plain" onClick={() => change('describe the buttons', { buttons: null })}>
                none
              </Button>
            </>
          )}
        </Row>
      )}
      <Row name="reversed pedals">{pedals('turn a pedal round', 'reversedPedals')}</Row>
      <Row name="ignored pedals">{pedals('ignore a pedal', 'ignoredPedals')}</Row>
      <Row name="its pedals also for">
        <span className="flex flex-wrap gap-x-3">
          {others
            .filter((other) => other.plays)
            .map((other) => (
              <Check
                key={other.alias}
                name={other.alias}
                on={port.pedalsFor.includes(other.alias)}
                onChange={(on) =>
                  change('lend the pedals', {
                    pedalsFor: on
                      ? [...port.pedalsFor, other.alias]
                      : port.pedalsFor.filter((alias) => alias !== other.alias),
                  })
                }
              />
            ))}
        </span>
      </Row>
      <Row name="the same as">
        <Choice
          label="double of"
          value={port.doubleOf ?? '-'}
          groups={[
            {
              name: '',
              items: [
                { value: '-', label: 'no other port' },
                ...others.map((other) => ({ value: other.alias, label: other.alias })),
              ],
            },
          ]}
          onChange={(alias) =>
            change('mark a double', {
              doubleOf: alias === '-' ? null : others.find((other) => other.alias === alias)!.alias,
            })
          }
        />
        {port.doubleOf !== null && ' (heard only while that one is away)'}
      </Row>
      <Row name="each note">
        <Check
          name="on a channel of its own"
          on={port.perNote}
          onChange={(perNote) => change('change the channels of notes', { perNote })}
        />
      </Row>
      <Row name="its clock">
        <Check
          name="leads the timeline"
          on={gear.clockFrom === port.alias}
          onChange={(on) =>
            edit({ label: 'change the clock', gearLists: [{ ...gear, clockFrom: on ? port.alias : null }] })
          }
        />
      </Row>
    </>
  );
}

const Row = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <span className="text-ink2">{name}</span>
    <span>{children}</span>
  </>
);

const Check = ({ name, on, onChange }: { name: string; on: boolean; onChange: (on: boolean) => void }) => (
  <label className="flex items-center gap-1.5 whitespace-nowrap">
    <input
      type="checkbox"
      className="size-4 accent-[var(--ink)]"
      checked={on}
      onChange={(event) => onChange(event.target.checked)}
    />
    {name}
  </label>
);
