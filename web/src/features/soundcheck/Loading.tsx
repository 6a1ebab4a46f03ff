import type { LoadingPicture, PinHint } from '@rackle/core/loading';
import { soundName, type EntryId, type LayerSound, type Setlist } from '@rackle/core/show';
import { useAct, useApp, useSetlist, useSongs } from '../../state/hooks';
import { memoryWished } from '../../state/uiSlice';
import { Button } from '../../ui/Button';
import { fetchedLater } from '../../ui/fetchedLater';
import { NumberField } from '../../ui/NumberField';

const LoadingChart = fetchedLater(async () => (await import('./LoadingChart')).LoadingChart);

const inSeconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
const inMb = (mb: number): string => `${Math.round(mb)} MB`;

/** Whether sounds are ready in time: memory over the evening, waits, jumps, and what would be better kept. */
export function Loading() {
  const loading = useApp(({ checks }) => checks.loading);
  const setlist = useSetlist();
  const nameOf = useEntryNames(setlist);
  if (loading === null || loading.picture.songs.length === 0) return null;
  const { picture } = loading;
  const songs = picture.songs.map((song, i) => ({ ...song, name: nameOf(song.entryId), number: i + 1 }));
  return (
    <section className="mt-8" aria-label="memory over the evening">
      <h2 className="text-[13px] font-bold text-ink2">memory over the evening</h2>
      <div
        role="img"
        aria-label={songs
          .map(({ name, ownMb, othersMb, alwaysMb, waitMs }) => {
            const mb = inMb(ownMb + othersMb + alwaysMb);
            return waitMs > 0 ? `${name} ${mb}, waits ${inSeconds(waitMs)}` : `${name} ${mb}`;
          })
          .join(', ')}
        className="min-h-[190px]"
      >
        <LoadingChart songs={songs} budgetMb={picture.budgetMb} />
      </div>
      <Key />
      <Summary picture={picture} nameOf={nameOf} />
      <Hints hints={picture.hints} nameOf={nameOf} />
      <Pins />
    </section>
  );
}

function useEntryNames(setlist: Setlist | null): (entryId: EntryId) => string {
  const songs = useSongs();
  return (entryId) => {
    const entry = setlist?.entries.find(({ id }) => id === entryId);
    return (entry?.kind === 'song' ? songs[entry.songId]?.name : undefined) ?? 'a song';
  };
}

/** What the stripes of a bar are. */
function Key() {
  return (
    <p className="mt-1 flex flex-wrap gap-x-4 text-xs text-ink2">
      {(
        [
          ['bg-ink2', 'always there'],
          ['bg-ink', 'of this song'],
          ['bg-rule', 'for other songs'],
        ] as const
      ).map(([fill, words]) => (
        <span key={words}>
          <span className={`mr-1 inline-block size-2.5 ${fill}`} />
          {words}
        </span>
      ))}
      <span>above a bar: the longest wait</span>
    </p>
  );
}

function Summary({ picture, nameOf }: { picture: LoadingPicture; nameOf: (id: EntryId) => string }) {
  const act = useAct();
  const { peakMb, totalMs, worstMs, atLeastMs, jump, units } = picture;
  const best = totalMs > atLeastMs ? ` (no plan less than ${inSeconds(atLeastMs)})` : '';
  return (
    <p className="mt-2">
      At most {inMb(peakMb)} of{' '}
      <NumberField
        label="memory for sounds"
        value={picture.budgetMb}
        min={50}
        max={100_000}
        step={50}
        unit=" MB"
        className="mono"
        onChange={(budgetMb) => act(memoryWished({ budgetMb }))}
      />
      .{' '}
      {totalMs === 0
        ? 'In running order nobody waits.'
        : `In running order ${inSeconds(totalMs)} are waited in all${best}, ${inSeconds(worstMs)} at the worst.`}{' '}
      {jump === null
        ? 'No jump waits.'
        : `A jump waits at most ${inSeconds(jump.waitMs)}: from the ${jump.isFromEnd ? 'end' : 'beginning'} of ${nameOf(jump.from)} to ${nameOf(jump.to)}.`}{' '}
      <span className="text-ink2">{timesInWords(units)}</span>
    </p>
  );
}

/** Where the times of the plan come from. */
function timesInWords({ all, measured }: LoadingPicture['units']): string {
  if (measured === 0) return 'Times are estimated from sizes.';
  return measured === all
    ? 'Times are as this machine loads.'
    : `Times are as this machine loads, of ${measured} of ${all} sets of samples; the others are estimated from sizes.`;
}

/** What a sound is called with its instrument. */
function useSoundWords(): (sound: { instrumentId: string; presetId: string }) => string {
  const stored = useApp(({ show }) => show.working.instruments);
  return (sound) => {
    const { instrument, preset } = soundName(sound as LayerSound, (id) => stored[id]);
    return `${instrument}: ${preset}`;
  };
}

function Hints({ hints, nameOf }: { hints: readonly PinHint[]; nameOf: (id: EntryId) => string }) {
  const act = useAct();
  const wordsOf = useSoundWords();
  const { pins } = useApp(({ ui }) => ui.memory);
  return hints.map(({ sound, savesMs, entryId, isAtJump }) => (
    <p key={`${sound.instrumentId} ${sound.presetId}`} className="mt-1 flex flex-wrap items-center gap-x-3">
      <span>
        Pinned, <b>{wordsOf(sound)}</b> saves {inSeconds(savesMs)}{' '}
        {isAtJump ? `at a jump to ${nameOf(entryId)}` : `at ${nameOf(entryId)}`}.
      </span>
      <Button
        aria-label={`pin ${wordsOf(sound)}`}
        onClick={() =>
          act(memoryWished({ pins: [...pins, { instrumentId: sound.instrumentId, presetId: sound.presetId }] }))
        }
      >
        pin it
      </Button>
    </p>
  ));
}

/** Sounds that stay in memory all evening. */
function Pins() {
  const act = useAct();
  const wordsOf = useSoundWords();
  const { pins } = useApp(({ ui }) => ui.memory);
  if (pins.length === 0) return null;
  return (
    <ul aria-label="pinned sounds" className="mt-2">
      {pins.map((pin) => (
        <li key={`${pin.instrumentId} ${pin.presetId}`} className="flex items-center gap-3">
          {wordsOf(pin)} is pinned: it stays in memory all evening.
          <Button
            look="plain"
            aria-label={`let go of ${wordsOf(pin)}`}
            onClick={() => act(memoryWished({ pins: pins.filter((one) => one !== pin) }))}
          >
            let go of it
          </Button>
        </li>
      ))}
    </ul>
  );
}
