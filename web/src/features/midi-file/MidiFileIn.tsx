import { useRef, useState, type DragEvent, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { ImportedSong } from '@rackle/core/midiFile';
import { songEntry, withEntry, type EntryId, type Song } from '@rackle/core/show';
import { useApp, useEdit, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { MidiPreview, type FileRead } from './MidiPreview';
import { midiFilesWorker } from './midiFilesWorker';

/** Whether a file is one to be read here, by its name. */
export const isMidiFile = ({ name }: { name: string }): boolean => /\.(midi?|kar)$/i.test(name);

const MOST_BYTES = 16 * 1024 * 1024;
const FIRST_BPM = 120;

/** What a page needs to take MIDI files in. */
export interface MidiFileIn {
  take(files: readonly File[]): void;
  /** The preview, while there is one. */
  preview: ReactNode;
  /** A verb that asks for a file of this machine. */
  button: ReactNode;
  /** For the box onto which files are dropped. */
  drop: { onDragOver(event: DragEvent): void; onDrop(event: DragEvent): void };
}

/** Takes a MIDI file in: into a song, or a new one at the end of the setlist. @param into null: only a new one */
export function useMidiFileIn(into: Song | null): MidiFileIn {
  const [file, setFile] = useState<FileRead | null>(null);
  const gear = useGear();
  const instruments = useApp(({ show }) => show.working.instruments);
  const setlist = useSetlist();
  const edit = useEdit();
  const navigate = useNavigate();
  const picker = useRef<HTMLInputElement>(null);
  const read = async (fileName: string, bytes: Uint8Array, bpm: number): Promise<void> => {
    const seen = await midiFilesWorker().read(fileName, bytes, bpm, { gear, instruments: Object.values(instruments) });
    if (typeof seen === 'string') toast.error(`${fileName}: ${seen}`, { duration: 10_000 });
    else setFile({ fileName, bytes, bpm, seen });
  };
  const take = async (files: readonly File[]): Promise<void> => {
    const chosen = files.find(isMidiFile) ?? files[0];
    if (chosen === undefined) return;
    if (chosen.size > MOST_BYTES)
      return void toast.error(`${chosen.name}: it has ${Math.round(chosen.size / 2 ** 20)} MB; at most 16 are read`);
    try {
      await read(chosen.name, new Uint8Array(await chosen.arrayBuffer()), FIRST_BPM);
    } catch {
      toast.error(`${chosen.name}: it cannot be read any more`);
    }
  };
  const bringIn = ({ song }: ImportedSong, isNew: boolean): void => {
    setFile(null);
    const setlists = isNew && setlist ? [withEntry(setlist, songEntry(newId<EntryId>('entry'), song.id))] : [];
    edit({ label: `bring in ${file?.fileName ?? 'a MIDI file'}`, songs: [song], setlists });
    if (isNew) void navigate(`/timeline/${song.id}`);
  };
  return {
    take: (files) => void take(files),
    preview: file && (
      <MidiPreview
        // Read anew, everything is chosen anew.
        key={`${file.fileName} ${file.bpm}`}
        file={file}
        into={into}
        onTempo={(bpm) => void read(file.fileName, file.bytes, bpm)}
        onTake={bringIn}
        onClose={() => setFile(null)}
      />
    ),
    button: (
      <>
        <input
          ref={picker}
          type="file"
          accept=".mid,.midi,.kar,audio/midi"
          aria-label="a MIDI file from this machine"
          className="hidden"
          onChange={(event) => {
            void take([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
        <Button look="plain" onClick={() => picker.current?.click()}>
          bring in a MIDI file
        </Button>
      </>
    ),
    drop: {
      onDragOver: (event) => event.preventDefault(),
      onDrop: (event) => {
        if (event.dataTransfer.files.length === 0) return;
        event.preventDefault();
        void take([...event.dataTransfer.files]);
      },
    },
  };
}
