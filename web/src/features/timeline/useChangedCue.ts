import { Cue, changeCue } from '@rackle/core/show';
import { useTimeline } from './timelineContext';

/** Changes a cue in the song. */
export function useChangedCue(row: Cue): (change: object, label?: string) => void {
  const { song, change } = useTimeline();
  return (part, label = 'change a cue') =>
    change(
      label,
      changeCue(song, row.id, (cue) => Cue.parse({ ...cue, ...part })),
      `cue ${row.id} ${Object.keys(part).join(' ')}`,
    );
}
