import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import {
  songFromItem,
  songItem,
  startedFrom,
  withoutSong,
  type LibraryItem,
  type LibraryItemId,
  type Song,
  type SongId,
} from '@rackle/core/show';
import { useApp, useEdit, useSongs } from '../../state/hooks';
import { newId } from '../../state/ids';
import { useStartSong } from '../../state/useStartSong';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { Question } from '../../ui/Question';
import { useMidiFileIn } from '../midi-file';
import { dayText, minutesText } from '../../ui/format';
import { tempoSign, tempoText } from '../tempo';

/** Every song, in whatever setlist, and the library: what is kept to start from. */
export function SongsPage() {
  const songs = useSongs();
  const setlists = useApp(({ show }) => show.working.setlists);
  const library = useApp(({ show }) => show.working.libraryItems);
  const { songId: playing } = useApp(({ live }) => live.place);
  const edit = useEdit();
  const start = useStartSong();
  const midiIn = useMidiFileIn(null);
  const [wanted, setWanted] = useState('');
  const all = Object.values(songs).sort((a, b) => a.name.localeCompare(b.name));
  const passes = (name: string): boolean => name.toLowerCase().includes(wanted.trim().toLowerCase());
  const standsIn = (song: Song): string[] =>
    Object.values(setlists)
      .filter((list) => list.entries.some((entry) => entry.kind === 'song' && entry.songId === song.id))
      .map((list) => list.name);
  const keep = (song: Song): void => {
    edit({
      label: `keep ${song.name} in the library`,
      libraryItems: [
        songItem(song, {
          id: newId<LibraryItemId>('item'),
          description: song.description,
          keptAt: new Date().toISOString(),
          isTemplate: false,
        }),
      ],
    });
    toast(`A copy of “${song.name}” is in the library.`);
  };
  const items = Object.values(library).sort((a, b) => a.name.localeCompare(b.name));
  return (
    <div className="h-full overflow-y-auto px-4 py-4" {...midiIn.drop}>
      {midiIn.preview}
      <div className="flex items-end gap-4 border-b border-ink pb-2">
        <h1 className="named text-4xl">Songs</h1>
        <input
          autoFocus
          aria-label="find a song"
          placeholder="find a song or something in the library"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
          className="min-w-0 flex-1 border-b border-ink bg-transparent pb-1 text-lg [field-sizing:fixed] focus:outline-none"
        />
        {midiIn.button}
        <Button look="filled" onClick={() => start()}>
          New song
        </Button>
      </div>
      {all.length === 0 && (
        <p className="mt-3 text-lg text-ink2">
          No songs yet. Start one here, or{' '}
          <Link to="/setlist" className="underline">
            in the setlist
          </Link>
          .
        </p>
      )}
      <ul aria-label="songs">
        {all
          .filter((song) => passes(song.name))
          .map((song) => (
            <li key={song.id} className="flex min-h-10 items-center gap-4 border-b border-rule">
              <Link
                to={`/songs/${song.id}`}
                className={`named w-96 truncate text-2xl pointer-coarse:leading-11 ${song.id === playing ? 'live-text' : ''}`}
              >
                {song.name}
              </Link>
              <span className="mono w-14 text-right text-[13px]">{minutesText(song.durationSeconds)}</span>
              <span className="mono w-20 text-[13px]">
                {tempoSign(song)} = {tempoText(song, song.map.tempos[0].bpm)}
              </span>
              <span className="min-w-0 flex-1 truncate text-[13px] text-ink2">
                {song.patches.length} patch{song.patches.length === 1 ? '' : 'es'}, {song.layers.length} layer
                {song.layers.length === 1 ? '' : 's'} · {standsIn(song).join(', ') || 'in no setlist'}
                {song.description && ` · ${song.description.split('\n')[0]}`}
              </span>
              <Button look="plain" onClick={() => keep(song)}>
                keep in the library
              </Button>
              <DeleteSong song={song} standsIn={standsIn(song)} />
            </li>
          ))}
      </ul>
      <h2 className="named mt-8 border-b border-ink pb-1 text-3xl">Library</h2>
      <p className="py-1 text-[13px] text-ink2">
        What is kept here is a copy, and so is what is started from it: neither changes the other. A template cannot be
        changed.
      </p>
      {items.length === 0 && (
        <p className="mt-2 text-lg text-ink2">Nothing yet. Keep a song here, or a patch from its song sheet.</p>
      )}
      <ul aria-label="library">
        {items
          .filter((item) => passes(item.name))
          .map((item) => (
            <Item
              key={item.id}
              item={item}
              songs={all}
              onStart={(song) => start(song, `start a song from ${item.name}`)}
            />
          ))}
      </ul>
    </div>
  );
}

