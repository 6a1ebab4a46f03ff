import { useEffect, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { TEXT_CODES } from '@rackle/core/formats';
import type { ImportChoices, ImportedSong } from '@rackle/core/midiFile';
import { newSong, type LayerId, type PatchId, type Song, type SongId } from '@rackle/core/show';
import { useApp, useGear, useSetlist } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { NumberField } from '../../ui/NumberField';
import { Sheet } from '../../ui/Sheet';
import { counted } from '../../ui/format';
import { Toggle } from '../../ui/Toggle';
import { heldWords, targetOfValue, targetValue, targetsFor, withTarget } from './groupTargets';
import type { FileSeen, GroupSeen } from './midiFiles';
import { midiFilesWorker } from './midiFilesWorker';

/** A file as it was dropped, and what it holds. */
export interface FileRead {
  fileName: string;
  bytes: Uint8Array;
  bpm: number;
  seen: FileSeen;
}

const CODE_WORDS = { 'utf-8': 'UTF-8', 'windows-1252': 'Windows-1252', shift_jis: 'Shift JIS' } as const;

/** What becomes of a MIDI file, shown before anything is done. */
export function MidiPreview({
  file,
  into,
  onTempo,
  onTake,
  onClose,
}: {
  file: FileRead;
  /** The song of the page; null: only a new one can be made. */
  into: Song | null;
  onTempo: (bpm: number) => void;
  onTake: (made: ImportedSong, isNew: boolean) => void;
  onClose: () => void;
}) {
  const { seen, fileName } = file;
  const [isNew, setIsNew] = useState(into === null);
  const [choices, setChoices] = useState(seen.choices);
  const fresh = useMemo(() => startedSong(seen.name), [seen.name]);
  const song = isNew || into === null ? fresh : into;
  const made = useMade(song, choices);
  return (
    <Sheet open wide title={fileName} about={aboutFile(seen)} onClose={onClose}>
      <p className="flex flex-wrap items-center gap-x-4">
        <span>
          into{' '}
          <Choice
            label="which song takes it"
            value={isNew ? 'new' : 'this'}
            items={[
              ...(into === null ? [] : [{ value: 'this', label: into.name }]),
              { value: 'new', label: `a new song, ${fresh.name}` },
            ]}
            onChange={(chosen) => setIsNew(chosen === 'new')}
          />
        </span>
        {seen.isFrames && (
          <span>
            its times are frames; placed on{' '}
            <NumberField label="tempo that it is placed on" value={file.bpm} min={3.58} max={1000} onChange={onTempo} />
          </span>
        )}
      </p>
      <Taken seen={seen} choices={choices} onChange={setChoices} />
      <Groups seen={seen} song={song} choices={choices} onChange={setChoices} />
      <Outcome seen={seen} made={made} />
      <p className="mt-4 flex flex-wrap gap-2">
        <Button large disabled={made === null} onClick={() => made && onTake(made, isNew || into === null)}>
          Bring it in
        </Button>
        <Button large look="plain" onClick={onClose}>
          leave it
        </Button>
      </p>
    </Sheet>
  );
}

/** A song under the name of a file. */
const startedSong = (name: string): Song =>
  newSong(newId<SongId>('song'), name, newId<LayerId>('layer'), newId<PatchId>('patch'));

function aboutFile({ format, groups, map }: FileSeen): string {
  const [{ bpm }] = map.tempos;
  const [{ beats, unit }] = map.meters;
  const tracks = new Set(groups.map(({ track }) => track)).size;
  const changes = [
    ...(map.tempos.length > 1 ? [counted(map.tempos.length, 'tempo')] : [`${Math.round(bpm * 100) / 100} a minute`]),
    ...(map.meters.length > 1 ? [counted(map.meters.length, 'meter')] : [`${beats}/${unit}`]),
  ];
  return `Standard MIDI File, format ${format}: ${counted(tracks, 'track')} that play${tracks === 1 ? 's' : ''} something, ${counted(map.bars, 'bar')}, ${changes.join(', ')}.`;
}

/** What choices make of the file, worked out beside the page; null: not yet. */
function useMade(song: Song, choices: ImportChoices): ImportedSong | null {
  const instruments = useApp(({ show }) => show.working.instruments);
  const setlist = useSetlist();
  const [made, setMade] = useState<{ into: Song; by: ImportChoices; result: ImportedSong } | null>(null);
  useEffect(() => {
    let isLate = false;
    const asked = { song, choices, instruments: Object.values(instruments), setlist };
    void midiFilesWorker()
      .make(asked)
      .then(
        (result) => {
          if (!isLate && result !== null) setMade({ into: song, by: choices, result });
        },
        () => toast.error('What becomes of this file could not be worked out.'),
      );
    return () => void (isLate = true);
  }, [song, choices, instruments, setlist]);
  // What was worked out of other choices is not what one has chosen.
  return made?.into === song && made.by === choices ? made.result : null;
}

interface ChoosingProps {
  seen: FileSeen;
  choices: ImportChoices;
  onChange: (choices: ImportChoices) => void;
}

/** Map, texts and lyrics: taken or not. */
function Taken({ seen, choices, onChange }: ChoosingProps) {
  const { takesMap, takesTexts, takesLyrics, textCode } = choices;
  const sections = seen.markers > 0 ? `, ${counted(seen.markers, 'section')}` : '';
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2">
      <Toggle
        on={takesMap}
        name={`tempo, meter and bars${sections}`}
        title="they take the place of the song’s own"
        onClick={() => onChange({ ...choices, takesMap: !takesMap })}
      />
      {seen.texts > 0 && (
        <Toggle
          on={takesTexts}
          name={`${counted(seen.texts, 'text')} for the player`}
          onClick={() => onChange({ ...choices, takesTexts: !takesTexts })}
        />
      )}
      {seen.lyrics > 0 && (
        <Toggle
          on={takesLyrics}
          name={counted(seen.lyrics, 'lyric')}
          onClick={() => onChange({ ...choices, takesLyrics: !takesLyrics })}
        />
      )}
      {seen.texts + seen.lyrics + seen.markers > 0 && (
        <span className="text-ink2">
          read as{' '}
          <Choice
            label="how its texts are written"
            value={textCode}
            items={TEXT_CODES.map((code) => ({ value: code, label: CODE_WORDS[code] }))}
            onChange={(code) => onChange({ ...choices, textCode: code })}
          />
        </span>
      )}
    </p>
  );
}

