import { useFindings } from '../features/soundcheck';
import { useApp, useGear, useIsAlive } from '../state/hooks';

/** How many things on a page need a look, by the page's path; a page that is not named has none. */
export function useMarks(): Readonly<Record<string, { count: number; about: string }>> {
  const gear = useGear();
  const isAlive = useIsAlive();
  const findings = useFindings().filter(({ severity }) => severity !== 'toKnow');
  const { openRoles: open, numbersTwice: twice } = useApp(({ checks }) => checks);
  const missing = gear?.ports.filter((port) => port.on && !isAlive(port)).length ?? 0;
  const marks: Record<string, { count: number; about: string }> = {};
  if (open + missing > 0)
    marks['/gear'] = {
      count: open + missing,
      about: [
        open > 0 ? `${open} open role${open === 1 ? '' : 's'}` : '',
        missing > 0 ? `${missing} missing port${missing === 1 ? '' : 's'}` : '',
      ]
        .filter(Boolean)
        .join(', '),
    };
  if (twice > 0) marks['/numbers'] = { count: twice, about: `${twice} number${twice === 1 ? '' : 's'} twice` };
  if (findings.length > 0)
    marks['/soundcheck'] = {
      count: findings.length,
      about: `${findings.length} finding${findings.length === 1 ? '' : 's'}`,
    };
  return marks;
}
