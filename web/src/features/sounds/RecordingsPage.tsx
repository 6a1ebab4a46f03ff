import { useRef } from 'react';
import { Link, useNavigate } from 'react-router';
import type { PresetId, Recording, RecordingsInstrument } from '@rackle/core/show';
import { useEdit, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { OneRecording } from './OneRecording';
import { useAudition } from './useAudition';
import { useBringIn } from './useBringIn';

/** The player's own recordings: trimmed, with a root key, and how they start and end. */
export function RecordingsPage({ instrument }: { instrument: RecordingsInstrument }) {
  const edit = useEdit();
  const navigate = useNavigate();
  const songs = Object.values(useSongs());
  const audition = useAudition(null);
  const { running, take } = useBringIn();
  const picker = useRef<HTMLInputElement>(null);
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
          heading
          label="name of the recordings"
          value={instrument.name}
          className="named text-4xl"
          onChange={(name) => edit({ label: 'rename', instruments: [{ ...instrument, name }] })}
        />
        <span className="pb-1 text-ink2">
          <Link to="/sounds" className="inline-flex items-center underline decoration-dotted">
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
      {instrument.presets.map((recording) => (
        <OneRecording
          key={recording.id}
          recording={recording}
          uses={usedIn(recording.id)}
          audition={audition}
          instrumentId={instrument.id}
          onChange={(next, label) => change(recording, next, label)}
          onRemove={() =>
            edit({
              label: 'remove a recording',
              instruments: [{ ...instrument, presets: instrument.presets.filter((other) => other !== recording) }],
            })
          }
        />
      ))}
      {instrument.presets.length === 0 && (
        <p className="py-6 text-lg text-ink2">No recordings yet. Drop sound files here.</p>
      )}
      <p className="py-3 text-[13px] text-ink2">
        A pedal or a pad starts and stops one through a role: “start and stop” of its layer, on the Gear page.
      </p>
    </div>
  );
}
