import type { Found } from '../../finding';
import { counts, type EveningRule } from '../../rule';
import { onPage } from '../../tonight';

/** What hands and feet can move does something. */
export const roleIdle: EveningRule = {
  id: 'role-idle',
  group: 'reach',
  sure: 'every control that plays a role does something, and no nearer use hides all of it',
  per: 'evening',
  counts: counts.controls,
  find({ roles, around, songs }) {
    const byName = new Map(roles.map((role) => [role.role, role]));
    return [...around.played].flatMap((name): Found[] => {
      const role = byName.get(name);
      const place = onPage(around.gear.name, 'gear');
      if (role === undefined || role.uses.length === 0)
        return [
          {
            severity: 'toKnow',
            cause: `${name} idle`,
            place,
            message: `“${name}” has a control, and does nothing tonight`,
            why: 'Whoever moves it waits for something that does not come.',
          },
        ];
      const wide = role.uses.find(({ scope }) => scope === 'setlist');
      const hidden = new Set(wide?.hiddenIn.filter(({ patchId }) => patchId === null).map(({ songId }) => songId));
      if (wide === undefined || songs.length === 0 || !songs.every(({ song }) => hidden.has(song.id))) return [];
      return [
        {
          severity: 'toKnow',
          cause: `${name} hidden`,
          place,
          message: `what “${name}” does in the setlist is hidden in every song`,
          why: 'Each song has something else for it to do.',
        },
      ];
    });
  },
};
