import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { keyName, parseKeyName } from '@rackle/core/midi';
import type { PresetId, Recording, RecordingsInstrument } from '@rackle/core/show';
import { fileAddress } from '../../files/fileAddress';
import { useEdit, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { NumberField } from '../../ui/NumberField';
import { dbText } from '../../ui/format';
import { useAudition } from './useAudition';
import { useBringIn } from './useBringIn';

const PLAYS = [
  {
    name: '',
    items: [
      { value: 'whileHeld', label: 'while the key is held' },
      { value: 'oneShot', label: 'once through, whatever the key does' },
      { value: 'loop', label: 'round and round, until it is struck again' },
    ],
  },
];
const STARTS = [
  {
    name: '',
    items: [
      { value: 'atOnce', label: 'at once' },
      { value: 'beat', label: 'with the next beat' },
      { value: 'bar', label: 'with the next bar' },
    ],
  },
];
const seconds = (value: number): string => `${value.toFixed(2)} s`;

/** The player's own recordings: trimmed, with a root key, and how they start and end. */
export function RecordingsPage({ instrument }: { instrument: RecordingsInstrument }) {
  const edit = useEdit();
  const navigate = useNavigate();
  const songs = Object.values(useSongs());
  const audition = useAudition(null);
  const { running, take } = useBringIn();
  const picker = useRef<HTMLInputElement>(null);
  const middleC = useSetlist()?.middleC ?? 'C4';
  const change = (recording: Recording, next: Partial<Recording>, label: string): void =>
    edit({
      label,
      mergeKey: `${label} ${recording.id}`,
      instruments: [
        {
          ...instrument,
          presets: instrument.presets.map((other) => (other.id === recording.id ? { ...other, ...next } : other)),
        },
      ],
    });
  const usedIn = (presetId: PresetId | null): string[] =>
    songs
      .filter((song) =>
        song.layers.some(
          (layer) =>
            layer.sound.instrumentId === instrument.id && (presetId === null || layer.sound.presetId === presetId),
        ),
      )
      .map((song) => song.name);
  return (
    <div
      className="h-full overflow-y-auto px-4 py-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        take([...event.dataTransfer.files], instrument);
      }}
    >
      <div className="flex items-end gap-4 border-b border-ink pb-2">
        <EditableText
          label="name of the recordings"
          value={instrument.name}
          className="named text-4xl"
          onChange={(name) =>
            edit({ label: 'rename', instruments: [{ ...instrument, name: name as RecordingsInstrument['name'] }] })
          }
        />
        <span className="pb-1 text-ink2">
          <Link to="/sounds" className="underline decoration-dotted">
            Sounds
          </Link>
        </span>
        <span className="ml-auto flex gap-2">
          {usedIn(null).length === 0 && (
            <Button
              look="plain"
              onClick={() => {
                edit({ label: `remove ${instrument.name}`, instruments: [{ id: instrument.id, deleted: true }] });
                void navigate('/sounds');
              }}
            >
              remove them all
            </Button>
          )}
          <input
            ref={picker}
            type="file"
            multiple
            accept="audio/*,.wav"
            aria-label="recordings from this machine"
            className="hidden"
            onChange={(event) => {
              take([...(event.target.files ?? [])], instrument);
              event.target.value = '';
            }}
          />
          <Button onClick={() => picker.current?.click()}>Bring in a recording</Button>
        </span>
      </div>
      {running && (
        <p role="status" className="py-1 text-[13px]">
          reading {running.name} …
        </p>
      )}
      {instrument.presets.map((recording) => {
        const uses = usedIn(recording.id);
        const end = recording.endSeconds ?? recording.lengthSeconds;
        return (
          <section key={recording.id} aria-label={recording.name} className="border-b border-rule py-3">
            <div className="flex items-center gap-3">
              <EditableText
                label="name of the recording"
                value={recording.name}
                className="named text-2xl"
                width="14em"
                onChange={(name) => change(recording, { name: name }, 'rename a recording')}
              />
              <span className="text-[13px] text-ink2">
                {recording.fileName}, {seconds(recording.lengthSeconds)}
              </span>
              <span className="ml-auto flex">
                {audition && (
                  <>
                    <Button
                      look="plain"
                      onClick={() => audition.hear({ instrumentId: instrument.id, presetId: recording.id })}
                    >
                      hear it under the keys
                    </Button>
                    <Button
                      look="plain"
                      onClick={() => audition.keep({ instrumentId: instrument.id, presetId: recording.id })}
                    >
                      take it for {audition.layer.name}
                    </Button>
                  </>
                )}
                {uses.length === 0 && (
                  <Button
                    look="plain"
                    aria-label={`remove ${recording.name}`}
                    onClick={() =>
                      edit({
                        label: 'remove a recording',
                        instruments: [
                          { ...instrument, presets: instrument.presets.filter((other) => other !== recording) },
                        ],
                      })
                    }
                  >
                    ×
                  </Button>
                )}
              </span>
            </div>
            <Waveform recording={recording} />
            <p className="mt-1 leading-8">
              From{' '}
              <NumberField
                label={`start of ${recording.name}`}
                value={recording.startSeconds}
                min={0}
                max={Math.max(0, end - 0.01)}
                step={0.01}
                show={seconds}
                className="mono"
                onChange={(startSeconds) => change(recording, { startSeconds }, 'trim a recording')}
              />{' '}
              to{' '}
              <NumberField
                label={`end of ${recording.name}`}
                value={end}
                min={recording.startSeconds + 0.01}
                max={recording.lengthSeconds}
                step={0.01}
                show={seconds}
                className="mono"
                onChange={(endSeconds) =>
                  change(
                    recording,
                    { endSeconds: endSeconds >= recording.lengthSeconds ? null : endSeconds },
                    'trim a recording',
                  )
                }
              />
              ,{' '}
              <Choice
                label={`how ${recording.name} plays`}
                value={recording.plays}
                groups={PLAYS}
                onChange={(plays) =>
                  change(recording, { plays: plays as Recording['plays'] }, 'change how a recording plays')
                }
              />
              , it starts{' '}
              <Choice
                label={`when ${recording.name} starts`}
                value={recording.starts}
                groups={STARTS}
                onChange={(starts) =>
                  change(recording, { starts: starts as Recording['starts'] }, 'change when a recording starts')
                }
              />
              .{' '}
              <NumberField
                label={`root key of ${recording.name}`}
                value={recording.rootKey}
                min={0}
                max={127}
                show={(key) => keyName(key, middleC)}
                read={(text) => parseKeyName(text, middleC)}
                className="mono"
                onChange={(rootKey) => change(recording, { rootKey }, 'change the root key')}
              />{' '}
              plays it as it is,{' '}
              <Choice
                label={`other keys of ${recording.name}`}
                value={recording.followsKeys ? 'yes' : 'no'}
                items={[
                  { value: 'yes', label: 'other keys higher and lower' },
                  { value: 'no', label: 'and so does every other key' },
                ]}
                onChange={(value) => change(recording, { followsKeys: value === 'yes' }, 'change what other keys do')}
              />{' '}
              ·{' '}
              <NumberField
                label={`level of ${recording.name}`}
                value={recording.levelDb}
                min={-60}
                max={6}
                step={0.5}
                show={dbText}
                onChange={(levelDb) => change(recording, { levelDb }, 'change the level of a recording')}
              />
              {uses.length > 0 && <span className="text-[13px] text-ink2"> · played in {uses.join(', ')}</span>}
            </p>
          </section>
        );
      })}
      {instrument.presets.length === 0 && (
        <p className="py-6 text-lg text-ink2">No recordings yet. Drop sound files here.</p>
      )}
      <p className="py-3 text-[13px] text-ink2">
        A pedal or a pad starts and stops one through a role: “start and stop” of its layer, on the Gear page.
      </p>
    </div>
  );
}

