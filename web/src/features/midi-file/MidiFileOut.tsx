import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { MidiWritten } from '@rackle/core/midiFile';
import type { Song } from '@rackle/core/show';
import { useApp, useGear, useSetlist, useSongs } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { Sheet } from '../../ui/Sheet';
import { Toggle } from '../../ui/Toggle';
import { midiFilesWorker } from './midiFilesWorker';

const fileNameOf = (name: string): string => `${name.replace(/[\\/:*?"<>|]+/g, ' ').trim() || 'song'}.mid`;

function save(name: string, bytes: Uint8Array): void {
  const url = URL.createObjectURL(new Blob([bytes.slice()], { type: 'audio/midi' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // After the browser has taken it.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A song, or the whole setlist, as a MIDI file for any other player; what such a file cannot say is listed before. */
export function MidiFileOut({ song, onClose }: { song: Song; onClose: () => void }) {
  const songs = useSongs();
  const instruments = useApp(({ show }) => show.working.instruments);
  const setlist = useSetlist();
  const gear = useGear();
  const [whole, setWhole] = useState(false);
  const [cuesOnly, setCuesOnly] = useState(false);
  const [gearAhead, setGearAhead] = useState(false);
  const [written, setWritten] = useState<MidiWritten | null>(null);
  useEffect(() => {
    let isLate = false;
    const from = {
      songs: Object.values(songs),
      instruments: Object.values(instruments),
      setlist,
      gear,
      cuesOnly,
      gearAhead,
    };
    void midiFilesWorker()
      .write(whole ? null : song.id, from)
      .then(
        (result) => {
          if (!isLate) setWritten(result);
        },
        () => toast.error('The file could not be made.'),
      );
    return () => {
      isLate = true;
      setWritten(null);
    };
  }, [songs, instruments, setlist, gear, cuesOnly, gearAhead, whole, song.id]);
  const name = whole && setlist ? setlist.name : song.name;
  return (
    <Sheet
      open
      title="A MIDI file"
      about="With a track of numbers for a player that calls Rackle, and a track a port and channel for one that plays instead of it."
      onClose={onClose}
    >
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span>
          of{' '}
          <Choice
            label="what the file holds"
            value={whole ? 'setlist' : 'song'}
            items={[
              { value: 'song', label: song.name },
              ...(setlist ? [{ value: 'setlist', label: `the whole setlist, ${setlist.name}` }] : []),
            ]}
            onChange={(chosen) => setWhole(chosen === 'setlist')}
          />
        </span>
        <Toggle
          on={cuesOnly}
          name="cues alone"
          title="without notes and backing parts"
          onClick={() => setCuesOnly(!cuesOnly)}
        />
        <Toggle
          on={gearAhead}
          name="gear ahead"
          title="programs stand so early that outboard gear has switched at its cue; hands on its old sound hear that"
          onClick={() => setGearAhead(!gearAhead)}
        />
      </p>
      <div className="mt-3" role="status" data-testid="midi-out">
        {written === null ? (
          <p>working it out …</p>
        ) : (
          <>
            <p className="font-bold">
              {written.tracks} tracks, {Math.ceil(written.bytes.length / 1024)} kB
            </p>
            {written.words.length > 0 && (
              <p className="mt-2 text-[13px] text-ink2">Otherwise than in Rackle, or not in it:</p>
            )}
            {written.words.length > 0 && (
              <ul className="mt-1 max-h-56 list-disc overflow-y-auto pl-5 text-[13px]">
                {written.words.map((word) => (
                  <li key={word}>{word}</li>
                ))}
              </ul>
            )}
          </>
        )}
      </div>
      <p className="mt-4 flex gap-2">
        <Button
          large
          disabled={written === null}
          onClick={() => {
            if (written === null) return;
            save(fileNameOf(name), written.bytes);
            onClose();
          }}
        >
          Save {fileNameOf(name)}
        </Button>
        <Button large look="plain" onClick={onClose}>
          close
        </Button>
      </p>
    </Sheet>
  );
}
