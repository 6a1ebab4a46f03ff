import type { Finding } from '@rackle/core/soundcheck';
import { formatPosition, tempoMapOfSong } from '@rackle/core/timeline';
import { useApp, useGear, useIsAlive, usePlaces } from '../../state/hooks';
import { portFindings } from './portFindings';
import { SEVERITY_ORDER } from './severities';
import { twiceFindings } from './twiceFindings';

/** What is wrong with the present setlist, as it was a moment ago, and with tonight’s ports as they are now. */
export function useFindings(): Finding[] {
  const findings = useApp(({ checks }) => checks.findings);
  const loading = useApp(({ checks }) => checks.loading?.findings);
  const levels = useApp(({ checks }) => (checks.levels.state === 'done' ? checks.levels.findings : null));
  const gear = useGear();
  const isAlive = useIsAlive();
  const twice = useTwice();
  const all = [
    ...(gear ? portFindings(gear, isAlive) : []),
    ...findings,
    ...(levels ?? []),
    ...(loading ?? []),
    ...twiceFindings(twice),
  ];
  return SEVERITY_ORDER.flatMap((one) => all.filter(({ severity }) => severity === one));
}

/** Recalls that came twice when a timeline last ran. */
function useTwice(): Parameters<typeof twiceFindings>[0] {
  const calls = useApp(({ live }) => live.calls.list);
  const places = usePlaces();
  return calls.flatMap(({ port, position, cueTick }) => {
    const place = cueTick === null ? undefined : places.find((one) => one.position === position);
    if (!place) return [];
    const { song, patch } = place;
    return [
      {
        port,
        songId: song.id,
        song: song.name,
        patch: patch.name,
        at: formatPosition(tempoMapOfSong(song).positionAt(cueTick!)),
      },
    ];
  });
}