const COLUMNS = 600;

/** The whole recording as it is, what is cut off dimmed. */
function Waveform({ recording }: { recording: Recording }) {
  const [peaks, setPeaks] = useState<Float32Array | null>(null);
  useEffect(() => {
    let wanted = true;
    void peaksOf(recording.file).then((found) => {
      if (wanted) setPeaks(found);
    });
    return () => {
      wanted = false;
    };
  }, [recording.file]);
  const share = (value: number): number => (value / Math.max(0.001, recording.lengthSeconds)) * COLUMNS;
  const end = recording.endSeconds ?? recording.lengthSeconds;
  return (
    <svg
      viewBox={`0 0 ${COLUMNS} 60`}
      preserveAspectRatio="none"
      className="mt-1 h-14 w-full border-y border-rule"
      role="img"
      aria-label={`${recording.name} as a line`}
    >
      {peaks && (
        <path
          d={Array.from(peaks, (peak, i) => `M${i + 0.5} ${30 - peak * 29}V${30 + peak * 29}`).join('')}
          stroke="var(--ink)"
          strokeWidth={1}
        />
      )}
      <rect x={0} y={0} width={share(recording.startSeconds)} height={60} fill="var(--ground)" opacity={0.8} />
      <rect
        x={share(end)}
        y={0}
        width={Math.max(0, COLUMNS - share(end))}
        height={60}
        fill="var(--ground)"
        opacity={0.8}
      />
    </svg>
  );
}

async function peaksOf(hash: string): Promise<Float32Array | null> {
  try {
    const answer = await fetch(fileAddress(hash));
    const decoded = await new OfflineAudioContext(1, 1, 44_100).decodeAudioData(await answer.arrayBuffer());
    const samples = decoded.getChannelData(0);
    const size = Math.max(1, Math.floor(samples.length / COLUMNS));
    return Float32Array.from({ length: COLUMNS }, (_, i) => {
      let peak = 0;
      for (let at = i * size; at < Math.min(samples.length, (i + 1) * size); at++)
        peak = Math.max(peak, Math.abs(samples[at]));
      return Math.min(1, peak);
    });
  } catch {
    return null;
  }
}
