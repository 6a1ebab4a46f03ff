import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** How long outboard gear takes to switch has been measured. */
export const switchUnmeasured: EveningRule = {
  id: 'switch-unmeasured',
  group: 'time',
  sure: 'how long outboard gear takes to switch is known',
  per: 'evening',
  counts: counts.layers,
  find({ songs, setlist, around }) {
    const used = new Set(
      [...songs.flatMap(({ song }) => song.layers), ...setlist.layers].map(({ sound }) => sound.instrumentId as string),
    );
    return [...used].flatMap((id): Found[] => {
      const instrument = around.instruments.get(id);
      if (instrument?.kind !== 'outboard' || instrument.switchMs > 0) return [];
      return [
        {
          severity: 'toKnow',
          cause: id,
          place: onPage(instrument.name, 'sounds'),
          message: `${instrument.name} is taken to switch in no time`,
          why: 'If it takes longer, the first note after a recall has the sound before: listen to it, and write its time beside its port.',
        },
      ];
    });
  },
};
