import { counted } from '../../ui/format';
import { Button } from '../../ui/Button';
import { useTimeline } from './timelineContext';
import { cuesFiringTwice, type SongCall } from './useCalls';

/** Cues whose recalls another player makes too, and how each fires once. */
export function FiresTwice({ calls }: { calls: readonly SongCall[] }) {
  const { song, change } = useTimeline();
  const cues = cuesFiringTwice(song, calls);
  if (cues.length === 0) return null;
  const port = calls.find(({ cueTick }) => cueTick !== null)!.port;
  const ids = new Set(cues.map(({ id }) => id));
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3 pb-2">
      <span className="bg-ink px-1.5 text-ground">
        {counted(cues.length, 'cue')} {cues.length === 1 ? 'fires' : 'fire'} twice
      </span>
      {port} calls the same {cues.length === 1 ? 'patch' : 'patches'} within a beat.
      <Button
        onClick={() =>
          change(`leave ${counted(cues.length, 'recall')} to ${port}`, {
            ...song,
            cues: song.cues.map((cue) => (ids.has(cue.id) ? { ...cue, off: true } : cue)),
          })
        }
      >
        Leave {cues.length === 1 ? 'it' : 'them'} to {port}
      </Button>
    </p>
  );
}
