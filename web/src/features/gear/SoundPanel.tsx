import { useEffect, useState } from 'react';
import type { GearList, SoundOutput } from '@rackle/core/show';
import { useApp, useHost, useEdit } from '../../state/hooks';
import { useDeviceNames } from '../../state/useDeviceNames';
import { SetlistEffects } from '../effects';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { Stamp } from '../../ui/Stamp';

const TOO_LONG_MS = 20;
const MACHINES_CHOICE = 'the machine’s own choice';
const MOST_CHANNELS = 64;

/** Where the sound leaves: device, outputs with names, meters, a test tone, and the delay from key to sound. */
export function SoundPanel({ gear }: { gear: GearList }) {
  const edit = useEdit();
  const host = useHost();
  const levels = useApp(({ live }) => live.levels);
  const sound = useApp(({ live }) => live.sound.sound);
  const [testing, setTesting] = useState<string | null>(null);
  const [showsHidden, setShowsHidden] = useState(false);
  const devices = useDeviceNames('audiooutput');
  useEffect(() => () => host.post({ type: 'testTone', output: null }), [host]);
  const { outputs, device } = gear.sound;
  const set = (label: string, next: SoundOutput[]): void =>
    edit({ label, mergeKey: label, gearLists: [{ ...gear, sound: { ...gear.sound, outputs: next } }] });
  const change = (output: SoundOutput, next: Partial<SoundOutput>, label: string): void =>
    set(
      label,
      outputs.map((other) => (other === output ? { ...other, ...next } : other)),
    );
  const test = (name: string | null): void => {
    setTesting(name);
    host.post({ type: 'testTone', output: name });
  };
  const delayMs = levels ? levels.delay.systemMs + levels.delay.rackleMs : null;
  const hidden = outputs.filter((output) => output.hidden).length;
  return (
    <section aria-label="sound out" className="mt-5">
      <h2 className="text-[13px] font-bold text-ink2">sound out</h2>
      <p className="mt-1 leading-6">
        Through{' '}
        <Choice
          label="sound device"
          value={device || MACHINES_CHOICE}
          items={[MACHINES_CHOICE, ...new Set([...devices, ...(device ? [device] : [])])].map((name) => ({
            value: name,
            label: name,
          }))}
          onChange={(name) =>
            edit({
              label: 'change the sound device',
              gearLists: [{ ...gear, sound: { ...gear.sound, device: name === MACHINES_CHOICE ? '' : name } }],
            })
          }
        />
      </p>
      {outputs
        .filter((output) => showsHidden || !output.hidden)
        .map((output, i) => {
          const level = levels?.outputs.find((candidate) => candidate.name === output.name);
          return (
            <div key={i} className="flex min-h-9 items-center gap-2 border-b border-rule text-[13px]">
              <EditableText
                label="name of the output"
                value={output.name}
                className="named text-base"
                width="5.5rem"
                check={(text) =>
                  outputs.some((other) => other !== output && other.name === text.trim())
                    ? 'another output has this name'
                    : null
                }
                onChange={(name) => change(output, { name }, 'rename an output')}
              />
              <span className="mono whitespace-nowrap">
                <NumberField
                  label={`left channel of ${output.name}`}
                  value={output.left}
                  min={1}
                  max={MOST_CHANNELS}
                  onChange={(left) => change(output, { left }, 'lead an output')}
                />
                +
                <NumberField
                  label={`right channel of ${output.name}`}
                  value={output.right}
                  min={1}
                  max={MOST_CHANNELS}
                  onChange={(right) => change(output, { right }, 'lead an output')}
                />
              </span>
              <Meter name={output.name} peakDb={level?.peakDb ?? -100} clipped={level?.clipped ?? false} />
              {level && !level.isHere && <Stamp>not here</Stamp>}
              <Button
                look="plain"
                disabled={sound !== 'on'}
                aria-pressed={testing === output.name}
                onClick={() => test(testing === output.name ? null : output.name)}
              >
                {testing === output.name ? 'end' : 'tone'}
              </Button>
              <Button look="plain" onClick={() => change(output, { hidden: !output.hidden }, 'hide an output')}>
                {output.hidden ? 'show' : 'hide'}
              </Button>
            </div>
          );
        })}
      <p className="mt-1 flex flex-wrap gap-1 text-[13px]">
        <Button
          look="plain"
          disabled={outputs.length >= 32}
          onClick={() => set('add an output', [...outputs, nextOutput(outputs)])}
        >
          add an output
        </Button>
        {outputs.length > 1 && (
          <Button look="plain" onClick={() => set('take an output away', outputs.slice(0, -1))}>
            take the last away
          </Button>
        )}
        {hidden > 0 && (
          <Button look="plain" onClick={() => setShowsHidden(!showsHidden)}>
            {showsHidden ? 'hide' : 'show'} {hidden} unused
          </Button>
        )}
      </p>
      <SetlistEffects />
      <p className="mt-1 text-[13px]" data-testid="delay">
        {sound !== 'on' ? (
          'Start sound to see the delay from key to sound.'
        ) : delayMs === null ? (
          'Measuring the delay …'
        ) : (
          <>
            From key to sound <b className="mono">{Math.round(delayMs)} ms</b>{' '}
            {delayMs > TOO_LONG_MS && (
              <>
                <Stamp>late</Stamp> more than {TOO_LONG_MS} ms is felt: close other programs, or choose another sound
                device.
              </>
            )}
          </>
        )}
      </p>
    </section>
  );
}

function nextOutput(outputs: readonly SoundOutput[]): SoundOutput {
  const last = Math.max(0, ...outputs.map((output) => Math.max(output.left, output.right)));
  const left = Math.min(MOST_CHANNELS - 1, last + 1);
  let n = outputs.length + 1;
  while (outputs.some((output) => output.name === `Out ${n}`)) n++;
  return { name: `Out ${n}` as SoundOutput['name'], left, right: left + 1, hidden: false };
}

function Meter({ name, peakDb, clipped }: { name: string; peakDb: number; clipped: boolean }) {
  return (
    <span
      role="meter"
      aria-label={`level of ${name}`}
      aria-valuemin={-60}
      aria-valuemax={0}
      aria-valuenow={Math.max(-60, Math.round(peakDb))}
      className="relative h-2 min-w-10 flex-1 bg-ground2"
    >
      <span
        className="absolute inset-y-0 left-0 bg-ink"
        style={{ width: `${Math.max(0, Math.min(1, (peakDb + 60) / 60)) * 100}%` }}
      />
      {clipped && <b className="absolute -top-1.5 right-0 bg-ink px-1 text-[10px] text-ground">clip</b>}
    </span>
  );
}
