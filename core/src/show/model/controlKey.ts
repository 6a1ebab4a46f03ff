import type { RoleSource } from './control';

/** Tells one control and its role from every other of a gear list. */
export const controlKey = ({ role, source }: Pick<RoleSource, 'role' | 'source'>): string =>
  `${role} ${Object.values(source).join(' ')}`;
