import { NOTE_VALUES, type SetlistEntry, type Song } from '@rackle/core/show';
import { withEqualMaps, withTempoAt } from '@rackle/core/timeline';
import { Link } from 'react-router';
import { useApp, useEdit, useHost, useSetlist, useSong } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { minutesText, noteText, shiftNote } from '../../ui/format';
import { NumberField } from '../../ui/NumberField';
import { TempoField, TempoNote, tempoSign, tempoText } from '../tempo';

interface Props {
  song: Song;
  onChange: (label: string, next: Song, mergeKey?: string) => void;
}

/** What a song is called, its key, and its tempo: typed, or tapped and kept. */
export function SheetHeader({ song, onChange }: Props) {
  const host = useHost();
  const place = useApp(({ live }) => live.place);
  const transport = useApp(({ live }) => live.transport);
  const [first] = song.map.tempos;
  const tonight = useTonight(song.id);
  // What was tapped is a factor over the whole map: shown and kept as what the first tempo becomes by it.
  const from = tonight.bpm ?? first.bpm;
  const tapped =
    place.songId === song.id && transport.tempoBpm > 0 && Math.abs(from * (transport.trim - 1)) >= 0.5
      ? Math.round(from * transport.trim * 10) / 10
      : null;
  const keep = (bpm: number): void =>
    tonight.bpm === null ? onChange('keep the tapped tempo', withTempo(bpm)) : tonight.change(bpm);
  const withTempo = (bpm: number): Song =>
    withEqualMaps(song, { ...song, map: withTempoAt(song.map, { ...first, bpm }) });
  return (
    <>
      <EditableText
        heading
        label="name of the song"
        value={song.name}
        className="named text-4xl leading-tight"
        onChange={(name) => onChange('rename the song', { ...song, name })}
      />
      <p className="pb-1.5 text-ink2">
        <EditableText
          label="key"
          value={song.key || '—'}
          onChange={(key) => onChange('change the key', { ...song, key: key.slice(0, 24) })}
        />{' '}
        · <TempoNote song={song} onChange={onChange} /> ={' '}
        <TempoField
          label="tempo"
          song={song}
          bpm={first.bpm}
          onChange={(bpm) => onChange('change the tempo', withTempo(bpm), `tempo ${song.id}`)}
        />
        <Button
          look="plain"
          disabled={place.songId !== song.id}
          title="effects, echo and arpeggios follow at once"
          onClick={() => host.post({ type: 'perform', action: 'tapTempo' })}
        >
          tap
        </Button>
        {tapped !== null && (
          <Button look="plain" onClick={() => keep(tapped)}>
            keep {tempoText(song, tapped)}
            {tonight.bpm !== null && ' tonight'}
          </Button>
        )}
        {song.map.tempos.length > 1 && ' at first '}· {song.map.meters[0].beats}/{song.map.meters[0].unit}
        {song.map.meters.length > 1 && ' at first'} · echo{' '}
        <Choice
          label="length of the echo"
          value={song.echoNote}
          items={NOTE_VALUES.map((note) => ({ value: note, label: noteText(note) }))}
          onChange={(note) => onChange('change the echo', { ...song, echoNote: note })}
        />{' '}
        · <span className="mono">{minutesText(song.durationSeconds)}</span> · key shift{' '}
        <NumberField
          label="transpose"
          value={song.transpose}
          min={-24}
          max={24}
          className="mono"
          onChange={(transpose) => onChange('transpose the song', { ...song, transpose }, `transpose ${song.id}`)}
        />
        {tonight.words !== '' && (
          <>
            , <b>tonight {tonight.words}</b>
          </>
        )}
        {' · '}
        <Link to="/library" className="underline decoration-dotted">
          all songs, library
        </Link>
      </p>
    </>
  );
}

/** How the song is played in tonight's setlist, where that is otherwise: shifted, at another tempo. */
function useTonight(songId: string): { words: string; bpm: number | null; change: (bpm: number) => void } {
  const edit = useEdit();
  const setlist = useSetlist();
  const song = useSong(songId);
  const entry = setlist?.entries.find(
    (one): one is Extract<SetlistEntry, { kind: 'song' }> =>
      one.kind === 'song' && one.songId === songId && (one.keyShift !== 0 || one.bpm !== null),
  );
  if (!setlist || !song || !entry) return { words: '', bpm: null, change: () => undefined };
  const words = [
    shiftNote(entry.keyShift),
    entry.bpm === null ? '' : `${tempoSign(song)} ${tempoText(song, entry.bpm)}`,
  ];
  return {
    words: words.filter((one) => one !== '').join(', '),
    bpm: entry.bpm,
    change: (bpm) =>
      edit({
        label: 'keep the tapped tempo for tonight',
        setlists: [{ ...setlist, entries: setlist.entries.map((one) => (one === entry ? { ...entry, bpm } : one)) }],
      }),
  };
}