/** Deletes a song, everywhere; where it stands in setlists that is said first. Undo brings it back there too. */
function DeleteSong({ song, standsIn }: { song: Song; standsIn: readonly string[] }) {
  const edit = useEdit();
  const setlists = useApp(({ show }) => show.working.setlists);
  const [asking, setAsking] = useState(false);
  const remove = (): void => {
    setAsking(false);
    edit({ label: `delete ${song.name}`, ...withoutSong(Object.values(setlists), song.id) });
  };
  return (
    <>
      <Button
        look="plain"
        aria-label={`delete ${song.name}`}
        onClick={() => (standsIn.length > 0 ? setAsking(true) : remove())}
      >
        delete
      </Button>
      {asking && (
        <Question
          title={`Delete ${song.name}?`}
          answers={[['Delete it everywhere', remove]]}
          leave="leave it"
          onLeave={() => setAsking(false)}
        >
          <p>
            It stands in <b>{standsIn.join(', ')}</b>, and goes there too, with its numbers. Undo brings all of it back.
            To take it out of one setlist only, do that on the setlist.
          </p>
        </Question>
      )}
    </>
  );
}

function Item({ item, songs, onStart }: { item: LibraryItem; songs: readonly Song[]; onStart: (song: Song) => void }) {
  const edit = useEdit();
  const [asking, setAsking] = useState(false);
  const [unlocking, setUnlocking] = useState(false);
  const change = (label: string, next: Partial<LibraryItem>): void =>
    edit({ label, mergeKey: `${label} ${item.id}`, libraryItems: [{ ...item, ...next } as LibraryItem] });
  const uses = startedFrom(item.id, songs);
  const remove = (): void =>
    edit({ label: `take ${item.name} out of the library`, libraryItems: [{ id: item.id, deleted: true }] });
  return (
    <li aria-label={item.name} className="border-b border-rule py-1">
      <div className="flex min-h-9 items-center gap-4">
        {item.isTemplate ? (
          <span className="named w-80 truncate text-xl">{item.name}</span>
        ) : (
          <EditableText
            label="name in the library"
            value={item.name}
            className="named text-xl"
            width="20rem"
            onChange={(name) => change('rename in the library', { name: name })}
          />
        )}
        <span className="w-14 text-[13px]">{item.kind}</span>
        <span className="mono w-28 text-[13px]">{dayText(item.keptAt)}</span>
        <span className="min-w-0 flex-1 text-[13px]">
          {item.isTemplate ? (
            item.description || 'no description'
          ) : (
            <EditableText
              width="100%"
              label={`description of ${item.name}`}
              value={item.description || 'no description'}
              onChange={(description) =>
                change('describe', { description: description === 'no description' ? '' : description })
              }
              className="text-ink2"
            />
          )}
        </span>
        <label className="flex items-center gap-1 text-[13px]">
          <input
            type="checkbox"
            checked={item.isTemplate}
            onChange={(event) => {
              if (event.target.checked) change('make a template', { isTemplate: true });
              else setUnlocking(true);
            }}
          />{' '}
          template
        </label>
        {item.kind === 'song' ? (
          <Button look="plain" onClick={() => onStart(songFromItem(item, newId<SongId>('song')))}>
            start a song from it
          </Button>
        ) : (
          <span className="text-[13px] text-ink2">taken from the song sheet</span>
        )}
        <Button
          look="plain"
          aria-label={`take ${item.name} out of the library`}
          onClick={() => (uses.length === 0 ? remove() : setAsking(true))}
        >
          ×
        </Button>
      </div>
      {uses.length > 0 && (
        <p className="text-[13px] text-ink2">
          started from it:{' '}
          {uses.map((use, i) => (
            <span key={i}>
              {i > 0 && ', '}
              <Link to={`/songs/${use.songId}`} className="underline decoration-dotted">
                {use.name}
              </Link>
            </span>
          ))}
        </p>
      )}
      {unlocking && (
        <p role="alert" className="mt-1 bg-ground2 p-2 text-[13px]">
          “{item.name}” is a template, so that nothing changes it by mistake. Shall it be one no longer?{' '}
          <Button
            look="plain"
            onClick={() => {
              setUnlocking(false);
              change('make it no template', { isTemplate: false });
            }}
          >
            no template any more
          </Button>
          <Button look="plain" onClick={() => setUnlocking(false)}>
            leave it
          </Button>
        </p>
      )}
      {asking && (
        <p role="alert" className="mt-1 bg-ground2 p-2 text-[13px]">
          What was started from it is a copy and stays as it is; only the way back to “{item.name}” is lost.{' '}
          <Button look="plain" onClick={remove}>
            take it out
          </Button>
          <Button look="plain" onClick={() => setAsking(false)}>
            leave it
          </Button>
        </p>
      )}
    </li>
  );
}