function Groups({ seen, song, choices, onChange }: ChoosingProps & { song: Song }) {
  if (seen.groups.length === 0) return <p className="mt-3">None of its tracks plays anything.</p>;
  return (
    <div className="mt-3 max-h-[38vh] overflow-y-auto">
      <table className="w-full text-left">
        <thead>
          <tr className="text-[13px] text-ink2">
            <th className="font-normal">track</th>
            <th className="w-16 font-normal">channel</th>
            <th className="font-normal">holds</th>
            <th className="w-[38%] font-normal">becomes</th>
          </tr>
        </thead>
        <tbody>
          {seen.groups.map((group) => (
            <Group key={group.id} group={group} seen={seen} song={song} choices={choices} onChange={onChange} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Group({ group, seen, song, choices, onChange }: ChoosingProps & { group: GroupSeen; song: Song }) {
  const gear = useGear();
  const instruments = useApp(({ show }) => show.working.instruments);
  const groups = targetsFor(group, seen.choices.groups[group.id], {
    gear,
    instruments: Object.values(instruments),
    song,
  });
  const name = group.trackName === '' ? `track ${group.track}` : group.trackName;
  return (
    <tr className="border-t border-rule align-top">
      <td className="named py-1.5 pr-2 text-lg leading-6" dir="auto">
        {name}
      </td>
      <td className="mono py-2">{group.channel === 0 ? '–' : group.channel}</td>
      <td className="py-2 pr-2 text-[13px]">
        {group.channel === 0 ? counted(group.others, 'system exclusive') : heldWords(group)}
      </td>
      <td className="py-1.5">
        <Choice
          label={`what becomes of ${name}, channel ${group.channel}`}
          value={targetValue(choices.groups[group.id])}
          unchosen="left out"
          groups={groups}
          onChange={(value) => onChange(withTarget(choices, group.id, targetOfValue(value)))}
        />
      </td>
    </tr>
  );
}

/** What the song gets, what is read otherwise than it stands, and what is left out. */
function Outcome({ seen, made }: { seen: FileSeen; made: ImportedSong | null }) {
  const words = [...seen.words, ...(made?.words ?? [])];
  const ticks = seen.displacement;
  return (
    <div className="mt-3 border-t border-ink pt-2" role="status" data-testid="midi-outcome">
      <p className="font-bold">
        {made === null
          ? 'working it out …'
          : `${counted(made.sections, 'section')}, ${counted(made.cues, 'cue')}, ${counted(made.parts, 'backing part')}`}
      </p>
      {ticks > 0 && (
        <p className="text-[13px] text-ink2">
          no event stands farther than {ticks < 0.01 ? '0.01' : ticks.toFixed(2)} of a tick from its place
        </p>
      )}
      {words.length > 0 && (
        <ul className="mt-1 list-disc pl-5 text-[13px]">
          {words.map((word) => (
            <li key={word}>{word}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
