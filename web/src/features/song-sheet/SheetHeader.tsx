import { NOTE_VALUES, type Song } from '@rackle/core/show';
import { withEqualMaps, withTempoAt } from '@rackle/core/timeline';
import { Link } from 'react-router';
import { useApp, useHost, useSetlist } from '../../state/hooks';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { minutesText, noteText, shiftNote } from '../../ui/format';
import { NumberField } from '../../ui/NumberField';
import { TempoField, TempoNote, tempoText } from '../tempo';

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
  // What was tapped is a factor over the whole map: shown and kept as what the first tempo becomes by it.
  const tapped =
    place.songId === song.id && transport.tempoBpm > 0 && Math.abs(first.bpm * (transport.trim - 1)) >= 0.5
      ? Math.round(first.bpm * transport.trim * 10) / 10
      : null;
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
          <Button look="plain" onClick={() => onChange('keep the tapped tempo', withTempo(tapped))}>
            keep {tempoText(song, tapped)}
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
        <Tonight songId={song.id} />
        {' · '}
        <Link to="/library" className="underline decoration-dotted">
          all songs, library
        </Link>
      </p>
    </>
  );
}

/** By how much the song is shifted in tonight's setlist, besides its own shift. */
function Tonight({ songId }: { songId: string }) {
  const shift = useSetlist()?.entries.find(
    (entry) => entry.kind === 'song' && entry.songId === songId && entry.keyShift !== 0,
  );
  if (shift?.kind !== 'song') return null;
  return (
    <>
      , <b>tonight {shiftNote(shift.keyShift)}</b>
    </>
  );
}
