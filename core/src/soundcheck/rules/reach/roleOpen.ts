import { counts, type EveningRule } from '../../rule';
import { inSong, onPage } from '../../tonight';

/** Every role that does something has a control. */
export const roleOpen: EveningRule = {
  id: 'role-open',
  group: 'reach',
  sure: 'every role has a control',
  per: 'evening',
  counts: counts.roles,
  find: ({ setlist, byId, around, openRoles }) =>
    openRoles
      .filter(({ role }) => role.uses.length > 0)
      .flatMap(({ role, missedIn }) =>
        (missedIn === null
          ? [onPage(setlist.name, 'gear')]
          : missedIn.flatMap(({ songId }) =>
              songId in byId ? [{ ...inSong(byId[songId]), page: 'gear' as const }] : [],
            )
        ).map((place) => ({
          severity: 'toKnow' as const,
          cause: role.role,
          place,
          message: `nothing of ${around.gear.name} plays “${role.role}”`,
          why:
            role.isValue === true ? 'Its value stays as it is stored.' : 'What it does cannot be done by hand or foot.',
        })),
      ),
};
